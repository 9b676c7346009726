import { CAUSES, WEIGHTS, type Cause, type Causes } from './difficulty';

const CAUSE_WORDS: Readonly<Record<Cause, string>> = {
  speed: 'speed',
  rhythm: 'rhythm',
  leaps: 'leaps',
  range: 'notes beyond the easy range',
  accidentals: 'accidentals',
  signature: 'the key signature',
  break: 'crossing the break',
  travel: 'finger travel',
  breath: 'long breaths',
};

/** Causes that carry a total, heaviest first, each with its share of it in points. Small ones are left out. */
export function heaviestCauses(
  causes: Causes,
  most = 3,
): readonly { readonly cause: Cause; readonly name: string; readonly value: number; readonly points: number }[] {
  return CAUSES.map((cause) => ({
    cause,
    name: CAUSE_WORDS[cause],
    value: causes[cause],
    points: causes[cause] * WEIGHTS[cause],
  }))
    .filter(({ points }) => points >= 0.1)
    .toSorted((a, b) => b.points - a.points)
    .slice(0, most);
}
