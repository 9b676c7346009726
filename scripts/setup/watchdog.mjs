// When a process that answers nothing is to be replaced: not while it starts, and not as soon while it works.

/** A process that has answered once and is now idle and deaf is no use after so long. Milliseconds. */
const DEAF_AFTER = 20_000;
/** One that uses its processor may be busy with much, and is given longer. */
const BUSY_AFTER = 120_000;
/** One that never answered and does nothing has hung while starting. */
const START_AFTER = 180_000;
/** What of one processor counts as working, between two looks. */
const WORKING = 0.2;

/**
 * Watches one process from its start; each new process gets a watchdog of its own.
 * @param started milliseconds of any clock
 */
export function watchdog(started) {
  let heard;
  let last = { at: started, used: 0 };
  let idleSince = started;
  return {
    /**
     * @param now milliseconds of the same clock
     * @param answers whether it has just answered
     * @param used processor time that it has used so far, in milliseconds; none where that cannot be known
     * @returns whether it is to be replaced, as words that say why
     */
    look({ now, answers, used }) {
      const isWorking = used !== undefined && used - last.used > WORKING * (now - last.at);
      last = { at: now, used: used ?? 0 };
      if (isWorking || answers) idleSince = now;
      if (answers) {
        heard = now;
        return undefined;
      }
      const seconds = (since) => Math.round((now - since) / 1_000);
      if (heard === undefined)
        return now - idleSince > START_AFTER
          ? `has done nothing for ${seconds(idleSince)} s since it was started`
          : undefined;
      if (now - heard > BUSY_AFTER) return `has not answered for ${seconds(heard)} s`;
      return now - Math.max(heard, idleSince) > DEAF_AFTER
        ? `has not answered for ${seconds(heard)} s, and is idle`
        : undefined;
    },
  };
}
