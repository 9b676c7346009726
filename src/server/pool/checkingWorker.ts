import { CHECKING_JOBS } from './checkingJobs';
import { giveWay } from './niceness';

giveWay();

/** One job as the pool sends it. @throws Error what the job throws; the pool hands it on */
export default function runJob({
  job,
  args,
}: {
  readonly job: keyof typeof CHECKING_JOBS;
  readonly args: never;
}): unknown {
  return CHECKING_JOBS[job](args);
}
