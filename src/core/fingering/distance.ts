import { derived } from '../derived';
import type { Instrument } from '../instruments';
import { naturalAt, type Pitch, semitones } from '../pitch';
import { chartOf, fingeringsFor, type CostedFingering } from './options';
import { FINGER_SCHOOLS, moveCosts } from './travel';

/** Heights of all written pitches that occur, C0 to G10. */
const HEIGHTS = 128;
/** How much a rare fingering of the second note counts beside the way to it. */
const OWN_SHARE = 0.5;
/** A note that the chart leaves to the teacher: as far as a shift. */
const UNKNOWN = 2;

/**
 * How far the fingers travel between two written heights (semitones above C0) by the best of all ways: a lower bound of
 * what `fingerLine` finds for a whole line, and the measure of difficulty, so that keys can be compared without
 * fingering each.
 */
export const fingerDistances = derived(
  (instrument: Pick<Instrument, 'mechanism'>): ((from: number, to: number) => number) => {
    const table = new Float64Array(HEIGHTS * HEIGHTS).fill(-1);
    return (from, to) => {
      if (from === to || from < 0 || to < 0 || from >= HEIGHTS || to >= HEIGHTS) return 0;
      const known = table[from * HEIGHTS + to] ?? -1;
      if (known >= 0) return known;
      const measured = measure(instrument, from, to);
      table[from * HEIGHTS + to] = measured;
      return measured;
    };
  },
  { by: ({ mechanism }) => [mechanism] },
);

function measure(instrument: Pick<Instrument, 'mechanism'>, from: number, to: number): number {
  const { kind } = instrument.mechanism;
  if (kind === 'keys' || kind === 'voice' || kind === 'bars') return 0;
  const [before, after] = [fingeringsAt(instrument, from), fingeringsAt(instrument, to)];
  if (before.length === 0 || after.length === 0) return kind === 'harmonica' || kind === 'holes' ? UNKNOWN : 0;
  const costs = moveCosts(before, after, FINGER_SCHOOLS[0], chartOf(instrument));
  const easiest = before.reduce((least, { cost }) => Math.min(least, cost), Infinity);
  let least = Infinity;
  for (let a = 0; a < before.length; a += 1) {
    for (let b = 0; b < after.length; b += 1) {
      // What each way costs by itself counts once, on arrival; of the first note only what it is worse than its best.
      least = Math.min(
        least,
        (costs[a * after.length + b] ?? 0) + OWN_SHARE * ((after[b]?.cost ?? 0) + (before[a]?.cost ?? 0) - easiest),
      );
    }
  }
  return least;
}

function fingeringsAt(instrument: Pick<Instrument, 'mechanism'>, height: number): readonly CostedFingering[] {
  return fingeringsFor(instrument, spelled(height));
}

/** The usual name of a key on the piano: C♯ E♭ F♯ A♭ B♭. */
function spelled(height: number): Pitch {
  const position = Math.floor(height / 12) * 7 + ([0, 0, 1, 2, 2, 3, 3, 4, 5, 5, 6, 6][height % 12] ?? 0);
  const natural = naturalAt(position);
  return { ...natural, alter: height - semitones(natural) };
}
