// The door of the web process: who is let in, and the headers of every answer. It stands before everything else, so
// that what is refused costs nothing.
import { randomBytes } from 'node:crypto';

/** Headers of every answer, pages and files alike: nothing is sniffed, framed, or read from another site. */
const PLAIN_HEADERS = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'x-frame-options': 'DENY',
  'permissions-policy': 'camera=(), geolocation=(), microphone=(self), payment=(), usb=()',
};

/** Addresses that hold a secret: it must not go on to another site, into an index, or into anybody's cache. */
const SECRET = /^\/(?:p|h|welcome|reset)\/[^/?]+/;
const SECRET_HEADERS = {
  'referrer-policy': 'no-referrer',
  'x-robots-tag': 'noindex, nofollow',
  'cache-control': 'no-store',
};

/** An address as the log may hold it: without what was searched for, and without a secret. */
export function loggedPath(url = '') {
  return url
    .split('?', 1)[0]
    .replace(SECRET, (found) => `/${found.split('/')[1]}/…`)
    .slice(0, 200);
}

const LOCAL_HOSTS = ['127.0.0.1', 'localhost', '[::1]'];
/** Methods that are answered somewhere; TRACE would send back what a browser keeps to itself. */
const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'DELETE', 'OPTIONS'];
const READING = ['GET', 'HEAD', 'OPTIONS'];

/**
 * Why a request is not let in, as status and sentence; nothing where it is. The host must be ours, so that no foreign
 * name can be pointed at this machine; what changes something must come from our own pages; and other sites may link
 * here, but start no work.
 * @param origin the one address under which the program is asked for; nothing where it runs for one person alone, on
 *   this machine
 */
export function refusal({ method, url = '/', headers }, origin) {
  const host = headers.host ?? '';
  if (!isServed(host, url, origin)) return { status: 421, message: 'This address is not served here.' };
  if (!METHODS.includes(method))
    return { status: 405, message: `${String(method).slice(0, 20)} is not answered here.` };
  const wrong = wrongPath(url);
  if (wrong) return wrong;
  const origins = [origin ?? `http://${host}`];
  const isAllowed = READING.includes(method) ? mayRead(headers, origins) : comesFromHere(headers, origins);
  return isAllowed ? undefined : { status: 403, message: 'Requests from other sites are refused.' };
}

/** The program's own questions whether it is well come to this machine, whatever its address. */
function isServed(host, url, origin) {
  const isLocal = LOCAL_HOSTS.includes(host.replace(/:\d+$/, ''));
  if (origin === undefined) return isLocal;
  return host === new URL(origin).host || (isLocal && /^\/api\/health(?:\/live)?$/.test(url));
}

/**
 * Addresses are paths in ASCII without dot segments. Anything else would be turned by the framework into another
 * address (of another host, or without its headers) or be asked of the database, which knows ASCII ids alone.
 */
function wrongPath(url) {
  const unreadable = { status: 400, message: 'This address cannot be read.' };
  const [raw] = url.split('?', 1);
  if (!raw.startsWith('/') || raw.startsWith('//') || raw.includes('\\')) return unreadable;
  let path;
  try {
    path = decodeURIComponent(raw);
  } catch {
    return unreadable;
  }
  if (path.split(/[/\\]/).some((segment) => segment === '.' || segment === '..')) return unreadable;
  return /^[\x20-\x7e]*$/.test(path) ? undefined : { status: 404, message: 'Nothing is found at this address.' };
}

/** Browsers say where a request comes from, in one header or the other; who says neither is not let change anything. */
function comesFromHere(headers, origins) {
  const { origin } = headers;
  if (origin !== undefined) return origins.includes(origin);
  const site = headers['sec-fetch-site'];
  return site === 'same-origin' || site === 'none';
}

/**
 * Whoever follows a link is let in from anywhere; pictures, scripts and fetches of other sites are not. Who says
 * nothing is no browser of today.
 */
function mayRead(headers, origins) {
  const site = headers['sec-fetch-site'];
  if (site === 'cross-site' || site === 'same-site')
    return headers['sec-fetch-mode'] === 'navigate' && headers['sec-fetch-dest'] === 'document';
  return headers.origin === undefined || origins.includes(headers.origin);
}

/**
 * Puts the headers on an answer. Pages get a strict content security policy with a fresh nonce, which the request
 * carries on to where they are made; a static file needs none.
 */
export function putHeaders(request, response, isDevelopment, origin) {
  for (const [name, value] of Object.entries(PLAIN_HEADERS)) response.setHeader(name, value);
  if (origin?.startsWith('https:')) response.setHeader('strict-transport-security', 'max-age=31536000');
  if (SECRET.test(request.url ?? ''))
    for (const [name, value] of Object.entries(SECRET_HEADERS)) response.setHeader(name, value);
  if (request.url?.startsWith('/_next/static/')) return;
  const nonce = randomBytes(16).toString('base64');
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'${isDevelopment ? " 'unsafe-eval'" : ''}`,
    // Style elements need the nonce; style attributes carry positions only, and cannot load anything under this policy.
    isDevelopment ? "style-src-elem 'self' 'unsafe-inline'" : `style-src-elem 'self' 'nonce-${nonce}'`,
    "style-src-attr 'unsafe-inline'",
    "img-src 'self' data:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
  request.headers['x-nonce'] = nonce;
  request.headers['content-security-policy'] = policy;
  response.setHeader('content-security-policy', policy);
}
