import { MOST_BYTES } from '../../../../core/formats/limits';
import { currentStudio } from '../../../../server/database';
import { answer, limitedJson, refuse } from '../../../../server/http';
import { addTune } from '../../../../server/tunes';
import { checkNewWork } from '../../../../server/workSchema';

/** Puts a whole work (tune and levels) on the shelf as a new tune. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const body = await limitedJson(request, 2 * MOST_BYTES);
    if (!body.ok) return body.problem;
    const checked = checkNewWork(body.value);
    if (!checked.ok) return refuse(422, ...checked.problem);
    return Response.json({ id: await addTune(currentStudio(), checked.value) }, { status: 201 });
  });
}
