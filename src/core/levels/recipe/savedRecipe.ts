import type { Level } from '../../instruments/instrument';
import type { Recipe } from './recipe';

/** What of a recipe serves any tune: how the melody is treated and what is printed, not key, tempo, instrument or single bars. */
export const KEPT_FIELDS = [
  'form',
  'melody',
  'shortest',
  'syncopation',
  'ties',
  'dotted',
  'leap',
  'manner',
  'swing',
  'leaveOut',
  'density',
  'devices',
  'aids',
  'syllables',
  'marks',
  'school',
] as const satisfies readonly (keyof Recipe)[];
export type KeptWishes = Pick<Recipe, (typeof KEPT_FIELDS)[number]>;

/** A recipe of a studio's own, under a name. */
export interface KeptRecipe {
  readonly id: string;
  readonly name: string;
  /** For which level it was made; it may be used at any. */
  readonly level: Level;
  readonly wishes: KeptWishes;
}

export const LONGEST_RECIPE_NAME = 60;

/** What is kept of a recipe. */
export function keptWishes(recipe: Recipe): KeptWishes {
  return Object.fromEntries(
    KEPT_FIELDS.flatMap((field) => (recipe[field] === undefined ? [] : [[field, recipe[field]]])),
  );
}

/** The change that gives a level the kept wishes: what they do not say goes back to the level's default. */
export function keptChange({ wishes }: Pick<KeptRecipe, 'wishes'>): {
  readonly [Field in keyof KeptWishes]: KeptWishes[Field] | undefined;
} {
  return Object.fromEntries(KEPT_FIELDS.map((field) => [field, wishes[field]]));
}

/** Whether a level does just what is kept. */
export function isKept(recipe: Recipe, { wishes }: Pick<KeptRecipe, 'wishes'>): boolean {
  return KEPT_FIELDS.every((field) => JSON.stringify(recipe[field]) === JSON.stringify(wishes[field]));
}
