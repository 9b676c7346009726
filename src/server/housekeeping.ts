import { emptyBin } from '../db/binRepository';
import { thinAudit } from '../db/auditRepository';
import { deleteEndedHandouts } from '../db/handoutRepository';
import { deleteEndedSessions } from '../db/sessionRepository';
import { thinRevisions } from '../db/revisionRepository';
import { tuneIds } from '../db/tuneRepository';
import { accounts, programStudio, tidyLimits, tidyReceipts } from './database';
import { forgetAsWished } from './forgetting';
import { faultOf } from './fault';
import { log } from './log';

const DAY = 86_400_000;
/** Not while the program starts. */
const FIRST = 60_000;
const AUDIT_DAYS = 365;
/** So long after its end a pack's link is remembered. */
const ENDED_DAYS = 30;

/**
 * What age makes superfluous goes, in every studio: what lay in the bin for 30 days, versions between those that are
 * kept, what was done a year ago; and sessions that have ended.
 */
async function tidy(now = new Date()): Promise<{ readonly deleted: number; readonly thinned: number }> {
  let [deleted, thinned] = [0, 0];
  for (const id of await accounts().studioIds()) {
    const studio = programStudio(id);
    deleted += await emptyBin(studio, now);
    for (const tune of await tuneIds(studio)) thinned += await thinRevisions(studio, tune, now);
    await thinAudit(studio, new Date(now.getTime() - AUDIT_DAYS * DAY));
    await deleteEndedHandouts(studio, new Date(now.getTime() - ENDED_DAYS * DAY));
  }
  await deleteEndedSessions(accounts(), now);
  await tidyLimits(now);
  return { deleted, thinned };
}

/** Receipts are looked through so often, and so often is looked for wishes to forget: milliseconds. */
const RECEIPTS_EVERY = 60_000;
const FORGETTING_EVERY = 3_000;

/** What is short-lived goes as it ages; what another process was asked to forget is forgotten here too. */
export function tidyOften(): void {
  const quietly = (work: () => Promise<void>, what: string) => () =>
    // It comes again soon enough.
    void work().catch((error: unknown) => log.debug(faultOf(error), what));
  const forget = quietly(forgetAsWished, 'looking for what to forget is put off');
  forget();
  setInterval(forget, FORGETTING_EVERY).unref();
  setInterval(
    quietly(() => tidyReceipts(new Date()), 'receipts are tidied later'),
    // Several processes do not meet at it.
    RECEIPTS_EVERY * (1 + Math.random()),
  ).unref();
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
