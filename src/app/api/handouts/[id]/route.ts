import { currentStudio } from '../../../../server/database';
import { endHandoutLink } from '../../../../server/handouts';
import { handle, problemResponse } from '../../../../server/http';

/** Ends the link of a pack. */
export function DELETE(
  _request: Request,
  { params }: { readonly params: Promise<{ readonly id: string }> },
): Promise<Response> {
  return handle(async () =>
    (await endHandoutLink(currentStudio(), (await params).id, new Date()))
      ? Response.json({ ok: true })
      : problemResponse(404, 'This link has ended already.'),
  );
}
