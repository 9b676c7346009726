// Where the program listens, under which address it is asked for, and whose word about a caller it takes.
import { isIP } from 'node:net';

export const LOOPBACK = '127.0.0.1';
const LOCAL_NAMES = [LOOPBACK, 'localhost', '::1', '[::1]'];

/**
 * What the environment says: `REED_BIND` the address to listen on, `REED_ORIGIN` the one address under which it is asked
 * for, `REED_PROXIES` the addresses, divided by commas, whose forwarded headers are believed.
 *
 * Whoever can be reached by others has accounts: beyond this machine `REED_ORIGIN` is compulsory, and with it signing
 * in. Passwords go by TLS, or stay on this machine.
 * @returns `{ bind, origin, proxies }`; `origin` is missing where the program runs for one person alone
 * @throws Error with what is wrong, in a sentence
 */
export function listening(env = process.env) {
  const bind = env.REED_BIND || LOOPBACK;
  if (!isIP(bind)) throw new Error(`REED_BIND=${bind} is not an address: use one of this machine, such as 0.0.0.0.`);
  if (env.REED_HOSTS)
    throw new Error(
      'REED_HOSTS is not read any more: say under which address you are asked for, REED_ORIGIN=https://…',
    );
  const proxies = (env.REED_PROXIES || '')
    .split(',')
    .map((one) => one.trim())
    .filter((one) => one !== '');
  const wrong = proxies.find((one) => !isIP(one));
  if (wrong !== undefined) throw new Error(`REED_PROXIES: ${wrong} is not an address, such as 127.0.0.1.`);
  if (!env.REED_ORIGIN) {
    if (!isLoopback(bind))
      throw new Error(
        `REED_BIND=${bind} can be reached by others: they sign in, and for that REED_ORIGIN=https://… must say under which address they come.`,
      );
    return { bind, proxies };
  }
  return { bind, proxies, origin: checkedOrigin(env.REED_ORIGIN) };
}

/** Each address listens for itself: beside that of the house, this machine's own, by which the program looks after itself. */
export function addressesOf(bind) {
  return ['0.0.0.0', '::'].includes(bind) ? [bind] : [...new Set([LOOPBACK, bind])];
}

function checkedOrigin(text) {
  const right = 'use scheme and host alone, such as https://reeds.school.example';
  let url;
  try {
    url = new URL(text);
  } catch {
    throw new Error(`REED_ORIGIN=${text} is not an address: ${right}.`);
  }
  if (!['http:', 'https:'].includes(url.protocol) || url.origin !== text.replace(/\/$/, ''))
    throw new Error(`REED_ORIGIN=${text} is not the address of a site: ${right}.`);
  if (url.protocol === 'http:' && !LOCAL_NAMES.includes(url.hostname))
    throw new Error(`REED_ORIGIN=${text} would send passwords in the clear: put TLS before it and use https://.`);
  return url.origin;
}

const isLoopback = (address) => address === '::1' || address.startsWith('127.');

/** An address as it is written, without the prefix that an IPv4 caller has on an IPv6 socket. */
const plain = (address) => (address ?? '').replace(/^::ffff:/, '');

/**
 * Whence a request comes: the caller of the socket, or, where that is a proxy that is trusted, whom it names last. What
 * is named before that anybody could have written.
 */
export function callerOf({ headers, socket }, proxies) {
  let caller = plain(socket.remoteAddress);
  const named = String(headers['x-forwarded-for'] ?? '')
    .split(',')
    .map((one) => plain(one.trim()));
  while (proxies.includes(caller) && named.length > 0) {
    const before = named.pop();
    if (!isIP(before)) break;
    caller = before;
  }
  return caller;
}

const FORWARDED = [
  'forwarded',
  'x-forwarded-for',
  'x-forwarded-host',
  'x-forwarded-port',
  'x-forwarded-proto',
  'x-real-ip',
];

/** Takes away what a caller says of the way it came: the program knows its own address. */
export function forgetForwarded(headers) {
  for (const name of FORWARDED) delete headers[name];
}
