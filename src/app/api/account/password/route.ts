import { z } from 'zod';
import { personById, setPassword } from '../../../../db/peopleRepository';
import { endSessions } from '../../../../db/sessionRepository';
import { comeLater, signedIn, withWish } from '../../../../server/accounts/answers';
import { noted } from '../../../../server/accounts/audit';
import { comeAgainWords, overLimit } from '../../../../server/accounts/limits';
import { hashedPassword, isPassword, passwordSchema } from '../../../../server/accounts/passwords';
import { accounts } from '../../../../server/database';
import { problemResponse } from '../../../../server/http';

const schema = z.strictObject({ present: z.string().max(1_000), wanted: passwordSchema });

/** Another password; every other device is signed out. */
export function PUT(request: Request): Promise<Response> {
  return withWish(request, schema, async ({ present, wanted }) => {
    const { person: id, session, studio } = signedIn();
    const seconds = await overLimit('account', id);
    if (seconds !== undefined) return comeLater({ message: comeAgainWords(seconds), seconds });
    const person = await personById(accounts(), id);
    if (!(await isPassword(person?.password, present)))
      return problemResponse(422, 'present: this is not your present password');
    const password = await hashedPassword(wanted);
    await accounts().transaction(async (inside) => {
      await setPassword(inside, id, password);
      await endSessions(inside, id, { but: session });
      await noted(inside.studio(studio), id, 'password-set', '', new Date());
    });
    return Response.json({ ok: true });
  });
}
