import { comeLater, visitor, withSession, withWish } from '../../../../server/accounts/answers';
import { accept, acceptSchema } from '../../../../server/accounts/invitations';
import { comeAgainWords, isSpent, overLimit } from '../../../../server/accounts/limits';
import { problemResponse } from '../../../../server/http';

/** Uses a one-time link: the first account, an invitation, a new password. */
export function POST(request: Request): Promise<Response> {
  return withWish(request, acceptSchema, async (wish) => {
    const from = visitor(request);
    const seconds = await isSpent('link', from.address);
    if (seconds !== undefined) return comeLater({ message: comeAgainWords(seconds), seconds });
    const accepted = await accept(wish, from, new Date());
    switch (accepted.kind) {
      case 'in':
        return withSession(accepted.session, { ok: true });
      case 'code':
        return Response.json({ needsCode: true });
      case 'later':
        return comeLater(accepted);
      case 'refused':
        await overLimit('link', from.address);
        return problemResponse(422, ...accepted.messages);
    }
  });
}
