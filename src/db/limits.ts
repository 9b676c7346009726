import type { Knex } from 'knex';
import { RateLimiterMySQL } from 'rate-limiter-flexible';
import { untilDone } from './repeat';

/** So many of something in so many seconds. */
export interface LimitSize {
  readonly points: number;
  readonly seconds: number;
}

export interface LimitCounter {
  /** Counts one more. @returns seconds until it may be tried again, where it is one too many */
  readonly count: (key: string) => Promise<number | undefined>;
  /** Seconds until it may be tried again, where nothing more is left; counts nothing. */
  readonly spent: (key: string) => Promise<number | undefined>;
  readonly forget: (key: string) => Promise<void>;
}

/**
 * Counts in the database, so that every process counts alike.
 * @param database its name
 * @param name of ASCII letters and dashes
 */
export function limitCounter(knex: Knex, database: string, name: string, { points, seconds }: LimitSize): LimitCounter {
  const limiter = new RateLimiterMySQL({
    storeClient: knex,
    storeType: 'knex',
    dbName: database,
    tableName: 'limits',
    tableCreated: true,
    clearExpiredByTimeout: false,
    keyPrefix: name,
    points,
    duration: seconds,
  });
  const wait = (milliseconds: number) => Math.max(1, Math.ceil(milliseconds / 1_000));
  return {
    count: async (key) => {
      try {
        await untilDone(() => limiter.consume(key));
        return undefined;
      } catch (refused) {
        if (refused instanceof Error || typeof refused !== 'object' || refused === null) throw refused;
        return wait((refused as { readonly msBeforeNext: number }).msBeforeNext);
      }
    },
    spent: async (key) => {
      const counted = await untilDone(() => limiter.get(key));
      return counted && counted.consumedPoints >= points ? wait(counted.msBeforeNext) : undefined;
    },
    forget: async (key) => {
      await untilDone(() => limiter.delete(key));
    },
  };
}

/** What has run out is not needed any more. @param now milliseconds since 1970 */
export async function forgetOldLimits(knex: Knex, now: number): Promise<void> {
  await knex('limits').where('expire', '<', now).delete();
}
