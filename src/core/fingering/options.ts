import type { Instrument, Mechanism } from '../instruments/instrument';
import { printPitch, semitones, type Pitch } from '../pitch/pitch';
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

const known = new WeakMap<Mechanism, Map<string, readonly CostedFingering[]>>();
const charts = new WeakMap<Mechanism, Chart>();

/** The chart an instrument follows; `undefined` where its fingerings are worked out or it has none. */
export function chartOf({ mechanism }: Pick<Instrument, 'mechanism'>): Chart | undefined {
  if (mechanism.kind !== 'holes') return undefined;
  const made = charts.get(mechanism) ?? shifted(CHARTS[mechanism.charts[0]], mechanism.above ?? 0);
  charts.set(mechanism, made);
  return made;
}

/**
 * All ways an instrument has for a written pitch; empty where it has none, where the chart leaves the note to the teacher, and for what is not fingered.
 * Kept by mechanism, for lines ask for the same pitches again and again.
 */
export function fingeringsFor(instrument: Pick<Instrument, 'mechanism'>, pitch: Pitch): readonly CostedFingering[] {
  const { mechanism } = instrument;
  const ways = known.get(mechanism) ?? new Map<string, readonly CostedFingering[]>();
  known.set(mechanism, ways);
  const name = printPitch(pitch);
  const before = ways.get(name);
  if (before) return before;
  const made = makeWays(instrument, pitch);
  ways.set(name, made);
  return made;
}

function makeWays(instrument: Pick<Instrument, 'mechanism'>, pitch: Pitch): readonly CostedFingering[] {
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
