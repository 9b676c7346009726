import { currentStudio } from '../../../../../../server/database';
import { handle, problemResponse } from '../../../../../../server/http';
import { strike } from '../../../../../../server/pupils';

interface Context {
  readonly params: Promise<{ readonly id: string; readonly entry: string }>;
}

/** Strikes an entry of a pupil's log out: it stays in the list, and counts no more. */
export function DELETE(_request: Request, context: Context): Promise<Response> {
  return struck(context, true);
}

/** Takes back that an entry was struck out. */
export function POST(_request: Request, context: Context): Promise<Response> {
  return struck(context, false);
}

function struck({ params }: Context, isStruck: boolean): Promise<Response> {
  return handle(async () => {
    const { id, entry } = await params;
    return (await strike(currentStudio(), id, entry, isStruck))
      ? Response.json({ ok: true })
      : problemResponse(404, 'There is no such entry in the log.');
  });
}
