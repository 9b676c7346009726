// The clock jumps by forty days while the program runs, and back: what was put into the bin a minute ago stays, and so
// do the saves.
import { existsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureDebianPackages } from '../setup/packages.mjs';
import { answered, program, send, wait } from './program.mjs';
import { savers } from './savers.mjs';

/** Where Debian's package for each kind of processor puts the library that stands between programs and the clock. */
const LIBRARIES = ['x86_64-linux-gnu', 'aarch64-linux-gnu'].map(
  (kind) => `/usr/lib/${kind}/faketime/libfaketimeMT.so.1`,
);
/** The program tidies a minute after it was started; milliseconds. */
const TIDIED = 70_000;

/** @returns nothing where the library cannot be had, which is said */
export async function jumpingClock(report, { seed }) {
  const found = () => LIBRARIES.find((file) => existsSync(file));
  if (!found()) ensureDebianPackages({ libfaketime: [LIBRARIES[0]] }, { optional: true });
  const library = found();
  if (!library) {
    report('Not tried: Debian’s package libfaketime cannot be had here.');
    return undefined;
  }
  // Read by the database's user as well.
  const clock = join(tmpdir(), `reed-clock-${process.pid}`);
  const turn = (offset) => writeFileSync(clock, `${offset}\n`, { mode: 0o644 });
  turn('+0');
  const own = await program('clock', {
    env: {
      LD_PRELOAD: library,
      FAKETIME_TIMESTAMP_FILE: clock,
      FAKETIME_NO_CACHE: '1',
      // Time that passes is not changed, only what the clock shows.
      FAKETIME_DONT_FAKE_MONOTONIC: '1',
    },
  });
  try {
    await own.begin();
    const started = Date.now();
    const saving = await savers({ addresses: [own.address], until: Date.now() + TIDIED, seed });
    const [binned] = (await answered(own.address, '/api/tunes')).tunes.filter(
      ({ title }) => !title.startsWith('Chaos'),
    );
    await send(own.address, 'DELETE', `/api/tunes/${binned.id}`);
    await wait(3_000);
    turn('+40d');
    await wait(Math.max(0, started + TIDIED - Date.now()));
    const { count, lost } = await saving.outcome(report);
    const { revisions } = await answered(own.address, `/api/tunes/${saving.tunes[0]}/history`);
    const hasJumped = Date.parse(revisions[0].savedAt) - Date.now() > 39 * 86_400_000;
    if (!hasJumped) report('The clock of the program did not jump.');
    const restored = await send(own.address, 'POST', `/api/tunes/${binned.id}/restore`);
    const isThere = restored?.status === 200;
    turn('+0');
    await wait(2_000);
    const later = await savers({ addresses: [own.address], until: Date.now() + 5_000, seed });
    const back = await later.outcome(report);
    report(
      `${count} saves acknowledged while the clock jumped by 40 days, ${back.count} after it was set back; ${lost + back.lost} lost; what was in the bin for a minute ${isThere ? 'could be restored' : 'WAS DELETED'}`,
    );
    return lost + back.lost === 0 && count > 20 && back.count > 4 && isThere && hasJumped;
  } finally {
    await own.end();
  }
}
