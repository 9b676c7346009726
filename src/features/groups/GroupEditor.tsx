'use client';

import { Copy, Download, ListMusic, Plus, Redo2, Trash2, Undo2, Upload } from 'lucide-react';
import Link from 'next/link';
import { useRef, useState } from 'react';
import { useStore } from 'zustand';
import type { CustomInstrument } from '../../core/instruments';
import { type Group, GROUP_LIMITS, type GroupPlayer } from '../../core/keys';
import type { Pupil } from '../../core/planning';
import { Button } from '../../ui/Button';
import { TextInput } from '../../ui/Field';
import { Sheet } from '../../ui/Sheet';
import { useToast } from '../../ui/Toast';
import { ConflictSheet } from '../work/document/ConflictSheet';
import { SaveStatus } from '../work/document/SaveStatus';
import { cutText } from '../../core/plainText';
import { playersFromCsv, playersToCsv } from '../../core/formats';
import { GroupTakeHome } from './GroupTakeHome';
import { changeName, freshId, type OpenGroup } from './openGroups';
import { PlayerTable, type SetPlayer } from './PlayerTable';

/** A pupil who can stand in a group. */
export interface KnownPupil {
  readonly id: string;
  readonly pupil: Pupil;
}

interface Props {
  readonly open: OpenGroup;
  readonly custom: readonly CustomInstrument[];
  readonly pupils: readonly KnownPupil[];
  /** Adds another group; a sentence comes back where that failed. */
  readonly onAdd: (group: Group) => Promise<string | undefined>;
  readonly onRemove: () => void;
}

/** One group: its name, its players, and what can be done with all of it. */
export function GroupEditor({ open, custom, pupils, onAdd, onRemove }: Props) {
  const { document: group, past, future, save, change: record, undo, redo } = useStore(open.store);
  const tell = useToast();
  const [problems, setProblems] = useState<readonly string[]>([]);
  const file = useRef<HTMLInputElement>(null);
  const change = (after: Group) => record(changeName(group, after), after);
  const setPlayer: SetPlayer = (id, part) =>
    change({
      ...group,
      players: group.players.map((player) => (player.id === id ? withFields(player, part) : player)),
    });
  const takeCsv = async (chosen: File) => {
    const read = await playersOfFile(chosen, custom, group.players.length);
    setProblems(read.problems);
    if (read.players.length === 0) return;
    change({ ...group, players: [...group.players, ...read.players] });
    tell(`${read.players.length} ${read.players.length === 1 ? 'player was' : 'players were'} added.`);
  };
  const addPlayer = () => {
    const instrument = group.players.at(-1)?.instrument ?? 'flute';
    change({ ...group, players: [...group.players, { id: freshId(), name: '', instrument, level: 'beginner' }] });
  };
  const addCopy = (name: string, of: Group) =>
    onAdd({
      name: cutText(name, GROUP_LIMITS.name),
      players: of.players.map((player) => ({ ...player, id: freshId() })),
    });
  const newest = past.at(-1);
  const next = future[0];
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <TextInput
          label="Name of the group"
          value={group.name}
          maxLength={GROUP_LIMITS.name}
          onCommit={(name) => {
            if (name.trim()) change({ ...group, name: name.trim() });
          }}
          className="min-h-9 w-72 rounded border border-transparent bg-transparent px-1.5 font-serif text-lg font-semibold hover:border-edge focus:border-edge focus:bg-white"
        />
        <span className="no-print ml-auto flex flex-wrap items-center gap-1.5">
          <span className="mr-2 text-[13px] text-ink-soft">
            <SaveStatus save={save} onRetry={() => void open.saver.flush()} />
          </span>
          <IconButton label={newest ? `Undo: ${newest.name}` : 'Nothing to undo'} disabled={!newest} onClick={undo}>
            <Undo2 size={16} aria-hidden="true" />
          </IconButton>
          <IconButton label={next ? `Redo: ${next.name}` : 'Nothing to redo'} disabled={!next} onClick={redo}>
            <Redo2 size={16} aria-hidden="true" />
          </IconButton>
          <Link
            href={`/groups/${open.id}/rehearsal`}
            className="inline-flex min-h-7 items-center gap-1.5 rounded border border-edge bg-paper px-2.5 py-1 font-medium hover:bg-cane-pale"
          >
            <ListMusic size={14} aria-hidden="true" />
            Rehearsal
          </Link>
          <GroupTakeHome open={open} group={group} />
          <Button onClick={() => void addCopy(`${group.name}, copy`, group)}>
            <Copy size={14} aria-hidden="true" />
            Duplicate
          </Button>
          <Button onClick={() => file.current?.click()}>
            <Upload size={14} aria-hidden="true" />
            Add from CSV
          </Button>
          <Button onClick={() => downloadCsv(group)}>
            <Download size={14} aria-hidden="true" />
            CSV
          </Button>
          <Button onClick={onRemove}>
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
        players={group.players}
        custom={custom}
        onPlayer={setPlayer}
        onPlayers={(players) => change({ ...group, players })}
      />
      <Button className="no-print mt-3" disabled={group.players.length >= GROUP_LIMITS.players} onClick={addPlayer}>
        <Plus size={15} aria-hidden="true" />
        Add a player
      </Button>
      <AddPupil
        group={group}
        pupils={pupils}
        onAdd={({ id, pupil }) => {
          const [playing] = pupil.playing;
          if (!playing) return;
          const player = { ...playing, id: freshId(), name: pupil.name, pupil: id, playing: playing.id };
          change({ ...group, players: [...group.players, player] });
        }}
      />
      <p className="mt-4 max-w-prose text-[13px] text-ink-soft">
        Lowest, highest and known notes are written pitches, as the player reads them: G4, Bb4, F#5 (C4 is middle C).
        Left empty, the usual range of the instrument and level holds.
      </p>
      {save.kind === 'conflict' && (
        <ConflictSheet
          what="group"
          mine={summary(group)}
          theirs={summary(save.theirs)}
          onTheirs={() => open.saver.adopt({ version: save.version, document: save.theirs })}
          onMine={() => open.saver.overwrite(save.version)}
          onCopy={() => addCopy(`${group.name}, my version`, group)}
        />
      )}
      <Sheet
        open={problems.length > 0}
        onClose={() => setProblems([])}
        title="The table could not be read"
        description="Nothing was changed. Correct this and try again:"
      >
        <ul className="list-disc overflow-auto pl-5">
          {problems.map((text) => (
            <li key={text} className="py-0.5">
              {text}
            </li>
          ))}
        </ul>
      </Sheet>
    </>
  );
}

/** Pupils who are not in the group yet. */
function AddPupil({
  group,
  pupils,
  onAdd,
}: {
  readonly group: Group;
  readonly pupils: readonly KnownPupil[];
  readonly onAdd: (pupil: KnownPupil) => void;
}) {
  const others = pupils.filter(({ id }) => !group.players.some(({ pupil }) => pupil === id));
  if (others.length === 0 || group.players.length >= GROUP_LIMITS.players) return null;
  return (
    <select
      aria-label="Add a pupil"
      className="no-print mt-3 ml-2 min-h-7 rounded border border-edge bg-paper px-1.5"
      value=""
      onChange={({ target }) => {
        const found = others.find(({ id }) => id === target.value);
        if (found) onAdd(found);
      }}
    >
      <option value="">Add a pupil …</option>
      {others.map(({ id, pupil }) => (
        <option key={id} value={id}>
          {pupil.name}
        </option>
      ))}
    </select>
  );
}

const LARGEST_CSV = 512 * 1024;

/** The players of a CSV file, or what is wrong with it. */
async function playersOfFile(
  file: File,
  custom: readonly CustomInstrument[],
  already: number,
): Promise<{ readonly players: readonly GroupPlayer[]; readonly problems: readonly string[] }> {
  if (file.size > LARGEST_CSV)
    return { players: [], problems: ['The file is larger than half a megabyte; a table of players is not.'] };
  const read = playersFromCsv(await file.text(), custom);
  if (!read.ok) return { players: [], problems: read.problem };
  const all = already + read.value.length;
  if (all > GROUP_LIMITS.players)
    return {
      players: [],
      problems: [`With these the group would have ${all} players; ${GROUP_LIMITS.players} is the most.`],
    };
  return { players: read.value.map((player) => ({ ...player, id: freshId() })), problems: [] };
}

function downloadCsv(group: Group): void {
  const address = URL.createObjectURL(
    new Blob(['\uFEFF', playersToCsv(group.players)], { type: 'text/csv;charset=utf-8' }),
  );
  const link = document.createElement('a');
  link.href = address;
  link.download = `${group.name.replace(/[^\p{L}\p{N} -]/gu, '').trim() || 'group'}.csv`;
  link.click();
  URL.revokeObjectURL(address);
}

/** A player with some fields set; those that were emptied go. */
function withFields(player: GroupPlayer, part: Parameters<SetPlayer>[1]): GroupPlayer {
  const { id, name, instrument, level, ...rest } = { ...player, ...part };
  const said = Object.fromEntries(Object.entries(rest).filter(([, value]) => value !== undefined));
  return {
    ...said,
    id: id ?? player.id,
    name: name ?? '',
    instrument: instrument ?? player.instrument,
    level: level ?? player.level,
  };
}

function summary({ name, players }: Group): string {
  return `“${name}”, ${players.length} ${players.length === 1 ? 'player' : 'players'}`;
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
