// The web process: Next behind a server of our own, which turns away what Next cannot even read, gives each request a
// number, writes one line about it, and ends in good order.
import { randomUUID } from 'node:crypto';
import { createServer } from 'node:http';
import next from 'next';
import pino from 'pino';
import { putHeaders, refusal } from './setup/gateway.mjs';
import { inProject } from './setup/project.mjs';
import { sharedPages } from './setup/sharedPages.mjs';

const [hostname, port] = ['127.0.0.1', Number(process.env.PORT)];
const dev = process.env.NODE_ENV === 'development';
const log = pino({ level: process.env.REED_LOG ?? 'info', base: undefined }, pino.destination({ fd: 2, sync: true }));

/** Slower than this is worth a line even where all else is quiet. Milliseconds. */
const SLOW = 2_000;
const app = next({ dev, dir: inProject(), hostname, port });
await app.prepare();
const makeAnswer = app.getRequestHandler();
const handle = dev ? makeAnswer : sharedPages(makeAnswer);

/** Slow senders are looked for this often; without it a limit of 15 s would be one of 45. Milliseconds. */
const CHECK_EVERY = 2_000;
// What is written belongs to whoever runs the program, and to nobody else on the machine.
process.umask(0o077);

const server = createServer({ connectionsCheckingInterval: CHECK_EVERY }, (request, response) => {
  const id = randomUUID().slice(0, 8);
  const started = performance.now();
  // Never what was searched for or sent: an address without its query names ids alone.
  const path = (request.url ?? '').split('?', 1)[0].slice(0, 200);
  response.setHeader('x-request-id', id);
  response.once('close', () => {
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
  putHeaders(request, response, dev);
  const refused = refusal(request);
  // A person who followed a broken link gets a page that says so.
  if (refused?.status === 404 && wantsPage(request)) request.url = '/404';
  else if (refused) return turnAway(response, refused.status, refused.message);
  // Whether the process lives is asked often, most of all when it has much to do.
  if (request.url === '/api/health/live') return alive(response);
  handle(request, response).catch((error) => {
    // Its message may hold what was asked for.
    log.error({ id, error: error?.name ?? 'unknown', code: error?.code }, 'a request failed');
    if (!response.headersSent) turnAway(response, 500, 'Something went wrong here.');
  });
});
// A client that sends its request for minutes holds nothing up, but need not be waited for.
server.requestTimeout = 60_000;
server.headersTimeout = 15_000;
server.on('clientError', (_, socket) => socket.end('HTTP/1.1 400 Bad Request\r\nconnection: close\r\n\r\n'));
server.listen(port, hostname);

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

/** What is being answered gets a second; then it is over. */
function end() {
  server.close(() => process.exit(0));
  server.closeIdleConnections();
  setTimeout(() => process.exit(0), 1_000);
}
