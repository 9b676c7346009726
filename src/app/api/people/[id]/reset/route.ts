import { signedIn } from '../../../../../server/accounts/answers';
import { resetForMember } from '../../../../../server/accounts/invitations';
import { handle, problemResponse } from '../../../../../server/http';

/** A link for a new password, to be handed to a member. */
export function POST(
  _request: Request,
  { params }: { readonly params: Promise<{ readonly id: string }> },
): Promise<Response> {
  return handle(async () => {
    const made = await resetForMember(signedIn(), (await params).id, new Date());
    if (made.kind === 'made')
      return Response.json({ address: made.address }, { headers: { 'cache-control': 'no-store' } });
    return made.kind === 'missing'
      ? problemResponse(404, 'This person is no member of the studio any more.')
      : problemResponse(
          409,
          'This person is in other studios too. They can ask for a new password themselves, under “Forgotten?” where they sign in.',
        );
  });
}
