import { signedIn, withWish } from '../../../../server/accounts/answers';
import { settingsSchema } from '../../../../server/accounts/asking';
import { changeSettings } from '../../../../server/accounts/members';

/** What the owner decides for everybody. */
export function PUT(request: Request): Promise<Response> {
  return withWish(request, settingsSchema, async (settings) => {
    await changeSettings(signedIn(), settings, new Date());
    return Response.json({ ok: true });
  });
}
