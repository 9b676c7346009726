import { endSession } from '../../../../db/sessionRepository';
import { signedIn, withSession } from '../../../../server/accounts/answers';
import { accounts } from '../../../../server/database';
import { handle } from '../../../../server/http';

/** Ends this session; the browser forgets what it kept. */
export function POST(): Promise<Response> {
  return handle(async () => {
    const { person, session } = signedIn();
    await endSession(accounts(), person, session);
    return withSession(undefined, { ok: true });
  });
}
