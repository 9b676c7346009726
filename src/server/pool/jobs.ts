import type { CHECKING_JOBS } from './checkingJobs';
import type { MAKING_JOBS } from './makingJobs';

/** Everything that is done on a worker, by name. Types alone: whoever asks for a job need not load what does it. */
type Jobs = typeof CHECKING_JOBS & typeof MAKING_JOBS;
export type JobName = keyof Jobs;
export type JobArgs<Name extends JobName> = Parameters<Jobs[Name]>[0];
export type JobResult<Name extends JobName> = Awaited<ReturnType<Jobs[Name]>>;
