import { currentStudio } from '../../../../../server/database';
import { handle, limitedJson, problemResponse } from '../../../../../server/http';
import { checkEntries, listedEntries, logPractice } from '../../../../../server/pupils';

interface Context {
  readonly params: Promise<{ readonly id: string }>;
}

const MAX_BYTES = 1_048_576;

/** The newest entries of a pupil's log, struck out or not. */
export function GET(_request: Request, { params }: Context): Promise<Response> {
  return handle(async () =>
    Response.json(
      { entries: await listedEntries(currentStudio(), (await params).id) },
      { headers: { 'cache-control': 'no-store' } },
    ),
  );
}

/** Adds entries to a pupil's log. Each has an id of its sender's: what arrives twice is written once. */
export function POST(request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const body = await limitedJson(request, MAX_BYTES);
    if (!body.ok) return body.problem;
    const checked = checkEntries(body.value);
    if (!checked.ok) return problemResponse(422, ...checked.problem);
    const added = await logPractice(currentStudio(), (await params).id, checked.value.entries);
    return added === undefined
      ? problemResponse(404, 'This pupil was not found: they may have been removed.')
      : Response.json({ added });
  });
}
