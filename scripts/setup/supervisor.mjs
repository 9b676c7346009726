// Keeps what was started running: what ends is started again, what hangs is replaced, what cannot run is tried ever
// less often.
import { backoff } from './backoff.mjs';
import { say } from './project.mjs';
import { webGroup } from './webGroup.mjs';
import { startMariaDb } from './mariadb.mjs';

/** A clean end takes five seconds at most: the web processes first, then the database. Milliseconds. */
const DATABASE_END = 3_000;

const wait = (milliseconds) => new Promise((done) => setTimeout(done, milliseconds));

/** Database and web processes of one data folder; `databaseUrl` where the database is somebody else's. */
export function supervisor({ folder, addresses, port, web: count, cache, dev, databaseUrl, onChange }) {
  let database;
  let group;
  let ending = false;

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

  return {
    /** Numbers of the web processes. */
    get web() {
      return group?.pids ?? [];
    },
    get database() {
      return database;
    },
    startDatabase,
    async serve() {
      group = await webGroup({
        count,
        addresses,
        port,
        settings: () => ({ databaseUrl: databaseUrl ?? database.url, cache, dev }),
        onChange,
      });
      onChange?.();
    },
    /** Puts new web processes in the place of the old, one after another. */
    renew: () => group?.renew(),
    async end() {
      ending = true;
      await group?.end();
      if (database) await database.stop(DATABASE_END);
    },
  };
}
