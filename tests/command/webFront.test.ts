import { connect, type Socket } from 'node:net';
import { webFront } from '../../scripts/setup/webFront.mjs';
import { freePort } from '../integration/accountsProgram';

/** A process that says its name to whoever is given to it; a dead one takes nothing. */
function process(name: string) {
  const taken: Socket[] = [];
  const self = {
    taken,
    isDead: false,
    send: (_: 'connection', socket: Socket, done: (error: Error | null) => void) => {
      if (self.isDead) return done(new Error('gone'));
      taken.push(socket);
      socket.end(name);
      done(null);
    },
  };
  return self;
}

/** What whoever knocks is told. */
function knock(port: number): Promise<string> {
  return new Promise((done) => {
    let said = '';
    const socket = connect(port, '127.0.0.1');
    socket.on('data', (chunk: Buffer) => (said += chunk.toString()));
    socket.on('error', (error: NodeJS.ErrnoException) => done(error.code ?? 'failed'));
    socket.on('end', () => done(said));
  });
}

test('connections go to processes in turns; one that is shut gets no more, and nobody is refused while there is none', async () => {
  const port = await freePort();
  const front = await webFront(['127.0.0.1'], port);
  try {
    const [a, b, c] = [process('a'), process('b'), process('c')];
    front.open(a);
    front.open(b);
    const said: string[] = [];
    for (let k = 0; k < 6; k += 1) said.push(await knock(port));
    expect(said.toSorted()).toEqual(['a', 'a', 'a', 'b', 'b', 'b']);
    front.shut(a);
    expect([await knock(port), await knock(port)]).toEqual(['b', 'b']);
    front.shut(b);
    const waiting = [knock(port), knock(port)];
    await new Promise((later) => setTimeout(later, 50));
    front.open(c);
    expect(await Promise.all(waiting)).toEqual(['c', 'c']);
  } finally {
    front.end();
  }
});

test('what a process that has just died was to be given goes to another', async () => {
  const port = await freePort();
  const front = await webFront(['127.0.0.1'], port);
  try {
    const [dead, alive] = [process('dead'), process('alive')];
    front.open(dead);
    front.open(alive);
    dead.isDead = true;
    expect([await knock(port), await knock(port), await knock(port)]).toEqual(['alive', 'alive', 'alive']);
    expect([front.size, dead.taken]).toEqual([1, []]);
  } finally {
    front.end();
  }
});
