import { z } from 'zod';
import { personById } from '../../../../db/peopleRepository';
import { comeLater, signedIn, withWish } from '../../../../server/accounts/answers';
import { comeAgainWords, overLimit } from '../../../../server/accounts/limits';
import { isPassword } from '../../../../server/accounts/passwords';
import {
  codeSchema,
  newSecret,
  removeSecondFactor,
  secretSchema,
  setUpSecondFactor,
} from '../../../../server/accounts/secondFactor';
import { accounts } from '../../../../server/database';
import { handle, problemResponse } from '../../../../server/http';

/** A secret to set up: nothing changes until a code shows that the telephone has it. */
export function POST(): Promise<Response> {
  return handle(async () =>
    Response.json(await newSecret(signedIn().email), { headers: { 'cache-control': 'no-store' } }),
  );
}

/** Sets it up; gives the recovery codes, this once. */
export function PUT(request: Request): Promise<Response> {
  return withWish(request, z.strictObject({ secret: secretSchema, code: codeSchema }), async ({ secret, code }) => {
    const person = signedIn();
    if (person.hasSecondFactor) return problemResponse(409, 'A second factor is set up already. Take it away first.');
    const seconds = await overLimit('account', person.person);
    if (seconds !== undefined) return comeLater({ message: comeAgainWords(seconds), seconds });
    const recovery = await setUpSecondFactor(person, secret, code, new Date());
    return recovery
      ? Response.json({ recovery }, { headers: { 'cache-control': 'no-store' } })
      : problemResponse(422, 'code: this code does not belong to the secret; check the time of your telephone');
  });
}

/** Takes it away, with the password. */
export function DELETE(request: Request): Promise<Response> {
  return withWish(request, z.strictObject({ password: z.string().max(1_000) }), async ({ password }) => {
    const person = signedIn();
    const seconds = await overLimit('account', person.person);
    if (seconds !== undefined) return comeLater({ message: comeAgainWords(seconds), seconds });
    const known = await personById(accounts(), person.person);
    if (!(await isPassword(known?.password, password)))
      return problemResponse(422, 'password: this is not your password');
    await removeSecondFactor(person, new Date());
    return Response.json({ ok: true });
  });
}
