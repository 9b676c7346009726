import { MOST_BYTES } from '../core/formats/limits';
import { limitedBody, refuse } from './http';
import { readOptionsOf } from './readOptions';
import { readFile, type BroughtIn } from './tunes';

/** Reads the tune in a request: the body is the file as it is, `name` its file name. What cannot be read is the refusal to send. */
export async function uploadedTune(
  request: Request,
): Promise<Extract<BroughtIn, { ok: true }> | { readonly ok: false; readonly refusal: Response }> {
  const bytes = await limitedBody(request, MOST_BYTES);
  if (!bytes)
    return { ok: false, refusal: refuse(413, `The file is too large; at most ${MOST_BYTES / 1_048_576} MB are read.`) };
  const query = new URL(request.url).searchParams;
  const wanted = readOptionsOf(query);
  if (!wanted.ok) return { ok: false, refusal: refuse(400, ...wanted.messages) };
  const read = readFile(bytes, query.get('name') ?? '', wanted.options);
  return read.ok ? read : { ok: false, refusal: refuse(422, ...read.problems) };
}
