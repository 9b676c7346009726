import type { RecipeChange } from '../../core/levels/recipe/work';

/** What of a level's wishes for its solo is to be set; `undefined` puts one back to what the level does by itself. */
export type SoloChange = NonNullable<RecipeChange['solo']>;
