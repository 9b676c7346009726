import { z } from 'zod';
import { comeLater, visitor, withWish } from '../../../../server/accounts/answers';
import { sendReset } from '../../../../server/accounts/invitations';
import { comeAgainWords, overLimit } from '../../../../server/accounts/limits';
import { emailSchema } from '../../../../server/accounts/signIn';
import { tokenHash } from '../../../../server/accounts/tokens';
import { faultOf } from '../../../../server/fault';
import { log } from '../../../../server/log';

/** Sends a link for a new password. The answer is the same, and as fast, whether there is such an account or not. */
export function POST(request: Request): Promise<Response> {
  return withWish(request, z.strictObject({ email: emailSchema }), async ({ email }) => {
    for (const [limit, key] of [
      ['message', tokenHash(email)],
      ['messages', visitor(request).address],
    ] as const) {
      const seconds = await overLimit(limit, key);
      if (seconds !== undefined) return comeLater({ message: comeAgainWords(seconds), seconds });
    }
    sendReset(email, new Date()).catch((error: unknown) => log.warn(faultOf(error), 'a message was not sent'));
    return Response.json({ ok: true });
  });
}
