'use client';

import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { Copy, Download, GripVertical, Plus, Redo2, Trash2, Undo2, Upload, Users } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { LEVELS, type Level } from '../../core/instruments/instrument';
import type { CustomInstrument } from '../../core/instruments/customInstrument';
import { limitsProblem } from '../../core/instruments/limits';
import { parseNotes, printNotes } from '../../core/pitch/noteList';
import { GROUP_LIMITS, WANTED_MARKS, type Group, type GroupPlayer, type WantedMarks } from '../../core/keys/group';
import { parsePitch, printPitch } from '../../core/pitch/pitch';
import { Button } from '../../ui/Button';
import { TextInput } from '../../ui/Field';
import { HelpSheet } from '../../ui/HelpSheet';
import { InstrumentSelect } from '../../ui/InstrumentSelect';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import { Rail } from '../../ui/Rail';
import { Sheet } from '../../ui/Sheet';
import { useTell } from '../../ui/Toast';
import { playersFromCsv, playersToCsv } from './groupCsv';
import { AidMenu } from './AidMenu';
import { useGroups, type KeptGroup } from './useGroups';

const MARKS_TEXT: Readonly<Record<WantedMarks, string>> = {
  level: 'as the level',
  all: 'every note',
  change: 'on change',
  none: 'none',
};
const CELL =
  'min-h-8 w-full rounded border border-transparent bg-transparent px-1.5 hover:border-[#8f8d7c] focus:border-[#8f8d7c] focus:bg-white';

/** Groups and their players: one table for each group, changed where it stands. */
export function GroupsScreen({
  groups: given,
  custom,
}: {
  readonly groups: readonly KeptGroup[];
  readonly custom: readonly CustomInstrument[];
}) {
  const tell = useTell();
  const kept = useGroups(given, tell);
  const [chosen, setChosen] = useState(given[0]?.id);
  const [help, setHelp] = useState(false);
  const [problems, setProblems] = useState<readonly string[]>([]);
  const file = useRef<HTMLInputElement>(null);
  const group = kept.groups.find(({ id }) => id === chosen) ?? kept.groups[0];
  const change = (after: Group) => {
    if (group) kept.change(group.id, after);
  };
  const setPlayer = (
    id: string,
    part: Partial<{ readonly [Field in keyof GroupPlayer]: GroupPlayer[Field] | undefined }>,
  ) => {
    if (!group) return;
    change({
      ...group.group,
      players: group.group.players.map((player) => (player.id === id ? trimmed({ ...player, ...part }) : player)),
    });
  };
  const add = async (what: Group) => {
    const id = await kept.add(what);
    if (id) setChosen(id);
  };

  const undo = kept.undo;
  const redo = kept.redo;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLElement && event.target.matches('input, textarea, select')) return;
      if (event.key === '?') setHelp(true);
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
        event.preventDefault();
        if (event.shiftKey) redo();
        else undo();
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [undo, redo]);

  const takeCsv = async (chosenFile: File) => {
    if (chosenFile.size > 512 * 1024) {
      setProblems(['The file is larger than half a megabyte; a table of players is not.']);
      return;
    }
    const read = playersFromCsv(await chosenFile.text(), custom);
    if (!read.ok) setProblems(read.problems);
    else if (group && group.group.players.length + read.players.length > GROUP_LIMITS.players)
      setProblems([
        `With these the group would have ${group.group.players.length + read.players.length} players; ${GROUP_LIMITS.players} is the most.`,
      ]);
    else if (group) {
      change({
        ...group.group,
        players: [...group.group.players, ...read.players.map((player) => ({ ...player, id: freshId() }))],
      });
      tell(`${read.players.length} ${read.players.length === 1 ? 'player was' : 'players were'} added.`);
    }
  };
  const giveCsv = () => {
    if (!group) return;
    const address = URL.createObjectURL(
      new Blob(['\uFEFF', playersToCsv(group.group.players)], { type: 'text/csv;charset=utf-8' }),
    );
    const link = document.createElement('a');
    link.href = address;
    link.download = `${group.group.name.replace(/[^\p{L}\p{N} -]/gu, '').trim() || 'group'}.csv`;
    link.click();
    URL.revokeObjectURL(address);
  };

  return (
    <div className="flex h-dvh">
      <Rail here="groups" onHelp={() => setHelp(true)} />
      <div className="flex min-w-0 flex-1 flex-col">
        <header className="flex items-center justify-between gap-4 border-b border-line bg-panel px-6 py-3.5">
          <div className="min-w-0">
            <h1 className="font-serif text-[22px] leading-7 font-semibold">Groups</h1>
            <p className="text-[13px] text-ink-soft">
              Who plays together. A first name is enough: it tells whose part it is, and nothing else about a pupil is
              needed here.
            </p>
          </div>
          <Button
            kind="main"
            className="no-print min-h-9 px-4"
            onClick={() => void add({ name: 'New group', players: [] })}
          >
            <Plus size={16} aria-hidden="true" />
            New group
          </Button>
        </header>
        <div className="flex min-h-0 flex-1">
          <nav
            aria-label="Groups"
            className="no-print w-40 shrink-0 xl:w-52 overflow-y-auto border-r border-line bg-panel py-2"
          >
            {kept.groups.map(({ id, group: one }) => (
              <button
                key={id}
                type="button"
                aria-current={id === group?.id}
                onClick={() => setChosen(id)}
                className={`block min-h-11 w-full border-l-[3px] px-4 py-1.5 text-left ${id === group?.id ? 'border-cane bg-paper' : 'border-transparent hover:bg-cane-pale'}`}
              >
                <span className="block truncate font-semibold">{one.name}</span>
                <span className="text-[12.5px] text-ink-soft">
                  {one.players.length} {one.players.length === 1 ? 'player' : 'players'}
                </span>
              </button>
            ))}
          </nav>
          <main className="min-w-0 flex-1 overflow-auto bg-paper px-4 py-4 xl:px-6">
            {!group ? (
              <div className="flex h-full flex-col items-center justify-center gap-3">
                <Users size={28} aria-hidden="true" className="text-ink-soft" />
                <p className="font-serif text-lg">No group yet.</p>
                <Button onClick={() => void add({ name: 'New group', players: [] })}>Make the first one</Button>
              </div>
            ) : (
              <>
                <div className="mb-3 flex flex-wrap items-center gap-2">
                  <TextInput
                    label="Name of the group"
                    value={group.group.name}
                    maxLength={GROUP_LIMITS.name}
                    onCommit={(name) => {
                      if (name.trim()) change({ ...group.group, name: name.trim() });
                    }}
                    className="min-h-9 w-72 rounded border border-transparent bg-transparent px-1.5 font-serif text-lg font-semibold hover:border-[#8f8d7c] focus:border-[#8f8d7c] focus:bg-white"
                  />
                  <span className="no-print ml-auto flex flex-wrap items-center gap-1.5">
                    <span
                      role="status"
                      className={`mr-2 text-[13px] ${kept.status.kind === 'trouble' ? 'font-semibold text-warn' : 'text-ink-soft'}`}
                    >
                      {kept.status.text}
                    </span>
                    <IconButton
                      label={kept.undoName ? `Undo: ${kept.undoName}` : 'Nothing to undo'}
                      disabled={!kept.undoName}
                      onClick={kept.undo}
                    >
                      <Undo2 size={16} aria-hidden="true" />
                    </IconButton>
                    <IconButton
                      label={kept.redoName ? `Redo: ${kept.redoName}` : 'Nothing to redo'}
                      disabled={!kept.redoName}
                      onClick={kept.redo}
                    >
                      <Redo2 size={16} aria-hidden="true" />
                    </IconButton>
                    <Button
                      onClick={() =>
                        void add({
                          name: `${group.group.name}, copy`.slice(0, GROUP_LIMITS.name),
                          players: group.group.players.map((player) => ({ ...player, id: freshId() })),
                        })
                      }
                    >
                      <Copy size={14} aria-hidden="true" />
                      Duplicate
                    </Button>
                    <Button onClick={() => file.current?.click()}>
                      <Upload size={14} aria-hidden="true" />
                      Add from CSV
                    </Button>
                    <Button onClick={giveCsv}>
                      <Download size={14} aria-hidden="true" />
                      CSV
                    </Button>
                    <Button onClick={() => void kept.remove(group.id)}>
                      <Trash2 size={14} aria-hidden="true" />
                      Remove
                    </Button>
                    <input
                      ref={file}
                      type="file"
                      accept=".csv,text/csv"
                      className="sr-only"
                      tabIndex={-1}
                      aria-label="CSV file"
                      onChange={({ target }) => {
                        const [one] = target.files ?? [];
                        if (one) void takeCsv(one);
                        target.value = '';
                      }}
                    />
                  </span>
                </div>
                <PlayerTable
                  players={group.group.players}
                  custom={custom}
                  onPlayer={setPlayer}
                  onPlayers={(players) => change({ ...group.group, players })}
                />
                <Button
                  className="no-print mt-3"
                  disabled={group.group.players.length >= GROUP_LIMITS.players}
                  onClick={() =>
                    change({
                      ...group.group,
                      players: [
                        ...group.group.players,
                        {
                          id: freshId(),
                          name: '',
                          instrument: group.group.players.at(-1)?.instrument ?? 'flute',
                          level: 'beginner',
                        },
                      ],
                    })
                  }
                >
                  <Plus size={15} aria-hidden="true" />
                  Add a player
                </Button>
                <p className="mt-4 max-w-prose text-[13px] text-ink-soft">
                  Lowest, highest and known notes are written pitches, as the player reads them: G4, Bb4, F#5 (C4 is
                  middle C). Left empty, what the instrument and the level usually play counts.
                </p>
              </>
            )}
          </main>
        </div>
      </div>
      <Sheet
        open={problems.length > 0}
        onClose={() => setProblems([])}
        title="The table was not taken"
        description="Nothing was changed. Mend this and try again:"
      >
        <ul className="list-disc overflow-auto pl-5">
          {problems.map((text) => (
            <li key={text} className="py-0.5">
              {text}
            </li>
          ))}
        </ul>
      </Sheet>
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

function freshId(): string {
  return crypto.randomUUID().replaceAll('-', '').slice(0, 16);
}

/** Fields that were emptied go. */
function trimmed(player: { readonly [Field in keyof GroupPlayer]?: GroupPlayer[Field] | undefined }): GroupPlayer {
  return Object.fromEntries(
    Object.entries(player).filter(([, value]) => value !== undefined),
  ) as unknown as GroupPlayer;
}

function IconButton({
  label,
  ...rest
}: {
  readonly label: string;
  readonly disabled: boolean;
  readonly onClick: () => void;
  readonly children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      className="flex size-8 items-center justify-center rounded hover:bg-cane-pale disabled:text-[#a9a896] disabled:hover:bg-transparent"
      {...rest}
    />
  );
}

type SetPlayer = (
  id: string,
  part: Partial<{ readonly [Field in keyof GroupPlayer]: GroupPlayer[Field] | undefined }>,
) => void;

function PlayerTable({
  players,
  custom,
  onPlayer,
  onPlayers,
}: {
  readonly players: readonly GroupPlayer[];
  readonly custom: readonly CustomInstrument[];
  readonly onPlayer: SetPlayer;
  readonly onPlayers: (players: readonly GroupPlayer[]) => void;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const [from, to] = [
      players.findIndex(({ id }) => id === active.id),
      players.findIndex(({ id }) => id === over?.id),
    ];
    if (from >= 0 && to >= 0 && from !== to) onPlayers(arrayMove([...players], from, to));
  };
  if (players.length === 0) return <p className="py-6 text-ink-soft">Nobody is in this group yet.</p>;
  return (
    <DndContext id="players" sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
      <table className="w-full border-collapse text-left">
        <thead className="text-[12.5px] text-ink-soft">
          <tr className="border-b border-line">
            <th scope="col" className="no-print w-8">
              <span className="sr-only">Order</span>
            </th>
            <th scope="col" className="px-1.5 py-1 font-medium">
              First name
            </th>
            <th scope="col" className="px-1.5 font-medium">
              Instrument
            </th>
            <th scope="col" className="px-1.5 font-medium">
              Level
            </th>
            <th scope="col" className="w-18 px-1.5 font-medium">
              Lowest
            </th>
            <th scope="col" className="w-18 px-1.5 font-medium">
              Highest
            </th>
            <th scope="col" className="px-1.5 font-medium">
              Known notes
            </th>
            <th scope="col" className="px-1.5 font-medium">
              Finger marks
            </th>
            <th scope="col" className="px-1.5 font-medium">
              Aids
            </th>
            <th scope="col" className="no-print w-16">
              <span className="sr-only">Copy, remove</span>
            </th>
          </tr>
        </thead>
        <SortableContext items={players.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
          <tbody>
            {players.map((player, index) => (
              <PlayerRow
                key={player.id}
                player={player}
                place={index + 1}
                custom={custom}
                onPlayer={onPlayer}
                onCopy={() =>
                  onPlayers([...players.slice(0, index + 1), { ...player, id: freshId() }, ...players.slice(index + 1)])
                }
                onRemove={() => onPlayers(players.filter(({ id }) => id !== player.id))}
              />
            ))}
          </tbody>
        </SortableContext>
      </table>
    </DndContext>
  );
}

function PlayerRow({
  player,
  place,
  custom,
  onPlayer,
  onCopy,
  onRemove,
}: {
  readonly player: GroupPlayer;
  readonly place: number;
  readonly custom: readonly CustomInstrument[];
  readonly onPlayer: SetPlayer;
  readonly onCopy: () => void;
  readonly onRemove: () => void;
}) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: player.id });
  const [problem, setProblem] = useState('');
  const who = player.name || `Player ${place}`;
  const setLimit = (end: 'low' | 'high', text: string) => {
    if (text.trim() === '') {
      setProblem('');
      onPlayer(player.id, { [end]: undefined });
      return;
    }
    const pitch = parsePitch(text);
    const limits = pitch.ok
      ? limitsProblem({ ...player, [end]: pitch.value })
      : `"${text}" is no note: write letter, sign and octave, like G4 or Bb4`;
    setProblem(limits ?? '');
    if (pitch.ok && !limits) onPlayer(player.id, { [end]: pitch.value });
  };
  const setKnown = (text: string) => {
    const known = parseNotes(text);
    setProblem(known.ok ? '' : `Known notes: ${known.problem}`);
    if (known.ok) onPlayer(player.id, { known: known.value.length > 0 ? known.value : undefined });
  };
  return (
    <>
      <tr
        ref={setNodeRef}
        style={{ transform: CSS.Translate.toString(transform), transition }}
        className={`border-b border-line ${isDragging ? 'relative z-10 bg-cane-pale' : ''}`}
      >
        <td className="no-print">
          <button
            type="button"
            aria-label={`Move ${who}`}
            className="flex size-8 cursor-grab items-center justify-center rounded text-ink-soft hover:bg-cane-pale"
            {...attributes}
            {...listeners}
          >
            <GripVertical size={15} aria-hidden="true" />
          </button>
        </td>
        <td>
          <TextInput
            label={`First name, player ${place}`}
            value={player.name}
            maxLength={GROUP_LIMITS.name}
            className={`${CELL} font-semibold`}
            onCommit={(name) => onPlayer(player.id, { name: name.trim() })}
          />
        </td>
        <td>
          <InstrumentSelect
            label={`Instrument of ${who}`}
            value={player.custom?.id ?? player.instrument}
            custom={withChosen(custom, player)}
            className={CELL}
            onChange={(instrument, chosen) => onPlayer(player.id, { instrument, custom: chosen })}
          />
        </td>
        <td>
          <span className="flex items-center gap-1">
            <LevelSign level={player.level} size={17} />
            <select
              aria-label={`Level of ${who}`}
              className={`${CELL} min-w-32`}
              value={player.level}
              onChange={({ target }) =>
                onPlayer(player.id, {
                  level: LEVELS.find((one) => one === target.value) ?? ('beginner' satisfies Level),
                })
              }
            >
              {LEVELS.map((level) => (
                <option key={level} value={level}>
                  {LEVEL_NAMES[level]}
                </option>
              ))}
            </select>
          </span>
        </td>
        <td>
          <TextInput
            label={`Lowest note of ${who}`}
            value={player.low ? printPitch(player.low) : ''}
            maxLength={5}
            className={CELL}
            onCommit={(text) => setLimit('low', text)}
          />
        </td>
        <td>
          <TextInput
            label={`Highest note of ${who}`}
            value={player.high ? printPitch(player.high) : ''}
            maxLength={5}
            className={CELL}
            onCommit={(text) => setLimit('high', text)}
          />
        </td>
        <td>
          <TextInput
            label={`Known notes of ${who}`}
            value={printNotes(player.known ?? [])}
            maxLength={200}
            className={CELL}
            onCommit={setKnown}
          />
        </td>
        <td>
          <select
            aria-label={`Finger marks of ${who}`}
            className={`${CELL} min-w-28`}
            value={player.marks ?? 'level'}
            onChange={({ target }) =>
              onPlayer(player.id, {
                marks: target.value === 'level' ? undefined : WANTED_MARKS.find((one) => one === target.value),
              })
            }
          >
            {WANTED_MARKS.map((one) => (
              <option key={one} value={one}>
                {MARKS_TEXT[one]}
              </option>
            ))}
          </select>
        </td>
        <td>
          <AidMenu who={who} aids={player.aids} onChange={(aids) => onPlayer(player.id, { aids })} />
        </td>
        <td className="no-print whitespace-nowrap">
          <button
            type="button"
            aria-label={`Duplicate ${who}`}
            title="Duplicate"
            onClick={onCopy}
            className="inline-flex size-8 items-center justify-center rounded text-ink-soft hover:bg-cane-pale"
          >
            <Copy size={14} aria-hidden="true" />
          </button>
          <button
            type="button"
            aria-label={`Remove ${who}`}
            title="Remove"
            onClick={onRemove}
            className="inline-flex size-8 items-center justify-center rounded text-ink-soft hover:bg-warn-pale hover:text-warn"
          >
            <Trash2 size={14} aria-hidden="true" />
          </button>
        </td>
      </tr>
      {problem && (
        <tr>
          <td colSpan={10}>
            <p role="alert" className="px-10 py-1 text-[12.5px] text-warn">
              {problem}
            </p>
          </td>
        </tr>
      )}
    </>
  );
}

/** A player keeps an custom instrument even when it is not in the studio's list any more. */
function withChosen(custom: readonly CustomInstrument[], player: GroupPlayer): readonly CustomInstrument[] {
  return player.custom && !custom.some(({ id }) => id === player.custom?.id) ? [...custom, player.custom] : custom;
}
