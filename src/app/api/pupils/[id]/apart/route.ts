import { z } from 'zod';
import { checked } from '../../../../../server/checked';
import { currentStudio } from '../../../../../server/database';
import { handle, limitedJson, problemResponse } from '../../../../../server/http';
import { changePupil, openPupil } from '../../../../../server/pupils';

interface Context {
  readonly params: Promise<{ readonly id: string }>;
}

const schema = z.strictObject({ other: z.string().regex(/^[\w-]{1,40}$/) });
/** Pupils of one name who are other people: more of them nobody teaches. */
const MAX_OTHERS = 200;

/** Notes that two pupils of one name are two people, so that it is not asked again. */
export function POST(request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const body = await limitedJson(request, 1_024);
    if (!body.ok) return body.problem;
    const read = checked(schema, body.value);
    if (!read.ok) return problemResponse(422, ...read.problem);
    const { id } = await params;
    const opened = await openPupil(currentStudio(), id);
    if (!opened) return problemResponse(404, 'This pupil was not found: they may have been removed.');
    const notThese = [...new Set([...(opened.pupil.notThese ?? []), read.value.other])].slice(-MAX_OTHERS);
    const outcome = await changePupil(currentStudio(), id, opened.version, { ...opened.pupil, notThese });
    return outcome.kind === 'saved'
      ? Response.json({ ok: true })
      : problemResponse(409, 'This pupil was changed meanwhile; please try again.');
  });
}
