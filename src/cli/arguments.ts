/** The input or an argument is wrong: one line, exit status 2. */
export class UsageError extends Error {}

export interface Arguments {
  readonly positional: readonly string[];
  readonly options: ReadonlyMap<string, string>;
  /** Options without a value that were given. */
  readonly flags: ReadonlySet<string>;
}

/**
 * Splits the words after a command into positional ones and `--option value`.
 * @param known options that the command has, with a value
 * @param switches those that have none
 */
export function parseArguments(
  words: readonly string[],
  known: readonly string[],
  switches: readonly string[] = [],
): Arguments {
  const positional: string[] = [];
  const options = new Map<string, string>();
  const flags = new Set<string>();
  const all = [...known, ...switches].map((one) => `--${one}`).join(', ');
  for (let k = 0; k < words.length; k += 1) {
    const word = words[k] ?? '';
    if (!word.startsWith('--')) {
      if (/^-[A-Za-z]$/.test(word))
        throw new UsageError(`unknown option ${word}: options are written ${all || 'nowhere in this command'}`);
      positional.push(word);
      continue;
    }
    const equals = word.indexOf('=');
    const name = word.slice(2, equals < 0 ? undefined : equals);
    if (switches.includes(name)) {
      if (equals >= 0) throw new UsageError(`option --${name} stands alone: leave out what follows it`);
      flags.add(name);
      continue;
    }
    if (!known.includes(name))
      throw new UsageError(`unknown option --${name}: this command takes ${all || 'no options'}`);
    if (options.has(name)) throw new UsageError(`option --${name} is given twice: give it once`);
    const value = equals < 0 ? words[(k += 1)] : word.slice(equals + 1);
    if (value === undefined || (equals < 0 && value.startsWith('--')))
      throw new UsageError(`option --${name} needs a value after it`);
    options.set(name, value);
  }
  return { positional, options, flags };
}

/** The nth positional word, or an error that says what is missing. */
export function required({ positional }: Arguments, index: number, what: string): string {
  const word = positional[index];
  if (word === undefined || word === '') throw new UsageError(`${what} is missing`);
  return word;
}

export function noMoreThan({ positional }: Arguments, count: number): void {
  const extra = positional[count];
  if (extra !== undefined) throw new UsageError(`"${extra}" is one argument too many: this command takes ${count}`);
}
