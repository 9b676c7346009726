import { isCompound, type Meter } from '../time/meter';
import type { Tempo } from './tune';

/** Where a file gives no tempo: a moderate pace on the beat of the meter (andante to moderato on a metronome's scale). */
export function usualTempo(meter: Meter): Tempo {
  if (isCompound(meter)) return { beat: { type: 'quarter', dots: 1 }, perMinute: 80 };
  if (meter.unit <= 2) return { beat: { type: 'half', dots: 0 }, perMinute: 66 };
  return { beat: { type: 'quarter', dots: 0 }, perMinute: 100 };
}
