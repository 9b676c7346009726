import { z } from 'zod';
import { pupilSchema } from '../../../../core/formats';
import { checked } from '../../../../server/checked';
import { currentStudio } from '../../../../server/database';
import { handle, limitedJson, problemResponse } from '../../../../server/http';
import { pupilFromGroup } from '../../../../server/pupils';

const MAX_BYTES = 64 * 1024;
const schema = z.strictObject({ group: z.string().max(40), player: z.string().max(40), pupil: pupilSchema });

/** A player of a group becomes a pupil, and stays in the group as that. */
export function POST(request: Request): Promise<Response> {
  return handle(async () => {
    const body = await limitedJson(request, MAX_BYTES);
    if (!body.ok) return body.problem;
    const read = checked(schema, body.value);
    if (!read.ok) return problemResponse(422, ...read.problem);
    const { group, player, pupil } = read.value;
    const id = await pupilFromGroup(currentStudio(), group, player, pupil);
    return id === undefined
      ? problemResponse(404, 'This player was not found: the group may have been changed or removed.')
      : Response.json({ id }, { status: 201 });
  });
}
