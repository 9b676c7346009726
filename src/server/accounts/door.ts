import type { IncomingHttpHeaders } from 'node:http';
import { touchSession } from '../../db/sessionRepository';
import { accounts, currentMark } from '../database';
import { isProgramFile, isRole, mayAs, ruleFor, whoMay, type Role, type Rule } from './access';
import { FIRST_STUDIO, publicOrigin, settingsOf, within, type Asked, type Asking, type SignedIn } from './asking';
import { comeAgainWords, isSpent, overLimit, type LimitName } from './limits';
import { endOfSession } from './signIn';
import { isLinkToken, sessionCookie, sessionIn, tokenHash } from './tokens';

/*
 * The door: who asks, and whether they may. It runs before the framework, in the web process, and is a bundle of its own.
 */
export { currentMark, within };

/** A request, as far as the door looks at it. */
interface Knock {
  readonly method: string;
  readonly url: string;
  readonly headers: IncomingHttpHeaders;
  readonly address: string;
}

/** What becomes of a request; a cookie is one that goes on longer. */
export type Entry =
  /** It is answered, as to whoever asks; where an address is given, with what lies there. */
  | { readonly asked: Asked; readonly url?: string; readonly cookie?: string }
  | { readonly location: string }
  | { readonly status: number; readonly message: string; readonly retryAfter?: number };

/** A session that is used is noted so often: milliseconds. */
const NOTED_EVERY = 3_600_000;
const NOBODY: Asking = { kind: 'nobody' };

/** @throws what the database throws */
export async function enter(knock: Knock, now = new Date()): Promise<Entry> {
  const [path = '/'] = knock.url.split('?', 1);
  const origin = publicOrigin();
  const sending = sendingOf(knock);
  const asked = (asking: Asking): Asked => ({
    asking,
    address: knock.address,
    ...(sending !== undefined && { sending }),
  });
  const alone: Asking = { kind: 'alone', studio: FIRST_STUDIO };
  if (isProgramFile(path)) return { asked: asked(origin === undefined ? alone : NOBODY) };
  const rule = ruleFor(decodeURI(path));
  const who = rule ? whoMay(rule, knock.method) : 'guest';
  if (who === 'link') return byLink(knock, path, now);
  if (origin === undefined) return rule?.accountsOnly ? notThere(path, asked(alone)) : { asked: asked(alone) };
  const session = await signedIn(knock, origin, now);
  const person = session?.person;
  if (who === 'anyone') return { asked: asked(person ?? NOBODY) };
  if (!person) return signInFirst(knock, path);
  // What no rule names is nobody's, however the framework would read its address.
  if (!rule) return notThere(path, asked(person));
  if (!mayAs(person.role, who)) return refused(knock, path, asked(person), who);
  if (needsSecondFactor(person) && !isAccount(path))
    return isPage(knock, path)
      ? { location: '/account' }
      : { status: 403, message: 'Set up your second factor first: this studio wants one of its owners.' };
  const limited = await overPersonsLimit(knock, path, rule, person);
  return (
    limited ?? {
      asked: asked(person),
      ...(session.cookie !== undefined && isPage(knock, path) && { cookie: session.cookie }),
    }
  );
}

/** Source of the header: the IETF's draft of `Idempotency-Key`. */
function sendingOf({ method, headers }: Knock): string | undefined {
  const key = headers['idempotency-key'];
  return method === 'POST' && typeof key === 'string' && /^[\w-]{8,80}$/.test(key) ? key : undefined;
}

/** Who is signed in with the secret that the browser sends; a session that goes on is noted as used. */
async function signedIn(
  { headers }: Knock,
  origin: string,
  now: Date,
): Promise<{ readonly person: SignedIn; readonly cookie?: string } | undefined> {
  const token = sessionIn(headers.cookie, origin);
  if (token === undefined) return undefined;
  const session = await accounts().session(tokenHash(token), now);
  if (!session || !isRole(session.role)) return undefined;
  const endsAt = endOfSession(session.madeAt, now);
  const isToBeNoted = now.getTime() - session.seenAt.getTime() > NOTED_EVERY;
  if (isToBeNoted) await touchSession(accounts(), session.id, endsAt, now);
  const person: SignedIn = {
    kind: 'person',
    person: session.person,
    name: session.name,
    email: session.email,
    hasSecondFactor: session.hasSecondFactor,
    studio: session.studio,
    studioName: session.studioName,
    settings: settingsOf(session.settings),
    role: session.role,
    session: session.id,
  };
  // The browser keeps it as long as the database does.
  const seconds = Math.round((endsAt.getTime() - now.getTime()) / 1_000);
  return { person, ...(isToBeNoted && { cookie: sessionCookie(token, origin, seconds) }) };
}

/** The address of a pupil or of a pack. Whoever guesses at them is stopped, whether a guess is right or not. */
async function byLink({ address, method }: Knock, path: string, now: Date): Promise<Entry> {
  const spent = await isSpent('link', address);
  if (spent !== undefined) return { status: 429, message: comeAgainWords(spent), retryAfter: spent };
  const token = path.split('/')[2] ?? '';
  const link = isLinkToken(token) ? tokenHash(token) : undefined;
  const found = link === undefined ? undefined : await whoseLink(path, link, now);
  if (!found) {
    await overLimit('link', address);
    return method === 'GET'
      ? { asked: { asking: NOBODY, address }, url: '/link-ended' }
      : {
          status: 404,
          message: 'This link has ended. Ask your teacher for a new one; what you practised is kept on this device.',
        };
  }
  return { asked: { asking: found, address } };
}

async function whoseLink(path: string, link: string, now: Date): Promise<Asking | undefined> {
  if (path.startsWith('/h/')) {
    const found = await accounts().handoutOfLink(link, now);
    return found && { kind: 'handout', studio: found.studio, handout: found.handout, link, ...sightOf(found.maker) };
  }
  const found = await accounts().pupilOfLink(link, now);
  return found && { kind: 'pupil', studio: found.studio, pupil: found.pupil, link, ...sightOf(found.maker) };
}

/** What the maker of a link may see now. */
function sightOf(maker: { readonly person: string; readonly role: string; readonly settings: unknown } | undefined) {
  if (!maker) return {};
  const { person, role, settings } = maker;
  return { maker: { person, role: isRole(role) ? role : ('teacher' as const), settings: settingsOf(settings) } };
}

function notThere(path: string, asked: Asked): Entry {
  return path.startsWith('/api/')
    ? { status: 404, message: 'Nothing is found at this address.' }
    : { asked, url: '/404' };
}

function isPage({ method }: Knock, path: string): boolean {
  return method === 'GET' && !path.startsWith('/api/');
}

function signInFirst(knock: Knock, path: string): Entry {
  if (!isPage(knock, path))
    return {
      status: 401,
      message: 'You are signed out. Sign in again in another window; your work is kept on this page.',
    };
  const back = knock.url.replace(/[?&]_rsc=[^&]*/, '');
  return { location: path === '/' && back === '/' ? '/sign-in' : `/sign-in?to=${encodeURIComponent(back)}` };
}

const ROLE_WORDS: Readonly<Record<Role, string>> = {
  owner: 'owners of the studio',
  teacher: 'teachers of the studio',
  guest: 'members of the studio',
};

function refused(knock: Knock, path: string, asked: Asked, who: Role): Entry {
  if (isPage(knock, path)) return { asked, url: '/refused' };
  return {
    status: 403,
    message: `This is for ${ROLE_WORDS[who]} only. You can read and print here; nothing was changed.`,
  };
}

function needsSecondFactor({ role, settings, hasSecondFactor }: SignedIn): boolean {
  return role === 'owner' && settings.secondFactor && !hasSecondFactor;
}

const isAccount = (path: string) => path === '/account' || path.startsWith('/api/account/');

/** What one person may ask for is bounded where it takes long or much room. */
async function overPersonsLimit(
  { method }: Knock,
  path: string,
  rule: Rule | undefined,
  { person }: SignedIn,
): Promise<Entry | undefined> {
  const limit = limitOf(method, path, rule);
  const seconds = limit && (await overLimit(limit, person));
  return seconds === undefined ? undefined : { status: 429, message: comeAgainWords(seconds), retryAfter: seconds };
}

function limitOf(method: string, path: string, rule: Rule | undefined): LimitName | undefined {
  if (rule?.address === '/api/archive') return method === 'GET' ? 'export' : 'upload';
  if (method === 'POST' && /\/(?:handouts|link)$/.test(path)) return 'links';
  if (method === 'POST' && (rule?.address === '/api/tunes' || rule?.address === '/api/tunes/new')) return 'upload';
  return /\.(?:pdf|zip|mp3)$|\/making$/.test(path) && path.startsWith('/api/') ? 'making' : undefined;
}
