import { endSession, endSessions } from '../../../../../db/sessionRepository';
import { signedIn } from '../../../../../server/accounts/answers';
import { accounts } from '../../../../../server/database';
import { handle, problemResponse } from '../../../../../server/http';

/** Signs one of one's own devices out, or with `others` all but this one. */
export function DELETE(
  _request: Request,
  { params }: { readonly params: Promise<{ readonly id: string }> },
): Promise<Response> {
  return handle(async () => {
    const { person, session } = signedIn();
    const { id } = await params;
    if (id === 'others') {
      await endSessions(accounts(), person, { but: session });
      return Response.json({ ok: true });
    }
    return (await endSession(accounts(), person, id))
      ? Response.json({ ok: true })
      : problemResponse(404, 'This device is signed out already.');
  });
}
