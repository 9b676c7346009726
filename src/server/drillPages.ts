import { instrumentById, type Level } from '../core/instruments';
import { formedPartOfLevel } from '../core/levels';
import { recipesOf, type Work } from '../core/work';
import { bookPdf } from '../engrave/pdf';
import type { Paper } from '../engrave/sheet';
import { engraver } from './engraving';

export interface BookWishes {
  readonly level: Level;
  readonly paper: Paper;
  /** For all drills; each has its own otherwise. */
  readonly instrument: string | undefined;
}

/** Makes the book; `undefined` where none of the works is a drill. */
export async function makeDrillBook(
  works: readonly Work[],
  { level, paper, instrument }: BookWishes,
): Promise<Uint8Array | undefined> {
  const drills = works.filter(({ tune }) => tune.drill !== undefined);
  const parts = drills.map((work) => {
    const { instrument: own, custom: _, ...recipe } = recipesOf(work)[level];
    const isGiven = instrument !== undefined && instrumentById(instrument) !== undefined;
    const recipes = isGiven ? { ...work.recipes, [level]: { ...recipe, instrument: instrument || own } } : work.recipes;
    return formedPartOfLevel(work.tune, level, recipes).part;
  });
  return parts.length > 0 ? bookPdf(await engraver(), 'Drills', parts, paper) : undefined;
}
