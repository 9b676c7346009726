import type { LimitSize } from '../../db/limits';
import { counter } from '../database';

const MINUTE = 60;
const HOUR = 3_600;

/**
 * How often something may be tried. Who guesses is stopped; a class of thirty that signs in behind one address is not.
 */
const LIMITS = {
  /** Wrong passwords and codes for one account. */
  account: { points: 10, seconds: 15 * MINUTE },
  /** Wrong passwords from one address. */
  address: { points: 100, seconds: 15 * MINUTE },
  /** Messages to one mail address, and asked for from one address. */
  message: { points: 5, seconds: HOUR },
  messages: { points: 40, seconds: HOUR },
  /** Links that do not exist, from one address. */
  link: { points: 60, seconds: HOUR },
  /** Entries that one pupil's link sends up, in requests. */
  entries: { points: 120, seconds: HOUR },
  /** Links that one person makes. */
  links: { points: 240, seconds: HOUR },
  /** Files that are made for whoever has a pupil's or a pack's link. */
  byLink: { points: 400, seconds: HOUR },
  /** Files that take long to make, by one person. */
  making: { points: 600, seconds: HOUR },
  /** Exports of a whole studio. */
  export: { points: 12, seconds: HOUR },
  /** What one person brings in. */
  upload: { points: 240, seconds: HOUR },
} as const satisfies Readonly<Record<string, LimitSize>>;
export type LimitName = keyof typeof LIMITS;

/** Counts one more. @returns seconds until it may be tried again, where it is one too many */
export function overLimit(name: LimitName, key: string): Promise<number | undefined> {
  return counter(name, LIMITS[name]).count(key);
}

/** Whether nothing more is left, without counting. */
export function isSpent(name: LimitName, key: string): Promise<number | undefined> {
  return counter(name, LIMITS[name]).spent(key);
}

export function forgiven(name: LimitName, key: string): Promise<void> {
  return counter(name, LIMITS[name]).forget(key);
}

/** When to come again, in words. */
export function comeAgainWords(seconds: number): string {
  const minutes = Math.ceil(seconds / MINUTE);
  return `Too many tries. Please come again in ${minutes === 1 ? 'a minute' : `${minutes} minutes`}.`;
}
