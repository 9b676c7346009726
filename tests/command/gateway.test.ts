import type { IncomingHttpHeaders } from 'node:http';
import { putHeaders, refusal } from '../../scripts/setup/gateway.mjs';

const HOST = '127.0.0.1:3210';
const asked = (method: string, headers: IncomingHttpHeaders = {}, url = '/') =>
  refusal({ method, url, headers: { host: HOST, ...headers } })?.status;

describe('who is let in', () => {
  test.each(['127.0.0.1', '127.0.0.1:3210', 'localhost:3210', '[::1]:3210'])('%s is this machine', (host) =>
    expect(asked('GET', { host })).toBeUndefined(),
  );

  test.each([
    'evil.example',
    'localhost.evil.example',
    '127.0.0.1.evil.example:3210',
    '',
    '[::2]:3210',
    'localhost@evil.example',
  ])('the name “%s”, though it points here, is refused', (host) => expect(asked('GET', { host })).toBe(421));

  test('under the address of its house it is asked for by that alone; what looks after it comes by this machine', () => {
    const house = (host: string, url = '/') =>
      refusal({ method: 'GET', url, headers: { host } }, 'https://reeds.school.example')?.status;
    expect([house('reeds.school.example'), house('school.example'), house(HOST), house(HOST, '/api/health')]).toEqual([
      undefined,
      421,
      421,
      undefined,
    ]);
  });
});

describe('what may be asked', () => {
  test.each(['TRACE', 'CONNECT', 'PATCH', 'get', 'PROPFIND'])('%s is no method of this program', (method) =>
    expect(asked(method)).toBe(405),
  );

  test.each(['/%zz', '/tunes/%E0%A4%A', '/%'])('the address %s cannot be read', (url) =>
    expect(asked('GET', {}, url)).toBe(400),
  );

  test.each([
    '/_next/static/../../',
    '/_next/static/..%2f..%2f',
    '/_next/static/%2e%2e/%2E%2E/',
    '/a/./b',
    '//elsewhere.example/',
    '/\\elsewhere.example/',
    'http://elsewhere.example/',
    '*',
    '',
  ])('“%s” would become another address, and is refused', (url) => expect(asked('GET', {}, url)).toBe(400));

  test('an address with letters beyond ASCII is nowhere; dots inside a name are a name', () => {
    expect([
      asked('GET', {}, '/tunes/%C3%A9t%C3%A9/levels'),
      asked('GET', {}, '/api/tunes/a%00b'),
      asked('GET', {}, '/api/tunes/a/files/tune..abc'),
      asked('GET', {}, '/?search=%C3%A9'),
    ]).toEqual([404, 404, undefined, undefined]);
  });

  test('what stands after the question mark is the page’s to read', () => {
    expect(asked('GET', {}, '/?search=100%')).toBeUndefined();
  });
});

describe('who may change something', () => {
  const changing = ['POST', 'PUT', 'DELETE'];

  test.each<[string, IncomingHttpHeaders]>([
    ['a page of ours', { origin: `http://${HOST}` }],
    ['a page of ours, by its other header', { 'sec-fetch-site': 'same-origin' }],
    ['whoever typed the address', { 'sec-fetch-site': 'none' }],
  ])('%s', (_, headers) =>
    expect(changing.map((method) => asked(method, headers))).toEqual(changing.map(() => undefined)),
  );

  test.each<[string, IncomingHttpHeaders]>([
    ['nobody who does not say where they come from', {}],
    ['no other site', { origin: 'https://evil.example' }],
    ['no other port of this machine', { origin: 'http://127.0.0.1:8080' }],
    ['no page of another scheme', { origin: `https://${HOST}` }],
    ['no page without an origin', { origin: 'null' }],
    [
      'no other site that says it is ours by the other header',
      { origin: 'https://evil.example', 'sec-fetch-site': 'same-origin' },
    ],
    ['no neighbour', { 'sec-fetch-site': 'same-site' }],
    ['no link from elsewhere', { 'sec-fetch-site': 'cross-site' }],
  ])('%s', (_, headers) => expect(changing.map((method) => asked(method, headers))).toEqual(changing.map(() => 403)));

  test('under its own address alone, scheme and all', () => {
    const from = (origin: string) =>
      refusal({ method: 'PUT', headers: { host: 'reeds.example', origin } }, 'https://reeds.example')?.status;
    expect([
      from('https://reeds.example'),
      from('http://reeds.example'),
      from('https://reeds.example:444'),
      from('https://other.example'),
    ]).toEqual([undefined, 403, 403, 403]);
  });
});

describe('who may read', () => {
  const reading = ['GET', 'HEAD', 'OPTIONS'];

  test.each<[string, IncomingHttpHeaders]>([
    ['whoever says nothing about themselves', {}],
    ['our own pages', { 'sec-fetch-site': 'same-origin', 'sec-fetch-mode': 'no-cors' }],
    [
      'whoever follows a link from elsewhere',
      { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'document' },
    ],
  ])('%s', (_, headers) =>
    expect(reading.map((method) => asked(method, headers))).toEqual([undefined, undefined, undefined]),
  );

  test.each<[string, IncomingHttpHeaders]>([
    [
      'no picture of another site',
      { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'no-cors', 'sec-fetch-dest': 'image' },
    ],
    [
      'no script of a neighbour',
      { 'sec-fetch-site': 'same-site', 'sec-fetch-mode': 'no-cors', 'sec-fetch-dest': 'script' },
    ],
    ['no frame', { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'iframe' }],
    ['no fetch of another site', { origin: 'https://evil.example' }],
  ])('%s', (_, headers) => expect(reading.map((method) => asked(method, headers))).toEqual([403, 403, 403]));
});

describe('headers of an answer', () => {
  const put = (url: string, isDevelopment = false) => {
    const headers = new Map<string, string>();
    const request = { url, headers: {} as IncomingHttpHeaders };
    const response = { setHeader: (name: string, value: string) => headers.set(name, value) };
    putHeaders(request, response as unknown as Parameters<typeof putHeaders>[1], isDevelopment);
    return { headers, policy: headers.get('content-security-policy') ?? '', nonce: String(request.headers['x-nonce']) };
  };

  test('nothing is sniffed, framed, or read from another site, static files included', () => {
    for (const url of ['/', '/_next/static/chunk.js', '/api/tunes'])
      expect(Object.fromEntries(put(url).headers)).toMatchObject({
        'x-content-type-options': 'nosniff',
        'x-frame-options': 'DENY',
        'cross-origin-opener-policy': 'same-origin',
        'cross-origin-resource-policy': 'same-origin',
        'referrer-policy': 'same-origin',
      });
  });

  test('a page’s scripts and styles need the nonce of its own answer, which the request carries on', () => {
    const [one, other] = [put('/'), put('/')];
    expect(one.nonce).not.toBe(other.nonce);
    expect(one.policy).toContain(`script-src 'self' 'nonce-${one.nonce}' 'strict-dynamic'`);
    expect(one.policy).toContain(`style-src-elem 'self' 'nonce-${one.nonce}'`);
    expect(Buffer.from(one.nonce, 'base64')).toHaveLength(16);
  });

  test('nothing runs that was not sent by us: no inline code, no evaluation, no frames, no other forms', () => {
    const { policy } = put('/');
    expect(policy).not.toMatch(/script-src[^;]*unsafe-inline|'unsafe-eval'/);
    for (const rule of [
      "default-src 'self'",
      "object-src 'none'",
      "base-uri 'none'",
      "frame-ancestors 'none'",
      "form-action 'self'",
    ])
      expect(policy).toContain(rule);
  });

  test('only the development server may evaluate code', () => {
    expect(put('/', true).policy).toContain("'unsafe-eval'");
  });

  test('a static file needs no policy of its own', () => {
    expect(put('/_next/static/chunk.js').policy).toBe('');
  });
});
