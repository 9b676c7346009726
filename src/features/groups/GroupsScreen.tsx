'use client';

import { Plus, Users } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import type { CustomInstrument } from '../../core/instruments';
import type { Group } from '../../core/keys';
import { Button } from '../../ui/Button';
import { HelpSheet } from '../../ui/HelpSheet';
import { Rail } from '../../ui/Rail';
import { useToast } from '../../ui/Toast';
import { historyKey, useKeys } from '../work/useKeys';
import { GroupEditor, type KnownPupil } from './GroupEditor';
import { OpenGroups, type OpenGroup, type VersionedGroup } from './openGroups';

const NEW_GROUP: Group = { name: 'New group', players: [] };

/** Groups and their players: one table for each group, changed where it stands. */
export function GroupsScreen({
  groups: given,
  custom,
  pupils = [],
}: {
  readonly groups: readonly VersionedGroup[];
  readonly custom: readonly CustomInstrument[];
  readonly pupils?: readonly KnownPupil[];
}) {
  const tell = useToast();
  const [groups] = useState(() => new OpenGroups(given));
  const list = useStore(groups.list);
  const [chosen, setChosen] = useState(given[0]?.id);
  const [help, setHelp] = useState(false);
  const open = list.find(({ id }) => id === chosen) ?? list[0];
  useEffect(() => {
    groups.recover();
    return () => groups.stop();
  }, [groups]);

  const add = async (group: Group): Promise<string | undefined> => {
    const made = await groups.add(group);
    if (made.ok) setChosen(made.value);
    else tell(`${made.problem.message} The group was not made.`);
    return made.ok ? undefined : made.problem.message;
  };
  const remove = async ({ id, store }: OpenGroup) => {
    const { name } = store.getState().document;
    const removed = await groups.remove(id);
    if (!removed.ok) return tell(`${removed.problem.message} “${name}” was not removed.`);
    const restore = async () => {
      const restored = await removed.value();
      if (restored.ok) setChosen(id);
      else tell(`${restored.problem.message} “${name}” was not restored.`);
    };
    tell(`“${name}” was removed.`, { label: 'Restore', run: () => void restore() });
  };
  useKeys((event) => {
    if (event.key === '?') setHelp(true);
    const history = historyKey(event);
    if (history && open) open.store.getState()[history]();
    return history !== undefined;
  });

  return (
    <div className="app-frame flex h-dvh">
      <Rail here="groups" onHelp={() => setHelp(true)} />
      <div className="flex min-w-0 flex-1 flex-col">
        <header className="flex items-center justify-between gap-4 border-b border-line bg-panel px-4 py-3.5 md:px-6">
          <div className="min-w-0">
            <h1 className="font-serif text-[22px] leading-7 font-semibold">Groups</h1>
            <p className="text-[13px] text-ink-soft">
              Who plays together. A first name is enough: it tells whose part it is, and nothing else about a pupil is
              needed here.
            </p>
          </div>
          <Button kind="main" className="no-print min-h-9 shrink-0 px-4" onClick={() => void add(NEW_GROUP)}>
            <Plus size={16} aria-hidden="true" />
            New group
          </Button>
        </header>
        <div className="flex min-h-0 flex-1 flex-col md:flex-row">
          <nav
            aria-label="Groups"
            className="no-print flex shrink-0 overflow-auto border-line bg-panel max-md:border-b md:block md:w-40 md:border-r md:py-2 xl:w-52"
          >
            {list.map((one) => (
              <GroupEntry key={one.id} open={one} isShown={one.id === open?.id} onOpen={() => setChosen(one.id)} />
            ))}
          </nav>
          <main className="relative min-h-0 min-w-0 flex-1 overflow-auto bg-paper px-4 py-4 xl:px-6">
            {open ? (
              <GroupEditor
                key={open.id}
                open={open}
                custom={custom}
                pupils={pupils}
                onAdd={add}
                onRemove={() => void remove(open)}
              />
            ) : (
              <div className="flex h-full flex-col items-center justify-center gap-3">
                <Users size={28} aria-hidden="true" className="text-ink-soft" />
                <p className="font-serif text-lg">No group yet.</p>
                <Button onClick={() => void add(NEW_GROUP)}>Make the first one</Button>
              </div>
            )}
          </main>
        </div>
      </div>
      <HelpSheet
        open={help}
        onClose={() => setHelp(false)}
        more={[
          {
            name: 'Groups',
            keys: [
              ['Ctrl Z, Ctrl Shift Z', 'undo, redo (outside a field)'],
              ['Space on a handle, then ↑ ↓, Space', 'move a player'],
            ],
          },
        ]}
      />
    </div>
  );
}

function GroupEntry({
  open,
  isShown,
  onOpen,
}: {
  readonly open: OpenGroup;
  readonly isShown: boolean;
  readonly onOpen: () => void;
}) {
  const { name, players } = useStore(open.store, ({ document }) => document);
  const save = useStore(open.store, (state) => state.save.kind);
  const isTrouble = save === 'waiting' || save === 'refused' || save === 'conflict';
  return (
    <button
      type="button"
      aria-current={isShown}
      onClick={onOpen}
      className={`block min-h-11 shrink-0 border-l-[3px] px-4 py-1.5 text-left md:w-full ${isShown ? 'border-cane bg-paper' : 'border-transparent hover:bg-cane-pale'}`}
    >
      <span className="block truncate font-semibold">{name}</span>
      <span className="text-[12.5px] text-ink-soft">
        {players.length} {players.length === 1 ? 'player' : 'players'}
        {isTrouble && !isShown && <span className="font-semibold text-warn">, not saved</span>}
      </span>
    </button>
  );
}
