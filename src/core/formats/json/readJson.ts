import { failure, success } from '../../result';
import { scoreProblems, type Tune, TUNE_SCHEMA } from '../../score';
import { fromScoreProblem, type FormatProblem } from '../problem';
import { noChoices, unreadable, type ReadResult } from '../readResult';
import { tuneSizeProblems, withUsualTempos } from '../finish';
import { parseJson } from './parseJson';
import { tuneSchema, upgraded } from '../../work/stored';

/** What marks a `.reed.json` file as ours. */
const FORMAT = 'reed-hook-tune';

/** Reads our own JSON. All problems at once, each with its path. */
export function readJson(text: string): ReadResult {
  const parsed = parseJson(text);
  if (!parsed.ok)
    return unreadable({ code: 'bad-json', place: {}, found: parsed.problem, right: 'export the tune again' });
  return readTuneFile(parsed.value);
}

/** The tune in the parsed contents of one of our own files. All problems at once, each with its path. */
export function readTuneFile(data: unknown): ReadResult {
  if (typeof data !== 'object' || data === null || !('format' in data) || data.format !== FORMAT || !('tune' in data)) {
    return unreadable({
      code: 'bad-document',
      place: {},
      found: 'no tune in it',
      right: `it needs "format": "${FORMAT}" and "tune"`,
    });
  }
  const read = readTuneDocument(data.tune);
  if (!read.ok) return read;
  const large = tuneSizeProblems(read.value.tune);
  if (large.length > 0) return failure(large);
  const warnings = [...read.value.warnings];
  return success({ ...read.value, tune: withUsualTempos(read.value.tune, warnings), warnings });
}

/**
 * Checks a tune document that came from outside: an older one is upgraded, then its shape, then that its bars add up.
 */
export function readTuneDocument(found: unknown): ReadResult {
  const data = upgraded(found);
  const schema = typeof data === 'object' && data !== null && 'schema' in data ? data.schema : undefined;
  if (typeof schema === 'number' && schema > TUNE_SCHEMA) {
    return unreadable({
      code: 'bad-document',
      place: {},
      found: `schema ${schema}`,
      right: `this version reads up to ${TUNE_SCHEMA}; update it`,
    });
  }
  const parsed = tuneSchema.safeParse(data);
  if (!parsed.success) {
    const problems = parsed.error.issues.slice(0, 20).map((issue): FormatProblem => ({
      code: 'bad-document',
      place: {},
      found: issue.path.join('.') || 'the document',
      right: issue.message,
    }));
    return failure(problems);
  }
  const broken = scoreProblems(parsed.data);
  if (broken.length > 0) return failure(broken.map(fromScoreProblem));
  return success({ tune: parsed.data, warnings: [], choices: noChoices(parsed.data) });
}

export function writeJson(tune: Tune): string {
  return `${JSON.stringify({ format: FORMAT, tune }, undefined, 1)}\n`;
}
