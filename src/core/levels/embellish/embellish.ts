import { derived } from '../../derived';
import type { Phrase } from '../../analysis';
import { chanceFrom } from '../../chance';
import type { Pitch } from '../../pitch';
import { barNumbers, barSpans, type EventId, soundingNotes, type Style, type Tune } from '../../score';
import { barTicks, beatsOf, type Ticks } from '../../time';
import type { Change, Device } from '../../work';
import { candidatesOf, type Candidate, type CandidateWishes } from './candidates';
import type { Placed } from './events';
import { CHOOSING, THRESHOLD } from './judge';

/** One time that a line is embellished. */
export interface Round {
  readonly devices: readonly Device[];
  /** Figures to a hundred beats: 10 is a place here and there, 100 every beat. */
  readonly density: number;
  /** A passage that comes again is embellished differently the second time; else alike. */
  readonly varies: boolean;
  /** The shortest notes that may be added, longest first. */
  readonly units: readonly Ticks[];
  /**
   * Grace notes and ornaments may stand on short notes and on the ends of phrases, whose pitch and place stay all the
   * same.
   */
  readonly isPressed: boolean;
  /** The devices were chosen by hand: neither style nor taste forbids them. */
  readonly isAsked?: true;
}

export interface EmbellishWishes extends Round {
  /**
   * Which time round this is, from 1: an embellished line can be embellished further, and what is added is named apart.
   */
  readonly round: number;
  /** Of the tune: what may be added depends on it. */
  readonly style: Style;
  /** Any number: another one, other places and figures. */
  readonly seed: number;
  /** Whether the player has a pitch, concert, as the line lies now. */
  readonly isFree: (pitch: Pitch) => boolean;
  /** Whether what is added may begin off a beat and last over the next. */
  readonly leans: boolean;
  /** Rests that a teacher wanted. */
  readonly silent: ReadonlySet<EventId>;
  /** Bars that are left alone. */
  readonly locked: ReadonlySet<number>;
  /** Bars embellished as much as they can bear, by a seed of their own, whatever the density. */
  readonly own: ReadonlyMap<number, number>;
}

export interface Embellished {
  readonly tune: Tune;
  readonly changes: readonly Change[];
}

/** The share of the density that a bar may take beyond its beats; more, and the tune is lost under it. */
const MAX_TO_A_BAR = 4;

/** A bar counts for so many beats at least. */
const FEWEST_BEATS = 3;

/** From this density on whatever can be added is, however the judge likes it. */
const WHEREVER = 60;

/**
 * Adds to a line what the judge likes best, phrase by phrase, as much as the density allows. Its own notes stay where
 * they are, or come an eighth early; the first of the tune and the last of every phrase are not touched (a long held
 * one may walk on); nothing is added to what was added, and nothing that the player does not have. What comes out
 * depends on the notes, the seed and the density, not on the key: a denser wish keeps what a sparser one has put in.
 * Dice break ties only. Rule (hard): the structure notes stay within one eighth of where they were; the phrase endings
 * stay; range and rhythm words of the level hold.
 */
export function embellish(tune: Tune, phrases: readonly Phrase[], wishes: EmbellishWishes): Embellished {
  const nothing: Embellished = { tune, changes: [] };
  if (wishes.density <= 0 && wishes.own.size === 0) return nothing;
  const candidates = candidatesFor(tune, phrases, wishes);
  const budgets = budgetsOf(tune, phrases, wishes);
  const used = new Set<EventId>();
  const chosen: Placed[] = [];
  const least = wishes.isPressed || wishes.isAsked || wishes.density >= WHEREVER ? -Infinity : THRESHOLD;
  const take = (group: readonly Candidate[], most: number, threshold: number) => {
    const left = new Set(group);
    const inBar = new Map<number, number>();
    const byDevice = new Map<Device, number>();
    let foreign = 0;
    for (let taken = 0; taken < most;) {
      const liking = (one: Candidate) =>
        one.score -
        CHOOSING.sameDevice * (byDevice.get(one.device) ?? 0) -
        CHOOSING.fullBar * (inBar.get(one.bar) ?? 0) * ((inBar.get(one.bar) ?? 0) - 1);
      let best: Candidate | undefined;
      let score = -Infinity;
      for (const one of left) {
        const here = Math.round(liking(one) / CHOOSING.tie);
        if (here > score || (here === score && best && one.dice > best.dice)) [best, score] = [one, here];
      }
      if (!best || score * CHOOSING.tie < threshold) return;
      left.delete(best);
      if (used.has(best.event) || (inBar.get(best.bar) ?? 0) >= MAX_TO_A_BAR) continue;
      // One enclosure or other half step to a phrase, unless it was asked for.
      if (!wishes.isAsked && best.isForeign && foreign >= CHOOSING.mostForeign) continue;
      if (!best.added.every(wishes.isFree)) continue;
      const place = best.make();
      if ([...place.instead.keys()].some((id) => used.has(id))) continue;
      if (place.bars.some((other) => wishes.locked.has(other))) continue;
      for (const id of place.instead.keys()) used.add(id);
      chosen.push(place);
      taken += 1;
      if (best.isForeign) foreign += 1;
      inBar.set(best.bar, (inBar.get(best.bar) ?? 0) + 1);
      byDevice.set(best.device, (byDevice.get(best.device) ?? 0) + 1);
    }
  };
  const ofBar = groupBy(candidates, ({ bar }) => bar);
  for (const index of wishes.own.keys()) take(ofBar.get(index) ?? [], MAX_TO_A_BAR, -Infinity);
  if (wishes.density > 0)
    for (const [phrase, group] of groupBy(candidates, (one) => one.phrase))
      take(
        group.filter(({ bar }) => !wishes.own.has(bar) && !wishes.locked.has(bar)),
        budgets[phrase] ?? 0,
        least,
      );
  if (chosen.length === 0) return nothing;
  const instead = new Map(chosen.flatMap((place) => [...place.instead]));
  const numbers = barNumbers(tune);
  const bars = tune.bars.map((bar) =>
    bar.events.some(({ id }) => instead.has(id))
      ? { ...bar, events: bar.events.flatMap((event) => instead.get(event.id) ?? [event]) }
      : bar,
  );
  return {
    tune: { ...tune, bars },
    changes: chosen.flatMap(({ bars: touched, marked, detail }) =>
      touched.map((barIndex): Change => ({ bar: numbers[barIndex] ?? 0, barIndex, detail, events: marked })),
    ),
  };
}

function groupBy<Value>(values: readonly Value[], keyOf: (value: Value) => number): ReadonlyMap<number, Value[]> {
  const groups = new Map<number, Value[]>();
  for (const value of values) {
    const group = groups.get(keyOf(value));
    if (group) group.push(value);
    else groups.set(keyOf(value), [value]);
  }
  return groups;
}

/** How many figures each phrase may have: its share of the density, by chance rounded up or down, one at least. */
function budgetsOf(
  tune: Tune,
  phrases: readonly Phrase[],
  { density, round, seed }: EmbellishWishes,
): readonly number[] {
  const notes = soundingNotes(tune);
  const spans = barSpans(tune);
  const end = spans.reduce((sum, { length }) => sum + length, 0);
  return phrases.map(({ from }, index) => {
    const first = notes[from];
    const next = phrases[index + 1];
    const ticks = ((next ? notes[next.from]?.start : undefined) ?? end) - (first?.start ?? 0);
    const meter = (first && spans[first.bar]?.meter) ?? tune.meter;
    // A bar of two long beats has room for as much as one of three.
    const beats = (ticks / barTicks(meter)) * Math.max(FEWEST_BEATS, beatsOf(meter).length);
    const wanted = (density / 100) * beats;
    return Math.max(1, Math.floor(wanted + chanceFrom(`${round}/${seed}/${index}/${ticks}`)()));
  });
}

/** Candidates of a line: densities, and players of many instruments, choose from the same. */
function candidatesFor(tune: Tune, phrases: readonly Phrase[], wishes: EmbellishWishes): readonly Candidate[] {
  const { devices, units, isPressed, isAsked, style, varies, leans, round, seed, own, silent } = wishes;
  const needed: CandidateWishes = {
    devices,
    units,
    isPressed,
    isAsked: isAsked === true,
    style,
    varies,
    leans,
    round,
    seed,
    own,
  };
  return allCandidates(tune, phrases, needed, silent);
}

const allCandidates = derived(candidatesOf, {
  most: 64,
  by: (tune, phrases, needed, silent) => [
    tune,
    JSON.stringify({ ...needed, own: [...needed.own], silent: [...silent], phrases }),
  ],
});
