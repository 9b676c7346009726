import { noMoreThan, parseArguments, required, UsageError } from './arguments';

test('words are positional or options with a value, in any order, with or without an equals sign', () => {
  const { positional, options } = parseArguments(['a.abc', '--key=F', '--for', 'viola', '-'], ['key', 'for']);
  expect([positional, [...options]]).toEqual([
    ['a.abc', '-'],
    [
      ['key', 'F'],
      ['for', 'viola'],
    ],
  ]);
  expect(parseArguments(['--key='], ['key']).options.get('key')).toBe('');
});

test.each<readonly [readonly string[], RegExp]>([
  [['--fro', 'viola'], /^unknown option --fro: this command takes --for$/],
  [['-f', 'viola'], /^unknown option -f: options are written --for$/],
  [['--for'], /^option --for needs a value after it$/],
  [['--for', '--for'], /^option --for needs a value after it$/],
  [['--for', 'viola', '--for', 'flute'], /^option --for is given twice/],
])('%j is refused in one line', (words, says) => {
  expect(() => parseArguments(words, ['for'])).toThrow(UsageError);
  expect(() => parseArguments(words, ['for'])).toThrow(says);
});

test('what is missing or too much is named', () => {
  const given = parseArguments(['a.abc', ''], []);
  expect(required(given, 0, 'INPUT')).toBe('a.abc');
  expect(() => required(given, 1, 'OUTPUT')).toThrow('OUTPUT is missing');
  expect(() => required(given, 2, 'OUTPUT')).toThrow('OUTPUT is missing');
  expect(() => noMoreThan(parseArguments(['a', 'b', 'c'], []), 2)).toThrow(
    '"c" is one argument too many: this command takes 2',
  );
});
