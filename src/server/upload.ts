import { MAX_BYTES } from '../core/score';
import { failure, success, type Result } from '../core/result';
import type { WorkDocuments } from '../db/tuneRepository';
import { problemResponse, tooLarge, withBody } from './http';
import type { BodyProblem } from './pool/checkingJobs';
import { runOnPool } from './pool/pool';
import type { SentSave } from './workSchema';

/** A work's JSON is larger than the file it was read from. */
const MAX_WORK_BYTES = 2 * MAX_BYTES;

/**
 * Reads the tune in a request on a worker: the body is the file as it is, `name` its file name. What cannot be read is
 * the refusal to send.
 */
export async function uploadedTune(request: Request): Promise<Result<WorkDocuments, Response>> {
  const chosen = Object.fromEntries(new URL(request.url).searchParams);
  const read = await withBody(request, MAX_BYTES, 'files', (bytes) =>
    runOnPool('readUpload', { bytes, chosen }, request.signal),
  );
  return settled(read, MAX_BYTES);
}

/** A save, checked on a worker. It is made even if its sender has hung up. */
export async function sentSave(request: Request): Promise<Result<SentSave, Response>> {
  const checked = await withBody(request, MAX_WORK_BYTES, 'saves', (bytes) => runOnPool('checkSave', bytes));
  return settled(checked, MAX_WORK_BYTES);
}

/** A work that is to become a tune of its own, checked on a worker. */
export async function sentWork(request: Request): Promise<Result<WorkDocuments, Response>> {
  const checked = await withBody(request, MAX_WORK_BYTES, 'files', (bytes) =>
    runOnPool('checkNewWork', bytes, request.signal),
  );
  return settled(checked, MAX_WORK_BYTES);
}

/** @param result none: the body was larger than it may be */
function settled<Value>(result: Result<Value, BodyProblem> | undefined, most: number): Result<Value, Response> {
  if (!result) return failure(tooLarge(most));
  return result.ok
    ? success(result.value)
    : failure(problemResponse(result.problem.status, ...result.problem.messages));
}
