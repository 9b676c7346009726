import { personById } from '../../../../db/peopleRepository';
import { comeLater, signedIn, visitor, withSession, withWish } from '../../../../server/accounts/answers';
import { comeAgainWords, overLimit } from '../../../../server/accounts/limits';
import { endStudio, studioEndSchema } from '../../../../server/accounts/members';
import { isPassword } from '../../../../server/accounts/passwords';
import { accounts } from '../../../../server/database';
import { forgetWhatWasMade } from '../../../../server/forgetting';
import { problemResponse } from '../../../../server/http';
import { log } from '../../../../server/log';

/** Deletes the studio for good. Its name and the owner's password are asked for once more. */
export function DELETE(request: Request): Promise<Response> {
  return withWish(request, studioEndSchema, async ({ name, password }) => {
    const owner = signedIn();
    if (name.trim() !== owner.studioName)
      return problemResponse(
        422,
        `name: write the studio’s name as it stands, ${owner.studioName}. Nothing was deleted.`,
      );
    const seconds = await overLimit('account', owner.person);
    if (seconds !== undefined) return comeLater({ message: comeAgainWords(seconds), seconds });
    const person = await personById(accounts(), owner.person);
    if (!(await isPassword(person?.password, password)))
      return problemResponse(422, 'password: this is not your password. Nothing was deleted.');
    const ended = await endStudio(owner, visitor(request).device, new Date());
    if (!ended)
      return problemResponse(
        422,
        'This is your only studio: make another first, so that you can still come in. Nothing was deleted.',
      );
    // Parts that were made hold names.
    await forgetWhatWasMade(new Date());
    log.warn({ studio: owner.studio }, 'a studio was deleted by its owner');
    return withSession(ended.token, { studio: ended.studio });
  });
}
