import { NextResponse, type NextRequest } from 'next/server';
import { PLAIN_HEADERS } from './plainHeaders.mjs';

const LOCAL_HOSTS = ['127.0.0.1', 'localhost', '[::1]'];

/**
 * Before every request: the host must be ours (so that no foreign name can be pointed at this machine), requests that change
 * something must come from our own pages, and pages get a strict content security policy with a fresh nonce.
 */
export function proxy(request: NextRequest): NextResponse {
  const refused = refusal(request);
  if (refused) return withPlainHeaders(refused);
  const nonce = btoa(crypto.randomUUID());
  const isDevelopment = process.env.NODE_ENV === 'development';
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
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('content-security-policy', policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('content-security-policy', policy);
  return withPlainHeaders(response);
}

/** Methods that are answered somewhere; TRACE would send back what a browser keeps to itself. */
const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'DELETE', 'OPTIONS'];

/** Why a request is not let in; nothing where it is. */
function refusal(request: NextRequest): NextResponse | undefined {
  const host = request.headers.get('host') ?? '';
  const allowed = [...LOCAL_HOSTS, ...(process.env['REED_HOSTS'] ?? '').split(',').filter((name) => name !== '')];
  if (!allowed.includes(host.replace(/:\d+$/, '')))
    return new NextResponse('This address is not served here.', { status: 421 });
  if (!METHODS.includes(request.method))
    return NextResponse.json({ messages: ['There is nothing of this kind to do here.'] }, { status: 405 });
  if (!isDecodable(request.nextUrl.pathname)) return new NextResponse('This address cannot be read.', { status: 400 });
  if (!['GET', 'HEAD', 'OPTIONS'].includes(request.method) && !comesFromHere(request, host))
    return NextResponse.json({ messages: ['Requests from other sites are refused.'] }, { status: 403 });
  return undefined;
}

function isDecodable(path: string): boolean {
  try {
    decodeURIComponent(path);
    return true;
  } catch {
    return false;
  }
}

/** Browsers say where a request comes from, in one header or the other; who says neither is not let change anything. */
function comesFromHere(request: NextRequest, host: string): boolean {
  const origin = request.headers.get('origin');
  const site = request.headers.get('sec-fetch-site');
  if (origin !== null) return URL.canParse(origin) && new URL(origin).host === host;
  return site === 'same-origin' || site === 'none';
}

/** Headers of every answer; those of static files are the same, by the server's settings. */
function withPlainHeaders(response: NextResponse): NextResponse {
  for (const [name, value] of Object.entries(PLAIN_HEADERS)) response.headers.set(name, value);
  return response;
}

export const config = { matcher: '/((?!_next/static|_next/image|favicon.ico).*)' };
