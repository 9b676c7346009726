// `npm run chaos [-- SECONDS] [SEED] [NAME …]`: the program on folders of its own while things go wrong around it and
// clients save: processes are killed (SECONDS long), the disk is full, the database stands still, two web processes
// work on one database, the clock jumps. Afterwards every save that was acknowledged must be there. NAME chooses among
// kills, disk, frozen, two, clock, and only where they are named cluster (at length), once
// (in short) and restore (its backup). Ends with status 1 where one fails.
import { clusterChaos, clusterOnce, clusterRestored } from './chaos/cluster.mjs';
import { fullDisk } from './chaos/fullDisk.mjs';
import { frozenDatabase } from './chaos/frozenDatabase.mjs';
import { jumpingClock } from './chaos/jumpingClock.mjs';
import { kills } from './chaos/kills.mjs';
import { twoWebProcesses } from './chaos/twoWebProcesses.mjs';
import { say, stopWith } from './setup/project.mjs';

const SCENARIOS = { kills, disk: fullDisk, frozen: frozenDatabase, two: twoWebProcesses, clock: jumpingClock };
/** Asked for by name alone: they take minutes, whatever SECONDS says. */
const LONG = { cluster: clusterChaos, once: clusterOnce, restore: clusterRestored };
const ALL = { ...SCENARIOS, ...LONG };

const words = process.argv.slice(2);
const [seconds = 120, seed = Date.now() % 100_000] = words.filter((word) => /^\d+$/.test(word)).map(Number);
const names = words.filter((word) => !/^\d+$/.test(word));
for (const name of names)
  if (!Object.hasOwn(ALL, name)) stopWith(`There is no "${name}": use ${Object.keys(ALL).join(', ')}.`);

let [failed, notTried] = [0, 0];
for (const name of names.length > 0 ? names : Object.keys(SCENARIOS)) {
  const report = (text) => say(`${name}: ${text}`);
  try {
    const isGood = await ALL[name](report, { seconds, seed });
    if (isGood === undefined) notTried += 1;
    else if (!isGood) failed += 1;
  } catch (error) {
    report(error.message);
    failed += 1;
  }
}
say(
  `${failed === 0 ? 'Nothing was lost' : `${failed} failed`}${notTried > 0 ? `, ${notTried} not tried` : ''} (seed ${seed}).`,
);
process.exit(failed === 0 ? 0 : 1);
