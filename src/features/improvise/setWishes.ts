import type { ImprovisingWishes } from '../../core/pools';

/** What to set; `undefined` puts a wish back to what the level does by itself. */
type WishesChange = { readonly [Field in keyof ImprovisingWishes]?: ImprovisingWishes[Field] | undefined };

/**
 * Sets some of what was decided about a level's notes, worked out of what is decided now, under the words that the
 * history shows.
 */
export type SetWishes = (
  what: string,
  change: WishesChange | ((present: Partial<ImprovisingWishes>) => WishesChange),
) => void;
