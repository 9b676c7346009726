import { currentStudio } from '../../../server/database';
import { answer } from '../../../server/http';
import { addTune } from '../../../server/tunes';
import { uploadedTune } from '../../../server/upload';

/** Brings a tune in: the body is the file as it is, `name` its file name. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const read = await uploadedTune(request);
    if (!read.ok) return read.problem;
    const id = await addTune(currentStudio(), { tune: read.value, recipes: {} });
    return Response.json({ id }, { status: 201 });
  });
}
