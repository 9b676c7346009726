import { MODES, parseKey, signatureOf } from '../../core/pitch/key';
import { keyOf, keyOptions } from './keyOptions';

test.each(MODES)('%s: thirteen keys in fifths, each read back from its value, with its signature said', (mode) => {
  const options = keyOptions(mode);
  const keys = options.map(({ value }) => keyOf(value));
  expect(keys.map((key) => key && signatureOf(key))).toEqual(Array.from({ length: 13 }, (_, k) => k - 6));
  expect(options.map(({ hint }) => hint)).toContain('no sharps or flats');
  expect([options[5]?.hint, options[8]?.hint]).toEqual(['1 flat', '2 sharps']);
});

test('a key beyond six signs is offered where it stands already, one that is there is not offered twice', () => {
  const sharp = parseKey('C# major');
  const plain = parseKey('G');
  if (!sharp.ok || !plain.ok) throw new Error('these keys can be read');
  const values = keyOptions('major', [sharp.value, plain.value]).map(({ value }) => value);
  expect([values.length, new Set(values).size, values.at(-1)]).toEqual([14, 14, 'C#']);
  expect(keyOf('H')).toBeUndefined();
});
