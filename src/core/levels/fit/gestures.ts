import type { Phrase } from '../../analysis';
import { semitones } from '../../pitch';
import { barSpans, type SoundingNote, type Tune } from '../../score';
import { beatsOf, TICKS_PER_QUARTER } from '../../time';

/** What lies before a gesture: the start of a phrase, a rest, or a held note. */
type Seam = 'phrase' | 'rest' | 'held';

/** A run of sounding notes that is moved whole or not at all, `from` up to but without `to`. */
export interface Gesture {
  readonly from: number;
  readonly to: number;
  /** What makes it a new one. */
  readonly seam: Seam;
  /** Gestures of one kind have the same notes in the same rhythm (their last note may be longer or shorter). */
  readonly kind: number;
}

/**
 * A line in the smallest runs that may be moved by themselves: they begin at the start of a phrase, after a rest, or
 * after a note held for two beats, and not on the note that was there before. Rule: never inside a gesture.
 * @param apart notes that a teacher decided about: a gesture with one of them is of a kind of its own
 */
export function gesturesOf(
  tune: Pick<Tune, 'bars' | 'meter'>,
  notes: readonly SoundingNote[],
  phrases: readonly Phrase[],
  apart: (note: SoundingNote) => boolean,
): readonly Gesture[] {
  const spans = barSpans(tune);
  const starts = new Set(phrases.map(({ from }) => from));
  const seams = notes.map((note, index): Seam | undefined => {
    const before = notes[index - 1];
    if (!before || starts.has(index)) return 'phrase';
    if (before.start + before.length < note.start) return 'rest';
    const meter = spans[before.bar]?.meter ?? tune.meter;
    const beat = beatsOf(meter)[0]?.length ?? TICKS_PER_QUARTER;
    // A held note in a line of held notes is no resting place. What stands before the phrase does not count: equal
    // phrases are cut alike.
    const earlier = starts.has(index - 1) ? undefined : notes[index - 2];
    return before.bar !== note.bar &&
      before.length >= 2 * beat &&
      note.length < before.length &&
      (!earlier || earlier.length < before.length)
      ? 'held'
      : undefined;
  });
  const kinds = new Map<string, number>();
  const cuts = seams.flatMap((seam, index) => (seam ? [{ seam, from: index }] : []));
  return cuts.map(({ seam, from }, k) => {
    const to = cuts[k + 1]?.from ?? notes.length;
    const run = notes.slice(from, to);
    const own = run.some(apart) ? `/${from}` : '';
    const words = `${run
      .map(
        ({ pitch, start, length }, n) =>
          `${pitch.step}${semitones(pitch)}:${start - (run[0]?.start ?? 0)}${n === run.length - 1 ? '' : `:${length}`}`,
      )
      .join(' ')}${own}`;
    const kind = kinds.get(words) ?? kinds.size;
    kinds.set(words, kind);
    return { from, to, seam, kind };
  });
}

/** Costs of moving gestures, against those of `PLACING`; for each place where the octave changes. */
const JOINS = {
  phrase: 18,
  rest: 22,
  held: 30,
  /**
   * The tune goes on by step after a held note: then it is heard as one, and an octave between the two as a wrong note.
   */
  step: 22,
  /** For each semitone of the new interval beyond a fifth, and again beyond an octave. */
  wide: 0.5,
  tooWide: 2,
  /**
   * The note before is the same, or stands in the same bar of a first-year part: nobody is sent to another octave there
   * where anything else can be done.
   */
  never: 400,
} as const;

const STEP = 2;
const FIFTH = 7;
const OCTAVE = 12;

/**
 * An octave for each kind of gesture: the least sum of what the kinds cost there and of the joins between neighbours.
 * All of a kind move alike. Improves one kind at a time, from several beginnings, until nothing gets better. Rule
 * (hard): equal phrases are treated alike.
 * @param costOf of a kind in an octave, for one of its gestures
 * @param atBars octaves change with a bar alone
 * @returns the octave of each gesture
 */
export function octavesOfGestures(
  gestures: readonly Gesture[],
  notes: readonly SoundingNote[],
  octaves: readonly number[],
  costOf: (kind: number, octave: number) => number,
  atBars: boolean,
): readonly number[] {
  const members: number[][] = [];
  gestures.forEach(({ kind }, index) => (members[kind] ??= []).push(index));
  const intervals = gestures.map(({ from }) =>
    from === 0 ? 0 : semitones(notes[from]?.pitch ?? ZERO) - semitones(notes[from - 1]?.pitch ?? ZERO),
  );
  const join = (index: number, before: number, here: number): number => {
    const gesture = gestures[index];
    if (!gesture || index === 0 || before === here) return 0;
    const isInBar = atBars && notes[gesture.from]?.bar === notes[gesture.from - 1]?.bar;
    if (isInBar || intervals[index] === 0) return JOINS.never;
    const interval = Math.abs((intervals[index] ?? 0) + OCTAVE * (here - before));
    const isStep = gesture.seam === 'held' && Math.abs(intervals[index] ?? 0) <= STEP;
    return (
      JOINS[gesture.seam] +
      (isStep ? JOINS.step : 0) +
      JOINS.wide * Math.max(0, interval - FIFTH) +
      JOINS.tooWide * Math.max(0, interval - OCTAVE)
    );
  };
  const kindsInOrder = members.map((_, kind) => kind);
  const settle = (chosen: number[]): number => {
    for (let better = true; better;) {
      better = false;
      for (const kind of kindsInOrder) {
        const own = members[kind] ?? [];
        const was = chosen[kind] ?? 0;
        const at = (octave: number) => {
          chosen[kind] = octave;
          let sum = 0;
          for (const index of own) {
            const before = chosen[gestures[index - 1]?.kind ?? -1] ?? octave;
            const next = gestures[index + 1];
            // Between two of the same kind the join is counted once, by the later of them.
            const after = next && next.kind !== kind ? join(index + 1, octave, chosen[next.kind] ?? octave) : 0;
            sum += costOf(kind, octave) + join(index, before, octave) + after;
          }
          return sum;
        };
        const costs = octaves.map(at);
        const least = Math.min(...costs);
        const stays = costs[octaves.indexOf(was)] ?? Infinity;
        const best = stays <= least + 1e-9 ? was : (octaves[costs.indexOf(least)] ?? was);
        chosen[kind] = best;
        better ||= best !== was;
      }
    }
    return gestures.reduce(
      (sum, { kind }, index) =>
        sum +
        costOf(kind, chosen[kind] ?? 0) +
        join(index, chosen[gestures[index - 1]?.kind ?? -1] ?? 0, chosen[kind] ?? 0),
      0,
    );
  };
  const beginnings = [
    kindsInOrder.map(() => octaves[0] ?? 0),
    kindsInOrder.map((kind) =>
      octaves.reduce((best, octave) => (costOf(kind, octave) < costOf(kind, best) ? octave : best), octaves[0] ?? 0),
    ),
  ];
  let [best, least] = [beginnings[0] ?? [], Infinity];
  for (const beginning of beginnings) {
    const cost = settle(beginning);
    if (cost < least - 1e-9) [best, least] = [beginning, cost];
  }
  return gestures.map(({ kind }) => best[kind] ?? 0);
}

const ZERO = { step: 'C', alter: 0, octave: 0 } as const;
