import { chanceFrom } from '../chance';
import { type Scale, scaleDegrees, scaleIntervals } from '../harmony';
import type { WrittenRange } from '../instruments';
import { type Interval, type Pitch, semitones, transpose, withAlterUpTo } from '../pitch';
import { voiceTravel, type Voicing } from './inversions';
import { fits } from './sectionLine';

/** Another journey may move farther by so many semitones a key. */
const NEARLY = 12;
/** Half steps from the middle of the range that cost nothing, and how much those beyond cost. */
const MIDDLE = { free: 5, weight: 0.6 } as const;
/** A leap from the last note of a group to the first of the next decides between ways that move equally little. */
const LEAP = 0.01;

interface Placed {
  /** From the lowest to the highest. */
  readonly voicing: Voicing;
  /** In playing order. */
  readonly notes: readonly Pitch[];
}

/** What may be chosen for a line of groups. */
interface Journey {
  /** Written. */
  readonly range: WrittenRange;
  /** Whether the line keeps to the middle of the range; where a span was asked for, all of it is as good. */
  readonly keepsToMiddle: boolean;
  /** 0 for the nearest way; others for another one. */
  readonly seed: number;
  /** What lies under the hand, where it stays. */
  readonly isHeld?: (pitch: Pitch) => boolean;
}

/**
 * Degrees that are played once in each key: in the inversion and octave that moves least from the key before (the voices
 * from the lowest to the highest, as for `inversionPath`), the first in root position in the middle. So the line stays in
 * one part of the instrument while the keys go round.
 * @param offsets degrees from 0; true degrees where the set has all of them, else steps of the set
 * @returns for each scale its notes; `undefined` where no inversion fits
 */
export function groupsThrough(
  scales: readonly Scale[],
  offsets: readonly number[],
  { range, keepsToMiddle, seed, isHeld = () => true }: Journey,
): readonly (readonly Pitch[] | undefined)[] {
  const chance = chanceFrom(`groups/${seed}`);
  const middle = (semitones(range.low) + semitones(range.high)) / 2;
  let before: Placed | undefined;
  return scales.map((scale) => {
    const away = ({ voicing }: Placed) =>
      Math.abs(voicing.reduce((sum, pitch) => sum + semitones(pitch), 0) / voicing.length - middle);
    const cost = (one: Placed) => {
      const own = seed === 0 ? 0 : chance() * NEARLY;
      if (!before) return own + (one.voicing[0]?.step === scale.tonic.step ? 0 : 12) + away(one);
      const [last, first] = [before.notes.at(-1), one.notes[0]];
      const leap = last && first ? Math.abs(semitones(first) - semitones(last)) : 0;
      const pull = keepsToMiddle ? MIDDLE.weight * Math.max(0, away(one) - MIDDLE.free) : 0;
      return own + voiceTravel(before.voicing, one.voicing) + pull + LEAP * leap;
    };
    let best: { readonly placed: Placed; readonly cost: number } | undefined;
    for (const placed of placesOfGroup(scale, offsets, range)) {
      if (!placed.notes.every(isHeld)) continue;
      const here = cost(placed);
      if (!best || here < best.cost - 1e-9) best = { placed, cost: here };
    }
    if (best) before = best.placed;
    return best?.placed.notes;
  });
}

/** Every inversion of a group in every octave of a range, from the lowest. */
function placesOfGroup(scale: Scale, offsets: readonly number[], range: WrittenRange): readonly Placed[] {
  const degrees = scaleDegrees(scale.name);
  const named = offsets.every((offset) => degrees.some(({ number }) => number === (((offset % 7) + 7) % 7) + 1));
  const intervals = offsets.map((offset) => intervalAt(scale, offset, named));
  const heights = [...new Set(intervals.map(({ chromatic }) => chromatic))].toSorted((a, b) => a - b);
  const [lowest = 0] = heights;
  const around = Math.floor(((heights.at(-1) ?? 0) - lowest) / 12) + 1;
  const found: Placed[] = [];
  for (let octave = range.low.octave - 3; octave <= range.high.octave; octave += 1)
    heights.forEach((_, inversion) => {
      const raised = new Set(heights.slice(0, inversion));
      const at = ({ diatonic, chromatic }: Interval) => {
        const up = raised.has(chromatic) ? around : 0;
        const pitch = transpose(
          { ...scale.tonic, octave },
          { diatonic: diatonic + 7 * up, chromatic: chromatic + 12 * up },
        );
        return withAlterUpTo(pitch, 2);
      };
      const notes = intervals.map(at);
      if (!fits(notes, range)) return;
      const voicing = [...new Map(notes.map((pitch) => [semitones(pitch), pitch])).values()].toSorted(
        (a, b) => semitones(a) - semitones(b),
      );
      found.push({ voicing, notes });
    });
  return found;
}

function intervalAt(scale: Scale, offset: number, isDegree: boolean): Interval {
  const intervals = scaleIntervals(scale.name);
  const perOctave = isDegree ? 7 : intervals.length;
  const octaves = Math.floor(offset / perOctave);
  const within = offset - octaves * perOctave;
  const place = isDegree ? scaleDegrees(scale.name).findIndex(({ number }) => number === within + 1) : within;
  const { diatonic, chromatic } = intervals[place] ?? { diatonic: 0, chromatic: 0 };
  return { diatonic: diatonic + 7 * octaves, chromatic: chromatic + 12 * octaves };
}
