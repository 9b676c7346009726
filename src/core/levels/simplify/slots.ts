import { derived } from '../../derived';
import { type BarSpan, barSpans, type Tune } from '../../score';
import {
  barTicks,
  type Beat,
  beatsOf,
  isCompound,
  type Meter,
  middleOf,
  type NoteValue,
  printMeter,
  type Ticks,
  TICKS_PER_QUARTER,
  weightAt,
} from '../../time';
import { beatKinds, type BeatRhythm, kindOfBeat, rhythmsOfKind, type Shortest, SHORTEST, shortestOf } from '../../work';
import { prefixesOf, twelfthsIn, type RhythmPrefixes } from './rhythmPrefixes';

/** A place where a simplified melody may strike a note: from here to the next slot. */
export interface Slot {
  readonly bar: number;
  /** From the start of the tune. */
  readonly start: Ticks;
  readonly length: Ticks;
  /** Place in the full bar. */
  readonly inBar: Ticks;
  /** The bar begins here (or the pickup does). */
  readonly opensBar: boolean;
  /**
   * Between the places where a word may begin long, as the last third of a compound beat: a note from here is not held
   * over the next of them.
   */
  readonly isOffBeat: boolean;
  /**
   * A beat that is neither the first of the bar nor of its second half, where beats are the smallest places there are.
   */
  readonly isWeakBeat: boolean;
  /** The eighth after a quarter in a compound beat, where these are the smallest places there are. */
  readonly isLilt: boolean;
  /** On a beat, in its middle, or in a smaller part of it; the thirds of a compound beat are its middles. */
  readonly place: 'beat' | 'middle' | 'part';
  /** Where words are allowed one by one and the beat is whole: what may stand in it, and which of its slots this is. */
  readonly inBeat?: { readonly allowed: RhythmPrefixes; readonly at: number };
}

export interface RhythmWords {
  readonly shortest: Shortest;
  /** Notes that begin between beats may be held over the next one. */
  readonly syncopation: boolean;
  /** No note is held over a barline. */
  readonly untied?: true;
  /**
   * No dotted rhythms: what is held over a beat lasts to the next one, and no part of a beat is three times as long as
   * the other.
   */
  readonly undotted?: true;
  /**
   * What a beat may have, word by word; `shortest` and `undotted` say nothing then of the kinds of beat that these are
   * about.
   */
  readonly words?: readonly BeatRhythm[];
}

/** What a beginner reads. */
export const FIRST_WORDS: RhythmWords = { shortest: 'quarter', syncopation: false };

/**
 * Starts of the rhythm words, by kind of beat. Simple meters: every quarter (every beat where that is shorter), which
 * gives whole, half, dotted half and quarter. Compound: every beat and its last third, which gives dotted quarter and
 * quarter + eighth. Common practice of first tutor books. Halves are the halves of a bar, or the bar (in compound
 * meters the beats); eighths and sixteenths cut every beat evenly.
 */
function slotStarts(meter: Meter, shortest: Shortest): readonly Ticks[] {
  const beats = beatsOf(meter);
  if (shortest === 'half')
    return isCompound(meter)
      ? beats.map(({ start }) => start)
      : [...new Set([0, middleOf(meter) ?? 0, ...(meter.unit === 2 ? beats.map(({ start }) => start) : [])])];
  if (shortest === 'eighth' || shortest === '16th') {
    const unit = shortest === 'eighth' ? TICKS_PER_QUARTER / 2 : TICKS_PER_QUARTER / 4;
    return Array.from({ length: Math.floor(barTicks(meter) / unit) }, (_, k) => k * unit);
  }
  if (isCompound(meter)) return beats.flatMap((beat) => [beat.start, beat.start + (beat.length * 2) / 3]);
  // 2/2 is read in quarters by a beginner, whatever is counted.
  return beats.flatMap((beat) => {
    const parts = Math.max(1, Math.floor(beat.length / TICKS_PER_QUARTER));
    const even = beat.length % TICKS_PER_QUARTER === 0 ? parts : 1;
    return Array.from({ length: even }, (_, k) => beat.start + (k * beat.length) / even);
  });
}

/** The beats that notes must not lean over; cut time is read in quarters. */
export function beatsRead(meter: Meter): readonly Beat[] {
  return beatsOf(meter.unit === 2 ? { count: meter.count * 2, unit: 4 } : meter);
}

/** The slots of every bar. A bar that is cut short keeps those that fall inside it, its beginning always being one. */
export function slotsOf(tune: Pick<Tune, 'bars' | 'meter'>, words: RhythmWords = FIRST_WORDS): readonly Slot[] {
  return slotsIn(barSpans(tune), words);
}

/** What lies out of reach differs between players, the places do not. */
const slotsIn = derived(freshSlots, { most: 8, by: (spans, words) => [spans, JSON.stringify(words)] });

/** Bars of one meter and length have the same places. */
function freshSlots(spans: readonly BarSpan[], words: RhythmWords): readonly Slot[] {
  const models = new Map<string, readonly Slot[]>();
  return spans.flatMap(({ start, length, offset, meter }, bar) => {
    const name = `${printMeter(meter)} ${offset} ${length}`;
    const model = models.get(name) ?? slotsOfBar({ start: 0, length, offset, meter }, 0, words);
    models.set(name, model);
    return model.map((slot) => ({ ...slot, bar, start: start + slot.start }));
  });
}

/** The shortest words of a meter: where words are allowed one by one, as short as these need. */
export function shortestIn(meter: Meter, { shortest, words }: Pick<RhythmWords, 'shortest' | 'words'>): Shortest {
  if (!words) return shortest;
  const needed = beatKinds(meter).map((kind) => {
    const about = rhythmsOfKind(words, kind);
    return about ? shortestOf(about, kind) : shortest;
  });
  return SHORTEST[Math.max(...needed.map((one) => SHORTEST.indexOf(one)))] ?? shortest;
}

/**
 * Which beat a slot stands in, where words are allowed one by one; a beat that is cut by the end of its bar has what it
 * has.
 */
function beatPlaces(
  span: BarSpan,
  starts: readonly Ticks[],
  words: readonly BeatRhythm[] | undefined,
): ReadonlyMap<Ticks, Slot['inBeat']> {
  const places = new Map<Ticks, Slot['inBeat']>();
  for (const beat of words ? beatsRead(span.meter) : []) {
    const inside = starts.filter((start) => start >= beat.start && start < beat.start + beat.length);
    const isWhole = inside[0] === beat.start && beat.start + beat.length <= span.offset + span.length;
    const about = words && rhythmsOfKind(words, kindOfBeat(beat));
    if (!isWhole || !about || inside.length === 1) continue;
    const allowed = prefixesOf(about, twelfthsIn(beat, inside));
    inside.forEach((start, at) => places.set(start, { allowed, at }));
  }
  return places;
}

function slotsOfBar(span: BarSpan, bar: number, rhythm: RhythmWords): readonly Slot[] {
  const { syncopation, words } = rhythm;
  const shortest = shortestIn(span.meter, rhythm);
  const end = span.offset + span.length;
  const inside = slotStarts(span.meter, shortest).filter((start) => start > span.offset && start < end);
  const starts = [span.offset, ...inside];
  const isOnQuarters = shortest === 'half' || shortest === 'quarter';
  const firm = new Set(
    isOnQuarters && !isCompound(span.meter)
      ? slotStarts(span.meter, shortest)
      : beatsRead(span.meter).map((beat) => beat.start),
  );
  const beats = beatsRead(span.meter);
  const placeOf = (inBar: Ticks): Slot['place'] => {
    const beat = beats.findLast(({ start }) => start <= inBar);
    if (!beat || beat.start === inBar) return 'beat';
    return (inBar - beat.start) % (beat.length / (isCompound(span.meter) ? 3 : 2)) === 0 ? 'middle' : 'part';
  };
  const inBeats = beatPlaces(span, starts, words);
  return starts.map((inBar, k): Slot => ({
    bar,
    inBar,
    start: span.start + inBar - span.offset,
    length: (starts[k + 1] ?? end) - inBar,
    opensBar: k === 0,
    isOffBeat: !syncopation && !firm.has(inBar),
    isWeakBeat: shortest === 'quarter' && !isCompound(span.meter) && weightAt(span.meter, inBar) <= 0.5,
    isLilt: shortest === 'quarter' && isCompound(span.meter) && weightAt(span.meter, inBar) < 0.5,
    place: placeOf(inBar),
    ...(inBeats.has(inBar) && { inBeat: inBeats.get(inBar) }),
  }));
}

/** The shortest value that the slots of a meter give, for telling the teacher. */
export function shortestWord(meter: Meter, shortest: Shortest = FIRST_WORDS.shortest): NoteValue {
  if (shortest !== 'half' && shortest !== 'quarter') return { type: shortest, dots: 0 };
  if (shortest === 'half') return isCompound(meter) ? { type: 'quarter', dots: 1 } : { type: 'half', dots: 0 };
  if (isCompound(meter) || barTicks(meter) % TICKS_PER_QUARTER !== 0) return { type: 'eighth', dots: 0 };
  return { type: 'quarter', dots: 0 };
}
