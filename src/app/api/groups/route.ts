import { currentStudio } from '../../../server/database';
import { checkGroup } from '../../../server/groupSchema';
import { newGroup, pageOfGroups } from '../../../server/groups';
import { handle, limitedJson, problemResponse } from '../../../server/http';
import { isId } from '../../../server/ids';

const MAX_BYTES = 256 * 1024;

/** A page of the groups, by id: `?after=ID` gives those after the `next` of the page before. */
export function GET(request: Request): Promise<Response> {
  return handle(async () => {
    const after = new URL(request.url).searchParams.get('after') ?? undefined;
    if (after !== undefined && !isId(after))
      return problemResponse(400, 'after: it should be the `next` of the page before.');
    return Response.json(await pageOfGroups(currentStudio(), after));
  });
}

/** A new group of players. */
export function POST(request: Request): Promise<Response> {
  return handle(async () => {
    const body = await limitedJson(request, MAX_BYTES);
    if (!body.ok) return body.problem;
    const checked = checkGroup(body.value);
    if (!checked.ok) return problemResponse(422, ...checked.problem);
    return Response.json({ id: await newGroup(currentStudio(), checked.value), version: 1 }, { status: 201 });
  });
}
