import type { RecipeChange } from '../../core/work';
import type { PlanEdit, SoloWishes } from '../../core/solos';

/** What of a level's wishes for its solo is to be set; `undefined` puts one back to what the level does by itself. */
type SoloChange = NonNullable<RecipeChange['solo']>;

/** Sets some of a level's wishes for its solo, worked out of what is wished now where it builds on that. */
export type SetSolo = (what: string, change: SoloChange | ((present: SoloWishes) => SoloChange)) => void;

/** Makes edits in the plan of a level's solo, under the words that the history shows. */
export type EditPlan = (words: string, ...edits: readonly PlanEdit[]) => void;
