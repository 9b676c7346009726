import { currentStudio } from '../../../../server/database';
import { handle } from '../../../../server/http';
import { addTune } from '../../../../server/tunes';
import { sentWork } from '../../../../server/upload';

/** Puts a whole work (tune and levels) on the shelf as a new tune. */
export function POST(request: Request): Promise<Response> {
  return handle(async () => {
    const work = await sentWork(request);
    if (!work.ok) return work.problem;
    return Response.json({ id: await addTune(currentStudio(), work.value, 'begun') }, { status: 201 });
  });
}
