import type { Phrase } from '../../analysis';
import type { BarSpan, SoundingNote } from '../../score';
import { barTicks, isCompound, type Ticks } from '../../time';
import { isAdded } from '../embellish/events';

/** Where a phrase may be parted, and how it stands in its bars. */
export interface PhraseBars {
  /** The barline from which its bars are counted: a pickup lies before it. */
  readonly downbeat: Ticks;
  readonly bar: Ticks;
  /** Whole bars, from the downbeat. */
  readonly bars: number;
  /** How long the pickup is; 0 for none. */
  readonly pickup: Ticks;
}

const endOf = (note: SoundingNote | undefined) => (note ? note.start + note.length : 0);

export function barsOfPhrase(
  { from, to }: Phrase,
  notes: readonly SoundingNote[],
  spans: readonly BarSpan[],
): PhraseBars | undefined {
  const [first, last] = [notes[from], notes[to - 1]];
  const span = first && spans[first.bar];
  if (!first || !last || !span) return undefined;
  const bar = barTicks(span.meter);
  const into = first.inBar;
  // What begins late in its bar leads to the next one.
  const isPickup = into > 0 && into >= bar / 2;
  const downbeat = first.start - into + (isPickup ? bar : 0);
  return {
    downbeat,
    bar,
    bars: Math.max(1, Math.round((endOf(last) - downbeat) / bar)),
    pickup: isPickup ? downbeat - first.start : 0,
  };
}

/**
 * When a phrase is parted, in seconds: even where the breath would last, a phrase is played well with air to spare. In
 * compound meters, which dance, sooner. Ours.
 */
export const COMFORTABLE = { usual: 7.4, dancing: 4.4 } as const;

/** A phrase of fewer bars is not parted. */
const FEWEST_BARS = 3;

/** Whether a phrase is so long at its tempo that it is parted in its middle. */
export function isParted(
  phrase: Phrase,
  notes: readonly SoundingNote[],
  spans: readonly BarSpan[],
  secondsPerTick: number,
): boolean {
  const first = notes[phrase.from];
  const meter = first && spans[first.bar]?.meter;
  if (!meter || (barsOfPhrase(phrase, notes, spans)?.bars ?? 0) < FEWEST_BARS) return false;
  const longest = isCompound(meter) ? COMFORTABLE.dancing : COMFORTABLE.usual;
  return (endOf(notes[phrase.to - 1]) - first.start) * secondsPerTick > longest;
}

/** What speaks for a place to part a phrase, in bars of distance. */
const PLACES = {
  /** For each beat's worth of bar that the note before lasts, up to a whole bar. */
  held: 1.2,
  rest: 1,
  /** The next note stands where the phrase itself began: at the barline, or as long before it as the pickup. */
  likeTheBeginning: 0.6,
  /** At the barline, where the phrase has a pickup. */
  atTheLine: 0.2,
} as const;

/**
 * The note after which a phrase is parted in its middle: within half a bar of it, counted from the downbeat; rather
 * after a long note and where the second half begins as the first did. Never between a pickup and its downbeat, nor in
 * what was added, nor in a slur that the tune has. `undefined` where there is no such place.
 * @param middle in ticks; the middle of the whole phrase by default
 */
export function middleNoteOf(
  phrase: Phrase,
  notes: readonly SoundingNote[],
  spans: readonly BarSpan[],
  mayPart: (index: number) => boolean,
  middle?: Ticks,
): number | undefined {
  const place = barsOfPhrase(phrase, notes, spans);
  if (!place) return undefined;
  const { downbeat, bar, bars, pickup } = place;
  const at = middle ?? downbeat + Math.floor(bars / 2) * bar;
  let [best, most] = [undefined as number | undefined, -Infinity];
  for (let index = phrase.from; index < phrase.to - 1; index += 1) {
    const [note, next] = [notes[index], notes[index + 1]];
    if (!note || !next || Math.abs(endOf(note) - at) > bar / 2 || !mayPart(index)) continue;
    if (isAdded(next.first.id) || isAdded(note.first.id)) continue;
    if (leadsIn(note, next, notes[index - 1], bar, pickup)) continue;
    const isLike = pickup > 0 ? (next.inBar + pickup) % bar === 0 && next.length <= pickup : next.inBar === 0;
    const worth =
      PLACES.held * Math.min(1, note.length / bar) +
      (next.start > endOf(note) ? PLACES.rest : 0) +
      (isLike ? PLACES.likeTheBeginning : next.inBar === 0 ? PLACES.atTheLine : 0) -
      Math.abs(endOf(note) - at) / bar;
    if (worth > most + 1e-9) [best, most] = [index, worth];
  }
  return best;
}

/** Whether a note leads over the barline: shorter than what came before, and as long before the line as a pickup. */
function leadsIn(
  note: SoundingNote,
  next: SoundingNote,
  before: SoundingNote | undefined,
  bar: Ticks,
  pickup: Ticks,
): boolean {
  if (next.inBar !== 0) return next.inBar % (bar / 2) !== 0 && next.length > note.length;
  if (pickup > 0 && note.length <= pickup && (note.inBar + pickup) % bar === 0) return true;
  return before !== undefined && before.bar === note.bar && note.length < before.length && note.length < bar / 4;
}
