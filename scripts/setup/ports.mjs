import { createServer } from 'node:net';

/** The first free port of loopback from a number on. */
export async function freePort(from) {
  for (let port = from; port < from + 200; port += 1) if (await isFree(port)) return port;
  throw new Error(`no free port from ${from} to ${from + 199}`);
}

function isFree(port) {
  return new Promise((done) => {
    const server = createServer();
    server.once('error', () => done(false));
    server.listen({ port, host: '127.0.0.1', exclusive: true }, () => server.close(() => done(true)));
  });
}
