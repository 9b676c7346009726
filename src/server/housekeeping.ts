import { emptyBin } from '../db/binRepository';
import { thinRevisions } from '../db/revisionRepository';
import { tuneIds } from '../db/tuneRepository';
import { currentStudio } from './database';
import { faultOf } from './fault';
import { log } from './log';

const DAY = 86_400_000;
/** Not while the program starts. */
const FIRST = 60_000;

/** What age makes superfluous goes: what lay in the bin for 30 days, and versions between those that are kept. */
async function tidy(now = new Date()): Promise<{ readonly deleted: number; readonly thinned: number }> {
  const studio = currentStudio();
  const deleted = await emptyBin(studio, now);
  let thinned = 0;
  for (const id of await tuneIds(studio)) thinned += await thinRevisions(studio, id, now);
  return { deleted, thinned };
}

/** Once a day while the process runs. */
export function tidyDaily(): void {
  const once = () => {
    tidy().then(
      (done) => log.info(done, 'tidied'),
      (error: unknown) => log.warn(faultOf(error), 'tidying is put off until tomorrow'),
    );
  };
  setTimeout(once, FIRST).unref();
  setInterval(once, DAY).unref();
}
