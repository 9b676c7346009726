import { dequal } from 'dequal';
import type { Level } from '../instruments';
import type { Recipe } from './recipe';
import type { RecipeChange } from './work';

/**
 * The parts of a recipe that serve any tune: how the melody is treated, what is printed, and the plan of a solo.
 * Instrument, key, tempo and single bars do not.
 */
const SAVED_GROUPS = ['melody', 'rhythm', 'embellish', 'limits', 'articulation', 'form', 'page', 'solo'] as const;
type SavedGroup = (typeof SAVED_GROUPS)[number];

/** What of those groups belongs to one tune or player all the same. A new field is saved unless it is named here. */
const OF_ONE_TUNE = {
  embellish: ['seed'],
  limits: ['range', 'known', 'remedies'],
  page: ['pins', 'barAids'],
  solo: ['seed', 'given', 'targets'],
} as const satisfies { readonly [Group in SavedGroup]?: readonly (keyof NonNullable<Recipe[Group]>)[] };

export type SavedWishes = Pick<Recipe, SavedGroup>;

/** A recipe of the studio, under a name. */
export interface SavedRecipe {
  readonly id: string;
  readonly name: string;
  /** For which level it was made; it may be used at any. */
  readonly level: Level;
  readonly wishes: SavedWishes;
}

export const MAX_RECIPE_NAME = 60;

/** What of a recipe is saved under a name. */
export function savedWishes(recipe: Recipe): SavedWishes {
  const entries = SAVED_GROUPS.flatMap((group): readonly (readonly [string, unknown])[] => {
    const value = recipe[group];
    if (typeof value !== 'object') return value === undefined ? [] : [[group, value]];
    const fields = Object.entries(value).filter(([field]) => !isOfOneTune(group, field));
    return fields.length > 0 ? [[group, Object.fromEntries(fields)]] : [];
  });
  return Object.fromEntries(entries);
}

/** The change that makes a level do just what was saved: what is not said there goes back to the level's default. */
export function savedChange(recipe: Recipe, { wishes }: Pick<SavedRecipe, 'wishes'>): RecipeChange {
  const before = savedWishes(recipe);
  return Object.fromEntries(
    SAVED_GROUPS.map((group) => {
      const [old, wanted] = [before[group], wishes[group]];
      if (group === 'melody') return [group, wanted];
      const cleared = Object.fromEntries(Object.keys(old ?? {}).map((field) => [field, undefined]));
      return [group, { ...cleared, ...(typeof wanted === 'object' ? wanted : {}) }];
    }),
  );
}

/** Whether a level does just what was saved, in whatever order its fields were set. */
export function isAsSaved(recipe: Recipe, { wishes }: Pick<SavedRecipe, 'wishes'>): boolean {
  return dequal(savedWishes(recipe), wishes);
}

function isOfOneTune(group: SavedGroup, field: string): boolean {
  return group in OF_ONE_TUNE && OF_ONE_TUNE[group as keyof typeof OF_ONE_TUNE].some((one) => one === field);
}
