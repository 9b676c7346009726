import { currentStudio } from '../../../../server/database';
import { checkCustomInstrument } from '../../../../server/groupSchema';
import { dropInstrument, saveInstrument } from '../../../../server/groups';
import { handle, limitedJson, problemResponse } from '../../../../server/http';

interface Context {
  readonly params: Promise<{ readonly id: string }>;
}

/** Keeps a custom instrument of the studio: new, or changed. */
export function PUT(request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const body = await limitedJson(request, 32 * 1024);
    if (!body.ok) return body.problem;
    const checked = checkCustomInstrument(body.value);
    if (!checked.ok) return problemResponse(422, ...checked.problem);
    if (checked.value.id !== (await params).id) return problemResponse(422, 'id: it differs from the address');
    await saveInstrument(currentStudio(), checked.value);
    return Response.json({ ok: true });
  });
}

export function DELETE(_: Request, { params }: Context): Promise<Response> {
  return handle(async () =>
    (await dropInstrument(currentStudio(), (await params).id))
      ? Response.json({ ok: true })
      : problemResponse(404, 'This instrument was not found: it may have been removed.'),
  );
}
