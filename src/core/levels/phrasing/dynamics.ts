import type { Phrase } from '../../analysis';
import { semitones } from '../../pitch';
import type { Dynamic, Hairpin } from '../../score';
import { barTicks } from '../../time';
import { isSeam } from '../embellish/events';
import { type LineView, meterAt } from './lineView';
import type { PhrasingTable } from './styles';

/** What stands at a note: how loud it is, and which hairpin begins or ends with it. */
export interface Loudness {
  readonly dynamic?: Dynamic;
  readonly hairpin?: Hairpin;
  readonly hairpinEnds?: true;
}

const louder = (dynamic: Dynamic, by: number): Dynamic => {
  const order: readonly Dynamic[] = ['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff'];
  return order[Math.max(0, Math.min(order.length - 1, order.indexOf(dynamic) + by))] ?? dynamic;
};

/** Marks by the index of the note, put together where two stand at one. */
class Marked {
  readonly at = new Map<number, Loudness>();

  put(index: number, mark: Loudness): void {
    this.at.set(index, { ...this.at.get(index), ...mark });
  }

  /** A hairpin ends a note before the letter that it leads to, as it is engraved; a short one goes. */
  clearOfLetters(): void {
    let from: number | undefined;
    for (const k of [...this.at.keys()].toSorted((a, b) => a - b)) {
      const { hairpin, hairpinEnds, ...rest } = this.at.get(k) ?? {};
      if (hairpinEnds && rest.dynamic && from !== undefined) {
        this.at.set(k, { ...rest, ...(hairpin && { hairpin }) });
        if (k - 1 > from) this.put(k - 1, { hairpinEnds: true });
        else this.withoutHairpin(from);
      }
      if (hairpin) from = k;
    }
  }

  private withoutHairpin(at: number): void {
    const { hairpin: _, ...rest } = this.at.get(at) ?? {};
    this.at.set(at, rest);
  }

  /** A hairpin over some notes; one of a note alone is none. */
  swell(from: number, to: number, hairpin: Hairpin): void {
    if (to <= from) return;
    this.put(from, { hairpin });
    this.put(to, { hairpinEnds: true });
  }
}

/**
 * Loudness of a line: one at the beginning; where the line sings, a step up for its second half, a hairpin to the
 * highest note and one to the end; else a step where a section stands out, and back where the beginning returns.
 */
export function dynamicsFor(
  view: LineView,
  phrases: readonly Phrase[],
  { first, top, swells }: Pick<PhrasingTable, 'first' | 'top' | 'swells'>,
): ReadonlyMap<number, Loudness> {
  const marked = new Marked();
  if (view.notes.length === 0) return marked.at;
  marked.put(0, { dynamic: first.others });
  if (swells) swelling(view, phrases, first.others, top, marked);
  else stepping(view, phrases, first.others, top, marked);
  marked.clearOfLetters();
  return marked.at;
}

/** The highest note, the last of equals; its phrase is where the line is heading. */
function highestIn({ notes }: LineView, from: number, to: number): number {
  let best = from;
  for (let k = from; k < to; k += 1)
    if (semitones(notes[k]?.pitch ?? ZERO) >= semitones(notes[best]?.pitch ?? ZERO)) best = k;
  return best;
}

const ZERO = { step: 'C', alter: 0, octave: 0 } as const;

/** Fewer half steps than this are no rise. */
const RISE = 3;

/** How loud each phrase begins, in steps from the first: an answer is fuller, what is new after it softer. */
const STEPS: Readonly<Record<number, readonly number[]>> = { 1: [0], 2: [0, 1], 3: [0, 1, 0] };
const FOUR_STEPS = [0, 1, -1, 1] as const;

function swelling(view: LineView, phrases: readonly Phrase[], first: Dynamic, top: Dynamic, marked: Marked): void {
  const { notes } = view;
  const climax = highestIn(view, phrases.length > 1 ? (phrases[1]?.from ?? 0) : 0, notes.length);
  let level = first;
  phrases.forEach((phrase, index) => {
    const { from, to } = phrase;
    const isTop = climax >= from && climax < to;
    const step = STEPS[phrases.length]?.[index] ?? FOUR_STEPS[index % 4] ?? 0;
    const base = louder(first, step);
    if (index > 0 && base !== level) marked.put(from, { dynamic: (level = base) });
    const peak = isTop ? climax : highestIn(view, from, to);
    const swells = swellTo(view, phrase, peak, isTop, marked);
    if (isTop && (peak > from || index > 0)) marked.put(peak, { dynamic: (level = top) });
    const last = to - 1;
    const isLast = index === phrases.length - 1;
    const after = falling(view, Math.max(peak + 1, from), last);
    if (after === undefined || (!isLast && (!isTop || swells))) return;
    marked.swell(after, last, 'diminuendo');
    if (isLast && level !== first && marked.at.get(last)?.dynamic === undefined) marked.put(last, { dynamic: first });
  });
}

/** A hairpin up to the highest note of a phrase, where the line rises to it. @returns whether there is one */
function swellTo(view: LineView, { from, to }: Phrase, peak: number, isTop: boolean, marked: Marked): boolean {
  const { notes } = view;
  const start = barBefore(view, from, peak);
  const rise = semitones(notes[peak]?.pitch ?? ZERO) - semitones(notes[start]?.pitch ?? ZERO);
  const swells = rise >= RISE && peak > start + 1 && (isTop || peak < to - 1);
  if (swells) marked.swell(start, peak, 'crescendo');
  return swells;
}

/** Where a swell to a note begins: a bar and a half before it at the most, in its phrase. */
function barBefore(view: LineView, from: number, peak: number): number {
  const note = view.notes[peak];
  if (!note) return peak;
  const reach = 1.5 * barTicks(meterAt(view, note));
  let start = peak;
  while (start > from && note.start - (view.notes[start - 1]?.start ?? 0) <= reach && !partsAt(view, start)) start -= 1;
  return start;
}

/** A repeat or an ending lies before a note: no hairpin goes over it. */
function partsAt({ tune, notes }: LineView, k: number): boolean {
  const [before, here] = [notes[k - 1], notes[k]];
  return (
    before !== undefined &&
    here !== undefined &&
    before.bar !== here.bar &&
    isSeam(tune.bars[before.bar], tune.bars[here.bar])
  );
}

/** The note with which a last bar or two grow softer. */
function falling(view: LineView, from: number, last: number): number | undefined {
  const end = view.notes[last];
  if (!end) return undefined;
  const reach = barTicks(meterAt(view, end));
  for (let k = from; k < last; k += 1) if (end.start - (view.notes[k]?.start ?? 0) <= reach) return k;
  return undefined;
}

/** A section that is not the first stands out, and the first comes back as it was; without sections, the highest phrase. */
function stepping(view: LineView, phrases: readonly Phrase[], first: Dynamic, top: Dynamic, marked: Marked): void {
  const sections = sectionsOf(view, phrases);
  toTheTop(view, phrases, top, marked);
  const high = top === first ? louder(first, -1) : top;
  if (sections.length > 1) {
    let level = first;
    sections.forEach(({ from, isAgain }, index) => {
      const wanted = index % 2 === 1 && !isAgain ? high : first;
      if (index > 0 && wanted !== level) marked.put(from, { dynamic: (level = wanted) });
    });
    // Without a section after it, the end comes home.
    const last = phrases.at(-1);
    if (level !== first && last && phrases.length > 2 && last.from > (sections.at(-1)?.from ?? 0))
      marked.put(last.from, { dynamic: first });
    return;
  }
  if (phrases.length < 3) return;
  const climax = highestIn(view, phrases[1]?.from ?? 0, view.notes.length);
  const at = phrases.findIndex(({ from, to }) => climax >= from && climax < to);
  const phrase = phrases[at];
  if (!phrase || at === 0) return;
  marked.put(phrase.from, { dynamic: high });
  const next = phrases[at + 1];
  if (next) marked.put(next.from, { dynamic: first });
}

/** A hairpin up to the highest note of the last half, where it is in the middle of things. */
function toTheTop(view: LineView, phrases: readonly Phrase[], top: Dynamic, marked: Marked): void {
  const half = phrases[Math.floor(phrases.length / 2)]?.from ?? 0;
  if (phrases.length < 2) return;
  const peak = highestIn(view, half, view.notes.length);
  const phrase = phrases.find(({ from, to }) => peak >= from && peak < to);
  const start = barBefore(view, phrase?.from ?? 0, peak);
  if (!phrase || peak - start < 3 || peak > view.notes.length - 3) return;
  marked.swell(start, peak, 'crescendo');
  if (marked.at.get(0)?.dynamic !== top) marked.put(peak, { dynamic: top });
}

interface Section {
  /** Index of its first note. */
  readonly from: number;
  /** It begins as the first one does. */
  readonly isAgain: boolean;
}

/** Sections by their barlines and names, from the phrases that begin there. */
function sectionsOf(view: LineView, phrases: readonly Phrase[]): readonly Section[] {
  const { tune, notes, spans } = view;
  const starts = new Set<number>();
  tune.bars.forEach((bar, index) => {
    const before = tune.bars[index - 1];
    if (index === 0 || !before) return;
    const opens = bar.repeatStart === true && index > 1;
    const begins = bar.section !== undefined || before.barline === 'double';
    const closes = before.repeatEnd !== undefined && bar.ending === undefined;
    if (opens || begins || closes) starts.add(spans[index]?.start ?? 0);
  });
  const opening = wordsAt(view, 0);
  return phrases.flatMap(({ from }, index): readonly Section[] => {
    const start = notes[from]?.start ?? 0;
    const note = notes[from];
    const reach = note ? barTicks(meterAt(view, note)) / 2 : 0;
    const isStart = index === 0 || [...starts].some((at) => at >= start && at - start < reach);
    return isStart ? [{ from, isAgain: index > 0 && wordsAt(view, from) === opening }] : [];
  });
}

/** The first notes of a passage, to know it again. */
function wordsAt({ notes }: LineView, from: number): string {
  return notes
    .slice(from, from + 5)
    .map(({ pitch, length }) => `${semitones(pitch)}:${length}`)
    .join(' ');
}
