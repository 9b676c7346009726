import { currentStudio } from '../../../server/database';
import { checkGroup } from '../../../server/groupSchema';
import { listGroups, newGroup } from '../../../server/groups';
import { answer, limitedJson, refuse } from '../../../server/http';

const MOST_BYTES = 256 * 1024;

export function GET(): Promise<Response> {
  return answer(async () => Response.json({ groups: await listGroups(currentStudio()) }));
}

/** A new group of players. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const body = await limitedJson(request, MOST_BYTES);
    if (!body.ok) return body.problem;
    const checked = checkGroup(body.value);
    if (!checked.ok) return refuse(422, ...checked.problem);
    return Response.json({ id: await newGroup(currentStudio(), checked.value), version: 1 }, { status: 201 });
  });
}
