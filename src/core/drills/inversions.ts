import { chanceFrom } from '../chance';
import type { Scale } from '../harmony';
import type { WrittenRange } from '../instruments';
import { type Pitch, semitones } from '../pitch';
import { rungsOfChord, rungsWithin } from './rungs';

/** Chord tones from the lowest to the highest. */
export type Voicing = readonly Pitch[];

/** How far the voices of one chord travel to those of the next, in semitones, lowest to lowest and so on upwards. */
export function voiceTravel(from: Voicing, to: Voicing): number {
  return to.reduce((sum, voice, k) => sum + Math.abs(semitones(voice) - semitones(from[k] ?? voice)), 0);
}

/** Of paths that are nearly as short, other seeds take other ones: so many semitones for a chord at most. */
const NEARLY = 3;

/**
 * For each chord the inversion that keeps the whole path shortest and inside a range, by dynamic programming; never
 * longer than with root positions alone. A chord that does not fit in any inversion is `undefined`, and the path goes
 * on over it.
 * @param seed 0 for the shortest path; others for another one, nearly as short
 */
export function inversionPath(
  chords: readonly Scale[],
  size: number,
  range: WrittenRange,
  seed = 0,
): readonly (Voicing | undefined)[] {
  const chance = chanceFrom(`inversions/${seed}`);
  const choices = chords.map((chord): readonly Voicing[] => {
    const rungs = rungsOfChord(chord.tonic, chord.notes.slice(0, size));
    const within = rungsWithin(rungs, range);
    if (!within) return [];
    const lowest = Array.from({ length: Math.max(0, within.to - within.from - size + 2) }, (_, k) => within.from + k);
    return lowest.map((rung) => rungs.up.slice(rung, rung + size));
  });
  interface Reached {
    readonly cost: number;
    readonly voicing: Voicing;
    readonly before: Reached | undefined;
    readonly chord: number;
  }
  const middle = (semitones(range.low) + semitones(range.high)) / 2;
  let reached: readonly Reached[] = [];
  choices.forEach((voicings, chord) => {
    if (voicings.length === 0) return;
    reached = voicings.map((voicing): Reached => {
      const own = seed === 0 ? 0 : chance() * NEARLY;
      if (reached.length === 0) {
        // The first chord lies in root position where it can, in the middle of the range.
        const root = voicing[0]?.step === chords[chord]?.tonic.step ? 0 : 3;
        const center = voicing.reduce((sum, voice) => sum + semitones(voice), 0) / voicing.length;
        return { cost: own + root + Math.abs(center - middle) * 0.01, voicing, before: undefined, chord };
      }
      const best = reached.reduce<{ cost: number; before: Reached } | undefined>((least, before) => {
        const cost = before.cost + voiceTravel(before.voicing, voicing);
        return !least || cost < least.cost - 1e-9 ? { cost, before } : least;
      }, undefined);
      return { cost: (best?.cost ?? 0) + own, voicing, before: best?.before, chord };
    });
  });
  const path: (Voicing | undefined)[] = chords.map(() => undefined);
  let at = reached.reduce<Reached | undefined>(
    (least, one) => (!least || one.cost < least.cost ? one : least),
    undefined,
  );
  for (; at; at = at.before) path[at.chord] = at.voicing;
  return path;
}
