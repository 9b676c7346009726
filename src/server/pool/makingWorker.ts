import { engraver } from '../engraving';
import { MAKING_JOBS } from './makingJobs';
import { giveWay } from './niceness';

giveWay();
// Who comes first need not wait for the engraver; a start that fails is tried again by the first job that wants it.
engraver().catch(() => undefined);

/** One job as the pool sends it. @throws Error what the job throws; the pool hands it on */
export default function runJob({
  job,
  args,
}: {
  readonly job: keyof typeof MAKING_JOBS;
  readonly args: never;
}): Promise<unknown> {
  return Promise.resolve(MAKING_JOBS[job](args));
}
