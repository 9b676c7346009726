import { randomBytes } from 'node:crypto';
import type { Knex } from 'knex';
import { isTaken, passesByItself } from './trouble';

/** How long something is tried, from its first try on, and the pauses between: milliseconds. */
const LASTS = 8_000;
const SHORTEST_PAUSE = 15;
const LONGEST_PAUSE = 600;

/** What passes time and decides by chance; tests put their own. */
export interface Pacing {
  readonly now: () => number;
  readonly wait: (milliseconds: number) => Promise<void>;
  /** From 0 to 1. */
  readonly chance: () => number;
}

const USUAL: Pacing = {
  now: () => performance.now(),
  wait: (milliseconds) => new Promise((done) => setTimeout(done, milliseconds)),
  chance: () => Math.random(),
};

/**
 * Tries until it is done, where what went wrong passes by itself: the loser of two that met, a node that is being
 * replaced. The pauses double and are drawn by chance, so that those who met do not meet again.
 * @param attempt told which try this is, from 1 on
 * @throws the last error, once eight seconds are over; any other error at once
 */
export async function untilDone<Result>(
  attempt: (tries: number) => Promise<Result>,
  { now, wait, chance }: Pacing = USUAL,
): Promise<Result> {
  const until = now() + LASTS;
  for (let tries = 1; ; tries += 1) {
    try {
      return await attempt(tries);
    } catch (error) {
      if (!passesByItself(error)) throw error;
      const pause = (0.5 + chance() / 2) * Math.min(LONGEST_PAUSE, SHORTEST_PAUSE * 2 ** (tries - 1));
      if (now() + pause > until) throw error;
      await wait(pause);
    }
  }
}

const RECEIPTS = 'write_receipts';

/** A receipt of an earlier try is there: that try has come through after all. */
class DoneBefore extends Error {
  override readonly name = 'DoneBefore';
}

/**
 * Does something in a transaction exactly once, however often it has to be tried. A connection that breaks while a
 * transaction ends leaves open whether it came through; so each leaves a receipt with what it writes, of one key for all
 * tries: one that was done is known by it, and two that both go on cannot both come through.
 * @param work may be called several times; what it did in a try that came to nothing is not there. It keeps nothing in
 *   variables of others.
 */
export function doneOnce<Result>(knex: Knex, work: (inside: Knex.Transaction) => Promise<Result>): Promise<Result> {
  const receipt = randomBytes(16).toString('hex');
  /** What each try would have answered. */
  const answers = new Map<number, Result>();
  const earlier = async (): Promise<number | undefined> => {
    const rows = await rowsOf<{ readonly tries: number }>(knex, 'SELECT tries FROM ?? WHERE receipt = ?', [
      RECEIPTS,
      receipt,
    ]);
    return rows[0]?.tries;
  };
  return untilDone(async (tries) => {
    const done = tries > 1 ? await earlier() : undefined;
    if (done !== undefined) return answers.get(done) as Result;
    try {
      return await knex.transaction(async (inside) => {
        await leaveReceipt(inside, receipt, tries);
        const answer = await work(inside);
        answers.set(tries, answer);
        return answer;
      });
    } catch (error) {
      if (!(error instanceof DoneBefore)) throw error;
      const one = await earlier();
      if (one === undefined) throw error.cause;
      return answers.get(one) as Result;
    }
  });
}

async function leaveReceipt(inside: Knex.Transaction, receipt: string, tries: number): Promise<void> {
  try {
    // Its first half, as a number, is the mark by which readers know that something was written.
    await inside(RECEIPTS).insert({
      receipt,
      tries,
      mark: inside.raw('CONV(?, 16, 10)', [receipt.slice(0, 16)]),
      written_at: new Date(),
    });
  } catch (error) {
    if (isTaken(error)) throw new DoneBefore('done by an earlier try', { cause: error });
    throw error;
  }
}

/**
 * A number that is another one whenever anything was written since, by whatever process. Cheap: receipts are kept for
 * minutes only. It is the same in whatever order they came, so that no row is written by all.
 */
export async function writingMark(knex: Knex): Promise<string> {
  const [row] = await rowsOf<{ readonly mark: string }>(knex, 'SELECT CAST(BIT_XOR(mark) AS CHAR) AS mark FROM ??', [
    RECEIPTS,
  ]);
  return row?.mark ?? '';
}

/** Rows of a statement that is tried once. */
async function rowsOf<Row>(knex: Knex, sql: string, bindings: readonly string[]): Promise<readonly Row[]> {
  const [rows] = (await knex.raw(sql, [...bindings])) as [readonly Row[]];
  return rows;
}

/** So long a receipt may still be asked for, with much room: milliseconds. */
const RECEIPTS_LAST = 300_000;

/** Receipts that nobody can ask for any more go. */
export async function forgetOldReceipts(knex: Knex, now: Date): Promise<void> {
  // Once more in a minute where it meets another that does the same.
  await knex.raw('DELETE FROM ?? WHERE written_at < ?', [RECEIPTS, new Date(now.getTime() - RECEIPTS_LAST)]);
}

/** A part of a transaction that is under way, or one of its own that is done once. */
export function inTransaction<Result>(knex: Knex, work: (inside: Knex) => Promise<Result>): Promise<Result> {
  const asKnex = (inside: Knex.Transaction) => work(inside as unknown as Knex);
  // What has to be tried again is tried again as a whole.
  return knex.isTransaction ? knex.transaction(asKnex) : doneOnce(knex, asKnex);
}
