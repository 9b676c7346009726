import { derived } from '../derived';
import type { Tune } from './tune';

/**
 * The tune without what was decided about playing it together: the same object as long as the rest of it stays the
 * same, so that what was worked out of it holds.
 */
export const withoutTogether = derived(
  (tune: Tune): Tune => {
    if (!tune.together) return tune;
    const { together: _, ...plain } = tune;
    return plain;
  },
  { most: 2, by: ({ bars, together: _, ...head }) => [bars, JSON.stringify(head)] },
);
