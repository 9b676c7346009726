import type { Level } from '../instruments/instrument';
import type { Tune } from '../score/tune';
import { partFor } from './partFor';
import { aidWishes, fingerWishes, instrumentOf, melodyWishes } from './recipe';
import { recipesOf, type Work } from './work';

export type PartMaker = (tune: Tune, level: Level, recipes: Work['recipes']) => ReturnType<typeof partFor>;

/** The part of a level as its recipe says. */
export const partOfLevel: PartMaker = (tune, level, recipes) => {
  const recipe = recipesOf({ recipes })[level];
  const instrument = instrumentOf(recipe);
  return partFor(tune, {
    level, instrument, ...(recipe.key && { key: recipe.key }), ...(recipe.perMinute !== undefined && { perMinute: recipe.perMinute }), ...(recipe.remedies && { remedies: recipe.remedies }),
    melody: melodyWishes(recipe), aids: aidWishes(recipe, level), ...(recipe.syllables && { syllables: recipe.syllables }), fingers: fingerWishes(recipe, level),
  });
};
