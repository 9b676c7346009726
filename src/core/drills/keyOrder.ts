import { chroma, type PitchClass } from '../pitch';
import type { KeyOrder } from '../score';

/** The usual names of the twelve tonics, by their height above C; a set takes the twin with fewer accidentals. */
const TONICS: readonly PitchClass[] = [
  { step: 'C', alter: 0 },
  { step: 'D', alter: -1 },
  { step: 'D', alter: 0 },
  { step: 'E', alter: -1 },
  { step: 'E', alter: 0 },
  { step: 'F', alter: 0 },
  { step: 'G', alter: -1 },
  { step: 'G', alter: 0 },
  { step: 'A', alter: -1 },
  { step: 'A', alter: 0 },
  { step: 'B', alter: -1 },
  { step: 'B', alter: 0 },
];

export const ALL_TONICS = TONICS;

/**
 * Semitones from one key to the next; after a round the next begins a half step higher, until all twelve were there.
 */
const STRIDES: Readonly<Record<Exclude<KeyOrder, 'easiest'>, number>> = {
  fourths: 5,
  fifths: 7,
  semitones: 1,
  'whole-tones': 2,
  'minor-thirds': 3,
};

/** The twelve tonics in an order, from one of them; `easiest` is the business of `easiestKeys`. */
export function tonicsInOrder(order: Exclude<KeyOrder, 'easiest'>, start: PitchClass): readonly PitchClass[] {
  const stride = STRIDES[order];
  const found: number[] = [];
  let at = chroma(start);
  while (found.length < 12) {
    if (found.includes(at)) at = (at + 1) % 12;
    found.push(at);
    at = (at + stride) % 12;
  }
  return found.map((height, k) => (k === 0 ? start : (TONICS[height] ?? start)));
}
