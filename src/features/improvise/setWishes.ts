import type { ImprovisingWishes } from '../../core/pools/wishes';

/** Sets some of what was decided about a level's notes, under the words that the history shows. */
export type SetWishes = (
  what: string,
  change: { readonly [Field in keyof ImprovisingWishes]?: ImprovisingWishes[Field] | undefined },
) => void;
