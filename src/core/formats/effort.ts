/**
 * Counts the steps that a reader takes (tokens, elements, events, and how far each search looked), so that a file
 * cannot be made that is slow to read: beyond the limit reading stops. A test holds the steps against the size of a
 * file.
 */
export class TooMuchWork extends Error {}

/** Steps that every file may take, and how many more for each byte of it. Real files take less than one step a byte. */
const STEPS_AT_LEAST = 200_000;
const STEPS_A_BYTE = 8;

let spent = 0;
let most = Infinity;

/** Tells of steps taken. @throws TooMuchWork when there were too many */
export function spend(steps = 1): void {
  spent += steps;
  if (spent > most) throw new TooMuchWork(`${spent} steps`);
}

/** Runs a reader whose steps are counted. @throws TooMuchWork when it takes more than a file of this size may */
export function withinEffort<Value>(
  bytes: number,
  read: () => Value,
): { readonly value: Value; readonly steps: number } {
  const before = { spent, most };
  spent = 0;
  most = STEPS_AT_LEAST + STEPS_A_BYTE * bytes;
  try {
    const value = read();
    return { value, steps: spent };
  } finally {
    // What was taken inside is taken outside too.
    spent += before.spent;
    most = before.most;
  }
}
