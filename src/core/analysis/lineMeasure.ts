import { derived, isRemembering } from '../derived';
import { fingerDistances } from '../fingering';
import type { Instrument } from '../instruments';
import { type Key, parseKey, sameKey, semitones, signatureOf } from '../pitch';
import {
  accidentalsFor,
  type Bar,
  type BarSpan,
  barSpans,
  isNote,
  quartersPerMinute,
  type SoundingNote,
  soundingNotes,
  type Tempo,
  type Tune,
} from '../score';
import { beatsOf, type Meter, TICKS_PER_QUARTER, weightAt } from '../time';

/** What a line is like, measured bar by bar, for the causes that `difficulty` weighs. */

/** Where each cause reaches its ten. */
const TENS = {
  /** Notes a second: sixteenths at a quarter of 150. */
  notesASecond: 10,
  /** Rhythm points a bar, see `rhythmPoints`. */
  rhythmPoints: 8,
  /** Semitones of an average step beyond a major third. */
  leap: 8,
  /** Semitones outside a beginner's range, on average over the bar's notes. */
  outside: 10,
  /** Accidentals to a note. */
  accidentals: 0.6,
  signature: 7,
  /** Break crossings in a bar. */
  crossings: 4,
  /** Cost of finger travel to a note at four notes a second, see `fingerDistances`. */
  travel: 3,
  /** Seconds beyond a breath. */
  breath: 8,
} as const;

/** A line as one player reads it: written pitch, with the tempo it is played at. */
export interface Line extends Pick<Tune, 'bars' | 'meter'> {
  readonly key: Key;
  readonly tempo: Tempo;
}

/** What the bars of a line are like whoever plays them and in whatever key, and its notes ready for the rest. */
export interface LineMeasure {
  readonly notes: readonly SoundingNote[];
  /** Semitones above C0, as the line is written. */
  readonly heights: Int16Array;
  /** From each onset to the next. */
  readonly seconds: Float64Array;
  /** How much finger travel after each note counts, by the time there is for it. */
  readonly haste: Float64Array;
  /** For each bar, the index of its first note, and at the end the number of notes. */
  readonly firstOf: readonly number[];
  /** For each note, how long has been played since a place to breathe, its own length included, at `BREATH_TEMPO`. */
  readonly run: Float64Array;
  /** 0 to 10 for each bar. */
  readonly fixed: Readonly<Record<'speed' | 'rhythm' | 'leaps' | 'accidentals', readonly number[]>>;
}

export function measureLine(line: Line, shape: LineShape = lineShape(line)): LineMeasure {
  const perMinute = quartersPerMinute(line.tempo);
  const known = measuresKnown.get(shape);
  if (known?.perMinute === perMinute && isRemembering()) return known.measure;
  const measure = freshMeasure(shape, perMinute);
  measuresKnown.set(shape, { perMinute, measure });
  return measure;
}

/** Tuned by hand. One entry a shape, at the last tempo: the players of a level have one tempo. */
const measuresKnown = new WeakMap<LineShape, { readonly perMinute: number; readonly measure: LineMeasure }>();

function freshMeasure(shape: LineShape, perMinute: number): LineMeasure {
  const { notes, heights, firstOf, spans } = shape;
  const secondsPerTick = 60 / perMinute / TICKS_PER_QUARTER;
  const [seconds, haste] = [new Float64Array(notes.length), new Float64Array(notes.length)];
  const run = new Float64Array(notes.length);
  let played = 0;
  notes.forEach((note, k) => {
    const next = notes[k + 1];
    const wait = ((next?.start ?? note.start + note.length) - note.start) * secondsPerTick;
    seconds[k] = wait;
    haste[k] = hasteOf(wait);
    played += note.length * BREATH_SECONDS_PER_TICK;
    run[k] = played;
    const rests = (next?.start ?? Infinity) > note.start + note.length;
    // As teachers ask: breathe in rests, or from the end of a note of a beat or more that is not slurred on.
    if (rests || (note.length >= beatOf(spans[note.bar]) && (note.first.slurEnds ?? 0) >= (note.first.slurStarts ?? 0)))
      played = 0;
  });
  const speed = spans.map((span, index) =>
    toTen(
      ((firstOf[index + 1] ?? 0) - (firstOf[index] ?? 0) + (shape.adorned[index] ?? 0)) /
        Math.max(0.1, span.length * secondsPerTick),
      TENS.notesASecond,
    ),
  );
  return {
    notes,
    heights,
    seconds,
    firstOf,
    run,
    haste,
    fixed: { speed, rhythm: shape.rhythm, leaps: shape.leaps, accidentals: shape.accidentals },
  };
}

/** What does not even depend on the tempo. */
export interface LineShape {
  readonly notes: readonly SoundingNote[];
  readonly heights: Int16Array;
  readonly firstOf: readonly number[];
  readonly spans: readonly BarSpan[];
  readonly rhythm: readonly number[];
  readonly leaps: readonly number[];
  readonly accidentals: readonly number[];
  /** For each bar, notes that are played without being written out: grace notes, and two for each ornament. */
  readonly adorned: readonly number[];
}

/**
 * Tuned by hand. One entry for bars, since their key and meter hardly ever change: one line is measured for many
 * players.
 */
const shapes = new WeakMap<readonly Bar[], { readonly key: Key; readonly meter: Meter; readonly shape: LineShape }>();

export function lineShape(line: Pick<Line, 'bars' | 'meter' | 'key'>): LineShape {
  const known = shapes.get(line.bars);
  if (known && known.meter === line.meter && sameKey(known.key, line.key) && isRemembering()) return known.shape;
  const shape = freshShape(line);
  shapes.set(line.bars, { key: line.key, meter: line.meter, shape });
  return shape;
}

function freshShape(line: Pick<Line, 'bars' | 'meter' | 'key'>): LineShape {
  const spans = barSpans(line);
  const notes = soundingNotes(line);
  const heights = new Int16Array(notes.length);
  notes.forEach(({ pitch }, k) => (heights[k] = semitones(pitch)));
  const firstOf: number[] = [];
  let next = 0;
  spans.forEach((_, index) => {
    while (next < notes.length && (notes[next]?.bar ?? 0) < index) next += 1;
    firstOf.push(next);
  });
  firstOf.push(notes.length);
  const signs = accidentalsFor(line);
  const adorned = line.bars.map(({ events }) =>
    events.reduce(
      (sum, event) => sum + (isNote(event) ? (event.graces?.length ?? 0) + 2 * (event.ornaments?.length ?? 0) : 0),
      0,
    ),
  );
  const [rhythm, leaps, accidentals] = [Array<number>(), Array<number>(), Array<number>()];
  spans.forEach((span, index) => {
    const from = firstOf[index] ?? 0;
    const to = firstOf[index + 1] ?? from;
    const count = Math.max(1, to - from);
    let [points, leapt, accidental] = [0, 0, 0];
    for (let k = from; k < to; k += 1) {
      const note = notes[k] as SoundingNote;
      points += rhythmPoints(note, span);
      if (k > 0) leapt += Math.max(0, Math.abs((heights[k] as number) - (heights[k - 1] as number)) - 4);
      if (signs.get(note.first.id)?.courtesy === false) accidental += 1;
    }
    rhythm.push(toTen(points + (adorned[index] ?? 0) / 2, TENS.rhythmPoints));
    leaps.push(toTen(leapt / count, TENS.leap));
    accidentals.push(toTen(accidental / count, TENS.accidentals));
  });
  return { notes, heights, firstOf, spans, rhythm, leaps, accidentals, adorned };
}

/**
 * Quarters a minute at which breaths are measured, whatever the tempo: a player who goes slower breathes more often,
 * and one who goes faster has it harder by speed. Measured at the tempo itself, a slow beginner part would count as
 * harder than the tune.
 */
const BREATH_TEMPO = 96;
const BREATH_SECONDS_PER_TICK = 60 / BREATH_TEMPO / TICKS_PER_QUARTER;

function beatOf(span: BarSpan | undefined): number {
  return (span && beatsOf(span.meter)[0]?.length) ?? TICKS_PER_QUARTER;
}

/** Moves within a quarter of a second count once, quicker ones up to twice. */
function hasteOf(seconds: number): number {
  return Math.min(2, 0.25 / Math.max(0.05, seconds));
}

/** What depends on the player and on where the line lies for them, 0 to 10 for each bar. */
export interface PlayerMeasure {
  readonly range: Float64Array;
  readonly break: Float64Array;
  readonly travel: Float64Array;
  /** Break crossings in all. */
  readonly crossings: number;
}

/** @param shift semitones added to the line's heights to get what the player reads */
export function measurePlayer(
  { heights, haste, firstOf }: LineMeasure,
  instrument: Instrument,
  shift = 0,
): PlayerMeasure {
  const bars = firstOf.length - 1;
  const [range, breaks, travel] = [new Float64Array(bars), new Float64Array(bars), new Float64Array(bars)];
  const { low, high } = instrument.range.beginner;
  const [lowest, highest] = [semitones(low), semitones(high)];
  const unders = Int16Array.from(instrument.breaks, ([under]) => semitones(under));
  const overs = Int16Array.from(instrument.breaks, ([, over]) => semitones(over));
  const distance = fingerDistances(instrument);
  let crossings = 0;
  for (let bar = 0; bar < bars; bar += 1) {
    const from = firstOf[bar] ?? 0;
    const to = firstOf[bar + 1] ?? from;
    let [outside, crossed, moved] = [0, 0, 0];
    for (let k = from; k < to; k += 1) {
      const height = (heights[k] as number) + shift;
      outside += height < lowest ? lowest - height : height > highest ? height - highest : 0;
      if (k === 0) continue;
      const before = (heights[k - 1] as number) + shift;
      if (before === height) continue;
      const under = before < height ? before : height;
      const over = before < height ? height : before;
      for (let pair = 0; pair < unders.length; pair += 1) {
        if (under <= (unders[pair] as number) && over >= (overs[pair] as number)) {
          crossed += 1;
          break;
        }
      }
      moved += distance(before, height) * (haste[k - 1] as number);
    }
    const count = Math.max(1, to - from);
    range[bar] = toTen(outside / count, TENS.outside);
    breaks[bar] = toTen(crossed, TENS.crossings);
    travel[bar] = toTen(moved / count, TENS.travel);
    crossings += crossed;
  }
  return { range, break: breaks, travel, crossings };
}

/** 0 to 10 for each bar: how far a run without a place to breathe goes beyond what the player's breath lasts. */
export function measureBreath({ run, firstOf }: LineMeasure, { family, breathSeconds }: Instrument): Float64Array {
  const bars = firstOf.length - 1;
  const breath = new Float64Array(bars);
  // A bow turns round, a plucked string rings: only those who blow or sing run out.
  if (family === 'strings' || family === 'fretted' || family === 'percussion') return breath;
  for (let bar = 0; bar < bars; bar += 1) {
    let longest = 0;
    for (let k = firstOf[bar] ?? 0; k < (firstOf[bar + 1] ?? 0); k += 1) longest = Math.max(longest, run[k] ?? 0);
    breath[bar] = toTen(Math.max(0, longest - breathSeconds), TENS.breath);
  }
  return breath;
}

/** Sharps or flats of a signature on the scale of the others. */
export function signatureCause(signature: number, instrument: Pick<Instrument, 'homeKeys'>): number {
  return toTen(feltSigns(signature, instrument), TENS.signature);
}

/**
 * How many sharps or flats a key feels like under the hands: those that are read count a quarter, those beyond the keys
 * in which the instrument's own methods begin five quarters. So D and A are nearer to a violin than C and F (open
 * strings, the first finger pattern). Order of keys after common methods, as in the catalogue; the shares are ours.
 */
export function feltSigns(signature: number, { homeKeys }: Pick<Instrument, 'homeKeys'>): number {
  const [from, to] = homeSpan(homeKeys);
  const beyond = Math.max(0, from - signature, signature - to);
  return beyond + Math.abs(signature) / 4;
}

/** Signatures of the keys in which an instrument's methods begin, in their order. */
export const homeSignatures = derived((homeKeys: readonly string[]): readonly number[] =>
  homeKeys.flatMap((text) => {
    const key = parseKey(text);
    return key.ok ? [signatureOf(key.value)] : [];
  }),
);

const homeSpan = derived((homeKeys: readonly string[]): readonly [number, number] => {
  const signatures = homeSignatures(homeKeys);
  return signatures.length === 0 ? [0, 0] : [Math.min(...signatures), Math.max(...signatures)];
});

function toTen(value: number, ten: number): number {
  return Math.min(10, Math.max(0, (10 * value) / ten));
}

/**
 * Points for what is hard to count: half beats 0.5, smaller parts 1, tuplets 1, notes that hold over a beat from
 * between beats 1.5; grace notes and ornaments half a point for each note that they play.
 */
function rhythmPoints(note: SoundingNote, { meter }: BarSpan): number {
  if (note.first.tuplet) return 1;
  const weight = weightAt(meter, note.inBar);
  if (weight >= 0.5) return 0;
  const beat = beatsOf(meter).findLast(({ start }) => start <= note.inBar);
  const holdsOver = beat !== undefined && note.inBar + note.length > beat.start + beat.length;
  return (weight >= 0.25 ? 0.5 : 1) + (holdsOver ? 1 : 0);
}
