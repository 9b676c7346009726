import type { Chance } from '../chance';
import { type Level, profileOf } from '../instruments';
import { beatsOf, isCompound, type Meter, type Ticks } from '../time';
import type { FormBar } from './rhythm';
import type { PhraseKind } from './soloNote';
import type { PhraseWish } from './wishes';

/** A phrase of a plan, as it is wished for. */
export interface PlannedPhrase {
  /** Indices of bars, `from` up to but without `to`. */
  readonly from: number;
  readonly to: number;
  readonly kind: PhraseKind;
  /** Index of the phrase that it goes back to. */
  readonly of?: number;
  /** How high it lies, 0 to 1, and how full it is: the curve of the chorus. */
  readonly height: number;
  readonly density: number;
  /** A borrowed rhythm: lengths that come round, negative ones as rests. */
  readonly rhythm?: readonly Ticks[];
}

/** A phrase that a teacher wished for, by its place in the plan. */
export interface PlacedWish extends Omit<PhraseWish, 'id' | 'of'> {
  /** Index of the phrase that it goes back to. */
  readonly of?: number;
}

type Shape = readonly (readonly [PhraseKind, number?])[];

/**
 * What the phrases of a chorus say, by how many there are; dice choose among the shapes of one length. An idea, the
 * same with another ending, moved with the chord, an answer, then the idea again; or question and answer, twice; or two
 * ideas, each gone on with. Taught so in most books on improvising: say something, say it again, go on, come back.
 * Longer forms take a second idea for their middle.
 */
const SHAPES: Readonly<Record<number, readonly Shape[]>> = {
  1: [[['idea']]],
  2: [[['idea'], ['varied', 0]]],
  3: [[['idea'], ['varied', 0], ['answer']]],
  4: [
    [['idea'], ['varied', 0], ['answer'], ['varied', 0]],
    [['idea'], ['answer'], ['same', 0], ['varied', 1]],
    [['idea'], ['moved', 0], ['answer'], ['varied', 0]],
  ],
  6: [
    [['idea'], ['varied', 0], ['moved', 0], ['same', 0], ['answer'], ['varied', 0]],
    [['idea'], ['answer'], ['moved', 0], ['varied', 1], ['answer'], ['varied', 0]],
  ],
  8: [
    [['idea'], ['varied', 0], ['moved', 0], ['answer'], ['same', 0], ['varied', 1], ['moved', 3], ['varied', 0]],
    [['idea'], ['answer'], ['same', 0], ['varied', 1], ['idea'], ['moved', 4], ['same', 0], ['varied', 1]],
    [['idea'], ['moved', 0], ['varied', 0], ['answer'], ['idea'], ['varied', 4], ['moved', 4], ['varied', 0]],
  ],
  16: [
    [
      ['idea'],
      ['varied', 0],
      ['moved', 0],
      ['answer'],
      ['same', 0],
      ['varied', 1],
      ['moved', 0],
      ['varied', 3],
      ['idea'],
      ['moved', 8],
      ['varied', 8],
      ['answer'],
      ['same', 0],
      ['varied', 0],
      ['moved', 3],
      ['varied', 0],
    ],
    [
      ['idea'],
      ['answer'],
      ['same', 0],
      ['varied', 1],
      ['moved', 0],
      ['moved', 1],
      ['same', 0],
      ['varied', 3],
      ['idea'],
      ['moved', 8],
      ['answer'],
      ['varied', 10],
      ['same', 0],
      ['varied', 1],
      ['moved', 0],
      ['varied', 3],
    ],
  ],
};

/** Other turns that a plan may take at a place where the shape says an answer or another ending; dice choose. */
const TURNS: Readonly<Partial<Record<PhraseKind, readonly PhraseKind[]>>> = {
  same: ['same', 'varied', 'moved'],
  varied: ['varied', 'varied', 'moved'],
  moved: ['moved', 'moved', 'varied'],
};

/** The highest place of a chorus lies about two thirds on. */
const PEAK = 0.68;

/** Where a phrase lies in the curve of a chorus, 0 to 1, by its place among so many. */
function curveAt(index: number, count: number): number {
  const place = count === 1 ? 1 : index / (count - 1);
  return place <= PEAK ? place / PEAK : 1 - (place - PEAK) / (1 - PEAK) / 1.4;
}

/**
 * A plan that a teacher made, over so many bars: what is too long is cut, and where it ends early phrases of two go on
 * with its first idea. A phrase that goes back to one that is not before it is new.
 */
export function planFrom(wishes: readonly PlacedWish[], bars: number, level: Level): readonly PlannedPhrase[] {
  const spans: { readonly wish: PlacedWish; readonly from: number; readonly to: number }[] = [];
  let at = 0;
  for (const wish of wishes) {
    if (at >= bars) break;
    spans.push({ wish, from: at, to: Math.min(bars, at + wish.bars) });
    at += wish.bars;
  }
  for (; at < bars; at += 2)
    spans.push({ wish: { bars: 2, kind: 'varied', of: 0 }, from: at, to: Math.min(bars, at + 2) });
  return spans.map(({ wish, from, to }, index): PlannedPhrase => {
    const height = wish.height ?? curveAt(index, spans.length);
    const goesBack = wish.of !== undefined && wish.of < index && !['idea', 'answer', 'rest'].includes(wish.kind);
    return {
      from,
      to,
      kind: goesBack || ['answer', 'rest'].includes(wish.kind) ? wish.kind : 'idea',
      ...(goesBack && wish.of !== undefined && { of: wish.of }),
      height,
      density: profileOf(level).solo.fullness + 0.15 * (height - 0.5),
      ...(wish.rhythm && { rhythm: wish.rhythm.lengths }),
    };
  });
}

/**
 * How four bars are cut into phrases (in twice as many where bars are short), and how readily: the same length all
 * through is a march. The first four begin with something short, the last end with something whole. Ours.
 */
interface Cut {
  readonly bars: readonly number[];
  readonly likes: number;
  readonly place?: 'first' | 'last' | 'inside';
}
const CUTS: Readonly<Record<Level, readonly Cut[]>> = {
  beginner: [{ bars: [2, 2], likes: 1 }],
  intermediate: [
    { bars: [2, 2], likes: 4 },
    { bars: [1, 1, 2], likes: 1, place: 'first' },
    { bars: [1, 3], likes: 1, place: 'inside' },
    { bars: [4], likes: 1, place: 'last' },
  ],
  advanced: [
    { bars: [2, 2], likes: 3 },
    { bars: [1, 1, 2], likes: 2 },
    { bars: [3, 1], likes: 1.5, place: 'inside' },
    { bars: [1, 3], likes: 2 },
    { bars: [4], likes: 1.5, place: 'last' },
    { bars: [2, 1, 1], likes: 1, place: 'inside' },
  ],
};

/** Lengths of the phrases of a chorus, in bars. */
function cutsOf(bars: number, size: number, level: Level, chance: Chance): readonly number[] {
  const unit = Math.max(1, size / 2);
  const fours = Math.floor(bars / (4 * unit));
  const lengths = Array.from({ length: fours }, (_, k): readonly number[] => {
    const place = k === 0 ? 'first' : k === fours - 1 ? 'last' : 'inside';
    const possible = CUTS[level].filter((cut) => cut.place === undefined || cut.place === place);
    let left = chance() * possible.reduce((sum, { likes }) => sum + likes, 0);
    const found = possible.find(({ likes }) => (left -= likes) < 0) ?? possible[0];
    return (found?.bars ?? [2, 2]).map((count) => count * unit);
  }).flat();
  const rest = bars - fours * 4 * unit;
  const tail = Array.from({ length: Math.ceil(rest / size) }, (_, k) => Math.min(size, rest - k * size));
  return [...lengths, ...tail];
}

/** How often a phrase is gone back to in its own rhythm: never three alike. */
const MOST_ALIKE = 2;

/**
 * What phrases of unequal lengths say: the first of a length is an idea, or the answer to the one before; others go back
 * to one of their length, and after two of one rhythm comes another.
 */
function relationsOf(lengths: readonly number[], chance: Chance): Shape {
  const made: (readonly [PhraseKind, number?])[] = [];
  const uses = new Map<number, number>();
  lengths.forEach((length, index) => {
    const models = lengths.flatMap((other, k) => {
      const isNew = made[k]?.[0] === 'idea' || made[k]?.[0] === 'answer';
      return k < index && other === length && isNew && (uses.get(k) ?? 0) < MOST_ALIKE ? [k] : [];
    });
    const model = models[Math.floor(chance() * models.length)];
    if (index === 0) made.push(['idea']);
    else if (model === undefined || (index % 4 === 2 && index < lengths.length - 1)) made.push(['answer']);
    else {
      const kinds: readonly PhraseKind[] =
        (uses.get(model) ?? 0) > 0 ? ['varied'] : ['varied', 'moved', 'varied', 'same'];
      made.push([kinds[Math.floor(chance() * kinds.length)] ?? 'varied', model]);
      uses.set(model, (uses.get(model) ?? 0) + 1);
    }
  });
  return made;
}

/** Bars of a phrase: two; four where a bar is over after two beats of two halves, or after one. */
function phraseBars({ count, unit }: Meter): number {
  const beats = beatsOf({ count, unit }).length;
  return beats === 1 || (beats === 2 && !isCompound({ count, unit })) ? 4 : 2;
}

/** The plan of a chorus of so many bars. */
export function planOf(bars: readonly FormBar[], level: Level, chance: Chance): readonly PlannedPhrase[] {
  const size = phraseBars(bars[0]?.meter ?? { count: 4, unit: 4 });
  const lengths = cutsOf(bars.length, size, level, chance);
  const isEven = lengths.every((length) => length === size || length === lengths.at(-1));
  const count = Math.max(1, lengths.length);
  const shape = isEven ? turned(shapeOf(count, chance), chance) : relationsOf(lengths, chance);
  let at = 0;
  return shape.map(([kind, of], index): PlannedPhrase => {
    const from = at;
    at = Math.min(bars.length, at + (lengths[index] ?? size));
    const height = curveAt(index, count);
    return {
      from,
      to: at,
      kind,
      ...(of !== undefined && kind !== 'idea' && kind !== 'answer' && { of }),
      height,
      density: profileOf(level).solo.fullness + 0.15 * (height - 0.5),
    };
  });
}

/** A shape in which some phrases take another turn than it says. */
function turned(shape: Shape, chance: Chance): Shape {
  return shape.map(([wanted, of], index) => {
    const turns = TURNS[wanted];
    const kind = turns && index >= 2 ? (turns[Math.floor(chance() * turns.length)] ?? wanted) : wanted;
    return [kind, of] as const;
  });
}

/**
 * A shape for any number of phrases: the next larger one that is known, cut, but ending as it ends; beyond sixteen it
 * comes round again.
 */
function shapeOf(count: number, chance: Chance): Shape {
  const exact = SHAPES[count];
  if (exact) return oneOf(exact, chance);
  if (count > 16) {
    const whole = oneOf(SHAPES[16] ?? [], chance);
    return Array.from({ length: count }, (_, index) => {
      const [kind, of] = whole[index % 16] ?? ['idea'];
      const round = index - (index % 16);
      return of === undefined ? ([kind] as const) : ([kind, of + round] as const);
    });
  }
  const larger = Object.keys(SHAPES)
    .map(Number)
    .filter((size) => size > count)
    .toSorted((a, b) => a - b)[0];
  const shape = oneOf(SHAPES[larger ?? 8] ?? [], chance);
  return [...shape.slice(0, count - 1), ['varied', 0] as const];
}

function oneOf(shapes: readonly Shape[], chance: Chance): Shape {
  return shapes[Math.floor(chance() * shapes.length)] ?? [['idea']];
}
