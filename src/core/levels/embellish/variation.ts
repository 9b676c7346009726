import { derived } from '../../derived';
import type { Phrase } from '../../analysis';
import { semitones, staffPosition } from '../../pitch';
import { type Bar, barSpans, isNote, soundingNotes, type Tune } from '../../score';
import { barTicks } from '../../time';
import type { Candidate } from './candidates';

/**
 * What makes figures a variation. A musician chooses one figure, takes it up again in the same place of the bar, keeps
 * the beginning plain, does more when something comes again, and has one high point near the end (common practice of
 * writing variations; see the tunes arranged by hand that the tests read). The figures are fitted to eight of those and
 * open to argument.
 */
const VARIATION = {
  /** A figure of the kind that the variation is made of, of its second kind, and any other. */
  first: 0.55,
  second: 0.3,
  other: -0.35,
  /** The bar came before, in an earlier phrase. */
  again: 0.4,
  /** It stands in the first phrase; in the first bar of all. */
  opening: -0.3,
  firstBar: -0.15,
  /** It stands in the running middle of its phrase: neither its first bar nor its last. */
  middle: 0.15,
  /** In the last bar of a phrase. */
  lastBar: -0.25,
  /** The bar in the same place of another phrase, where the tune is the same or moves alike, has the same figure. */
  parallel: 0.45,
  /** It has another. */
  unlike: -0.35,
  /** For each figure that the bar has already, growing. */
  fullBar: -0.75,
  /** For a device that reaches beyond what is highest in the tune: once, in the last half. */
  climax: 0.5,
  beyondTop: -0.9,
  /** Scores nearer than this are equal, and dice decide. */
  tie: 0.1,
  /** Half steps and enclosures to a phrase. */
  mostForeign: 1,
  /** How much chance says in which kind of figure a variation is made of. */
  whim: 0.35,
} as const;

/** The share of the density that a bar may take beyond its beats; more, and the tune is lost under it. */
export const MAX_TO_A_BAR = 4;

/** A figure is one of a kind where it can stand so often at least: once is an accident. */
const FEWEST_OF_A_KIND = 2;

/** Where a bar stands in its tune. */
interface BarPlace {
  /** Bars in the same place of other phrases that are it, or move as it does. */
  readonly parallels: readonly number[];
  /** What the place itself speaks for or against. */
  readonly worth: number;
}

/** How a tune lies in phrases, for whoever varies it. */
export interface VariationGround {
  readonly bars: readonly BarPlace[];
  /** The highest note, in semitones above C0. */
  readonly top: number;
}

export const groundOf = derived((tune: Tune, phrases: readonly Phrase[]): VariationGround => {
  const notes = soundingNotes(tune);
  const spans = barSpans(tune);
  const home = placesInPhrases(tune, phrases);
  const shapes = tune.bars.map(shapeOf);
  const firstWith = new Map<string, number>();
  const bars = tune.bars.map((_, index): BarPlace => {
    const { phrase, inPhrase, isLast } = home[index] ?? { phrase: 0, inPhrase: 0, isLast: false };
    const exact = shapes[index]?.exact ?? '';
    const earlier = firstWith.get(exact);
    if (earlier === undefined) firstWith.set(exact, index);
    const parallels = tune.bars.flatMap((__, other) => {
      const there = home[other];
      const isOther = other !== index && there !== undefined && there.phrase !== phrase && there.inPhrase === inPhrase;
      return isOther && shapes[other]?.rhythm === shapes[index]?.rhythm ? [other] : [];
    });
    const isFirst = index === 0 || (spans[index]?.start ?? 0) <= barTicks(tune.meter) / 2;
    const isAgain = earlier !== undefined && (home[earlier]?.phrase ?? phrase) !== phrase;
    return {
      parallels,
      worth:
        (isAgain ? VARIATION.again : 0) +
        (phrase === 0 ? VARIATION.opening : 0) +
        (isFirst ? VARIATION.firstBar : 0) +
        (isLast ? VARIATION.lastBar : inPhrase > 0 ? VARIATION.middle : 0),
    };
  });
  return { bars, top: Math.max(0, ...notes.map(({ pitch }) => semitones(pitch))) };
});

/** The bar of each phrase that a bar is, counted from the downbeat. */
function placesInPhrases(
  tune: Tune,
  phrases: readonly Phrase[],
): readonly { readonly phrase: number; readonly inPhrase: number; readonly isLast: boolean }[] {
  const notes = soundingNotes(tune);
  const spans = barSpans(tune);
  const runs = phrases.map(({ from, to }) => {
    const [first, last] = [notes[from], notes[to - 1]];
    const length = first ? (spans[first.bar]?.length ?? 1) : 1;
    const isPickup = first !== undefined && first.inBar > length / 2;
    return { from: (first?.bar ?? 0) + (isPickup ? 1 : 0), to: last?.bar ?? 0 };
  });
  return tune.bars.map((_, index) => {
    const phrase = Math.max(
      0,
      runs.findLastIndex(({ from }) => from <= index),
    );
    const { from = 0, to = 0 } = runs[phrase] ?? {};
    return { phrase, inPhrase: index - from, isLast: index >= to };
  });
}

/** A bar note for note, and by its rhythm with the way that it moves. */
function shapeOf(bar: Bar): { readonly exact: string; readonly rhythm: string } {
  let before: number | undefined;
  const [exact, rhythm]: string[][] = [[], []];
  for (const event of bar.events) {
    if (!isNote(event)) {
      exact?.push(`z${event.length}`);
      rhythm?.push(`z${event.length}`);
      continue;
    }
    const height = staffPosition(event.pitch);
    exact?.push(`${semitones(event.pitch)}:${event.length}`);
    rhythm?.push(`${event.length}${before === undefined ? '' : height > before ? '+' : height < before ? '-' : '='}`);
    before = height;
  }
  return { exact: exact?.join(' ') ?? '', rhythm: rhythm?.join(' ') ?? '' };
}

/**
 * The kinds of figure that a variation is made of: the one that can stand in most bars with most worth, and the best of
 * the others beside it.
 * @param chance 0 to 1 for a name: another variation, another choice
 */
export function kindsOf(
  candidates: readonly Candidate[],
  bars: number,
  chance: (name: string) => number,
): readonly string[] {
  const best = new Map<string, Map<number, number>>();
  for (const { figure, bar, score } of candidates) {
    const byBar = best.get(figure) ?? new Map<number, number>();
    byBar.set(bar, Math.max(byBar.get(bar) ?? -Infinity, score));
    best.set(figure, byBar);
  }
  const worth = (figure: string, byBar: ReadonlyMap<number, number>) => {
    if (byBar.size < FEWEST_OF_A_KIND) return -Infinity;
    const mean = [...byBar.values()].reduce((sum, score) => sum + score, 0) / byBar.size;
    // More than every other bar is no gain: what stands everywhere is no figure any more.
    const share = Math.min(1, byBar.size / Math.max(1, bars / 2));
    return mean * (0.4 + 0.6 * share) + VARIATION.whim * chance(figure);
  };
  const ranked = [...best]
    .map(([figure, byBar]) => ({ figure, byBar, worth: worth(figure, byBar) }))
    .filter(({ worth: one }) => one > -Infinity)
    .toSorted((a, b) => b.worth - a.worth || (a.figure < b.figure ? -1 : 1));
  const [first] = ranked;
  if (!first) return [];
  // The second kind is for the bars that the first cannot have.
  const second = ranked
    .slice(1)
    .map((one) => ({
      ...one,
      worth:
        one.worth + (0.5 * [...one.byBar.keys()].filter((bar) => !first.byBar.has(bar)).length) / Math.max(1, bars),
    }))
    .toSorted((a, b) => b.worth - a.worth || (a.figure < b.figure ? -1 : 1))[0];
  return second ? [first.figure, second.figure] : [first.figure];
}

/** A variation as it grows: what was chosen, and what is liked next because of it. */
export class Variation {
  private readonly inBar = new Map<number, number>();
  /** The kinds of figure that stand in the bars that are parallel to a bar. */
  private readonly inParallels = new Map<number, Set<string>>();
  private readonly foreign = new Map<number, number>();
  private readonly whims = new Map<string, number>();
  private hasClimax = false;

  constructor(
    private readonly ground: VariationGround,
    private readonly kinds: readonly string[],
    /** 0 to 1 for a name: another variation, other likings. */
    private readonly chance: (name: string) => number,
  ) {}

  /** How a candidate is liked after what was chosen; in steps, so that near ones are equal. */
  liking(one: Candidate): number {
    const place = this.ground.bars[one.bar];
    const [first, second] = this.kinds;
    const kind = one.figure === first ? VARIATION.first : one.figure === second ? VARIATION.second : VARIATION.other;
    const own = this.inBar.get(one.bar) ?? 0;
    return Math.round(
      (one.score +
        kind +
        VARIATION.whim * this.whimOf(one.figure) +
        (place ? this.placeWorth(place, one) : 0) +
        VARIATION.fullBar * own * (1 + own) * 0.5 +
        this.heightWorth(one)) /
        VARIATION.tie,
    );
  }

  /** The worth, in steps, from which something is written unasked. */
  static readonly threshold = (least: number) => least / VARIATION.tie;

  private whimOf(figure: string): number {
    const known = this.whims.get(figure) ?? this.chance(figure) - 0.5;
    this.whims.set(figure, known);
    return known;
  }

  private placeWorth({ worth }: BarPlace, { bar, figure }: Candidate): number {
    const parallels = this.inParallels.get(bar);
    return worth + (parallels === undefined ? 0 : parallels.has(figure) ? VARIATION.parallel : VARIATION.unlike);
  }

  /** Beyond the tune's highest note goes one figure alone, in the last half. */
  private heightWorth({ added, bar }: Candidate): number {
    const { top, bars } = this.ground;
    if (!added.some((pitch) => semitones(pitch) > top)) return 0;
    return !this.hasClimax && bar >= bars.length / 2 ? VARIATION.climax : VARIATION.beyondTop;
  }

  /** Whether a candidate may not be taken any more, however it is liked. */
  isClosed({ bar, phrase, isForeign }: Candidate, isAsked: boolean): boolean {
    if ((this.inBar.get(bar) ?? 0) >= MAX_TO_A_BAR) return true;
    // One enclosure or other half step to a phrase, unless it was asked for.
    return !isAsked && isForeign && (this.foreign.get(phrase) ?? 0) >= VARIATION.mostForeign;
  }

  /** @returns the bars in which it changes how others are liked */
  take({ bar, figure, phrase, isForeign, added }: Candidate): readonly number[] {
    const { top, bars } = this.ground;
    const parallels = bars[bar]?.parallels ?? [];
    this.inBar.set(bar, (this.inBar.get(bar) ?? 0) + 1);
    for (const other of parallels) this.inParallels.set(other, (this.inParallels.get(other) ?? new Set()).add(figure));
    if (isForeign) this.foreign.set(phrase, (this.foreign.get(phrase) ?? 0) + 1);
    const isClimax = !this.hasClimax && added.some((pitch) => semitones(pitch) > top);
    this.hasClimax ||= isClimax;
    return isClimax ? bars.map((_, index) => index) : [bar, ...parallels];
  }
}
