import { currentStudio } from '../../../../../server/database';
import { handle, problemResponse } from '../../../../../server/http';
import { restore } from '../../../../../server/tunes';

/** Puts a removed tune back on the shelf. */
export function POST(_: Request, { params }: { readonly params: Promise<{ readonly id: string }> }): Promise<Response> {
  return handle(async () =>
    (await restore(currentStudio(), (await params).id))
      ? Response.json({ ok: true })
      : problemResponse(404, 'There is no such tune to restore.'),
  );
}
