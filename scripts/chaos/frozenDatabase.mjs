// The database stands still for half a minute in the middle of saving, as on a machine that was put to sleep.
import { program, wait } from './program.mjs';
import { savers } from './savers.mjs';

/** Milliseconds. */
const [BEFORE, FROZEN, AFTER] = [5_000, 30_000, 10_000];

export async function frozenDatabase(report, { seed }) {
  const own = await program('frozen');
  try {
    await own.begin();
    const saving = await savers({ addresses: [own.address], until: Date.now() + BEFORE + FROZEN + AFTER, seed });
    await wait(BEFORE);
    const [database, web] = [own.databasePid(), own.webPid()];
    process.kill(database, 'SIGSTOP');
    await wait(FROZEN);
    process.kill(database, 'SIGCONT');
    await wait(AFTER);
    await own.steady();
    const { count, lost, refused } = await saving.outcome(report);
    const isSame = own.webPid() === web && own.databasePid() === database;
    report(
      `${count} saves acknowledged around ${FROZEN / 1_000} s of a frozen database, ${refused} told to wait; ${lost} lost; ${isSame ? 'nothing was replaced' : 'a process was replaced'}`,
    );
    return lost === 0 && count > 20 && isSame;
  } finally {
    await own.end();
  }
}
