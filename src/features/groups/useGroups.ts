import { useCallback, useEffect, useRef, useState } from 'react';
import type { Group } from '../../core/keys/group';

export interface KeptGroup {
  readonly id: string;
  readonly version: number;
  readonly group: Group;
}

interface Step {
  readonly id: string;
  readonly name: string;
  readonly before: Group;
  readonly after: Group;
}

type Tell = (text: string, action?: { readonly label: string; readonly run: () => void }) => void;

const PAUSE_MILLISECONDS = 500;
const RETRY_MILLISECONDS = 4_000;
const MOST_STEPS = 100;

export interface GroupsStatus {
  readonly kind: 'saved' | 'saving' | 'trouble';
  readonly text: string;
}

/** Groups with their history, saved a moment after each change; what could not be saved stays and is tried again. */
export function useGroups(given: readonly KeptGroup[], tell: Tell) {
  const [groups, setGroups] = useState(given);
  const [past, setPast] = useState<readonly Step[]>([]);
  const [future, setFuture] = useState<readonly Step[]>([]);
  const [status, setStatus] = useState<GroupsStatus>({ kind: 'saved', text: 'saved' });
  const latest = useRef(given);
  const dirty = useRef(new Set<string>());
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const isSending = useRef(false);

  const replace = useCallback((next: readonly KeptGroup[]) => {
    latest.current = next;
    setGroups(next);
  }, []);

  const send = useCallback(async (): Promise<void> => {
    if (isSending.current) return;
    isSending.current = true;
    for (let [id] = dirty.current; id !== undefined; [id] = dirty.current) {
      dirty.current.delete(id);
      const one = latest.current.find((group) => group.id === id);
      if (!one) continue;
      setStatus({ kind: 'saving', text: 'saving …' });
      const saved = await sendOne(one);
      if (saved.kind === 'saved') {
        replace(latest.current.map((group) => (group.id === one.id ? { ...group, version: saved.version } : group)));
        if (dirty.current.size === 0) setStatus({ kind: 'saved', text: 'saved' });
      } else {
        setStatus({ kind: 'trouble', text: saved.text });
        if (saved.kind === 'later') {
          dirty.current.add(id);
          await new Promise((resolve) => setTimeout(resolve, RETRY_MILLISECONDS));
        }
      }
    }
    isSending.current = false;
  }, [replace]);

  // Leaving the page with something unsaved asks first.
  useEffect(() => {
    const onLeave = (event: BeforeUnloadEvent) => {
      if (dirty.current.size > 0 || isSending.current) event.preventDefault();
    };
    window.addEventListener('beforeunload', onLeave);
    return () => window.removeEventListener('beforeunload', onLeave);
  }, []);

  const put = useCallback(
    (id: string, group: Group) => {
      replace(latest.current.map((one) => (one.id === id ? { ...one, group } : one)));
      dirty.current.add(id);
      setStatus({ kind: 'saving', text: 'saving …' });
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void send(), PAUSE_MILLISECONDS);
    },
    [replace, send],
  );

  const change = useCallback(
    (id: string, after: Group) => {
      const before = latest.current.find((one) => one.id === id)?.group;
      if (!before) return;
      setPast((steps) => [...steps.slice(1 - MOST_STEPS), { id, name: stepName(before, after), before, after }]);
      setFuture([]);
      put(id, after);
    },
    [put],
  );

  const undo = useCallback(() => {
    const step = past.at(-1);
    if (!step) return;
    setPast(past.slice(0, -1));
    setFuture([step, ...future]);
    put(step.id, step.before);
  }, [past, future, put]);

  const redo = useCallback(() => {
    const [step] = future;
    if (!step) return;
    setFuture(future.slice(1));
    setPast([...past, step]);
    put(step.id, step.after);
  }, [past, future, put]);

  const call = async (address: string, init: RequestInit): Promise<Response | undefined> => {
    try {
      const response = await fetch(address, init);
      if (response.ok) return response;
      const { messages } = (await response.json().catch(() => ({}))) as { messages?: readonly string[] };
      tell(messages?.join(' ') ?? 'That did not work; nothing was changed.');
    } catch (error) {
      if (!(error instanceof TypeError)) throw error;
      tell('The program does not answer; nothing was changed.');
    }
    return undefined;
  };

  const add = async (group: Group): Promise<string | undefined> => {
    const response = await call('/api/groups', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(group),
    });
    if (!response) return undefined;
    const { id, version } = (await response.json()) as { id: string; version: number };
    replace([...latest.current, { id, version, group }]);
    return id;
  };

  const remove = async (id: string): Promise<void> => {
    const at = latest.current.findIndex((one) => one.id === id);
    const gone = latest.current[at];
    if (!gone || !(await call(`/api/groups/${id}`, { method: 'DELETE' }))) return;
    dirty.current.delete(id);
    replace(latest.current.filter((one) => one.id !== id));
    const putBack = async () => {
      if (await call(`/api/groups/${id}`, { method: 'POST' }))
        replace([...latest.current.slice(0, at), gone, ...latest.current.slice(at)]);
    };
    tell(`“${gone.group.name}” was removed.`, { label: 'Put it back', run: () => void putBack() });
  };

  return { groups, status, change, undo, redo, add, remove, undoName: past.at(-1)?.name, redoName: future[0]?.name };
}

type Sent =
  { readonly kind: 'saved'; readonly version: number } | { readonly kind: 'refused' | 'later'; readonly text: string };

async function sendOne({ id, version, group }: KeptGroup): Promise<Sent> {
  try {
    const response = await fetch(`/api/groups/${id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ version, group }),
    });
    if (response.ok) return { kind: 'saved', version: ((await response.json()) as { version: number }).version };
    const { messages } = (await response.json().catch(() => ({}))) as { messages?: readonly string[] };
    return {
      kind: response.status >= 500 ? 'later' : 'refused',
      text: `Not saved: ${messages?.join(' ') ?? 'something went wrong'}`,
    };
  } catch (error) {
    if (!(error instanceof TypeError)) throw error;
    return { kind: 'later', text: 'Not saved yet: the program does not answer. It is tried again.' };
  }
}

/** What a step did, in a few words. */
function stepName(before: Group, after: Group): string {
  if (before.name !== after.name) return 'name of the group';
  if (after.players.length > before.players.length)
    return after.players.length - before.players.length === 1 ? 'add a player' : 'add players';
  if (after.players.length < before.players.length) return 'remove a player';
  const changed = after.players.filter((player, index) => player !== before.players[index]);
  if (changed.length > 1) return 'order of the players';
  const [player] = changed;
  return player ? `change ${player.name || 'a player'}` : 'change the group';
}
