import type { Instrument, Level } from '../instruments/instrument';
import { semitones } from '../pitch/pitch';
import { readableInterval } from '../pitch/respell';
import { formIn, type ImprovisingForm } from '../pools/form';
import { TICKS_PER_QUARTER as QUARTER, type Ticks } from '../time/ticks';
import { groundAt, groundsOf, inBits, type Ground, type Grounds } from './ground';
import type { FormBar, Slot } from './rhythm';
import type { SoloDevice, SoloPhrase } from './soloNote';

/** How wide a phrase lies, in half steps, and where its middle lies in the range, 0 to 1. Eighteen are an octave and a half: no run is longer. */
export const WINDOWS: Readonly<
  Record<Level, { readonly width: number; readonly middle: number; readonly early: number }>
> = {
  beginner: { width: 12, middle: 0.45, early: 0 },
  intermediate: { width: 16, middle: 0.5, early: 0.35 },
  advanced: { width: 18, middle: 0.55, early: 0.4 },
};

export interface SoloRequest {
  /** Concert. */
  readonly form: ImprovisingForm;
  /** Of one chorus. */
  readonly bars: readonly FormBar[];
  readonly level: Level;
  /** Its range is the player's already. */
  readonly instrument: Instrument;
  readonly seed: number;
  readonly choruses?: number;
}

export interface Note {
  readonly slot: Slot;
  readonly height: number;
  readonly device?: SoloDevice;
}

export interface Phrase extends SoloPhrase {
  readonly notes: readonly Note[];
}

export interface Room {
  readonly request: SoloRequest;
  readonly grounds: Grounds;
  readonly bars: readonly FormBar[];
  readonly low: number;
  readonly high: number;
  readonly isStep: (from: number, to: number) => boolean;
  readonly changes: ReadonlySet<Ticks>;
  /** The chord over which it comes home, and the heights that do. */
  readonly finalAt: Ticks;
  readonly finalEnd: Ticks;
  readonly finals: readonly number[];
}

export function roomFor(request: SoloRequest): Room | undefined {
  const { form, level, instrument, choruses = 1, bars } = request;
  const written = formIn(form, readableInterval(form.key, instrument.transposition));
  const one = groundsOf(written, level, bars);
  const chorus = bars.reduce((sum, { length }) => sum + length, 0);
  const grounds = Array.from({ length: choruses }, (_, k) =>
    one.grounds.map((ground) => ({ ...ground, start: ground.start + k * chorus, end: ground.end + k * chorus })),
  ).flat();
  const all = Array.from({ length: choruses }, (_, k) =>
    bars.map((bar) => ({ ...bar, start: bar.start + k * chorus })),
  ).flat();
  if (grounds.length === 0 || all.length === 0) return undefined;
  const { low, high } = instrument.range[level];
  const [from, to] = [semitones(low), semitones(high)];
  const isSmall = level !== 'advanced' && one.setSize <= 6;
  const inSet = (height: number) => inBits(height, one.set);
  const isStep = (a: number, b: number) => {
    const size = Math.abs(a - b);
    if (size === 1 || size === 2) return true;
    if (size !== 3 || !isSmall || !inSet(a) || !inSet(b)) return false;
    const base = Math.min(a, b);
    return !inSet(base + 1) && !inSet(base + 2);
  };
  const final = finalPlace(grounds, one, from, to);
  if (!final) return undefined;
  return {
    request,
    grounds: { ...one, grounds },
    bars: all,
    low: from,
    high: to,
    isStep,
    changes: new Set(grounds.map(({ start }) => start)),
    ...final,
  };
}

/** The last chord over which the solo can come home: a tone of it and of the tonic chord, in the level's notes and range. */
function finalPlace(
  grounds: readonly Ground[],
  { tonic }: Grounds,
  low: number,
  high: number,
): Pick<Room, 'finalAt' | 'finalEnd' | 'finals'> | undefined {
  for (const ground of grounds.toReversed()) {
    const finals = heightsOf(ground.home & tonic & ground.pool, low, high);
    if (finals.length > 0) return { finalAt: ground.start, finalEnd: ground.end, finals };
  }
  return undefined;
}

export function heightsOf(bits: number, low: number, high: number): readonly number[] {
  return Array.from({ length: Math.max(0, high - low + 1) }, (_, k) => low + k).filter((height) =>
    inBits(height, bits),
  );
}

/** The chord that a slot belongs to: an early note to the one that comes. */
export function groundOf(slot: Slot, grounds: readonly Ground[]): Ground {
  const found = groundAt(grounds, slot.isEarly ? slot.at + QUARTER / 2 : slot.at) ?? grounds[0];
  if (!found) throw new Error('a form without chords');
  return found;
}
