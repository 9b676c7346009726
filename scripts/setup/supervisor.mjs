// Keeps what was started running: what ends is started again, what hangs is replaced, what cannot run is tried ever
// less often.
import { endProcess, processorTime, say } from './project.mjs';
import { watchdog } from './watchdog.mjs';
import { isUp, startWeb, webAnswers } from './web.mjs';
import { startMariaDb } from './mariadb.mjs';

/** Milliseconds. */
const CHECK_EVERY = 4_000;
const SHORTEST_PAUSE = 500;
const MAX_PAUSE = 30_000;
/** After a run of so long the next start comes at once. */
const WELL_AFTER = 10_000;
/** A clean end takes five seconds at most: the web process first, then the database. */
const WEB_END = 1_500;
const DATABASE_END = 3_000;

/** A pause that doubles with each start that comes to nothing soon. */
export function backoff() {
  let pause = SHORTEST_PAUSE;
  return {
    /** @param lived milliseconds that the last one ran */
    next(lived) {
      const now = lived > WELL_AFTER ? SHORTEST_PAUSE : pause;
      pause = Math.min(MAX_PAUSE, now * 2);
      return now;
    },
  };
}

const wait = (milliseconds) => new Promise((done) => setTimeout(done, milliseconds));

/** Database and web process of one data folder; `databaseUrl` where the database is somebody else's. */
export function supervisor({ folder, port, cache, dev, databaseUrl, onChange }) {
  let database;
  let web;
  let dog;
  let ending = false;
  let checks;

  async function startDatabase() {
    const pauses = backoff();
    for (;;) {
      const begun = Date.now();
      try {
        database = await startMariaDb(folder);
        if (ending) return database.stop(DATABASE_END);
        return watchDatabase(Date.now());
      } catch (error) {
        if (ending) return undefined;
        const pause = pauses.next(Date.now() - begun);
        say(`${error.message}\nTrying again in ${pause / 1_000} s.`);
        await wait(pause);
      }
    }
  }

  function watchDatabase(since) {
    const pauses = backoff();
    database.process.once('exit', async (status, signal) => {
      if (ending) return;
      const pause = pauses.next(Date.now() - since);
      say(`The database has stopped (${signal ?? `status ${status}`}); starting it again.`);
      await wait(pause);
      if (!ending) await startDatabase();
    });
    onChange?.();
  }

  async function serve(pauses = backoff()) {
    const since = Date.now();
    web = startWeb({ port, databaseUrl: databaseUrl ?? database.url, cache, dev });
    dog = watchdog(performance.now());
    onChange?.();
    const mine = web;
    web.once('exit', async (status, signal) => {
      if (ending || web !== mine) return;
      const pause = pauses.next(Date.now() - since);
      say(`The web process has stopped (${signal ?? `status ${status}`}); starting it again in ${pause / 1_000} s.`);
      await wait(pause);
      if (!ending) await serve(pauses);
    });
    if (!(await webAnswers(web, port)) && !ending) say('The web process does not answer yet; trying again.');
  }

  /** A process that is alive and answers nothing is replaced, once it is neither starting nor working. */
  function watchHealth() {
    checks = setInterval(async () => {
      const [mine, own] = [web, dog];
      const answers = await isUp(port, '/api/health/live', CHECK_EVERY - 500);
      // Another may have taken its place while it was asked.
      if (ending || mine !== web || !mine) return;
      const why = own.look({ now: performance.now(), answers, used: processorTime(mine.pid) });
      if (!why) return;
      say(`The web process ${why}; it is replaced.`);
      await endProcess(mine.pid, 1_000);
    }, CHECK_EVERY);
  }

  return {
    get web() {
      return web;
    },
    get database() {
      return database;
    },
    startDatabase,
    async serve() {
      await serve();
      watchHealth();
    },
    async end() {
      ending = true;
      clearInterval(checks);
      if (web) await endProcess(web.pid, WEB_END);
      if (database) await database.stop(DATABASE_END);
    },
  };
}
