import { MOST_BYTES } from '../../../core/formats/limits';
import { currentStudio } from '../../../server/database';
import { answer, limitedBody, refuse } from '../../../server/http';
import { addTune, readFile } from '../../../server/tunes';

/** Brings a tune in: the body is the file as it is, `name` its file name. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const bytes = await limitedBody(request, MOST_BYTES);
    if (!bytes) return refuse(413, `The file is too large; at most ${MOST_BYTES / 1_048_576} MB are read.`);
    const read = readFile(bytes, new URL(request.url).searchParams.get('name') ?? '');
    if (!read.ok) return refuse(422, ...read.problems);
    const id = await addTune(currentStudio(), { tune: read.tune, recipes: {} });
    return Response.json({ id }, { status: 201 });
  });
}
