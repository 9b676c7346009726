import { createHash, randomBytes } from 'node:crypto';

/** A session's secret: 256 random bits. */
export function sessionToken(): string {
  return randomBytes(32).toString('base64url');
}

/** The secret of a link: 128 random bits, 22 letters and digits. */
export function linkToken(): string {
  return randomBytes(16).toString('base64url');
}

/**
 * What is stored of a secret. It has too many bits to be guessed from its hash, so that a plain hash is enough, and can
 * be looked up.
 */
export function tokenHash(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}

export function isLinkToken(text: string): boolean {
  return /^[\w-]{22}$/.test(text);
}

/** The name of the session's cookie. Under TLS browsers hold it to its host, to TLS and to the whole site. */
function cookieName(origin: string): string {
  return origin.startsWith('https:') ? '__Host-reed' : 'reed';
}

/** The session's secret in a request's cookies. */
export function sessionIn(cookies: string | undefined, origin: string): string | undefined {
  const wanted = `${cookieName(origin)}=`;
  const found = (cookies ?? '')
    .split(';')
    .map((one) => one.trim())
    .find((one) => one.startsWith(wanted));
  const token = found?.slice(wanted.length);
  return token !== undefined && /^[\w-]{43}$/.test(token) ? token : undefined;
}

/** @param seconds how long it lasts; 0 takes it away */
export function sessionCookie(token: string, origin: string, seconds: number): string {
  const parts = [`${cookieName(origin)}=${token}`, 'Path=/', 'HttpOnly', 'SameSite=Lax', `Max-Age=${seconds}`];
  if (origin.startsWith('https:')) parts.push('Secure');
  return parts.join('; ');
}
