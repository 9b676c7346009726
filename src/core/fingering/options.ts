import { derived } from '../derived';
import type { Instrument } from '../instruments';
import { type Pitch, printPitch, semitones } from '../pitch';
import { bowedWays } from './bowed';
import { slideWays, valveWays } from './brass';
import { CHARTS } from './charts';
import { shifted, type Chart } from './charts/chart';
import type { Fingering } from './fingering';
import { barWay, frettedWays, reedWays } from './plucked';

/** One way to play a pitch; `cost` grows with how unusual or far it is, 0 for the usual one. */
export interface CostedFingering {
  readonly fingering: Fingering;
  readonly cost: number;
}

/** What an alternative of a chart costs beside the main fingering. */
const ALTERNATIVE_COST = 1;

/** The chart an instrument follows; `undefined` where its fingerings are worked out or it has none. */
export const chartOf = derived(
  ({ mechanism }: Pick<Instrument, 'mechanism'>): Chart | undefined =>
    mechanism.kind === 'holes' ? shifted(CHARTS[mechanism.charts[0]], mechanism.above ?? 0) : undefined,
  { by: ({ mechanism }) => [mechanism] },
);

/**
 * All ways an instrument has for a written pitch; empty where it has none, where the chart leaves the note to the
 * teacher, and for what is not fingered.
 */
export const fingeringsFor = derived(freshFingerings, {
  most: 256,
  by: ({ mechanism }, pitch) => [mechanism, printPitch(pitch)],
});

function freshFingerings(instrument: Pick<Instrument, 'mechanism'>, pitch: Pitch): readonly CostedFingering[] {
  const { mechanism } = instrument;
  const height = semitones(pitch);
  switch (mechanism.kind) {
    case 'holes':
      return (chartOf(instrument)?.notes.get(height) ?? []).map((fingering, index) => ({
        fingering,
        cost: index === 0 ? 0 : ALTERNATIVE_COST * (1 + 0.3 * index),
      }));
    case 'valves':
      return valveWays(
        height,
        mechanism.valves,
        semitones(mechanism.open),
        mechanism.second && semitones(mechanism.second),
      );
    case 'slide':
      return slideWays(height, semitones(mechanism.open));
    case 'bowed':
      return bowedWays(pitch, mechanism.strings, mechanism.hand);
    case 'fretted':
      return frettedWays(pitch, mechanism.strings, mechanism.frets);
    case 'bars':
      return [{ fingering: barWay(pitch), cost: 0 }];
    case 'harmonica':
      return reedWays(height).map((fingering, index) => ({ fingering, cost: index }));
    case 'keys':
    case 'voice':
      return [];
  }
}

/** Whether fingerings mean anything on the instrument. */
export function isFingered({ mechanism }: Pick<Instrument, 'mechanism'>): boolean {
  return mechanism.kind !== 'keys' && mechanism.kind !== 'voice';
}
