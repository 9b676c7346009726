import { comeLater, signedIn, withWish } from '../../../../server/accounts/answers';
import { invitationSchema, invite } from '../../../../server/accounts/invitations';
import { problemResponse } from '../../../../server/http';

/** Invites somebody; the address is given once, to be handed on. */
export function POST(request: Request): Promise<Response> {
  return withWish(request, invitationSchema, async (wish) => {
    const invited = await invite(signedIn(), wish, new Date());
    if (invited.kind === 'later') return comeLater(invited);
    return invited.kind === 'member'
      ? problemResponse(409, 'This person is a member of the studio already.')
      : Response.json({ address: invited.address }, { status: 201, headers: { 'cache-control': 'no-store' } });
  });
}
