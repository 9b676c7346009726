// The door of the web process: who is let in, and the headers of every answer. It stands before everything else, so that what is
// refused costs nothing.
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

const LOCAL_HOSTS = ['127.0.0.1', 'localhost', '[::1]'];
/** Methods that are answered somewhere; TRACE would send back what a browser keeps to itself. */
const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'DELETE', 'OPTIONS'];
const READING = ['GET', 'HEAD', 'OPTIONS'];

/**
 * Why a request is not let in, as status and sentence; nothing where it is. The host must be ours, so that no foreign name can be
 * pointed at this machine, and what changes something must come from our own pages.
 */
export function refusal({ method, url = '/', headers }) {
  const host = headers.host ?? '';
  const allowed = [...LOCAL_HOSTS, ...(process.env.REED_HOSTS ?? '').split(',').filter((name) => name !== '')];
  if (!allowed.includes(host.replace(/:\d+$/, ''))) return { status: 421, message: 'This address is not served here.' };
  if (!METHODS.includes(method)) return { status: 405, message: 'There is nothing of this kind to do here.' };
  if (!isDecodable(url)) return { status: 400, message: 'This address cannot be read.' };
  if (!READING.includes(method) && !comesFromHere(headers, host))
    return { status: 403, message: 'Requests from other sites are refused.' };
  return undefined;
}

function isDecodable(url) {
  try {
    decodeURIComponent(url.split('?', 1)[0]);
    return true;
  } catch {
    return false;
  }
}

/** Browsers say where a request comes from, in one header or the other; who says neither is not let change anything. */
function comesFromHere(headers, host) {
  const { origin } = headers;
  if (origin !== undefined) return URL.canParse(origin) && new URL(origin).host === host;
  const site = headers['sec-fetch-site'];
  return site === 'same-origin' || site === 'none';
}

/**
 * Puts the headers on an answer. Pages get a strict content security policy with a fresh nonce, which the request carries on to
 * where they are made; a static file needs none.
 */
export function putHeaders(request, response, isDevelopment) {
  for (const [name, value] of Object.entries(PLAIN_HEADERS)) response.setHeader(name, value);
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
