import { type Level, LEVELS } from '../instruments';
import { failure, success, type Result } from '../result';
import type { Bar, BarId, Tune } from '../score';
import type { Recipe } from './recipe';
import type { Work } from './work';

type Head = Omit<Tune, 'bars'>;

/** What makes one work of another. What is not named stays as it is. */
export interface Difference {
  /** Fields at the tune's head; `null` takes one away. */
  readonly head?: Readonly<Record<string, unknown>>;
  /** From this index, bars with these ids give way to others. */
  readonly bars?: { readonly from: number; readonly gone: readonly BarId[]; readonly bars: readonly Bar[] };
  /** The levels whose recipe is another; `null` takes one away. */
  readonly recipes?: Readonly<Partial<Record<Level, Recipe | null>>>;
}

/**
 * What changed from one work to another. Works share what did not change, so objects are compared, not their contents.
 * Taken back with the two exchanged: it is how a change is undone elsewhere.
 */
export function differenceBetween(before: Work, after: Work): Difference {
  const head = changedFields(headOf(before.tune), headOf(after.tune));
  const bars = changedBars(before.tune.bars, after.tune.bars);
  const levels = LEVELS.filter((level) => before.recipes[level] !== after.recipes[level]);
  return {
    ...(head && { head }),
    ...(bars && { bars }),
    ...(levels.length > 0 && {
      recipes: Object.fromEntries(levels.map((level) => [level, after.recipes[level] ?? null])),
    }),
  };
}

/**
 * The work with a difference in it. One that is in it already changes nothing.
 * @returns a failure where the bars that were to give way are not there
 */
export function withDifference(work: Work, { head, bars, recipes }: Difference): Result<Work, 'other bars'> {
  const line = bars ? withBars(work.tune.bars, bars) : work.tune.bars;
  if (!line) return failure('other bars');
  return success({
    tune:
      head || line !== work.tune.bars
        ? ({ ...withoutNull({ ...headOf(work.tune), ...head }), bars: line } as unknown as Tune)
        : work.tune,
    recipes: recipes ? (withoutNull({ ...work.recipes, ...recipes }) as Work['recipes']) : work.recipes,
  });
}

function withBars(
  line: readonly Bar[],
  { from, gone, bars }: NonNullable<Difference['bars']>,
): readonly Bar[] | undefined {
  const isHere = (ids: readonly BarId[]) => ids.every((id, k) => line[from + k]?.id === id);
  const ids = bars.map(({ id }) => id);
  // Bars of the same names may hold something else; written over they are the same again.
  if (isHere(gone) && !(gone.length < ids.length && isHere(ids)))
    return [...line.slice(0, from), ...bars, ...line.slice(from + gone.length)];
  return isHere(ids) ? line : undefined;
}

function headOf({ bars: _, ...head }: Tune): Head {
  return head;
}

/** The run of bars between the first and the last that differ; none where all are the same objects. */
function changedBars(before: readonly Bar[], after: readonly Bar[]): Difference['bars'] | undefined {
  if (before === after) return undefined;
  const shorter = Math.min(before.length, after.length);
  let from = 0;
  while (from < shorter && before[from] === after[from]) from += 1;
  let ends = 0;
  while (ends < shorter - from && before[before.length - 1 - ends] === after[after.length - 1 - ends]) ends += 1;
  if (from === before.length && from === after.length) return undefined;
  return {
    from,
    gone: before.slice(from, before.length - ends).map(({ id }) => id),
    bars: after.slice(from, after.length - ends),
  };
}

function changedFields(before: Head, after: Head): Readonly<Record<string, unknown>> | undefined {
  const [was, now] = [
    new Map<string, unknown>(Object.entries(before)),
    new Map<string, unknown>(Object.entries(after)),
  ];
  const names = [...new Set([...was.keys(), ...now.keys()])].filter((name) => was.get(name) !== now.get(name));
  return names.length === 0 ? undefined : Object.fromEntries(names.map((name) => [name, now.get(name) ?? null]));
}

function withoutNull(record: Readonly<Record<string, unknown>>): Readonly<Record<string, unknown>> {
  return Object.fromEntries(Object.entries(record).filter(([, value]) => value !== null && value !== undefined));
}
