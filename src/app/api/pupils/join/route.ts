import { z } from 'zod';
import { checked } from '../../../../server/checked';
import { currentStudio } from '../../../../server/database';
import { handle, limitedJson, problemResponse } from '../../../../server/http';
import { joinTwoPupils } from '../../../../server/pupils';

const schema = z.strictObject({ kept: z.string().max(40), other: z.string().max(40) });

/** Makes two pupils one: the other's work, log and places in groups become those of the kept one. */
export function POST(request: Request): Promise<Response> {
  return handle(async () => {
    const body = await limitedJson(request, 1_024);
    if (!body.ok) return body.problem;
    const read = checked(schema, body.value);
    if (!read.ok) return problemResponse(422, ...read.problem);
    switch (await joinTwoPupils(currentStudio(), read.value.kept, read.value.other)) {
      case 'joined':
        return Response.json({ ok: true });
      case 'missing':
        return problemResponse(404, 'One of the two was not found: they may have been removed or joined already.');
      case 'changed':
        return problemResponse(409, 'One of the two was changed meanwhile. Nothing was joined; please try again.');
    }
  });
}
