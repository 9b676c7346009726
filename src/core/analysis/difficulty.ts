import { outsideBy, type Instrument } from '../instruments/instrument';
import { signatureOf, type Key } from '../pitch/key';
import { semitones } from '../pitch/pitch';
import { accidentalsFor } from '../score/accidentals';
import { barSpans, soundingNotes, type BarSpan, type SoundingNote } from '../score/sounding';
import { keysOf, quartersPerMinute, type Tempo, type Tune } from '../score/tune';
import { beatsOf, weightAt } from '../time/meter';
import { TICKS_PER_QUARTER } from '../time/ticks';

/** What makes a bar hard, each 0 (not at all) to 10. */
export const CAUSES = ['speed', 'rhythm', 'leaps', 'range', 'accidentals', 'signature', 'break'] as const;
export type Cause = (typeof CAUSES)[number];
export type Causes = Readonly<Record<Cause, number>>;

export interface Difficulty {
  /** 0–10. */
  readonly total: number;
  readonly causes: Causes;
}

/**
 * How much each cause counts; they add up to 1, so that the total rises with every cause and stays within 10.
 * Speed and rhythm decide most about a grade in common examination syllabuses, keys and leaps less; the figures are ours.
 */
export const WEIGHTS: Causes = { speed: 0.3, rhythm: 0.22, leaps: 0.12, range: 0.13, accidentals: 0.08, signature: 0.06, break: 0.09 };

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
} as const;

/** A line as one player reads it: written pitch, with the tempo it is played at. */
export interface Line extends Pick<Tune, 'bars' | 'meter'> {
  readonly key: Key;
  readonly tempo: Tempo;
}

/** How hard each bar of a line is for an instrument, and why. */
export function barDifficulties(line: Line, instrument: Instrument): readonly Difficulty[] {
  const spans = barSpans(line);
  const notes = soundingNotes(line);
  const byBar = spans.map((): { readonly note: SoundingNote; readonly before: SoundingNote | undefined }[] => []);
  notes.forEach((note, index) => byBar[note.bar]?.push({ note, before: notes[index - 1] }));
  const accidentals = accidentalsFor(line);
  const keys = keysOf(line);
  const secondsPerTick = 60 / quartersPerMinute(line.tempo) / TICKS_PER_QUARTER;
  return spans.map((span, index) => {
    const here = byBar[index] ?? [];
    const count = Math.max(1, here.length);
    const sum = (measure: (note: SoundingNote, before: SoundingNote | undefined) => number) => here.reduce((all, { note, before }) => all + measure(note, before), 0);
    const causes: Causes = {
      speed: toTen(here.length / Math.max(0.1, span.length * secondsPerTick), TENS.notesASecond),
      rhythm: toTen(rhythmPoints(here.map(({ note }) => note), span), TENS.rhythmPoints),
      leaps: toTen(sum((note, before) => (before ? Math.max(0, Math.abs(semitones(note.pitch) - semitones(before.pitch)) - 4) : 0)) / count, TENS.leap),
      range: toTen(sum((note) => Math.abs(outsideBy(note.pitch, instrument.range.beginner))) / count, TENS.outside),
      accidentals: toTen(sum((note) => (accidentals.get(note.first.id)?.courtesy === false ? 1 : 0)) / count, TENS.accidentals),
      signature: toTen(Math.abs(signatureOf(keys[index] ?? line.key)), TENS.signature),
      break: toTen(sum((note, before) => (before && crossesBreak(before, note, instrument) ? 1 : 0)), TENS.crossings),
    };
    return { total: totalOf(causes), causes };
  });
}

/** A whole line: the mean of its bars, with the hardest quarter of them counted twice, since a part is as hard as its hard places. */
export function lineDifficulty(bars: readonly Difficulty[]): Difficulty {
  if (bars.length === 0) return { total: 0, causes: causesFrom(() => 0) };
  const causes = causesFrom((cause) => {
    const values = bars.map((bar) => bar.causes[cause]).toSorted((a, b) => b - a);
    const hardest = values.slice(0, Math.ceil(values.length / 4));
    return [...values, ...hardest].reduce((sum, value) => sum + value, 0) / (values.length + hardest.length);
  });
  return { total: totalOf(causes), causes };
}

function causesFrom(value: (cause: Cause) => number): Causes {
  return Object.fromEntries(CAUSES.map((cause) => [cause, value(cause)])) as Record<Cause, number>;
}

function totalOf(causes: Causes): number {
  return CAUSES.reduce((sum, cause) => sum + WEIGHTS[cause] * causes[cause], 0);
}

function toTen(value: number, ten: number): number {
  return Math.min(10, Math.max(0, (10 * value) / ten));
}

/** Points for what is hard to count: half beats 0.5, smaller parts 1, tuplets 1, notes that hold over a beat from between beats 1.5. */
function rhythmPoints(notes: readonly SoundingNote[], span: BarSpan): number {
  return notes.reduce((sum, note) => {
    const weight = weightAt(span.meter, note.inBar);
    if (note.first.tuplet) return sum + 1;
    if (weight >= 0.5) return sum;
    const beat = beatsOf(span.meter).findLast(({ start }) => start <= note.inBar);
    const holdsOver = beat !== undefined && note.inBar + note.length > beat.start + beat.length;
    return sum + (weight >= 0.25 ? 0.5 : 1) + (holdsOver ? 1 : 0);
  }, 0);
}

function crossesBreak(before: SoundingNote, note: SoundingNote, { breaks }: Instrument): boolean {
  const [low, high] = [semitones(before.pitch), semitones(note.pitch)].toSorted((a, b) => a - b) as [number, number];
  return breaks.some(([under, over]) => low <= semitones(under) && high >= semitones(over));
}
