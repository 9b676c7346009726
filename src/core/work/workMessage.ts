import { derived } from '../derived';
import { LEVELS } from '../instruments';
import { apply, type Command } from './command';
import { differenceBetween } from './difference';
import type { Work } from './work';

/** A work on its way to a worker: what was done to the work sent before, or the whole of it. */
export type WorkMessage = {
  /** Counted from 1; each is told on top of the one before. */
  readonly number: number;
  /** Of the work as it is afterwards. */
  readonly checksum: number;
} & ({ readonly command: Command } | { readonly whole: Work });

/** A change as the store made it. */
export interface CarriedOut {
  readonly command: Command;
  readonly before: Work;
  readonly after: Work;
}

/**
 * Tells works one after another. Messages between threads are copied; a tune of hundreds of bars would be copied for
 * every key stroke, and nothing that is known of it would be recognised. What was done is sent instead: works share
 * what did not change, and so do their copies.
 */
export class WorkSender {
  private number = 0;
  private last: Work | undefined;

  /** @param change how the work came about, where that is known; what differs is found by comparing where it is not */
  next(work: Work, change?: CarriedOut): WorkMessage {
    const { last } = this;
    if (!last) return this.whole(work);
    this.last = work;
    const command: Command =
      change && change.before === last && change.after === work
        ? change.command
        : { kind: 'difference', words: '', difference: differenceBetween(last, work) };
    return { ...this.headOf(work), command };
  }

  /** All of a work, for a worker that has missed something. */
  whole(work: Work): WorkMessage {
    this.last = work;
    return { ...this.headOf(work), whole: work };
  }

  private headOf(work: Work): { readonly number: number; readonly checksum: number } {
    this.number += 1;
    return { number: this.number, checksum: checksumOf(work) };
  }
}

/** What a worker says that needs the whole of a work. The name is what reaches the other thread. */
export class WorkMissed extends Error {
  override readonly name = 'WorkMissed';
}

/** Whether an error, also one that came from another thread, asks for the whole of a work. */
export function isWorkMissed(error: unknown): boolean {
  return error instanceof Error && error.name === 'WorkMissed';
}

/** The other end: gives back each work, the parts that did not change as the same objects as before. */
export class WorkReceiver {
  private number = 0;
  private last: Work | undefined;

  /**
   * A message that came already, or comes late, changes nothing.
   * @throws WorkMissed where a message was lost, or what was done here does not give what was meant: the whole is
   *   wanted
   */
  take(message: WorkMessage): Work {
    if (this.last && message.number <= this.number) return this.last;
    const work = this.after(message);
    if (!work || checksumOf(work) !== message.checksum)
      throw new WorkMissed(`work ${message.number} after work ${this.number}: the whole is wanted`);
    this.number = message.number;
    this.last = work;
    return work;
  }

  private after(message: WorkMessage): Work | undefined {
    if ('whole' in message) return message.whole;
    if (!this.last || message.number !== this.number + 1) return undefined;
    const applied = apply(this.last, message.command);
    return applied.ok ? applied.value.work : undefined;
  }
}

/** A number that two works share when they hold the same; whatever did not change is not looked at again. */
export function checksumOf({ tune, recipes }: Work): number {
  const { bars, ...head } = tune;
  const fields = Object.entries(head)
    .filter(([, value]) => value !== undefined)
    .toSorted(([a], [b]) => (a < b ? -1 : 1));
  let sum = hashOf(JSON.stringify(fields), FIRST);
  for (const bar of bars) sum = Math.imul(sum ^ ofObject(bar), PRIME);
  for (const level of LEVELS) {
    const recipe = recipes[level];
    sum = Math.imul(sum ^ (recipe ? ofObject(recipe) : 1), PRIME);
  }
  return sum >>> 0;
}

/** The constants of the FNV-1a hash (G. Fowler, L. C. Noll, K.-P. Vo; public domain), for 32 bits. */
const FIRST = 0x811c9dc5;
const PRIME = 0x01000193;

function hashOf(text: string, first: number): number {
  let hash = first;
  for (let k = 0; k < text.length; k += 1) hash = Math.imul(hash ^ text.charCodeAt(k), PRIME);
  return hash;
}

/** Bars and recipes do not change: what is known of one holds as long as it is there. */
const ofObject = derived((value: object): number => hashOf(JSON.stringify(value), FIRST));
