import { readlinkSync } from 'node:fs';
import { setPriority } from 'node:os';
import { engraver } from '../engraving';
import { JOBS, type JobName } from './jobs';

/** Work gives way to answering: a niceness that leaves all of an idle machine to the work. */
const NICENESS = 19;

makeNicer();
// Who comes first need not wait for the engraver; a start that fails is tried again by the first job that wants it.
engraver().catch(() => undefined);

/** One job as the pool sends it. @throws Error what the job throws; the pool hands it on */
export default function runJob({ job, args }: { readonly job: JobName; readonly args: never }): Promise<unknown> {
  return Promise.resolve(JOBS[job](args));
}

/** On Linux each thread has a number of its own and can be made nicer alone; where that cannot be done, it is done without. */
function makeNicer(): void {
  try {
    setPriority(Number(readlinkSync('/proc/thread-self').split('/').at(-1)), NICENESS);
  } catch {
    // Another system, or a number that is not ours to change: work then shares the processor evenly.
  }
}
