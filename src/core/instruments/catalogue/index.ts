import type { Instrument } from '../instrument';
import { BARS_AND_VOICES } from './barsAndVoices';
import { BRASS } from './brass';
import { STRINGS } from './strings';
import { WOODWIND } from './woodwind';

/**
 * All instruments, in score order: wind, brass, strings, what is struck, and voices. Facts and their sources are in the
 * files of the families.
 */
export const INSTRUMENTS: readonly Instrument[] = [...WOODWIND, ...BRASS, ...STRINGS, ...BARS_AND_VOICES];

const byId: ReadonlyMap<string, Instrument> = new Map(INSTRUMENTS.map((instrument) => [instrument.id, instrument]));

/** The instrument of an id as in `reed instruments`, or `undefined` where there is none. */
export function instrumentById(id: string): Instrument | undefined {
  return byId.get(id);
}
