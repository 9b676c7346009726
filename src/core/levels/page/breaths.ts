import { chordTonesUnder, type Phrase } from '../../analysis';
import { type Instrument, type Level, profileOf } from '../../instruments';
import { chroma, semitones } from '../../pitch';
import {
  type Bar,
  type BarSpan,
  barSpans,
  type EventId,
  isNote,
  quartersPerMinute,
  type SoundingNote,
  type Tempo,
} from '../../score';
import { barTicks, isCompound, type Meter, type Ticks, TICKS_PER_QUARTER, weightAt } from '../../time';
import { barsOfPhrase, COMFORTABLE, middleNoteOf } from '../phrasing/joints';

/**
 * When a phrase is parted for a breath. As teachers ask: ends of phrases first, then their halves; the figures are
 * ours.
 */
const BREATHS = {
  /** What lasts less, in seconds, is played in one by anybody. */
  shortest: 4.4,
  /** The halves are parted again where one of them lasts longer than this. */
  longHalf: 10,
  /** Breaths, and rests, are so many bars apart at least. */
  apart: 1.5,
} as const;

export interface BreathContext {
  readonly meter: Meter;
  readonly tempo: Tempo;
  readonly instrument: Instrument;
  readonly level: Level;
  /** Runs of the line's own sounding notes. */
  readonly phrases: readonly Phrase[];
}

/** Where a player breathes, and the longest stretch without a place to. */
export interface Breaths {
  /** Events after which a breath is marked. */
  readonly after: ReadonlySet<EventId>;
  /** In seconds, and the bar in which it begins; none in a line without notes. */
  readonly longest: { readonly seconds: number; readonly barIndex: number } | undefined;
  /** How long a breath lasts here. */
  readonly lasts: number;
}

/**
 * Breaths at the ends of phrases, and where a phrase lasts too long at its middle, counted from the downbeat. Equal
 * phrases breathe alike, since a phrase is looked at by itself. Rule: a bar and a half apart at least; never inside a
 * slur or an added figure, before a resolving leaning note, before the last note, or between a pickup and its downbeat.
 */
export function breathsOf(
  notes: readonly SoundingNote[],
  bars: readonly Bar[],
  { meter, tempo, instrument, level, phrases }: BreathContext,
): Breaths {
  const spans = barSpans({ bars, meter });
  const secondsPerTick = 60 / quartersPerMinute(tempo) / TICKS_PER_QUARTER;
  const lasts = instrument.breathSeconds * profileOf(level).breath;
  const mayPart = partings(notes, bars, spans, meter);
  const comfortable = isCompound(meter) ? COMFORTABLE.dancing : COMFORTABLE.usual;
  const longestInOne = Math.min(comfortable, Math.max(BREATHS.shortest, lasts));
  const taken = new Set<number>();
  const barOf = (index: number) => barTicks(spans[notes[index]?.bar ?? 0]?.meter ?? meter);
  let since = notes[0]?.start ?? 0;
  phrases.forEach((phrase, index) => {
    for (const inner of innerBreaths(phrase, notes, spans, mayPart, longestInOne / secondsPerTick, secondsPerTick))
      taken.add(inner);
    const end = phrase.to - 1;
    for (let k = phrase.from; k <= end; k += 1)
      if (taken.has(k) || isBeforeRest(notes, k)) since = notes[k + 1]?.start ?? since;
    const isFar = endOf(notes[end]) - since >= BREATHS.apart * barOf(end) - TICKS_PER_QUARTER / 2;
    const isLast = index === phrases.length - 1 || end >= notes.length - 2;
    if (isLast || isBeforeRest(notes, end) || !mayPart.atEnds(end) || !isFar) return;
    taken.add(end);
    since = notes[end + 1]?.start ?? since;
  });
  return {
    after: new Set([...taken].flatMap((index) => (notes[index] ? [lastEventOf(notes[index], bars)] : []))),
    longest: longestStretch(notes, taken, secondsPerTick),
    lasts,
  };
}

const endOf = (note: SoundingNote | undefined) => (note ? note.start + note.length : 0);

const isBeforeRest = (notes: readonly SoundingNote[], k: number) => {
  const next = notes[k + 1];
  return next === undefined || next.start > endOf(notes[k]);
};

interface Partings {
  /** Whether a breath may be taken after a note inside a phrase. */
  (index: number): boolean;
  /** The same where a phrase ends anyway. */
  readonly atEnds: (index: number) => boolean;
}

/** Where no breath is taken: in a slur, and between a leaning note and its resolution, but before a pickup. */
function partings(
  notes: readonly SoundingNote[],
  bars: readonly Bar[],
  spans: readonly BarSpan[],
  meter: Meter,
): Partings {
  const tones = chordTonesUnder({ bars, meter }, notes);
  let open = 0;
  const isOpen = notes.map(({ first }) => (open += (first.slurStarts ?? 0) - (first.slurEnds ?? 0)) > 0);
  const leans = (index: number): boolean => {
    const [note, next, under] = [notes[index], notes[index + 1], tones[index]];
    if (!note || !next || !under || under.length === 0) return false;
    // What leads over the barline belongs to what comes: before it everybody breathes.
    if (notes[index + 2]?.inBar === 0 && next.length <= note.length && next.bar === note.bar) return false;
    const distance = Math.abs(semitones(next.pitch) - semitones(note.pitch));
    const isStrong = weightAt(spans[note.bar]?.meter ?? meter, note.inBar) >= 0.5;
    return distance > 0 && distance <= 2 && isStrong && !under.some((tone) => chroma(tone) === chroma(note.pitch));
  };
  return Object.assign((index: number) => isOpen[index] !== true && !leans(index), {
    atEnds: (index: number) => isOpen[index] !== true,
  });
}

/** Notes inside a phrase after which to breathe: its middle, and again the middles of halves that are too long. */
function innerBreaths(
  phrase: Phrase,
  notes: readonly SoundingNote[],
  spans: readonly BarSpan[],
  mayPart: (index: number) => boolean,
  most: Ticks,
  secondsPerTick: number,
): readonly number[] {
  const place = barsOfPhrase(phrase, notes, spans);
  if (!place) return [];
  const { downbeat, bar, bars } = place;
  const lastsLong = ({ from, to }: Phrase, longest: Ticks) =>
    stretches(notes, from, to).some((ticks) => ticks > longest);
  if (bars < 2 * BREATHS.apart || !lastsLong(phrase, most)) return [];
  const middle = middleNoteOf(phrase, notes, spans, mayPart);
  if (middle === undefined || isBeforeRest(notes, middle)) return [];
  const half = Math.floor(bars / 2);
  const quarters = [
    { part: { from: phrase.from, to: middle + 1 }, at: downbeat + Math.floor(half / 2) * bar },
    { part: { from: middle + 1, to: phrase.to }, at: downbeat + (half + Math.floor((bars - half) / 2)) * bar },
  ].flatMap(({ part, at }) => {
    if (half < 2 * BREATHS.apart || !lastsLong(part, BREATHS.longHalf / secondsPerTick)) return [];
    return middleNoteOf(part, notes, spans, mayPart, at) ?? [];
  });
  return [middle, ...quarters];
}

/** Lengths of what is played without a rest. */
function stretches(notes: readonly SoundingNote[], from: number, to: number): readonly Ticks[] {
  const found: Ticks[] = [];
  let start = notes[from]?.start ?? 0;
  for (let k = from; k < to; k += 1) {
    if (k < to - 1 && !isBeforeRest(notes, k)) continue;
    found.push(endOf(notes[k]) - start);
    start = notes[k + 1]?.start ?? start;
  }
  return found;
}

/** The longest stretch between breaths and rests. */
function longestStretch(
  notes: readonly SoundingNote[],
  taken: ReadonlySet<number>,
  secondsPerTick: number,
): Breaths['longest'] {
  let longest: Breaths['longest'];
  let from = 0;
  notes.forEach((note, k) => {
    if (!taken.has(k) && !isBeforeRest(notes, k)) return;
    const first = notes[from];
    const seconds = first ? (endOf(note) - first.start) * secondsPerTick : 0;
    if (first && (!longest || seconds > longest.seconds)) longest = { seconds, barIndex: first.bar };
    from = k + 1;
  });
  return longest;
}

/** The event in which a struck note ends: its last tied piece. */
function lastEventOf(note: SoundingNote, bars: readonly Bar[]): EventId {
  let last = note.first;
  let isOpen = note.first.tied === true;
  for (let index = note.bar; index < bars.length && isOpen; index += 1) {
    const events = bars[index]?.events ?? [];
    const from = index === note.bar ? events.findIndex(({ id }) => id === note.first.id) + 1 : 0;
    for (let k = from; k < events.length && isOpen; k += 1) {
      const event = events[k];
      if (!event || !isNote(event)) return last.id;
      last = event;
      isOpen = event.tied === true;
    }
  }
  return last.id;
}

/** A stretch is worth a word when it is this many times as long as the player's breath. */
const WORTH_A_WORD = 2;

/** The stretch that no breath lasts for, if there is one: then the tempo should rise, or the player be told. */
export function breathTooLong({ longest, lasts }: Breaths): Breaths['longest'] {
  return longest && longest.seconds > WORTH_A_WORD * lasts ? longest : undefined;
}
