import { currentStudio } from '../../../server/database';
import { handle, limitedJson, problemResponse } from '../../../server/http';
import { checkPupil, newStoredPupil } from '../../../server/pupils';

const MAX_BYTES = 512 * 1024;

/** A new pupil. */
export function POST(request: Request): Promise<Response> {
  return handle(async () => {
    const body = await limitedJson(request, MAX_BYTES);
    if (!body.ok) return body.problem;
    const checked = checkPupil(body.value);
    if (!checked.ok) return problemResponse(422, ...checked.problem);
    return Response.json({ id: await newStoredPupil(currentStudio(), checked.value), version: 1 }, { status: 201 });
  });
}
