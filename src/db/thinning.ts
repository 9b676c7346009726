/** A version as far as its age matters. */
export interface AgedRevision {
  readonly revision: number;
  readonly isNamed: boolean;
  readonly savedAt: Date;
}

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/**
 * Which versions may go: all of the last 24 hours stay, of the week before the last of each hour, of what is older the last of each
 * day (UTC); named ones and the newest stay in any case.
 * @param revisions newest first
 */
export function superfluous(revisions: readonly AgedRevision[], now: Date): readonly number[] {
  const kept = new Set<number>();
  return revisions.flatMap(({ revision, isNamed, savedAt }, index) => {
    const age = now.getTime() - savedAt.getTime();
    if (age < DAY || isNamed) return [];
    const span = age < 7 * DAY ? HOUR : DAY;
    // Hours and days are told apart, so that an hour's number is never taken for a day's.
    const stretch = Math.floor(savedAt.getTime() / span) * span + (span === HOUR ? 1 : 0);
    const isLater = kept.has(stretch);
    kept.add(stretch);
    return isLater && index > 0 ? [revision] : [];
  });
}
