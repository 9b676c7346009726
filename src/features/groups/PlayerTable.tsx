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
import { Copy, GripVertical, Trash2, UserRound } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import { type CustomInstrument, type Level, LEVELS } from '../../core/instruments';
import { GROUP_LIMITS, type GroupPlayer, WANTED_MARKS } from '../../core/keys';
import { printNotes, printPitch } from '../../core/pitch';
import { TextInput } from '../../ui/Field';
import { InstrumentSelect } from '../../ui/InstrumentSelect';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import { AidMenu } from '../work/AidMenu';
import { MARKS_TEXT, readKnown, readLimit } from '../work/playerFields';
import { freshId } from './openGroups';

const CELL =
  'min-h-8 w-full rounded border border-transparent bg-transparent px-1.5 hover:border-edge focus:border-edge focus:bg-white';

export type SetPlayer = (
  id: string,
  part: Partial<{ readonly [Field in keyof GroupPlayer]: GroupPlayer[Field] | undefined }>,
) => void;

/** A group's players, a row each, changed where they stand. */
export function PlayerTable({
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
      <table className="w-full border-collapse text-left max-[899px]:min-w-205">
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
                onCopy={() => onPlayers([...players.slice(0, index + 1), copyOf(player), ...players.slice(index + 1)])}
                onRemove={() => onPlayers(players.filter(({ id }) => id !== player.id))}
              />
            ))}
          </tbody>
        </SortableContext>
      </table>
    </DndContext>
  );
}

/** Another player of the same kind: a pupil stands in a group once. */
function copyOf({ pupil: _, playing: _playing, ...player }: GroupPlayer): GroupPlayer {
  return { ...player, id: freshId() };
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
    const read = readLimit(player, end, text);
    setProblem(read.ok ? '' : read.problem);
    if (read.ok) onPlayer(player.id, { [end]: read.value });
  };
  const setKnown = (text: string) => {
    const read = readKnown(text);
    setProblem(read.ok ? '' : read.problem);
    if (read.ok) onPlayer(player.id, { known: read.value });
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
          <span className="flex items-center">
            <TextInput
              label={`First name, player ${place}`}
              value={player.name}
              maxLength={GROUP_LIMITS.name}
              className={`${CELL} font-semibold`}
              onCommit={(name) => onPlayer(player.id, { name: name.trim() })}
            />
            {player.pupil !== undefined && (
              <Link
                href={`/pupils/${player.pupil}`}
                aria-label={`${who}, pupil`}
                title="To the pupil: what is changed here is changed there"
                className="no-print flex size-7 shrink-0 items-center justify-center rounded text-ink-soft hover:bg-cane-pale"
              >
                <UserRound size={14} aria-hidden="true" />
              </Link>
            )}
          </span>
        </td>
        <td>
          <InstrumentSelect
            label={`Instrument of ${who}`}
            value={player.custom?.id ?? player.instrument}
            custom={custom}
            chosen={player.custom}
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
