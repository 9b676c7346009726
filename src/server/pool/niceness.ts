import { readlinkSync } from 'node:fs';
import { setPriority } from 'node:os';
import { workerData } from 'node:worker_threads';

/**
 * Makes this thread give way to others as far as its pool says, leaving all of an idle machine to it. On Linux each
 * thread has a number of its own and can be made nicer alone; where that cannot be done, it is done without.
 */
export function giveWay(): void {
  const niceness = nicenessIn(workerData);
  if (niceness === 0) return;
  try {
    setPriority(Number(readlinkSync('/proc/thread-self').split('/').at(-1)), niceness);
  } catch {
    // Another system, or a number that is not ours to change: work then shares the processor evenly.
  }
}

/** The pool's settings come wrapped in a list with its own. */
function nicenessIn(data: unknown): number {
  const found = [data].flat(3).find((one) => typeof one === 'object' && one !== null && 'niceness' in one);
  return typeof found === 'object' && found !== null && 'niceness' in found && typeof found.niceness === 'number'
    ? found.niceness
    : 0;
}
