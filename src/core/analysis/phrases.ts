import { barSpans, soundingNotes, type SoundingNote } from '../score/sounding';
import { hasPickup, type Tune } from '../score/tune';
import { barTicks, beatsOf } from '../time/meter';

/** A phrase as a run of sounding notes, `from` up to but without `to`. */
export interface Phrase {
  readonly from: number;
  readonly to: number;
}

/**
 * Weights of what makes a phrase end. Rests and long notes are the strongest natural signs, two- and four-bar groups the
 * usual frame (common to texts on form, e.g. W. Caplin, Classical Form, 1998, ch. 1–3). Negative numbers are costs.
 */
const WEIGHTS = {
  restOfABeat: 2,
  shortRest: 0.5,
  longNote: 0.9,
  ratherLongNote: 0.4,
  /** A repeat sign, double bar or section name always cuts. */
  formMark: 100,
  likeThePickup: 0.4,
  fourBarGroup: 0.8,
  twoBarGroup: 0.3,
} as const;

/** What a phrase of so many bars costs: four is the norm, two and eight are usual, odd numbers rarer. */
const LENGTH_COST: readonly number[] = [9, 2.2, 0.7, 1.1, 0, 1.1, 1.2, 1.6, 1.3];

/** No phrase is longer, in bars; a breath and a memory hold no more. */
const LONGEST = 10;

/** Cuts a tune into phrases by the best sum of signs and lengths. Every note belongs to one phrase. */
export function phrasesOf(tune: Tune): readonly Phrase[] {
  const notes = soundingNotes(tune);
  if (notes.length === 0) return [];
  const strengths = cutStrengths(tune, notes);
  const spans = barSpans(tune);
  // Where each note stands, counted in bars; one more for the end of the tune.
  const places = notes.map((note) => {
    const span = spans[note.bar];
    return note.bar + (span ? (note.start - span.start) / Math.max(1, span.length) : 0);
  });
  places.push(tune.bars.length);
  const best: { readonly score: number; readonly from: number }[] = [{ score: 0, from: 0 }];
  for (let end = 1; end <= notes.length; end += 1) {
    const endPlace = places[end] ?? 0;
    let score = -Infinity;
    let choice = end - 1;
    for (let from = end - 1; from >= 0; from -= 1) {
      const bars = endPlace - (places[from] ?? 0);
      if (bars > LONGEST && from < end - 1) break;
      const sum = (best[from]?.score ?? -Infinity) - lengthCost(bars);
      if (sum > score) {
        score = sum;
        choice = from;
      }
      // A form mark may not lie inside a phrase.
      if ((strengths[from] ?? 0) >= WEIGHTS.formMark) break;
    }
    best.push({ score: score + (strengths[end] ?? 0), from: choice });
  }
  const phrases: Phrase[] = [];
  for (let to = notes.length; to > 0;) {
    const from = best[to]?.from ?? 0;
    phrases.unshift({ from, to });
    to = from;
  }
  return phrases;
}

function lengthCost(bars: number): number {
  const below = Math.min(LENGTH_COST.length - 1, Math.floor(bars));
  const low = LENGTH_COST[below] ?? 2;
  if (bars > LENGTH_COST.length - 1) return low + (bars - LENGTH_COST.length + 1) * 0.5;
  const high = LENGTH_COST[below + 1] ?? low;
  return low + (high - low) * (bars - below);
}

/** How strongly each note suggests that a phrase begins with it; index 0 and the end count as given. */
function cutStrengths(tune: Tune, notes: readonly SoundingNote[]): readonly number[] {
  const pickup = hasPickup(tune) ? (tune.bars[0]?.partial ?? 0) : 0;
  const marked = new Set<number>();
  tune.bars.forEach((bar, index) => {
    const before = tune.bars[index - 1];
    // A pickup before the first repeat sign belongs to the phrase that follows.
    if (index === 1 && pickup > 0) return;
    if (bar.repeatStart || bar.section || (before && (before.repeatEnd !== undefined || before.barline))) marked.add(index);
  });
  const spans = barSpans(tune);
  const formCuts = new Set([...marked].map((bar) => cutAtMark(notes, spans[bar]?.start ?? 0, pickup)));
  return notes.map((note, index) => {
    const before = notes[index - 1];
    if (!before) return 0;
    const meter = note.inBar >= 0 ? (tune.bars[note.bar]?.meter ?? tune.meter) : tune.meter;
    const beat = beatsOf(meter)[0]?.length ?? 1;
    const full = barTicks(meter);
    let strength = 0;
    const gap = note.start - (before.start + before.length);
    if (gap >= beat) strength += WEIGHTS.restOfABeat;
    else if (gap > 0) strength += WEIGHTS.shortRest;
    const reach = note.start - before.start;
    if (reach >= 2 * beat) strength += WEIGHTS.longNote;
    else if (reach >= 1.5 * beat) strength += WEIGHTS.ratherLongNote;
    if (formCuts.has(index)) strength += WEIGHTS.formMark;
    const sincePickup = note.start % full;
    if (sincePickup === 0) {
      strength += WEIGHTS.likeThePickup;
      const bars = note.start / full;
      if (bars % 4 === 0) strength += WEIGHTS.fourBarGroup;
      else if (bars % 2 === 0) strength += WEIGHTS.twoBarGroup;
    } else if (pickup > 0 && note.start === pickup + Math.round((note.start - pickup) / full) * full) strength += WEIGHTS.twoBarGroup / 2;
    return strength;
  });
}

/**
 * The note with which a section begins: the first after its barline, or, in a tune with a pickup, the one that stands as far
 * before the line as the pickup is long, where a longer note leads up to it.
 */
function cutAtMark(notes: readonly SoundingNote[], barline: number, pickup: number): number {
  const first = notes.findIndex((note) => note.start >= barline);
  const after = first < 0 ? notes.length : first;
  if (pickup === 0) return after;
  const own = notes.findIndex((note) => note.start === barline - pickup);
  const before = notes[own - 1];
  const start = notes[own];
  return before && start && before.length > start.length ? own : after;
}
