import { readOptionsOf } from '../core/formats/json/readOptions';
import { MOST_BYTES } from '../core/formats/limits';
import { formatProblemText } from '../core/formats/problem';
import { readTune } from '../core/formats/readTune';
import { failure, success, type Result } from '../core/result';
import type { Tune } from '../core/score/tune';
import { limitedBody, refuse } from './http';

/** Reads the tune in a request: the body is the file as it is, `name` its file name. What cannot be read is the refusal to send. */
export async function uploadedTune(request: Request): Promise<Result<Tune, Response>> {
  const bytes = await limitedBody(request, MOST_BYTES);
  if (!bytes) return failure(refuse(413, `The file is too large; at most ${MOST_BYTES / 1_048_576} MB are read.`));
  const chosen = Object.fromEntries(new URL(request.url).searchParams);
  const options = readOptionsOf(chosen);
  if (!options.ok) return failure(refuse(400, ...options.problem));
  const read = readTune(bytes, chosen['name'] ?? '', options.value);
  return read.ok ? success(read.value.tune) : failure(refuse(422, ...read.problem.map(formatProblemText)));
}
