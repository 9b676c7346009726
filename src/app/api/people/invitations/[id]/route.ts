import { signedIn } from '../../../../../server/accounts/answers';
import { endInvitation } from '../../../../../server/accounts/invitations';
import { handle, problemResponse } from '../../../../../server/http';

/** Ends an invitation that nobody took. */
export function DELETE(
  _request: Request,
  { params }: { readonly params: Promise<{ readonly id: string }> },
): Promise<Response> {
  return handle(async () =>
    (await endInvitation(signedIn(), (await params).id, new Date()))
      ? Response.json({ ok: true })
      : problemResponse(404, 'This invitation was used or has ended.'),
  );
}
