import type { Tune } from '../../score';
import type { Change } from '../../work';
import { drillPart } from './drillPart';
import { levelLine } from '../line/levelLine';
import { finished, type Part, type PartRequest } from './part';

export type { Part, PartRequest } from './part';

/**
 * The part of one level for one instrument, with a word for everything that is not as in the tune. A drill is laid out
 * anew.
 */
export function partFor(
  tune: Tune,
  request: PartRequest,
): { readonly value: Part; readonly changes: readonly Change[] } {
  if (tune.drill) return drillPart(tune.drill, request, request.drill, tune.title);
  const { source, line } = levelLine(tune, request);
  return finished(source, request, line);
}
