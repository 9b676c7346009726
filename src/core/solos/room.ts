import { type Instrument, type Level, profileOf } from '../instruments';
import { chordTones } from '../harmony';
import { chroma, type Pitch, readableInterval, semitones } from '../pitch';
import { formIn, type ImprovisingForm } from '../pools';
import { type Ticks, TICKS_PER_QUARTER as QUARTER } from '../time';
import { groundAt, groundsOf, inBits, type Ground, type Grounds } from './ground';
import { planFrom } from './plan';
import type { FormBar, Slot } from './rhythm';
import type { SoloDevice, SoloPhrase } from './soloNote';
import type { PlacedWish } from './plan';
import type { GivenNote, SoloTarget, SoloWishes } from './wishes';

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
  /** The shortest note that is spoken at the tempo; any by default. */
  readonly shortest?: Ticks;
  /** As the level goes by default. */
  readonly plan?: readonly PlacedWish[];
  /** Phrases that are kept as they are, by their index. */
  readonly given?: ReadonlyMap<number, readonly HeldNote[]>;
  readonly tools?: SoloWishes['tools'];
  readonly targets?: readonly SoloTarget[];
}

/** A note of a kept phrase: as it is given, but written and where the player has it. */
export interface HeldNote extends Omit<GivenNote, 'pitch'> {
  readonly pitch: Pitch;
}

/** A bar that begins on a degree of its chord. */
interface TargetPlace {
  readonly target: SoloTarget;
  readonly start: Ticks;
  /** Bits of the notes that are meant; none where the level has none of them. */
  readonly bits: number;
}

export interface Note {
  readonly slot: Slot;
  readonly height: number;
  /** As it was given. */
  readonly pitch?: Pitch;
  readonly device?: SoloDevice;
}

export interface Phrase extends SoloPhrase {
  readonly notes: readonly Note[];
  /** Of a new one: how little it says, by `ideaCost`. */
  readonly cost?: number;
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
  readonly targets: readonly TargetPlace[];
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
  const isSmall = profileOf(level).solo.notes !== 'all' && one.setSize <= 6;
  const inSet = (height: number) => inBits(height, one.set);
  const isStep = (a: number, b: number) => {
    const size = Math.abs(a - b);
    if (size === 1 || size === 2) return true;
    if (size !== 3 || !isSmall || !inSet(a) || !inSet(b)) return false;
    const base = Math.min(a, b);
    return !inSet(base + 1) && !inSet(base + 2);
  };
  const played = playedUntil(request, all);
  const final = finalPlace(
    grounds.filter(({ start }) => start < played),
    one,
    from,
    to,
    level,
    chroma(written.key.tonic),
  );
  if (!final) return undefined;
  return {
    request,
    grounds: { ...one, grounds },
    bars: all,
    low: from,
    high: to,
    isStep,
    changes: new Set(grounds.map(({ start }) => start)),
    targets: (request.targets ?? []).flatMap((target): readonly TargetPlace[] => {
      const bar = all[target.bar - 1];
      const ground = bar && groundAt(grounds, bar.start);
      return bar && ground ? [{ target, start: bar.start, bits: targetBits(ground, target, level) }] : [];
    }),
    ...final,
  };
}

/** Half steps above the root by which a degree is known where the chord has no tone of its own there. */
const DEGREE_HEIGHTS: Readonly<Record<SoloTarget['degree'], readonly number[]>> = {
  1: [0],
  3: [3, 4],
  5: [6, 7, 8],
  7: [10, 11],
  9: [1, 2],
};

/**
 * The notes that a target means over its chord: the chord's own degree, else the scale's; of those that the level has.
 */
function targetBits({ symbol, pool, home }: Ground, { degree }: SoloTarget, level: Level): number {
  if (symbol.kind === 'no chord') return 0;
  const has = profileOf(level).solo.notes === 'scale' ? pool : pool | home;
  const own = chordTones(symbol).find((tone) => tone.degree === degree);
  if (own) return (1 << chroma(own.pitchClass)) & has;
  const root = chroma(symbol.root);
  return DEGREE_HEIGHTS[degree].reduce((bits, above) => bits | (1 << ((root + above) % 12)), 0) & pool;
}

/** Where the last phrase that is played ends. */
function playedUntil({ plan, level }: SoloRequest, bars: readonly FormBar[]): Ticks {
  const until = plan && planFrom(plan, bars.length, level).findLast(({ kind }) => kind !== 'rest')?.to;
  const last = bars[(until ?? bars.length) - 1];
  return last ? last.start + last.length : 0;
}

/**
 * The last chord over which the solo can come home, the tonic's own before others: the keynote or its third, else
 * another tone of it and of the tonic chord, in the level's notes and range; a beginner's on the keynote where that is
 * one.
 */
function finalPlace(
  grounds: readonly Ground[],
  { tonic }: Grounds,
  low: number,
  high: number,
  level: Level,
  keynote: number,
): Pick<Room, 'finalAt' | 'finalEnd' | 'finals'> | undefined {
  const end = grounds.at(-1)?.end ?? 0;
  const isTonic = ({ symbol }: Ground) => symbol.kind === 'chord' && chroma(symbol.root) === keynote;
  // Over the chord of home itself, where it comes in the last third; a turnaround after it is left to the others.
  const homes = grounds.filter((ground) => isTonic(ground) && ground.start * 3 >= end * 2);
  for (const ground of [...grounds, ...homes].toReversed()) {
    const all = heightsOf(ground.home & tonic & ground.pool, low, high);
    const keynotes = all.filter((height) => height % 12 === keynote);
    const thirds = all.filter((height) => [3, 4].includes((height - keynote + 120) % 12));
    const best = profileOf(level).solo.notes === 'scale' ? keynotes : [...keynotes, ...thirds];
    const finals = best.length > 0 ? best : all;
    if (finals.length > 0) return { finalAt: ground.start, finalEnd: ground.end, finals };
  }
  return undefined;
}

export function heightsOf(bits: number, low: number, high: number): readonly number[] {
  const heights: number[] = [];
  for (let height = low; height <= high; height += 1) if (inBits(height, bits)) heights.push(height);
  return heights;
}

/** The chord that a slot belongs to: an early note to the one that comes. */
export function groundOf(slot: Slot, grounds: readonly Ground[]): Ground {
  const found = groundAt(grounds, slot.isEarly ? slot.at + QUARTER / 2 : slot.at) ?? grounds[0];
  if (!found) throw new Error('a form without chords');
  return found;
}
