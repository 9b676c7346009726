/** A saved version as far as its age matters. */
export interface AgedRevision {
  readonly revision: number;
  readonly isNamed: boolean;
  readonly savedAt: Date;
}

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;
/** Saves of one sitting join into one for each stretch of so many milliseconds. */
const SITTING = 5 * MINUTE;
/**
 * So many of the newest stay as they are, however close together, and whatever a clock that jumped makes of their age.
 */
const NEWEST = 20;

/**
 * Which versions may go. The newest 20 stay; of the others of the last 24 hours the last of every five minutes, of the
 * week before the last of each hour, of what is older the last of each day (UTC). Named ones and the first stay in any
 * case.
 * @param revisions newest first
 */
export function superfluous(revisions: readonly AgedRevision[], now: Date): readonly number[] {
  const kept = new Set<string>();
  return revisions.flatMap(({ revision, isNamed, savedAt }, index) => {
    const age = now.getTime() - savedAt.getTime();
    const span = age < DAY ? SITTING : age < 7 * DAY ? HOUR : DAY;
    // Stretches of each length are told apart, so that an hour's number is never taken for a day's.
    const stretch = `${span} ${Math.floor(savedAt.getTime() / span)}`;
    if (index < NEWEST) {
      kept.add(stretch);
      return [];
    }
    if (isNamed || index === revisions.length - 1) return [];
    const isLater = kept.has(stretch);
    kept.add(stretch);
    return isLater ? [revision] : [];
  });
}
