import { formatProblemText, parseJson, readOptionsOf, readTune } from '../../core/formats';
import { withStartKey } from '../../core/keys';
import { failure, success } from '../../core/result';
import type { Checked } from '../checked';
import { checkNewWork, checkSave, checkStoredTexts } from '../workSchema';

/** How a body that should hold JSON is wrong: no JSON at all (400), or not what is wanted (422). */
export interface BodyProblem {
  readonly status: 400 | 422;
  readonly messages: readonly string[];
}

function checkedBody<Value>(bytes: Uint8Array, check: (data: unknown) => Checked<Value>) {
  const data = parseJson(new TextDecoder().decode(bytes));
  if (!data.ok) return failure<BodyProblem>({ status: 400, messages: [`The request is not JSON: ${data.problem}`] });
  const checked = check(data.value);
  return checked.ok ? checked : failure<BodyProblem>({ status: 422, messages: checked.problem });
}

/** What is read and checked on a worker: what goes in and comes out is copied between threads, so it is plain data. */
export const CHECKING_JOBS = {
  /** Reads a file of any format that is read. */
  readUpload: ({
    bytes,
    chosen,
  }: {
    readonly bytes: Uint8Array;
    readonly chosen: Readonly<Record<string, string>>;
  }) => {
    const options = readOptionsOf(chosen);
    if (!options.ok) return failure<BodyProblem>({ status: 400, messages: options.problem });
    const read = readTune(bytes, chosen['name'] ?? '', options.value);
    if (!read.ok) return failure<BodyProblem>({ status: 422, messages: read.problem.map(formatProblemText) });
    // A reader that let something through which no document may hold must not make a tune that can never be opened.
    const checked = checkNewWork(withStartKey({ tune: read.value.tune, recipes: {} }));
    return checked.ok ? success(checked.value) : failure<BodyProblem>({ status: 422, messages: checked.problem });
  },
  checkSave: (bytes: Uint8Array) => checkedBody(bytes, checkSave),
  checkNewWork: (bytes: Uint8Array) => checkedBody(bytes, checkNewWork),
  checkStored: checkStoredTexts,
} as const;
