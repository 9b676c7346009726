// The web process: Next behind a server of our own, which turns away what Next cannot even read, gives each request a
// number, writes one line about it, and ends in good order.
import { randomUUID } from 'node:crypto';
import { createServer } from 'node:http';
import next from 'next';
import pino from 'pino';
import { doorFile } from './setup/door.mjs';
import { loggedPath, putHeaders, refusal } from './setup/gateway.mjs';
import { addressesOf, callerOf, forgetForwarded, listening, LOOPBACK } from './setup/origin.mjs';
import { inProject } from './setup/project.mjs';
import { sharedPages } from './setup/sharedPages.mjs';

const { bind, origin, proxies } = listening();
const [hostname, port] = [LOOPBACK, Number(process.env.PORT)];
const dev = process.env.NODE_ENV === 'development';
const log = pino({ level: process.env.REED_LOG ?? 'info', base: undefined }, pino.destination({ fd: 2, sync: true }));

/** Slower than this is worth a line even where all else is quiet. Milliseconds. */
const SLOW = 2_000;
const app = next({ dev, dir: inProject(), hostname, port });
await app.prepare();
const makeAnswer = app.getRequestHandler();
const { currentMark, enter, within } = await import(await doorFile(dev));
// What is made for somebody who is signed in is never held for anybody else.
const handle = dev || origin !== undefined ? makeAnswer : sharedPages(makeAnswer, currentMark);

/** Slow senders are looked for this often; without it a limit of 15 s would be one of 45. Milliseconds. */
const CHECK_EVERY = 2_000;
// What is written belongs to whoever runs the program, and to nobody else on the machine.
process.umask(0o077);

let underWay = 0;
let isEnding = false;

const answer = (request, response) => {
  const id = randomUUID().slice(0, 8);
  const started = performance.now();
  // Never what was searched for or sent: an address without its query names ids alone.
  const path = loggedPath(request.url);
  const caller = callerOf(request, proxies);
  forgetForwarded(request.headers);
  response.setHeader('x-request-id', id);
  underWay += 1;
  // Whoever is told to finish answers what has been asked, and says that it takes no more.
  if (isEnding) response.setHeader('connection', 'close');
  response.once('close', () => {
    underWay -= 1;
    if (isEnding && underWay === 0) leave();
    const milliseconds = Math.round(performance.now() - started);
    const told = {
      id,
      method: request.method,
      path,
      status: response.statusCode,
      milliseconds,
      whole: response.writableFinished,
    };
    if (response.statusCode >= 500 || milliseconds > SLOW) log.warn(told, 'request');
    else log.debug(told, 'request');
  });
  putHeaders(request, response, dev, origin);
  const refused = refusal(request, origin);
  // A person who followed a broken link gets a page that says so.
  if (refused?.status === 404 && wantsPage(request)) request.url = '/404';
  else if (refused) return turnAway(response, refused.status, refused.message);
  // Whether the process lives is asked often, most of all when it has much to do.
  if (request.url === '/api/health/live') return alive(response);
  letIn(request, response, caller).catch((error) => {
    // Its message may hold what was asked for.
    log.error({ id, error: error?.name ?? 'unknown', code: error?.code }, 'a request failed');
    if (!response.headersSent) turnAway(response, 500, 'Something went wrong here.');
  });
};

/** Whoever starts this may give it its connections; for itself it then listens on this machine alone. */
const isBehind = process.env.REED_BEHIND === '1';
const servers = (isBehind ? [LOOPBACK] : addressesOf(bind)).map((address) => {
  const server = createServer({ connectionsCheckingInterval: CHECK_EVERY }, answer);
  // A client that sends its request for minutes holds nothing up, but need not be waited for.
  server.requestTimeout = 60_000;
  server.headersTimeout = 15_000;
  server.on('clientError', (_, socket) => socket.end('HTTP/1.1 400 Bad Request\r\nconnection: close\r\n\r\n'));
  return server.listen(isBehind ? 0 : port, address);
});
if (isBehind) {
  const [server] = servers;
  process.on('message', (message, socket) => {
    if (message !== 'connection' || !socket) return;
    server.emit('connection', socket);
    socket.resume();
  });
  // Without whoever started it nobody gives it connections any more.
  process.once('disconnect', end);
  const tell = () => process.send({ listening: server.address().port });
  if (server.listening) tell();
  else server.once('listening', tell);
}

/** Finds out who asks, and answers as to them. */
async function letIn(request, response, address) {
  let entry;
  try {
    entry = await enter({ method: request.method, url: request.url, headers: request.headers, address });
  } catch (error) {
    log.warn({ error: error?.name ?? 'unknown', code: error?.code }, 'who asks could not be found out');
    response.setHeader('retry-after', '2');
    return turnAway(response, 503, 'The database does not answer.');
  }
  if (entry.location !== undefined) {
    response.writeHead(303, { location: entry.location, 'cache-control': 'no-store' });
    return response.end();
  }
  if (entry.status !== undefined) {
    if (entry.retryAfter !== undefined) response.setHeader('retry-after', String(entry.retryAfter));
    return turnAway(response, entry.status, entry.message);
  }
  if (entry.url !== undefined) request.url = entry.url;
  if (entry.cookie !== undefined) response.setHeader('set-cookie', entry.cookie);
  tellPassing(response, entry.asked);
  return within(entry.asked, () => handle(request, response));
}

/** A page that cannot be made for a moment is no fault: its answer says when to come again. */
function tellPassing(response, asked) {
  const writeHead = response.writeHead.bind(response);
  response.writeHead = (status, ...rest) => {
    if (status !== 500 || !asked.comeAgain) return writeHead(status, ...rest);
    response.setHeader('retry-after', '2');
    return writeHead(503, ...rest);
  };
}

for (const signal of ['SIGTERM', 'SIGINT']) process.once(signal, end);

function wantsPage({ method, headers }) {
  return method === 'GET' && (headers.accept ?? '').includes('text/html');
}

function turnAway(response, status, message) {
  response.writeHead(status, { 'content-type': 'application/json', connection: 'close' });
  response.end(JSON.stringify({ messages: [message] }));
}

/**
 * Liveness: the process answers. It asks nothing of anybody else, so that a database that is away never makes it look
 * dead.
 */
function alive(response) {
  response.writeHead(200, { 'content-type': 'application/json', 'cache-control': 'no-store' });
  response.end('{"ok":true}');
}

/** What is being answered is answered: with a port of its own within a second, behind others within ten. */
function end() {
  if (isEnding) return;
  isEnding = true;
  for (const server of servers) {
    server.close();
    server.closeIdleConnections();
  }
  if (underWay === 0) leave();
  setTimeout(leave, isBehind ? 10_000 : 1_000);
}

function leave() {
  // What was written last is still on its way.
  setTimeout(() => process.exit(0), 50);
}
