import { instrumentById } from '../core/instruments/catalogue';
import type { Level } from '../core/instruments/instrument';
import { formedPartOfLevel } from '../core/levels/levelPart';
import { recipesOf, type Work } from '../core/levels/recipe/work';
import type { StudioDatabase } from '../db/studioDatabase';
import { findWork, type StoredTexts } from '../db/tuneRepository';
import { bookPdf } from '../engrave/pdf';
import type { Paper } from '../engrave/sheet';
import { engraver } from './engraving';
import type { MadeFile } from './http';
import { runOnPool } from './pool/pool';
import { buildId, contentKey } from './storedWork';

export const MOST_IN_BOOK = 12;

export interface BookWishes {
  readonly level: Level;
  readonly paper: Paper;
  /** For all drills; each has its own otherwise. */
  readonly instrument: string | undefined;
}

/** Drills of a studio as one book, made on a worker; `undefined` where none of them is a drill that is there. */
export async function drillBook(
  studio: StudioDatabase,
  ids: readonly string[],
  wishes: BookWishes,
): Promise<Pick<MadeFile, 'key' | 'make'> | undefined> {
  const found = await Promise.all(ids.map((id) => findWork(studio, id)));
  const stored = found.flatMap((one): readonly StoredTexts[] =>
    one ? [{ tune: one.tune, recipes: one.recipes }] : [],
  );
  if (stored.length === 0) return undefined;
  return {
    key: contentKey(buildId(), 'drillBook', stored, wishes),
    make: (signal) => runOnPool('drillBook', { stored, wishes }, signal),
  };
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
