import type { Tune } from '../score/tune';
import { MOST_WARNINGS } from './limits';
import type { FormatProblem } from './problem';

/** A tune with what was not understood on the way; or everything that made it unreadable. */
export type ReadResult =
  | { readonly ok: true; readonly tune: Tune; readonly warnings: readonly FormatProblem[] }
  | { readonly ok: false; readonly problems: readonly FormatProblem[] };

export function unreadable(...problems: readonly FormatProblem[]): ReadResult {
  return { ok: false, problems };
}

/** The first warnings; how many more there were is said, not hidden. */
export function fewWarnings(warnings: readonly FormatProblem[]): readonly FormatProblem[] {
  if (warnings.length <= MOST_WARNINGS) return warnings;
  const more = warnings.length - MOST_WARNINGS;
  return [...warnings.slice(0, MOST_WARNINGS), { code: 'not-kept', place: {}, found: `${more} more remarks`, right: 'the file has too many to list' }];
}
