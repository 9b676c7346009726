// The web processes of one machine: as many as are wanted, each watched by itself and replaced while the others answer.
import { endProcess, processorTime, say } from './project.mjs';
import { backoff } from './backoff.mjs';
import { watchdog } from './watchdog.mjs';
import { isUp, startWeb, webAnswers } from './web.mjs';
import { webFront } from './webFront.mjs';

/** Milliseconds. */
const CHECK_EVERY = 4_000;
const WEB_END = 1_500;

/**
 * @param count how many
 * @param addresses where they are asked
 * @param settings of `startWeb`, without a port: each has one of its own on this machine, where it is asked how it is
 * @param onChange called when a process has begun or ended
 */
export async function webGroup({ count, addresses, port, settings, onChange }) {
  const front = await webFront(addresses, port);
  const seats = Array.from({ length: count }, (_, k) => ({ number: k + 1, pauses: backoff() }));
  let ending = false;
  const name = (seat) => (count === 1 ? 'The web process' : `Web process ${seat.number}`);

  /** Starts the process of a seat and lets it in once it answers. */
  async function begin(seat) {
    const since = Date.now();
    const web = startWeb({ ...settings(), port, isBehind: true });
    Object.assign(seat, { web, dog: watchdog(performance.now()), ownPort: undefined });
    onChange?.();
    web.on('message', ({ listening } = {}) => {
      if (listening) seat.ownPort = listening;
    });
    web.once('exit', async (status, signal) => {
      front.shut(web);
      if (ending || seat.web !== web) return;
      const pause = seat.pauses.next(Date.now() - since);
      say(`${name(seat)} has stopped (${signal ?? `status ${status}`}); starting it again in ${pause / 1_000} s.`);
      await new Promise((done) => setTimeout(done, pause));
      if (!ending) await begin(seat);
    });
    if (await webAnswers(web, () => seat.ownPort)) front.open(web);
    else if (!ending && seat.web === web) {
      say(`${name(seat)} does not answer yet; trying again.`);
      // It may be the database that is away: whoever comes is told so.
      if (web.exitCode === null && web.signalCode === null) front.open(web);
    }
  }

  /** One that is alive and answers nothing: another takes its place before it is ended, so that nobody is turned away. */
  async function replace(seat, why) {
    say(`${name(seat)} ${why}; it is replaced.`);
    const old = seat.web;
    front.shut(old);
    const starting = begin(seat);
    // It is deaf: what it holds is not answered by waiting.
    await endProcess(old.pid, 1_000);
    await starting;
  }

  const checks = setInterval(() => {
    for (const seat of seats) void look(seat);
  }, CHECK_EVERY);

  async function look(seat) {
    const { web, dog, ownPort } = seat;
    const answers = ownPort !== undefined && (await isUp(ownPort, '/api/health/live', CHECK_EVERY - 500));
    // Another may have taken its place while it was asked.
    if (ending || web !== seat.web) return;
    const why = dog.look({ now: performance.now(), answers, used: processorTime(web.pid) });
    if (why) await replace(seat, why);
  }

  await Promise.all(seats.map(begin));
  return {
    /** Numbers of the processes that run now. */
    get pids() {
      return seats.map(({ web }) => web.pid);
    },
    /** Each in turn by a new one, which answers before the old one is told to finish what it has. */
    async renew() {
      for (const seat of seats) {
        const old = seat.web;
        await begin(seat);
        front.shut(old);
        await endProcess(old.pid, 15_000);
      }
    },
    async end() {
      ending = true;
      clearInterval(checks);
      front.end();
      await Promise.all(seats.map(({ web }) => endProcess(web.pid, WEB_END)));
    },
  };
}
