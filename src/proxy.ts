import { NextResponse, type NextRequest } from 'next/server';

const LOCAL_HOSTS = ['127.0.0.1', 'localhost', '[::1]'];

/**
 * Before every request: the host must be ours (so that no foreign name can be pointed at this machine), requests that change
 * something must come from our own pages, and pages get a strict content security policy with a fresh nonce.
 */
export function proxy(request: NextRequest): NextResponse {
  const host = request.headers.get('host') ?? '';
  const allowed = [...LOCAL_HOSTS, ...(process.env['REED_HOSTS'] ?? '').split(',').filter((name) => name !== '')];
  if (!allowed.includes(host.replace(/:\d+$/, '')))
    return new NextResponse('This address is not served here.', { status: 421 });
  const origin = request.headers.get('origin');
  const changes = !['GET', 'HEAD'].includes(request.method);
  if (
    changes && origin !== null && URL.canParse(origin) ? new URL(origin).host !== host : changes && origin === 'null'
  ) {
    return NextResponse.json({ messages: ['Requests from other sites are refused.'] }, { status: 403 });
  }
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
  response.headers.set('x-content-type-options', 'nosniff');
  response.headers.set('referrer-policy', 'same-origin');
  return response;
}

export const config = { matcher: '/((?!_next/static|_next/image|favicon.ico).*)' };
