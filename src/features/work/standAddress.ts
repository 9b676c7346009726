import type { PlanItem } from '../../core/planning';

/** What the stand is told of an item of a plan: its work and step, its bars and its tempo. */
export function standQuery(item: PlanItem): URLSearchParams {
  return new URLSearchParams({
    work: item.work,
    step: item.step,
    ...(item.tempo !== undefined && { tempo: String(item.tempo) }),
    ...(item.fromBar !== undefined && { from: String(item.fromBar) }),
    ...(item.toBar !== undefined && { to: String(item.toBar) }),
  });
}
