import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { ACCESS, mayAs, ROLES, ruleFor, whoMay } from '../../src/server/accounts/access';
import { callerOf, forgetForwarded, listening } from '../../scripts/setup/origin.mjs';
import { loggedPath, putHeaders } from '../../scripts/setup/gateway.mjs';

/** Every address that the program answers, as its folders name it. */
function addresses(folder = join(process.cwd(), 'src', 'app'), path = ''): readonly string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    if (entry.isDirectory()) return addresses(join(folder, entry.name), `${path}/${entry.name}`);
    return /^(?:page\.tsx|route\.ts)$/.test(entry.name) ? [path === '' ? '/' : path] : [];
  });
}

describe('who may come where', () => {
  test('every page and route has a rule, and every rule a page or route', () =>
    expect(ACCESS.map(({ address }) => address).toSorted()).toEqual([...addresses()].toSorted()));

  test('a rule is found for the addresses of its folder, the named before the open', () => {
    expect(ruleFor('/api/tunes/new')?.address).toBe('/api/tunes/new');
    expect(ruleFor('/api/tunes/newer')?.address).toBe('/api/tunes/[id]');
    expect(ruleFor('/instruments/keys/')?.address).toBe('/instruments/keys');
    expect(ruleFor('/api/tunes/a/b/c/d/e/f/g')).toBeUndefined();
  });

  test('without signing in there is only the way in, the sounds and the question whether it is well', () =>
    expect(
      ACCESS.filter((rule) => [whoMay(rule, 'GET'), whoMay(rule, 'POST')].includes('anyone')).map(
        ({ address }) => address,
      ),
    ).toEqual([
      '/sign-in',
      '/welcome/[token]',
      '/reset/[token]',
      '/refused',
      '/link-ended',
      '/api/account/sign-in',
      '/api/account/forgotten',
      '/api/account/links',
      '/api/health',
      '/api/sounds',
    ]));

  test('a guest changes nothing but their own account', () =>
    expect(
      ACCESS.filter((rule) => ['POST', 'PUT', 'DELETE'].some((method) => whoMay(rule, method) === 'guest'))
        .map(({ address }) => address)
        .filter((address) => address.startsWith('/api/') && !address.startsWith('/api/account/')),
    ).toEqual([]));

  test('a role may what those below it may', () =>
    expect(ROLES.map((role) => ROLES.filter((wanted) => mayAs(role, wanted)).length)).toEqual([3, 2, 1]));
});

describe('where it listens', () => {
  test('alone, on this machine, where nothing is said', () =>
    expect(listening({})).toEqual({ bind: '127.0.0.1', proxies: [] }));

  test.each([
    [{ REED_BIND: '0.0.0.0' }, /sign in/],
    [{ REED_BIND: 'here' }, /not an address/],
    [{ REED_HOSTS: 'reeds.example' }, /REED_ORIGIN/],
    [{ REED_ORIGIN: 'http://reeds.example' }, /in the clear/],
    [{ REED_ORIGIN: 'https://reeds.example/music' }, /scheme and host alone/],
    [{ REED_ORIGIN: 'ftp://reeds.example' }, /not the address of a site/],
    [{ REED_ORIGIN: 'https://reeds.example', REED_PROXIES: '10.0.0.1, proxy' }, /proxy is not an address/],
  ])('%j is refused with a reason', (env, reason) => expect(() => listening(env)).toThrow(reason));

  test('beyond this machine under one address', () =>
    expect(
      listening({ REED_BIND: '0.0.0.0', REED_ORIGIN: 'https://reeds.example', REED_PROXIES: '127.0.0.1' }),
    ).toEqual({ bind: '0.0.0.0', origin: 'https://reeds.example', proxies: ['127.0.0.1'] }));
});

describe('whence a request comes', () => {
  const from = (remoteAddress: string, forwarded: string | undefined, proxies: readonly string[]) =>
    callerOf(
      { headers: forwarded === undefined ? {} : { 'x-forwarded-for': forwarded }, socket: { remoteAddress } },
      proxies,
    );

  test.each([
    ['the caller itself, whatever it says', '203.0.113.9', '10.1.1.1', [], '203.0.113.9'],
    ['whom a trusted proxy names last', '::ffff:127.0.0.1', '198.51.100.7, 203.0.113.9', ['127.0.0.1'], '203.0.113.9'],
    ['past a second trusted proxy', '127.0.0.1', '203.0.113.9, 10.0.0.2', ['127.0.0.1', '10.0.0.2'], '203.0.113.9'],
    ['the proxy, where it names nobody', '127.0.0.1', undefined, ['127.0.0.1'], '127.0.0.1'],
    ['the proxy, where it names no address', '127.0.0.1', 'unknown', ['127.0.0.1'], '127.0.0.1'],
  ])('%s', (_, remote, forwarded, proxies, caller) => expect(from(remote, forwarded, proxies)).toBe(caller));

  test('what is said of the way goes no further', () => {
    const headers = { 'x-forwarded-host': 'evil.example', 'x-forwarded-proto': 'ftp', forwarded: 'x', host: 'a' };
    forgetForwarded(headers);
    expect(headers).toEqual({ host: 'a' });
  });
});

test('an address that holds a secret is in no log, and goes to no other site, index or cache', () => {
  const secret = 'Zm9vYmFyYmF6cXV4MTIzNA';
  for (const path of [`/p/${secret}`, `/p/${secret}/stand?work=a`, `/welcome/${secret}`, `/reset/${secret}`]) {
    expect(loggedPath(path)).not.toContain(secret);
    const headers = new Map<string, unknown>();
    const response = { setHeader: (name: string, value: unknown) => headers.set(name, value) };
    putHeaders({ url: path, headers: {} }, response as never, false, 'https://reeds.example');
    expect([headers.get('referrer-policy'), headers.get('x-robots-tag'), headers.get('cache-control')]).toEqual([
      'no-referrer',
      'noindex, nofollow',
      'no-store',
    ]);
  }
});
