import { comeLater, visitor, withSession, withWish } from '../../../../server/accounts/answers';
import { currentlyAsked } from '../../../../server/accounts/asking';
import { beginSession, prove, signInSchema } from '../../../../server/accounts/signIn';
import { endSession } from '../../../../db/sessionRepository';
import { accounts } from '../../../../server/database';
import { problemResponse } from '../../../../server/http';

/** Signs somebody in; a session that the browser had before ends. */
export function POST(request: Request): Promise<Response> {
  return withWish(request, signInSchema, async (wish) => {
    const { address, device } = visitor(request);
    const now = new Date();
    const proof = await prove(wish, address, now);
    if (proof.kind === 'later') return comeLater(proof);
    if (proof.kind === 'wrong') return problemResponse(401, proof.message);
    if (proof.kind === 'code') return Response.json({ needsCode: true });
    const { asking } = currentlyAsked();
    const token = await accounts().transaction(async (inside) => {
      if (asking.kind === 'person') await endSession(inside, asking.person, asking.session);
      const note = proof.byRecovery ? 'recovery-code' : 'signed-in';
      return beginSession(inside, proof.person.id, { device, note }, now);
    });
    return token === undefined
      ? problemResponse(403, 'This account is in no studio any more. Ask an owner to invite you again.')
      : withSession(token, { person: proof.person.id });
  });
}
