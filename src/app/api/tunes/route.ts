import { currentStudio } from '../../../server/database';
import { handle, problemResponse } from '../../../server/http';
import { isId } from '../../../server/ids';
import { WORK_KINDS } from '../../../db/tuneRepository';
import { addTune, listShelf } from '../../../server/tunes';
import { uploadedTune } from '../../../server/upload';

/**
 * A page of the shelf: `?search=WORDS`, `?kind=tune|drill`, and the last title and id of the page before as
 * `afterTitle` and `afterId`.
 */
export function GET(request: Request): Promise<Response> {
  return handle(async () => {
    const query = new URL(request.url).searchParams;
    const id = query.get('afterId');
    if (id !== null && !isId(id))
      return problemResponse(400, 'afterId: it should be the id of the last tune of the page before.');
    const after = id === null ? undefined : { title: (query.get('afterTitle') ?? '').slice(0, 500), id };
    const kind = WORK_KINDS.find((known) => known === query.get('kind'));
    return Response.json(
      await listShelf(currentStudio(), query.get('search') ?? '', { ...(after && { after }), ...(kind && { kind }) }),
    );
  });
}

/** Brings a tune in: the body is the file as it is, `name` its file name. */
export function POST(request: Request): Promise<Response> {
  return handle(async () => {
    const read = await uploadedTune(request);
    if (!read.ok) return read.problem;
    const id = await addTune(currentStudio(), read.value, 'brought in');
    return Response.json({ id }, { status: 201 });
  });
}
