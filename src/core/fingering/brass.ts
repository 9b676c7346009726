import type { SlideFingering, ValvesFingering } from './fingering';

/**
 * Half steps of the natural partials above the first, 1 to 16. The physics of an open tube; odd ones beyond 10 are left
 * out, as players do.
 */
const PARTIALS: readonly (readonly [number, number])[] = [
  [1, 0],
  [2, 12],
  [3, 19],
  [4, 24],
  [5, 28],
  [6, 31],
  [7, 34],
  [8, 36],
  [9, 38],
  [10, 40],
  [12, 43],
  [16, 48],
];

/** Half steps by which valves lengthen the tube: whole step, half step, step and a half, two and a half. */
const COMBINATIONS: readonly (readonly [number, readonly number[], number])[] = [
  // half steps, valves, preference: the usual one of a length first; figures are a third of what a bad partial costs
  [0, [], 0],
  [1, [2], 0.1],
  [2, [1], 0.1],
  [3, [1, 2], 0.3],
  [3, [3], 2],
  [4, [2, 3], 0.5],
  [5, [1, 3], 0.9],
  [6, [1, 2, 3], 1.2],
];
const WITH_FOURTH: typeof COMBINATIONS = [
  [5, [4], 0.4],
  [6, [2, 4], 0.7],
  [7, [1, 4], 1],
  [8, [1, 2, 4], 1.4],
  [9, [2, 3, 4], 1.8],
  [10, [1, 3, 4], 2.2],
  [11, [1, 2, 3, 4], 2.6],
];

/**
 * The seventh partial is a third of a tone flat, the fifth a little; the first is a pedal note. Acoustics of the
 * natural series.
 */
const PARTIAL_COSTS: Readonly<Record<number, number>> = { 1: 4, 5: 0.3, 7: 8 };
/** Where a double horn changes to its B♭ side: written G sharp 4 and above (common practice of horn methods). */
const HORN_SIDE_CHANGE = 4 * 12 + 8;
const WRONG_SIDE = 3;
/** On the B♭ side methods finger A and G sharp from the sixth partial, where they are in tune. */
const FLAT_FIFTH = 1;

interface Way<Kind> {
  readonly fingering: Kind;
  readonly cost: number;
}

/** @param height written semitones above C0; `open` of the first partial; `second` of the B♭ side's */
export function valveWays(
  height: number,
  valves: 3 | 4,
  open: number,
  second?: number,
): readonly Way<ValvesFingering>[] {
  const sides =
    second === undefined
      ? [{ open, thumb: false }]
      : [
          { open, thumb: false },
          { open: second, thumb: true },
        ];
  const ways: Way<ValvesFingering>[] = [];
  for (const side of sides) {
    for (const [partial, above] of PARTIALS) {
      for (const [lower, pressed, preference] of valves === 4 ? [...COMBINATIONS, ...WITH_FOURTH] : COMBINATIONS) {
        if (side.open + above - lower !== height) continue;
        const isWrongSide = second !== undefined && side.thumb !== height >= HORN_SIDE_CHANGE;
        ways.push({
          fingering: { kind: 'valves', valves: pressed, partial, ...(side.thumb && { thumb: true as const }) },
          cost:
            preference +
            (PARTIAL_COSTS[partial] ?? 0) +
            (isWrongSide ? WRONG_SIDE : 0) +
            (side.thumb && partial === 5 ? FLAT_FIFTH : 0),
        });
      }
    }
  }
  return ways.toSorted((a, b) => a.cost - b.cost).slice(0, 6);
}

/** For a pitch in another than its nearest place: alternates are for fast passages. */
const ALTERNATE = 1;
/**
 * Seventh position is at the length of a grown arm; beginners reach the fifth with ease. Rule of thumb of trombone
 * methods.
 */
const SLIDE_COSTS: readonly number[] = [0, 0.2, 0.4, 0.6, 1, 2, 4];

export function slideWays(height: number, open: number): readonly Way<SlideFingering>[] {
  const ways: Way<SlideFingering>[] = [];
  for (const [partial, above] of PARTIALS) {
    const lower = open + above - height;
    const cost = SLIDE_COSTS[lower];
    if (cost === undefined) continue;
    // The flat seventh partial is raised by a shorter slide; in first position there is nothing to shorten.
    if (partial === 7 && lower === 0) continue;
    ways.push({
      fingering: { kind: 'slide', position: lower + 1, partial },
      cost: cost + (partial === 7 ? 1.5 : (PARTIAL_COSTS[partial] ?? 0)),
    });
  }
  return ways
    .toSorted((a, b) => a.cost - b.cost)
    .map((way, index) => (index === 0 ? way : { ...way, cost: way.cost + ALTERNATE }));
}
