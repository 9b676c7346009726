import { type z } from 'zod';
import { checked } from '../checked';
import { handle, limitedJson, problemResponse } from '../http';
import { currentlyAsked, currentPerson, publicOrigin, type SignedIn } from './asking';
import { COOKIE_SECONDS, deviceWords } from './signIn';
import { sessionCookie } from './tokens';

/** Bodies about accounts are short. */
const MOST = 4_096;

/** Runs a use case with what was sent, once it is checked. */
export function withWish<Wish>(
  request: Request,
  schema: z.ZodType<Wish>,
  work: (wish: Wish) => Promise<Response>,
): Promise<Response> {
  return handle(async () => {
    const body = await limitedJson(request, MOST);
    if (!body.ok) return body.problem;
    const wish = checked(schema, body.value);
    return wish.ok ? work(wish.value) : problemResponse(422, ...wish.problem);
  });
}

/** Who is signed in, in routes that exist only where there are accounts. @throws Error where nobody is */
export function signedIn(): SignedIn {
  const person = currentPerson();
  if (!person) throw new Error('there are no accounts');
  return person;
}

/** From where and on what somebody comes, as a session notes it. */
export function visitor(request: Request) {
  return { address: currentlyAsked().address, device: deviceWords(request.headers.get('user-agent')) };
}

/** Lets the browser keep a session. @param token nothing: it is to forget its session, and all that it kept of the studio */
export function withSession(token: string | undefined, body: object): Response {
  const origin = publicOrigin() ?? '';
  const headers = new Headers({
    'cache-control': 'no-store',
    'set-cookie': sessionCookie(token ?? '', origin, token === undefined ? 0 : COOKIE_SECONDS),
  });
  if (token === undefined) headers.set('clear-site-data', '"cache", "storage"');
  return Response.json(body, { headers });
}

/** An address of ours as others can open it: under the one that the program is asked for, or where it was asked now. */
export function openedAt(request: Request, path: `/${string}`): string {
  return `${publicOrigin() ?? `http://${request.headers.get('host') ?? new URL(request.url).host}`}${path}`;
}

export function comeLater({ message, seconds }: { readonly message: string; readonly seconds: number }): Response {
  return Response.json({ messages: [message] }, { status: 429, headers: { 'retry-after': String(seconds) } });
}
