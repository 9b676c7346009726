// How long to wait before something that has ended is started again.

/** Milliseconds. */
const SHORTEST_PAUSE = 500;
const MAX_PAUSE = 30_000;
/** After a run of so long the next start comes at once. */
const WELL_AFTER = 10_000;

/** A pause that doubles with each start that comes to nothing soon. */
export function backoff() {
  let pause = SHORTEST_PAUSE;
  return {
    /** @param lived milliseconds that the last one ran */
    next(lived) {
      const now = lived > WELL_AFTER ? SHORTEST_PAUSE : pause;
      pause = Math.min(MAX_PAUSE, now * 2);
      return now;
    },
  };
}
