import { chordTonesUnder, type Phrase } from '../../analysis';
import { type Instrument, type Level, profileOf } from '../../instruments';
import { chroma, semitones } from '../../pitch';
import {
  type Bar,
  barSpans,
  type EventId,
  isNote,
  quartersPerMinute,
  type SoundingNote,
  type Tempo,
} from '../../score';
import { barTicks, beatsOf, type Meter, TICKS_PER_QUARTER, weightAt } from '../../time';

/**
 * Costs of a breath by where it is taken: at the end of a phrase, at its half, else after a held note, at a barline, on
 * the way. As teachers ask (ends of phrases first, then halves, never before a weak note); the figures are ours.
 */
const COSTS = {
  phraseEnd: 0,
  half: 2.5,
  held: 4,
  barline: 5,
  onTheWay: 9,
  beforeOffbeat: 4,
  /** Each breath. */
  breath: 1.5,
  /**
   * Times the square of the seconds beyond what the player's breath lasts, in breaths: twice as long is four times as
   * bad.
   */
  tooLong: 0.35,
} as const;

/** Breaths stand so many bars apart at least, rests counted. */
const FEWEST_BARS = 2;

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
 * Breaths by one shortest path over the whole line. Rule: at ends of phrases, then at their halves; two bars apart at
 * least, at the longest what the instrument and level hold at the tempo; never inside a slur or before a resolving
 * leaning note.
 */
export function breathsOf(
  notes: readonly SoundingNote[],
  bars: readonly Bar[],
  { meter, tempo, instrument, level, phrases }: BreathContext,
): Breaths {
  const spans = barSpans({ bars, meter });
  const secondsPerTick = 60 / quartersPerMinute(tempo) / TICKS_PER_QUARTER;
  const lasts = instrument.breathSeconds * profileOf(level).breath;
  const tones = chordTonesUnder({ bars, meter }, notes);
  const ends = new Set(phrases.map(({ to }) => to - 1));
  const halves = new Set(phrases.flatMap((phrase) => halfOf(phrase, notes) ?? []));
  const meterOf = (note: SoundingNote) => spans[note.bar]?.meter ?? meter;
  let open = 0;
  /** What a breath after each note costs; none where there may be none. */
  const costs = notes.map((note, index): number | undefined => {
    const next = notes[index + 1];
    open += (note.first.slurStarts ?? 0) - (note.first.slurEnds ?? 0);
    if (!next || open > 0) return undefined;
    const distance = Math.abs(semitones(next.pitch) - semitones(note.pitch));
    const under = tones[index];
    // A leaning note and its resolution are one: no breath between them.
    const leans =
      under && under.length > 0 && distance > 0 && distance <= 2 && weightAt(meterOf(note), note.inBar) >= 0.5
        ? !under.some((tone) => chroma(tone) === chroma(note.pitch))
        : false;
    if (leans && !ends.has(index)) return undefined;
    const beat = beatsOf(meterOf(note))[0]?.length ?? TICKS_PER_QUARTER;
    const place = ends.has(index)
      ? COSTS.phraseEnd
      : halves.has(index)
        ? COSTS.half
        : note.length >= 2 * beat
          ? COSTS.held
          : next.inBar === 0
            ? COSTS.barline
            : COSTS.onTheWay;
    const isWeak = !ends.has(index) && weightAt(meterOf(next), next.inBar) < 0.5;
    return COSTS.breath + place + (isWeak ? COSTS.beforeOffbeat : 0);
  });
  const after = new Set<EventId>();
  let longest: Breaths['longest'];
  for (const run of runsWithoutRest(notes)) {
    const taken = cheapest(
      run,
      notes,
      costs,
      (ticks) => ticks * secondsPerTick,
      lasts,
      (note) => barTicks(meterOf(note)),
    );
    let from = run.from;
    for (const index of [...taken, run.to - 1]) {
      const [first, last] = [notes[from], notes[index]];
      const seconds = first && last ? (last.start + last.length - first.start) * secondsPerTick : 0;
      if (first && (!longest || seconds > longest.seconds)) longest = { seconds, barIndex: first.bar };
      from = index + 1;
    }
    for (const index of taken) {
      const note = notes[index];
      if (note) after.add(lastEventOf(note, bars));
    }
  }
  return { after, longest, lasts };
}

/**
 * The last note of the first half of a phrase of four bars or more: the one that ends nearest to the barline in its
 * middle.
 */
function halfOf({ from, to }: Phrase, notes: readonly SoundingNote[]): number | undefined {
  const [first, last] = [notes[from], notes[to - 1]];
  if (!first || !last || last.bar - first.bar < 2) return undefined;
  const middle = first.bar + Math.ceil((last.bar - first.bar) / 2);
  for (let next = from + 1; next < to; next += 1) if ((notes[next]?.bar ?? 0) >= middle) return next - 1;
  return undefined;
}

interface RunOfNotes {
  readonly from: number;
  readonly to: number;
}

/** Stretches between rests: in a rest everybody breathes. */
function runsWithoutRest(notes: readonly SoundingNote[]): readonly RunOfNotes[] {
  const starts = notes.flatMap((note, index) => {
    const before = notes[index - 1];
    return !before || before.start + before.length < note.start ? [index] : [];
  });
  return starts.map((from, k) => ({ from, to: starts[k + 1] ?? notes.length }));
}

/** Indices of the notes after which to breathe. */
function cheapest(
  { from, to }: RunOfNotes,
  notes: readonly SoundingNote[],
  costs: readonly (number | undefined)[],
  secondsOf: (ticks: number) => number,
  lasts: number,
  barOf: (note: SoundingNote) => number,
): readonly number[] {
  const endOf = (index: number) => {
    const note = notes[index];
    return note ? note.start + note.length : 0;
  };
  const begins = notes[from]?.start ?? 0;
  const finish = endOf(to - 1);
  const beyond = (ticks: number) => (COSTS.tooLong * Math.max(0, secondsOf(ticks) - lasts) ** 2) / lasts;
  interface Stop {
    readonly index: number;
    readonly end: number;
    readonly cost: number;
    readonly before: Stop | undefined;
  }
  const stops: Stop[] = [{ index: from - 1, end: begins, cost: 0, before: undefined }];
  for (let index = from; index < to - 1; index += 1) {
    const own = costs[index];
    const note = notes[index];
    if (own === undefined || !note) continue;
    const end = endOf(index);
    const least = FEWEST_BARS * barOf(note);
    if (finish - end < least / 2) break;
    let best: Stop | undefined;
    for (let k = stops.length - 1; k >= 0; k -= 1) {
      const stop = stops[k];
      if (!stop || end - stop.end < least - TICKS_PER_QUARTER / 2) continue;
      const cost = stop.cost + beyond(end - stop.end) + own;
      if (!best || cost < best.cost - 1e-9) best = { index, end, cost, before: stop };
      // Farther back the stretch only grows.
      if (end - stop.end > 6 * least) break;
    }
    if (best) stops.push(best);
  }
  const winner = stops.reduce<Stop | undefined>((least, stop) => {
    const cost = stop.cost + beyond(finish - stop.end);
    return !least || cost < least.cost - 1e-9 ? { ...stop, cost } : least;
  }, undefined);
  const taken: number[] = [];
  for (let stop = winner; stop?.before; stop = stop.before) taken.unshift(stop.index);
  return taken;
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
