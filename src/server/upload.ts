import { MOST_BYTES } from '../core/formats/limits';
import { failure, success, type Result } from '../core/result';
import type { WorkDocuments } from '../db/tuneRepository';
import { limitedBody, refuse, tooLarge } from './http';
import type { BodyProblem } from './pool/jobs';
import { runOnPool } from './pool/pool';
import type { SentSave } from './workSchema';

/** A work's JSON is larger than the file it was read from. */
const MOST_WORK_BYTES = 2 * MOST_BYTES;

/** Reads the tune in a request on a worker: the body is the file as it is, `name` its file name. What cannot be read is the refusal to send. */
export async function uploadedTune(request: Request): Promise<Result<WorkDocuments, Response>> {
  const bytes = await limitedBody(request, MOST_BYTES);
  if (!bytes) return failure(tooLarge(MOST_BYTES));
  const chosen = Object.fromEntries(new URL(request.url).searchParams);
  return settled(await runOnPool('readUpload', { bytes, chosen }, request.signal));
}

/** A save, checked on a worker. */
export async function sentSave(request: Request): Promise<Result<SentSave, Response>> {
  const bytes = await limitedBody(request, MOST_WORK_BYTES);
  return bytes ? settled(await runOnPool('checkSave', bytes)) : failure(tooLarge(MOST_WORK_BYTES));
}

/** A work that is to become a tune of its own, checked on a worker. */
export async function sentWork(request: Request): Promise<Result<WorkDocuments, Response>> {
  const bytes = await limitedBody(request, MOST_WORK_BYTES);
  return bytes ? settled(await runOnPool('checkNewWork', bytes)) : failure(tooLarge(MOST_WORK_BYTES));
}

function settled<Value>(result: Result<Value, BodyProblem>): Result<Value, Response> {
  return result.ok ? success(result.value) : failure(refuse(result.problem.status, ...result.problem.messages));
}
