import { derived } from '../../derived';
import type { Phrase } from '../../analysis';
import { chanceFrom } from '../../chance';
import type { Pitch } from '../../pitch';
import { barNumbers, barSpans, type EventId, type Style, type Tune } from '../../score';
import { barTicks, beatsOf, type Ticks } from '../../time';
import type { Change, Device } from '../../work';
import { candidatesOf, type Candidate, type CandidateWishes } from './candidates';
import type { Placed } from './events';
import { THRESHOLD } from './judge';
import { Liked } from './liked';
import { groundOf, kindsOf, MAX_TO_A_BAR, Variation } from './variation';

/** One time that a line is embellished. */
export interface Round {
  readonly devices: readonly Device[];
  /** Figures to a hundred beats: 10 is a place here and there, 100 every beat. */
  readonly density: number;
  /** A passage that comes again is embellished differently the second time; else alike. */
  readonly varies: boolean;
  /** The shortest notes that may be added, longest first. */
  readonly units: readonly Ticks[];
  /** No note is shorter: what the level and the instrument speak at the tempo. */
  readonly quickest: Ticks;
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
  /** Notes as long as this are not quick at the tempo: what is added is no shorter, where the tune is not. */
  readonly unhurried: Ticks;
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

/** A bar counts for so many beats at least. */
const FEWEST_BEATS = 3;

/** From this density on whatever can be added is, however the judge likes it. */
const WHEREVER = 60;

/**
 * Adds to a line as much as the density allows: figures that the judge likes, of one or two kinds, where the variation
 * as a whole wants them. The line's own notes stay where they are, or come an eighth early; the first of the tune and
 * the ends of phrases are not touched; nothing is added to what was added, and nothing that the player does not have.
 * What comes out depends on the notes, the seed and the density, not on the key: a denser wish keeps what a sparser one
 * has put in. Dice break ties only. Rule (hard): the structure notes stay within one eighth of where they were; the
 * phrase endings stay; range and rhythm words of the level hold.
 */
export function embellish(tune: Tune, phrases: readonly Phrase[], wishes: EmbellishWishes): Embellished {
  const nothing: Embellished = { tune, changes: [] };
  if (wishes.density <= 0 && wishes.own.size === 0) return nothing;
  const candidates = candidatesFor(tune, phrases, wishes);
  const used = new Set<EventId>();
  const chosen: Placed[] = [];
  const chance = (name: string) => chanceFrom(`${wishes.round}/${wishes.seed}/${name}`)();
  const kinds = kindsOf(candidates, tune.bars.length, chance);
  const variation = new Variation(groundOf(tune, phrases), kinds, chance);
  const least = wishes.isPressed || wishes.isAsked || wishes.density >= WHEREVER ? -Infinity : THRESHOLD;
  const take = (group: readonly Candidate[], most: number, threshold: number) => {
    const liked = new Liked(group, variation);
    const lowest = Variation.threshold(threshold);
    for (let taken = 0; taken < most;) {
      const best = liked.next(lowest);
      if (!best) return;
      if (used.has(best.event) || variation.isClosed(best, wishes.isAsked === true)) continue;
      if (!best.added.every(wishes.isFree)) continue;
      const place = best.make();
      if ([...place.instead.keys()].some((id) => used.has(id))) continue;
      if (place.bars.some((other) => wishes.locked.has(other))) continue;
      for (const id of place.instead.keys()) used.add(id);
      chosen.push(place);
      taken += 1;
      liked.lookAgain(variation.take(best));
    }
  };
  for (const index of wishes.own.keys())
    take(
      candidates.filter(({ bar }) => bar === index),
      MAX_TO_A_BAR,
      -Infinity,
    );
  if (wishes.density > 0)
    take(
      candidates.filter(({ bar }) => !wishes.own.has(bar) && !wishes.locked.has(bar)),
      budgetOf(tune, wishes),
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

/** How many figures the line may have: its share of the density, one at least. */
function budgetOf(tune: Tune, { density }: Pick<EmbellishWishes, 'density'>): number {
  // A bar of two long beats has room for as much as one of three.
  const beats = barSpans(tune).reduce(
    (sum, { length, meter }) => sum + (length / barTicks(meter)) * Math.max(FEWEST_BEATS, beatsOf(meter).length),
    0,
  );
  return Math.max(1, Math.round((density / 100) * beats));
}

/** Candidates of a line: densities, and players of many instruments, choose from the same. */
function candidatesFor(tune: Tune, phrases: readonly Phrase[], wishes: EmbellishWishes): readonly Candidate[] {
  const { devices, units, quickest, isPressed, isAsked, style, varies, leans, unhurried, round, seed, own, silent } =
    wishes;
  const needed: CandidateWishes = {
    devices,
    units,
    quickest,
    isPressed,
    isAsked: isAsked === true,
    style,
    varies,
    leans,
    unhurried,
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
