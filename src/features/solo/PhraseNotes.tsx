'use client';

import { ArrowDown, ArrowUp, Minus, Plus, Trash2 } from 'lucide-react';
import { type Key, namePitchClass, raisedInKey } from '../../core/pitch';
import type { GivenNote } from '../../core/solos';
import { type Ticks, TICKS_PER_QUARTER } from '../../core/time';

const ICON = 'flex size-7 items-center justify-center rounded hover:bg-cane-pale disabled:text-[#a9a896]';
const EIGHTH: Ticks = TICKS_PER_QUARTER / 2;

/**
 * The notes of a phrase, to be changed one by one: higher, lower, longer, shorter, or left out. As the tune's own key
 * sounds.
 */
export function PhraseNotes({
  notes,
  tonality,
  number,
  length,
  onNotes,
}: {
  readonly notes: readonly GivenNote[];
  /** The tune's key. */
  readonly tonality: Key;
  readonly number: number;
  /** Of the phrase. */
  readonly length: Ticks;
  readonly onNotes: (notes: readonly GivenNote[]) => void;
}) {
  const change = (at: number, by: number) =>
    onNotes(
      notes.map((note, k) => {
        if (k !== at) return note;
        const { device: _, ...rest } = note;
        return { ...rest, pitch: raisedInKey(note.pitch, by, tonality) };
      }),
    );
  const lengthen = (at: number, by: number) =>
    onNotes(notes.map((note, k) => (k === at ? { ...note, length: note.length + by } : note)));
  /** A note grows into the silence after it, not over the next note or the end of its phrase. */
  const canGrow = (k: number) => {
    const note = notes[k];
    return note !== undefined && !note.isTriplet && note.at + note.length + EIGHTH <= (notes[k + 1]?.at ?? length);
  };
  if (notes.length === 0) return <p className="text-[13px] text-ink-soft">The phrase rests.</p>;
  return (
    <ul aria-label={`Notes of phrase ${number}`} className="max-h-56 overflow-y-auto text-[13px]">
      {notes.map(({ pitch, length: long, at, isTriplet }, k) => {
        const name = `${namePitchClass(pitch)}${pitch.octave}`;
        const which = `note ${k + 1}, ${name}`;
        return (
          <li key={`${at} ${k}`} className="flex items-center gap-1">
            <span className="w-10 font-semibold">{name}</span>
            <span className="flex-1 text-ink-soft">{quarters(long)}</span>
            <button type="button" className={ICON} aria-label={`Raise ${which}`} onClick={() => change(k, 1)}>
              <ArrowUp size={14} aria-hidden="true" />
            </button>
            <button type="button" className={ICON} aria-label={`Lower ${which}`} onClick={() => change(k, -1)}>
              <ArrowDown size={14} aria-hidden="true" />
            </button>
            <button
              type="button"
              className={ICON}
              aria-label={`Lengthen ${which}`}
              disabled={!canGrow(k)}
              onClick={() => lengthen(k, EIGHTH)}
            >
              <Plus size={14} aria-hidden="true" />
            </button>
            <button
              type="button"
              className={ICON}
              aria-label={`Shorten ${which}`}
              disabled={isTriplet === true || long <= EIGHTH}
              onClick={() => lengthen(k, -EIGHTH)}
            >
              <Minus size={14} aria-hidden="true" />
            </button>
            <button
              type="button"
              className={ICON}
              aria-label={`Leave out ${which}`}
              onClick={() => onNotes(notes.filter((_, other) => other !== k))}
            >
              <Trash2 size={14} aria-hidden="true" />
            </button>
          </li>
        );
      })}
    </ul>
  );
}

const LENGTHS: Readonly<Record<number, string>> = {
  0.25: 'sixteenth',
  0.5: 'eighth',
  0.75: 'dotted eighth',
  1: 'quarter',
  1.5: 'dotted quarter',
  2: 'half',
  3: 'dotted half',
  4: 'whole',
};

function quarters(length: number): string {
  const count = Math.round((length / TICKS_PER_QUARTER) * 100) / 100;
  return LENGTHS[count] ?? `${count} quarters`;
}
