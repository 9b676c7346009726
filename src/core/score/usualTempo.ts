import { isCompound, type Meter, type NoteValue, valueTicks } from '../time';
import type { Tempo } from './tune';

/** Slowest and fastest beat of a tune or level: beyond them a file is wrong, and no metronome goes. */
export const TEMPO_LIMITS = { slowest: 20, fastest: 400 } as const;

/**
 * The beat that a meter is counted in: dotted in compound meters, halves in 2/2; none where that is open (3/8, 7/8).
 */
function beatOfMeter(meter: Meter): NoteValue | undefined {
  if (isCompound(meter)) return meter.unit === 8 ? { type: 'quarter', dots: 1 } : undefined;
  return meter.unit === 2 ? { type: 'half', dots: 0 } : meter.unit === 4 ? { type: 'quarter', dots: 0 } : undefined;
}

/**
 * The same tempo counted in the meter's own beat, to the nearest whole one; as it is where no metronome would go so.
 */
export function inBeatsOf(meter: Meter, tempo: Tempo): Tempo {
  const beat = beatOfMeter(meter);
  if (!beat || sameValue(beat, tempo.beat)) return tempo;
  const perMinute = Math.round((tempo.perMinute * valueTicks(tempo.beat)) / valueTicks(beat));
  return perMinute < TEMPO_LIMITS.slowest || perMinute > TEMPO_LIMITS.fastest ? tempo : { ...tempo, beat, perMinute };
}

const sameValue = (a: NoteValue, b: NoteValue) => a.type === b.type && a.dots === b.dots;

/**
 * Where a file gives no tempo: a moderate pace on the beat of the meter (andante to moderato on a metronome's scale).
 */
export function usualTempo(meter: Meter): Tempo {
  if (isCompound(meter)) return { beat: { type: 'quarter', dots: 1 }, perMinute: 80 };
  if (meter.unit <= 2) return { beat: { type: 'half', dots: 0 }, perMinute: 66 };
  return { beat: { type: 'quarter', dots: 0 }, perMinute: 100 };
}

/**
 * How slowly a part is heard to be learned by, as a share of its tempo: common practice is two thirds to three
 * quarters.
 */
const SLOWLY = 0.7;

/** The tempo at which a part is heard slowly, in the same beat. */
export function slowTempo(perMinute: number): number {
  return Math.max(TEMPO_LIMITS.slowest, Math.round(perMinute * SLOWLY));
}
