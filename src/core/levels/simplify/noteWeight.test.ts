import { tuneOf } from '../../../../tests/given';
import { phrasesOf } from '../../analysis/phrases';
import { soundingNotes } from '../../score/sounding';
import type { Tune } from '../../score/tune';
import { noteWeights } from './noteWeight';

/** The weight of note `k`, as it was worked out for the whole tune. */
const weightOf = (tune: Tune, k: number): number => {
  const notes = soundingNotes(tune);
  return noteWeights(tune, notes, phrasesOf(tune))[k] ?? NaN;
};

/** Two tunes that differ in one thing that counts: how much heavier the note is with it than without it. */
const gained = (withIt: string, without: string, k: number): number =>
  weightOf(tuneOf(withIt), k) - weightOf(tuneOf(without), k);

test.each([
  ['at the beginning of a bar', 'CDEF GABc|', 'zCDE FGAB|', 0, 0],
  ['as a tone of its chord', '"C"c2 E2 D4|', '"F"c2 E2 D4|', 1, 0],
  ['as the highest of three', 'C2 G2 E2 D2|', 'C2 G2 A2 D2|', 1, 0],
  ['as the lowest of three', 'G2 C2 E2 D2|', 'G2 C2 B,2 D2|', 1, 0],
  ['as where a leap arrives', 'C2 F2 G2 A2|', 'D2 F2 G2 A2|', 1, 0],
  ['when it is longer', 'C2 F4 E2|', 'C2 F2 E4|', 1, 0],
])('a note weighs more %s', (_, withIt, without, k, least) =>
  expect(gained(withIt, without, k)).toBeGreaterThan(least),
);

test('a leap is a fourth or more: a third arrives nowhere', () => {
  expect(gained('C2 E2 F2 G2|', 'D2 E2 F2 G2|', 1)).toBe(0);
});
