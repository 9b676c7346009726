// The one port, and the web processes behind it. It holds the port open while processes come and go: nobody who knocks
// meanwhile is refused; they wait a moment.
import { createServer } from 'node:net';

/** So many may wait for a process at a time; more are turned away. */
const MOST_WAITING = 512;

/**
 * Listens, and gives each connection as it comes to the process with the fewest so far.
 * @param addresses where it listens
 * @param port the one port
 */
export async function webFront(addresses, port) {
  /** Processes that take connections, with how many each was given. */
  const taking = new Map();
  const waiting = new Set();
  const give = (socket) => {
    const [web] = [...taking.entries()].sort((a, b) => a[1] - b[1])[0] ?? [];
    if (!web) return wait(socket);
    taking.set(web, taking.get(web) + 1);
    web.send('connection', socket, (error) => {
      if (!error) return;
      // It has ended just now.
      taking.delete(web);
      if (!socket.destroyed) give(socket);
    });
  };
  const wait = (socket) => {
    if (waiting.size >= MOST_WAITING) return socket.destroy();
    waiting.add(socket);
    // Paused as it is, it does not tell that whoever knocked has gone; it is then given, and closed there.
    socket.once('error', () => waiting.delete(socket));
  };
  const servers = await Promise.all(
    addresses.map(
      (address) =>
        new Promise((done, failed) => {
          const server = createServer({ pauseOnConnect: true }, give);
          server.once('error', failed);
          server.listen(port, address, () => done(server));
        }),
    ),
  );
  return {
    /** A process takes connections from now on. */
    open(web) {
      taking.set(web, 0);
      const held = [...waiting];
      waiting.clear();
      held.forEach(give);
    },
    /** It gets no more; what it has it goes on with. */
    shut(web) {
      taking.delete(web);
    },
    /** How many processes take connections. */
    get size() {
      return taking.size;
    },
    end() {
      for (const server of servers) server.close();
      for (const socket of waiting) socket.destroy();
    },
  };
}
