import { isCompound, type Meter } from '../time/meter';
import type { Tempo } from './tune';

/** Slowest and fastest beat of a tune or level: beyond them a file is wrong, and no metronome goes. */
export const TEMPO_LIMITS = { slowest: 20, fastest: 400 } as const;

/** Where a file gives no tempo: a moderate pace on the beat of the meter (andante to moderato on a metronome's scale). */
export function usualTempo(meter: Meter): Tempo {
  if (isCompound(meter)) return { beat: { type: 'quarter', dots: 1 }, perMinute: 80 };
  if (meter.unit <= 2) return { beat: { type: 'half', dots: 0 }, perMinute: 66 };
  return { beat: { type: 'quarter', dots: 0 }, perMinute: 100 };
}
