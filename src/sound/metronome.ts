import { type ClickPattern, isClicked } from '../core/rehearsal';
import { barSpans, type Tune } from '../core/score';
import { barTicks, beatsOf, type Meter, type Ticks, TICKS_PER_WHOLE } from '../core/time';
import type { Sounded } from './perform';
import type { TimeMap } from './timeMap';
import { CLICK_HIGH, CLICK_LOW } from './voices';

/** What is asked of the metronome. */
export interface ClickWishes {
  /** The metronome sounds so many bars and is silent for so many, in turn. */
  readonly clickBars?: { readonly on: number; readonly off: number };
  /** Which of the beats the metronome sounds; all by default. */
  readonly clickPattern?: ClickPattern;
  /** Clicks a beat is divided into; 1 by default. */
  readonly clickParts?: 1 | 2 | 3;
  /**
   * How a bar is grouped where it has no even halves: units of its meter, `[3, 2]` in 5/4. As usual for the meter by
   * default.
   */
  readonly clickGroups?: readonly number[];
  /** Of the dice of a metronome that fades. */
  readonly clickSeed?: number;
}

/** How loud a click is: the first of a bar, the first of a group within it, any other, one between beats. */
const CLICK_LOUD = { first: 110, group: 100, beat: 88, part: 60 } as const;

interface ClickPlace {
  readonly start: Ticks;
  readonly isFirst: boolean;
  /** The first of a group of uneven ones. */
  readonly isGroup: boolean;
  readonly isPart: boolean;
  /** Number of its beat, from 0. */
  readonly beat: number;
}

/**
 * The clicks of a full bar: its beats and what lies between them; in fives and sevens the groups are told by their
 * first.
 */
function clickPlaces(meter: Meter, { clickParts = 1, clickGroups }: ClickWishes): readonly ClickPlace[] {
  const unit = TICKS_PER_WHOLE / meter.unit;
  const isOwn = clickGroups !== undefined && clickGroups.reduce((sum, size) => sum + size, 0) === meter.count;
  const groups = isOwn ? clickGroups : usualGroups(meter);
  if (!groups)
    return beatsOf(meter).flatMap((beat, number) =>
      Array.from({ length: clickParts }, (_, part) => ({
        start: beat.start + (part * beat.length) / clickParts,
        isFirst: number === 0 && part === 0,
        isGroup: false,
        isPart: part > 0,
        beat: number,
      })),
    );
  // Beats of unequal length cannot be halved: what lies between the groups' firsts are the units.
  const isQuick = meter.unit >= 8;
  const starts = groups.map((_, k) => groups.slice(0, k).reduce((sum, size) => sum + size, 0));
  return Array.from({ length: meter.count }, (_, number) => number).flatMap((number) => {
    const isGroup = starts.includes(number);
    if (isQuick && !isGroup && clickParts === 1) return [];
    return Array.from({ length: isQuick ? 1 : clickParts }, (_, part) => ({
      start: number * unit + (part * unit) / clickParts,
      isFirst: number === 0 && part === 0,
      isGroup: isGroup && part === 0,
      isPart: part > 0 || (isQuick && !isGroup),
      beat: isQuick ? starts.findLastIndex((start) => start <= number) : number,
    }));
  });
}

/** 5/4 as three and two, 5/8 as two and three, 7/8 as two, two and three, 7/4 as four and three; others fall evenly. */
function usualGroups({ count, unit }: Meter): readonly number[] | undefined {
  if (count === 5) return unit >= 8 ? [2, 3] : [3, 2];
  if (count === 7) return unit >= 8 ? [2, 2, 3] : [4, 3];
  return undefined;
}

/** Ways to group a bar that has no even halves, the usual one first; none elsewhere. */
export function groupings({ count, unit }: Meter): readonly (readonly number[])[] {
  const usual = usualGroups({ count, unit });
  if (!usual) return [];
  const all =
    count === 5
      ? [
          [3, 2],
          [2, 3],
        ]
      : unit >= 8
        ? [
            [2, 2, 3],
            [3, 2, 2],
            [2, 3, 2],
          ]
        : [
            [4, 3],
            [3, 4],
          ];
  return [usual, ...all.filter((one) => one.join() !== usual.join())];
}

/** Clicks on the beats that are wanted, the first of the bar higher; in bars that are played in silence none. */
export function clicksOf(tune: Tune, map: TimeMap, wishes: ClickWishes): readonly Sounded[] {
  const { clickBars, clickPattern = 'all', clickSeed = 0 } = wishes;
  const spans = barSpans(tune);
  return map.bars.flatMap(({ bar }, place) => {
    const span = spans[bar];
    const isOff = clickBars !== undefined && place % (clickBars.on + clickBars.off) >= clickBars.on;
    if (!span || isOff) return [];
    return clickPlaces(span.meter, wishes)
      .filter(({ beat }) => isClicked(clickPattern, place, beat, clickSeed))
      .filter(({ start }) => start >= span.offset && start < span.offset + span.length)
      .map(({ start, isFirst, isGroup, isPart }) => {
        const made = click(map.at(place, start - span.offset, true), isFirst || isGroup);
        const velocity = isFirst
          ? CLICK_LOUD.first
          : isGroup
            ? CLICK_LOUD.group
            : isPart
              ? CLICK_LOUD.part
              : CLICK_LOUD.beat;
        return { ...made, velocity };
      });
  });
}

function click(start: number, isFirst: boolean): Sounded {
  return {
    start,
    end: start + 0.06,
    key: isFirst ? CLICK_HIGH : CLICK_LOW,
    velocity: isFirst ? CLICK_LOUD.first : CLICK_LOUD.beat,
  };
}

/**
 * A bar of clicks before the music, and before a pickup what its bar lacks as well; two bars where one goes by too
 * quickly to breathe in.
 */
export function countIn(tune: Tune, map: TimeMap, asked?: number): readonly Sounded[] {
  const first = map.bars[0];
  const span = first && barSpans(tune)[first.bar];
  if (!first || !span || span.length === 0) return [];
  const perTick = first.seconds / span.length;
  const bar = barTicks(span.meter) * perTick;
  const bars = asked ?? (bar < 1.2 ? 2 : 1);
  const beats = Array.from({ length: bars + 1 }, (_, k) =>
    beatsOf(span.meter).map(({ start, length }) => ({
      at: k * bar + start * perTick,
      end: k * bar + (start + length) * perTick,
      isFirst: start === 0,
    })),
  ).flat();
  const until = bars * bar + span.offset * perTick;
  const within = beats.filter(({ at }) => at < until - 1e-6);
  return within.map(({ at, isFirst }, index) => ({
    ...click(at, isFirst),
    ...(index === within.length - 1 && { end: until }),
  }));
}
