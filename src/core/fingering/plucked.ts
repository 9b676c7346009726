import { type Pitch, type PitchClass, semitones } from '../pitch';
import type { BarFingering, FrettedFingering, ReedFingering } from './fingering';

/** For each fret the hand lies higher; the low end is where beginners live. */
const HAND_COST = 0.12;
/** The little finger one fret further. */
const STRETCH_COST = 1;
/** Places where the hand is thought to wait while an open string sounds. */
const WAITING: readonly number[] = [1, 2, 3, 5, 7];
/** Highest fret at which a first finger is thought of. */
export const HIGHEST_HAND = 15;

/**
 * Every string and fret that gives a pitch, with every place of the hand that reaches it: one finger a fret. @param
 * strings as strung, the lowest-numbered pitch first in the list is the string farthest from the floor
 */
export function frettedWays(
  pitch: Pitch,
  strings: readonly Pitch[],
  frets: number,
): readonly { readonly fingering: FrettedFingering; readonly cost: number }[] {
  return strings.flatMap((open, index) => {
    const fret = semitones(pitch) - semitones(open);
    const string = strings.length - index;
    if (fret < 0 || fret > frets) return [];
    if (fret === 0)
      return WAITING.map((hand) => ({
        fingering: { kind: 'fretted' as const, string, fret, finger: 0, hand },
        cost: 0.01 * hand,
      }));
    const hands = [fret - 3, fret - 2, fret - 1, fret].filter((hand) => hand >= 1 && hand <= HIGHEST_HAND);
    const ways = hands.map((hand) => ({
      fingering: { kind: 'fretted' as const, string, fret, finger: fret - hand + 1, hand },
      cost: HAND_COST * hand,
    }));
    const stretched = fret - 4;
    return stretched >= 1
      ? [
          ...ways,
          {
            fingering: { kind: 'fretted' as const, string, fret, finger: 4, hand: stretched },
            cost: HAND_COST * stretched + STRETCH_COST,
          },
        ]
      : ways;
  });
}

export function barWay({ step, alter }: PitchClass): BarFingering {
  return { kind: 'bar', name: { step, alter } };
}

/**
 * Richter tuning in C: what each of the ten holes gives blown and drawn, as half steps above its C4. Makers' charts.
 */
const BLOW: readonly number[] = [0, 4, 7, 12, 16, 19, 24, 28, 31, 36];
const DRAW: readonly number[] = [2, 7, 11, 14, 17, 21, 23, 26, 29, 33];
const C4 = 48;

export function reedWays(height: number): readonly ReedFingering[] {
  const found = (reeds: readonly number[], breath: ReedFingering['breath']) =>
    reeds.flatMap((above, index): readonly ReedFingering[] =>
      C4 + above === height ? [{ kind: 'reed', hole: index + 1, breath }] : [],
    );
  return [...found(BLOW, 'blow'), ...found(DRAW, 'draw')];
}
