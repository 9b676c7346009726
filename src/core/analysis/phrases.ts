import { semitones } from '../pitch';
import { barSpans, hasPickup, type SoundingNote, soundingNotes, type Tune } from '../score';
import { barTicks, beatsOf } from '../time';

/** A phrase as a run of sounding notes, `from` up to but without `to`. */
export interface Phrase {
  readonly from: number;
  readonly to: number;
}

/**
 * Weights of what makes a phrase end. Rests and long notes are the strongest natural signs, two- and four-bar groups
 * the usual frame (common to texts on form, e.g. W. Caplin, Classical Form, 1998, ch. 1–3). Negative numbers are costs.
 */
const WEIGHTS = {
  restOfABeat: 2,
  shortRest: 0.5,
  /** Three beats and more until the next note, then two, then one and a half. */
  veryLongNote: 1.2,
  longNote: 0.8,
  ratherLongNote: 0.4,
  /** A repeat sign, double bar or section name always cuts. */
  formMark: 100,
  likeThePickup: 0.4,
  /** The bar to come is the tune's first one again, note for note. */
  openingAgain: 1,
  fourBarGroup: 1,
  twoBarGroup: 0.3,
  /**
   * Share of a long note's strength that is left where the next note begins neither a bar nor, like the pickup, before
   * one.
   */
  offTheGrid: 0.35,
} as const;

/** What a phrase of so many bars costs: four is the norm, two and eight are usual, odd numbers rarer. */
const LENGTH_COST: readonly number[] = [9, 2.4, 1, 1.2, 0, 1.1, 1.2, 1.6, 1.3];

/** No phrase is longer, in bars; a breath and a memory hold no more. */
const LONGEST = 10;

/**
 * Cuts a tune into phrases by the best sum of signs and lengths; boundaries set or taken away by the teacher stand.
 * Every note belongs to one phrase.
 * Rule: cut at rests, long notes, repeat of an opening, and the meter's usual 2 and 4 bar groups.
 */
export function phrasesOf(tune: Tune): readonly Phrase[] {
  const notes = soundingNotes(tune);
  if (notes.length === 0) return [];
  const strengths = cutStrengths(tune, notes);
  const spans = barSpans(tune);
  // Where each note stands, counted in bars; one more for the end of the tune.
  const places = notes.map((note) => {
    const span = spans[note.bar];
    // A pickup stands at the end of its bar.
    return note.bar + (span ? (note.start - span.start + span.offset) / Math.max(1, barTicks(span.meter)) : 0);
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
  const starts = new Set<number>();
  for (let to = notes.length; to > 0;) {
    const from = best[to]?.from ?? 0;
    starts.add(from);
    to = from;
  }
  return withMarks(notes, starts);
}

/** The teacher's marks come last: one boundary set or taken away leaves all others where they were found. */
function withMarks(notes: readonly SoundingNote[], found: ReadonlySet<number>): readonly Phrase[] {
  const starts = notes.flatMap(({ first }, index) => {
    const isStart = first.phrase === 'begins' || (first.phrase !== 'goes-on' && found.has(index));
    return isStart || index === 0 ? [index] : [];
  });
  return starts.map((from, k) => ({ from, to: starts[k + 1] ?? notes.length }));
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
    if (bar.repeatStart || bar.section || (before && (before.repeatEnd !== undefined || before.barline)))
      marked.add(index);
  });
  const spans = barSpans(tune);
  const last = tune.bars.at(-1);
  const leavesRoom = pickup > 0 && last?.partial !== undefined && last.partial + pickup === barTicks(tune.meter);
  const formCuts = new Set([...marked].map((bar) => cutAtMark(notes, spans[bar]?.start ?? 0, pickup, leavesRoom)));
  const again = openingsAgain(tune, notes);
  const strengths = notes.map((note, index) => {
    const before = notes[index - 1];
    if (!before) return 0;
    const meter = note.inBar >= 0 ? (tune.bars[note.bar]?.meter ?? tune.meter) : tune.meter;
    const beat = beatsOf(meter)[0]?.length ?? 1;
    const full = barTicks(meter);
    let strength = 0;
    const gap = note.start - (before.start + before.length);
    if (gap >= beat) strength += WEIGHTS.restOfABeat;
    else if (gap > 0) strength += WEIGHTS.shortRest;
    const sincePickup = note.start % full;
    const isLikePickup = pickup > 0 && note.start === pickup + Math.round((note.start - pickup) / full) * full;
    // A rest or a section's end cuts anywhere; a long note does on the grid of bars, or where a pickup would begin.
    const onGrid = sincePickup === 0 || isLikePickup || gap > 0 ? 1 : WEIGHTS.offTheGrid;
    const reach = note.start - before.start;
    if (reach >= 3 * beat) strength += onGrid * WEIGHTS.veryLongNote;
    else if (reach >= 2 * beat) strength += onGrid * WEIGHTS.longNote;
    else if (reach >= 1.5 * beat) strength += onGrid * WEIGHTS.ratherLongNote;
    if (formCuts.has(index)) strength += WEIGHTS.formMark;
    if (again.has(index)) strength += WEIGHTS.openingAgain;
    if (sincePickup === 0) {
      strength += WEIGHTS.likeThePickup;
      const bars = note.start / full;
      if (bars % 4 === 0) strength += WEIGHTS.fourBarGroup;
      else if (bars % 2 === 0) strength += WEIGHTS.twoBarGroup;
    } else if (isLikePickup) strength += WEIGHTS.twoBarGroup / 2;
    return strength;
  });
  return pickup > 0 ? strengths : withLeadIns(notes, strengths, beatsOf(tune.meter)[0]?.length ?? 1);
}

/**
 * Where a tune without a pickup has a short note between a longer one and the barline, it leads over: what would begin
 * at the barline begins with it, as it is sung and breathed.
 */
function withLeadIns(notes: readonly SoundingNote[], strengths: readonly number[], beat: number): readonly number[] {
  const made = [...strengths];
  notes.forEach((note, k) => {
    const [before, next] = [notes[k - 1], notes[k + 1]];
    const leads =
      before !== undefined &&
      next?.inBar === 0 &&
      before.bar === note.bar &&
      next.start === note.start + note.length &&
      before.start + before.length === note.start &&
      note.length < beat &&
      before.length >= 2 * note.length;
    const there = strengths[k + 1] ?? 0;
    if (!leads || there < WEIGHTS.likeThePickup) return;
    made[k] = Math.max(made[k] ?? 0, there + WEIGHTS.likeThePickup);
    made[k + 1] = there >= WEIGHTS.formMark ? 0 : there - WEIGHTS.fourBarGroup;
  });
  return made;
}

/** A bar of fewer notes is too plain to be known again. */
const FEWEST_TO_KNOW = 3;

/** Notes from which the tune's opening bar (with its pickup) sounds again at the same place of its bar. */
function openingsAgain(tune: Tune, notes: readonly SoundingNote[]): ReadonlySet<number> {
  const pickup = hasPickup(tune) ? (tune.bars[0]?.partial ?? 0) : 0;
  const reach = pickup + barTicks(tune.meter);
  const first = notes[0];
  const opening = notes.filter(({ start }) => start < reach);
  if (!first || opening.length < FEWEST_TO_KNOW) return new Set();
  const found = new Set<number>();
  notes.forEach((note, index) => {
    if (index === 0 || note.inBar !== first.inBar || semitones(note.pitch) !== semitones(first.pitch)) return;
    const isSame = opening.every((one, k) => {
      const here = notes[index + k];
      return (
        here !== undefined &&
        here.start - note.start === one.start - first.start &&
        semitones(here.pitch) === semitones(one.pitch)
      );
    });
    if (isSame) found.add(index);
  });
  return found;
}

/**
 * The note with which a section begins: the first after its barline, or, in a tune with a pickup, the one that stands
 * as far before the line as the pickup is long, where a longer note leads up to it; one as long is enough where the
 * tune's last bar leaves the pickup its room.
 */
function cutAtMark(notes: readonly SoundingNote[], barline: number, pickup: number, leavesRoom: boolean): number {
  const first = notes.findIndex((note) => note.start >= barline);
  const after = first < 0 ? notes.length : first;
  if (pickup === 0) return after;
  const own = notes.findIndex((note) => note.start === barline - pickup);
  const before = notes[own - 1];
  const start = notes[own];
  if (!before || !start) return after;
  return before.length > start.length || (leavesRoom && before.length === start.length) ? own : after;
}
