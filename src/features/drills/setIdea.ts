import { withIdea } from '../../core/drills/sketch';
import type { Work } from '../../core/work/work';
import type { DrillIdea } from '../../core/score/drillIdea';

/**
 * A drill with its idea changed as the screen changed it: what differs between the idea that was shown and the next one is set in the present
 * one, and nothing else. A tune that is no drill stays as it is.
 */
export function withChangedIdea(work: Work, shown: DrillIdea, next: DrillIdea): Work {
  const { drill } = work.tune;
  if (!drill) return work;
  const fields = Object.entries({ ...drill, ...changedFields(shown, next) }).filter(([, value]) => value !== undefined);
  return { ...work, tune: withIdea(work.tune, Object.fromEntries(fields) as unknown as DrillIdea) };
}

/** Fields of the second that are not those of the first; one that is gone is set to nothing. */
function changedFields(shown: DrillIdea, next: DrillIdea): Partial<DrillIdea> {
  const names = new Set([...Object.keys(shown), ...Object.keys(next)]) as ReadonlySet<keyof DrillIdea>;
  return Object.fromEntries([...names].filter((name) => shown[name] !== next[name]).map((name) => [name, next[name]]));
}
