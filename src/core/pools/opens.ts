import { chroma } from '../pitch';
import { chromaBits, type ScaleName, scaleOn } from '../harmony';
import { isNote, placedEvents, type Tune } from '../score';
import { popCount } from './wholeForm';

/** The twelve notes that a tune's melody uses, as bits above C; 0 for a tune without notes. */
export function melodyBits(tune: Pick<Tune, 'bars'>): number {
  return placedEvents(tune.bars).reduce(
    (bits, { event }) => (isNote(event) ? bits | (1 << chroma(event.pitch)) : bits),
    0,
  );
}

/**
 * How a set opens a tune: how many of its notes the set lacks at best, and by how many half steps the tune is moved for
 * that.
 */
export interface Opening {
  readonly missing: number;
  /** Half steps from the tune's pitch to where the set stands; 0 where it opens in its own key. */
  readonly moved: number;
}

/**
 * The best place of a tune in a set on some tonic; of equal ones its own key, then the nearest. A tune is taught in any
 * key.
 */
export function openingOf(melody: number, name: ScaleName): Opening | undefined {
  if (melody === 0) return undefined;
  const set = chromaBits(scaleOn({ step: 'C', alter: 0 }, name).notes);
  let best: Opening | undefined;
  for (const moved of [0, 1, -1, 2, -2, 3, -3, 4, -4, 5, -5, 6]) {
    const by = (moved + 12) % 12;
    const there = ((melody << by) | (melody >> (12 - by))) & 0xfff;
    const missing = popCount(there & ~set);
    if (!best || missing < best.missing) best = { missing, moved };
  }
  return best;
}
