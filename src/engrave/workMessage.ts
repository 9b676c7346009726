import { LEVELS, type Level } from '../core/instruments/instrument';
import type { Recipe } from '../core/work/recipe';
import type { Work } from '../core/work/work';
import type { Bar, Tune } from '../core/score/tune';

type Head = Omit<Tune, 'bars'>;

/** A work on its way to a worker: what is not as it was in the work sent before. */
export interface WorkMessage {
  /** Counted from 1; each is told on top of the one before. */
  readonly number: number;
  /** What stands at the tune's head, where any of it changed. */
  readonly head?: Head;
  /** Bars `from` up to but without `to` of the tune sent before have these in their place. */
  readonly bars?: { readonly from: number; readonly to: number; readonly bars: readonly Bar[] };
  /** The levels whose recipe changed; `null` where it is gone. */
  readonly recipes?: Readonly<Partial<Record<Level, Recipe | null>>>;
}

const NOTHING_YET: Work = { tune: { bars: [] as readonly Bar[] } as Tune, recipes: {} };

/**
 * Tells works one after another. Messages between threads are copied; a tune of hundreds of bars would be copied for every key
 * stroke, and nothing that is known of it would be recognised. Works share what did not change, and so do their copies.
 */
export class WorkSender {
  private number = 0;
  private last = NOTHING_YET;

  next(work: Work): WorkMessage {
    const { last } = this;
    this.last = work;
    this.number += 1;
    const bars = changedBars(last.tune.bars, work.tune.bars);
    const { bars: _, ...head } = work.tune;
    const levels = LEVELS.filter((level) => last.recipes[level] !== work.recipes[level]);
    return {
      number: this.number,
      ...(!sameFields(head, last.tune) && { head }),
      ...(bars && { bars }),
      ...(levels.length > 0 && {
        recipes: Object.fromEntries(levels.map((level) => [level, work.recipes[level] ?? null])),
      }),
    };
  }
}

/** The other end: gives back each work, the parts that did not change as the same objects as before. */
export class WorkReceiver {
  private number = 0;
  private last = NOTHING_YET;

  /** @throws RangeError where a message was lost */
  take({ number, head, bars, recipes }: WorkMessage): Work {
    if (number !== this.number + 1) throw new RangeError(`work ${number} came after work ${this.number}`);
    this.number = number;
    const { tune } = this.last;
    const line = bars ? [...tune.bars.slice(0, bars.from), ...bars.bars, ...tune.bars.slice(bars.to)] : tune.bars;
    this.last = {
      tune: head || bars ? { ...(head ?? tune), bars: line } : tune,
      recipes: recipes ? withRecipes(this.last.recipes, recipes) : this.last.recipes,
    };
    return this.last;
  }
}

function withRecipes(before: Work['recipes'], changed: NonNullable<WorkMessage['recipes']>): Work['recipes'] {
  const after = { ...before, ...changed };
  return Object.fromEntries(Object.entries(after).filter(([, recipe]) => recipe !== null)) as Work['recipes'];
}

/** The run of bars between the first and the last that differ; none where all are the same objects. */
function changedBars(before: readonly Bar[], after: readonly Bar[]): WorkMessage['bars'] | undefined {
  const shorter = Math.min(before.length, after.length);
  let from = 0;
  while (from < shorter && before[from] === after[from]) from += 1;
  let ends = 0;
  while (ends < shorter - from && before[before.length - 1 - ends] === after[after.length - 1 - ends]) ends += 1;
  if (from === before.length && from === after.length) return undefined;
  return { from, to: before.length - ends, bars: after.slice(from, after.length - ends) };
}

function sameFields(head: Head, before: Tune): boolean {
  const { bars: _, ...was } = before;
  const [now, then] = [Object.entries(head), new Map<string, unknown>(Object.entries(was))];
  return now.length === then.size && now.every(([name, value]) => then.get(name) === value);
}
