import { semitones } from '../pitch';
import { hasPickup, type Tune } from '../score';
import { TICKS_PER_QUARTER as QUARTER } from '../time';
import { lickFacts, liftLick, MAX_LICK_BARS, type LickPlace } from './lick';
import { readSolo, type ReadSolo } from './readSolo';
import type { SoloDevice, SoloNote } from './soloNote';

/** Bars of a solo that stand for themselves as a lick. */
export interface LickFound {
  /** Printed numbers of its first and last bar. */
  readonly from: number;
  readonly to: number;
  /** `over ii–V–I in major`. */
  readonly fits: string;
  /** New chords that it meets on their third or seventh. */
  readonly met: number;
  /** What its leaning notes do, each kind once. */
  readonly devices: readonly SoloDevice[];
}

/** How many are offered at most. */
const MAX_FOUND = 8;
/** What a line must have to be offered: a change that is met, or a way in, or at least a device. */
const LEAST_WORTH = 1.5;

/**
 * The lines of a solo that are worth keeping: over chords that have a name together (or one chord), begun and ended
 * with themselves, home at their end, and the better the more changes they meet on a third or seventh and the more ways
 * in they use. None lies over another, and none is another once more. In the order of the solo.
 */
export function licksFound(tune: Tune, read: ReadSolo | undefined = readSolo(tune)): readonly LickFound[] {
  if (!read) return [];
  const pickup = hasPickup(tune) ? 1 : 0;
  const found: (LickFound & { readonly worth: number; readonly word: string })[] = [];
  read.bars.forEach((first, from) => {
    for (let to = from + 1; to <= Math.min(read.bars.length, from + MAX_LICK_BARS); to += 1) {
      const last = read.bars[to - 1];
      if (!last) return;
      const notes = read.notes.filter(({ at }) => at >= first.start && at < last.start + last.length);
      if (!standsAlone(notes, read, first.start, last.start + last.length, to - from)) continue;
      const facts = lickFacts(liftLick(tune, from + pickup, to + pickup, ''));
      const chords = new Set(notes.map(({ chord }) => chord)).size;
      if (!facts || (chords > 1 && /^over \d/.test(facts.fits)) || (chords === 1 && to - from > 2)) continue;
      const met = notes.filter((note, k) => k > 0 && isMet(note, notes[k - 1])).length;
      const devices = [...new Set(notes.flatMap(({ device }) => (device && device !== 'lick' ? [device] : [])))];
      const ways = notes.filter(({ device }) => device === 'enclosure' || device === 'approach').length;
      // Several chords under one line teach more than one chord does.
      const worth = 2 * met + 0.7 * ways + devices.length + (chords > 1 ? 2 : 0) + notes.length / (8 * (to - from));
      if (worth >= LEAST_WORTH)
        found.push({ from: from + 1, to, fits: facts.fits, met, devices, worth, word: wordOf(notes, first.start) });
    }
  });
  const chosen: typeof found = [];
  for (const one of found.toSorted((a, b) => b.worth - a.worth || a.from - b.from)) {
    if (chosen.length === MAX_FOUND) break;
    if (chosen.every(({ from, to, word }) => (one.to < from || one.from > to) && one.word !== word)) chosen.push(one);
  }
  return chosen
    .toSorted((a, b) => a.from - b.from)
    .map(({ from, to, fits, met, devices }) => ({ from, to, fits, met, devices }));
}

/** Whether a chord is met by a note that tells it: its third or seventh. */
function isMet({ chord, role, degree }: SoloNote, before: SoloNote | undefined): boolean {
  return before?.chord !== chord && role === 'home' && /^[♭♯]*[37]$/u.test(degree);
}

/** Nothing rings in or out, enough is said, and it comes to rest at home. */
function standsAlone(notes: readonly SoloNote[], read: ReadSolo, start: number, end: number, bars: number): boolean {
  const [first, last] = [notes[0], notes.at(-1)];
  if (!first || !last || notes.length < Math.max(4, 3 * bars - 1) || last.role !== 'home') return false;
  if (first.at >= start + QUARTER * 2 || last.at + last.length > end) return false;
  const before = read.notes.findLast(({ at }) => at < start);
  if (before && (before.at + before.length > start || (before.device && before.device !== 'blue'))) return false;
  const after = read.notes.find(({ at }) => at >= end);
  return last.length >= QUARTER || !after || after.at - (last.at + last.length) >= QUARTER / 2;
}

/** The same line in any key. */
function wordOf(notes: readonly SoloNote[], start: number): string {
  const base = semitones(notes[0]?.pitch ?? { step: 'C', alter: 0, octave: 4 });
  return notes.map(({ at, length, pitch }) => `${at - start}:${length}:${semitones(pitch) - base}`).join(' ');
}

/** A lick with the places of a form over which it can be played. */
export interface PlacedLick<Lick> {
  readonly lick: Lick;
  readonly places: readonly LickPlace[];
}

/**
 * Some licks spread over a chorus: no two on top of each other, none twice, none over the first phrase, which says what
 * the solo is about, or over the last bars, where it comes home, nor where something is kept already; the later ones
 * rather, as far from each other as may be.
 * @param bars of the chorus
 * @param count how many at most
 * @param turn the lick that is asked first, so that another press spreads others
 */
export function spreadLicks<Lick>(
  licks: readonly PlacedLick<Lick>[],
  bars: number,
  count: number,
  turn = 0,
  kept: readonly Pick<LickPlace, 'from' | 'to'>[] = [],
): readonly { readonly lick: Lick; readonly place: LickPlace }[] {
  const chosen: { readonly lick: Lick; readonly place: LickPlace }[] = [];
  const start = licks.length === 0 ? 0 : turn % licks.length;
  for (const { lick, places } of [...licks.slice(start), ...licks.slice(0, start)]) {
    if (chosen.length === count) break;
    const free = places.filter(
      ({ from, to }) =>
        from >= 2 &&
        to <= bars - 2 &&
        [...kept, ...chosen.map(({ place }) => place)].every((other) => to <= other.from || from >= other.to),
    );
    const distance = ({ from }: LickPlace) =>
      Math.min(bars / 2, ...chosen.map(({ place }) => Math.abs(place.from - from)));
    const [place] = free.toSorted((a, b) => distance(b) - distance(a) || b.from - a.from);
    if (place) chosen.push({ lick, place });
  }
  return chosen.toSorted((a, b) => a.place.from - b.place.from);
}
