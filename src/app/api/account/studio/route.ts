import { signedIn, visitor, withSession, withWish } from '../../../../server/accounts/answers';
import { makeStudio, studioSchema } from '../../../../server/accounts/members';
import { changeStudio } from '../../../../server/accounts/signIn';
import { problemResponse } from '../../../../server/http';

/** Opens another studio of the person's, or makes one and opens it. */
export function POST(request: Request): Promise<Response> {
  return withWish(request, studioSchema, async (wish) => {
    const [person, now] = [signedIn(), new Date()];
    const studio = 'name' in wish ? await makeStudio(person, wish.name, now) : wish.open;
    if (studio === undefined)
      return problemResponse(403, 'Who owns a studio can make others, ten in all. Ask its owner to make one for you.');
    const token = await changeStudio(person, studio, visitor(request).device, now);
    return token === undefined
      ? problemResponse(404, 'You are not a member of this studio.')
      : withSession(token, { studio });
  });
}
