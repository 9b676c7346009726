import { dequal } from 'dequal';
import { z } from 'zod';
import { createStore, type StoreApi } from 'zustand';
import { groupSchema } from '../../core/formats';
import type { Group } from '../../core/keys';
import { failure, success, type Result } from '../../core/result';
import { createDocumentStore, type DocumentStore } from '../work/document/documentStore';
import { Saver, type Remote } from '../work/document/saver';
import { nothing, send, type SendProblem } from '../work/send';

/** A group as the server gave it. */
export interface VersionedGroup {
  readonly id: string;
  readonly version: number;
  readonly group: Group;
}

/** A group on the screen: with a history of its own, saving by itself. */
export interface OpenGroup {
  readonly id: string;
  readonly store: DocumentStore<Group>;
  readonly saver: Saver<Group>;
}

const versionSchema = z.object({ version: z.int() });

function groupRemote(id: string): Remote<Group> {
  return {
    name: `group/${id}`,
    pack: (group) => group,
    unpack: (data) => groupSchema.safeParse(data).data,
    put: async ({ version, document }) => {
      const sent = await send(`/api/groups/${id}`, versionSchema, {
        method: 'PUT',
        json: { version, group: document },
        // The saver tells of a busy server, and tries again by itself.
        tries: 1,
      });
      return sent.ok ? success(sent.value.version) : sent;
    },
    current: (answer) => {
      const { data } = z.object({ version: z.int(), group: groupSchema }).safeParse(answer);
      return data && { version: data.version, document: data.group };
    },
  };
}

/** The studio's groups on one screen, in the order in which they stand. */
export class OpenGroups {
  readonly list: StoreApi<readonly OpenGroup[]>;

  constructor(given: readonly VersionedGroup[]) {
    this.list = createStore<readonly OpenGroup[]>()(() => given.map(opened));
  }

  /** Goes on with what could not be saved before the page was closed. */
  recover(): void {
    for (const { saver } of this.list.getState()) saver.recover('Changes from last time');
  }

  stop(): void {
    for (const { saver } of this.list.getState()) saver.stop();
  }

  /** Adds a group at the end; its id comes back. */
  async add(group: Group): Promise<Result<string, SendProblem>> {
    const made = await send('/api/groups', z.object({ id: z.string(), version: z.int() }), {
      method: 'POST',
      json: group,
    });
    if (!made.ok) return made;
    this.put([...this.list.getState(), opened({ ...made.value, group })]);
    return success(made.value.id);
  }

  /** Removes a group once all of it is saved, so that it comes back whole. What it does to bring it back is given. */
  async remove(id: string): Promise<Result<() => Promise<Result<undefined, SendProblem>>, SendProblem>> {
    const at = this.list.getState().findIndex((one) => one.id === id);
    const gone = this.list.getState()[at];
    if (!gone) return failure({ kind: 'refused', message: 'This group was removed already.' });
    await gone.saver.flush();
    const removed = await send(`/api/groups/${id}`, nothing, { method: 'DELETE' });
    if (!removed.ok) return removed;
    this.put(this.list.getState().filter((one) => one.id !== id));
    return success(async () => {
      const restored = await send(`/api/groups/${id}`, nothing, { method: 'POST' });
      if (restored.ok) this.put([...this.list.getState().slice(0, at), gone, ...this.list.getState().slice(at)]);
      return restored;
    });
  }

  private put(groups: readonly OpenGroup[]): void {
    this.list.setState(groups, true);
  }
}

function opened({ id, version, group }: VersionedGroup): OpenGroup {
  const store = createDocumentStore(group, dequal);
  return { id, store, saver: new Saver(groupRemote(id), { version, document: group }, store) };
}

/** For a player or group that is new on this page. */
export function freshId(): string {
  return crypto.randomUUID().replaceAll('-', '').slice(0, 16);
}

/** What a change did, in a few words. */
export function changeName(before: Group, after: Group): string {
  if (before.name !== after.name) return 'name of the group';
  if (after.players.length > before.players.length)
    return after.players.length - before.players.length === 1 ? 'add a player' : 'add players';
  if (after.players.length < before.players.length) return 'remove a player';
  const changed = after.players.filter((player, index) => player !== before.players[index]);
  if (changed.length > 1) return 'order of the players';
  const [player] = changed;
  return player ? `change ${player.name || 'a player'}` : 'change the group';
}
