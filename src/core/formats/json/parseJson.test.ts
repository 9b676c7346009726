import { parseJson } from './parseJson';

test('JSON within the limits is what JSON.parse makes of it; brackets inside strings count for nothing', () => {
  const value = { a: [1, { b: '[[[["\\' + '['.repeat(500) }], c: null };
  expect(parseJson(JSON.stringify(value))).toEqual({ ok: true, value });
  expect(parseJson('7')).toEqual({ ok: true, value: 7 });
});

test.each([
  ['[ without an end', '['.repeat(1_000_000), 'it is nested more than 64 levels deep'],
  ['objects in objects', '{"a":'.repeat(65), 'it is nested more than 64 levels deep'],
  ['a list without an end', `[${'0,'.repeat(1_000_001)}0]`, 'it holds more than 1,000,000 values'],
  ['empty objects', `[${'{},'.repeat(600_000)}{}]`, 'it holds more than 1,000,000 values'],
])('%s is refused before it is parsed', (_, text, problem) => {
  const parse = jest.spyOn(JSON, 'parse');
  expect(parseJson(text)).toEqual({ ok: false, problem });
  expect(parse).not.toHaveBeenCalled();
  parse.mockRestore();
});

test('64 levels are parsed, and a text that is broken off says so', () => {
  expect(parseJson(`${'['.repeat(64)}${']'.repeat(64)}`).ok).toBe(true);
  expect(parseJson('{"a":"b')).toMatchObject({ ok: false, problem: expect.stringContaining('JSON') as string });
});
