/** The input or an argument is wrong: one line, exit status 2. */
export class UsageError extends Error {}

export interface Arguments {
  readonly positional: readonly string[];
  readonly options: ReadonlyMap<string, string>;
}

/**
 * Splits the words after a command into positional ones and `--option value`.
 * @param known options that the command has; every one takes a value
 */
export function parseArguments(words: readonly string[], known: readonly string[]): Arguments {
  const positional: string[] = [];
  const options = new Map<string, string>();
  for (let k = 0; k < words.length; k += 1) {
    const word = words[k] ?? '';
    if (!word.startsWith('--')) {
      if (/^-[A-Za-z]$/.test(word))
        throw new UsageError(
          `unknown option ${word}: options are written ${known.map((name) => `--${name}`).join(', ') || 'nowhere in this command'}`,
        );
      positional.push(word);
      continue;
    }
    const equals = word.indexOf('=');
    const name = word.slice(2, equals < 0 ? undefined : equals);
    if (!known.includes(name))
      throw new UsageError(
        `unknown option --${name}: this command takes ${known.map((one) => `--${one}`).join(', ') || 'no options'}`,
      );
    if (options.has(name)) throw new UsageError(`option --${name} is given twice: give it once`);
    const value = equals < 0 ? words[(k += 1)] : word.slice(equals + 1);
    if (value === undefined || (equals < 0 && value.startsWith('--')))
      throw new UsageError(`option --${name} needs a value after it`);
    options.set(name, value);
  }
  return { positional, options };
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
