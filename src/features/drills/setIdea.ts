import type { DrillIdea } from '../../core/score';

/**
 * What a screen changed in an idea: the fields of the second that are not those of the first; one that is gone is set
 * to nothing. That alone is set in the present idea, which may be further than the one that was shown.
 */
export function changedFields(
  shown: DrillIdea,
  next: DrillIdea,
): { readonly [Field in keyof DrillIdea]?: DrillIdea[Field] | undefined } {
  const names = new Set([...Object.keys(shown), ...Object.keys(next)]) as ReadonlySet<keyof DrillIdea>;
  return Object.fromEntries([...names].filter((name) => shown[name] !== next[name]).map((name) => [name, next[name]]));
}
