import { previewOf } from './importPreview';

const bytes = (text: string) => new TextEncoder().encode(text);
const BOOK = 'X:1\nT:Sluice\nM:4/4\nL:1/4\nK:C\nCDEF|\n\nX:2\nT:Weir\nC:Nobody\nM:3/4\nL:1/4\nK:F\nF[GB]A|B2c|\n';

test('a preview says what was understood of the chosen tune, what else the file offers, and what was changed', () => {
  const seen = previewOf(bytes(BOOK), 'book.abc', { tune: '2' });
  if (!seen.ok) throw new Error(seen.problem.join());
  expect(seen.value.preview).toMatchObject({
    title: 'Weir',
    composer: 'Nobody',
    keyName: 'F major',
    meter: '3/4',
    bars: 2,
    warnings: [expect.stringMatching(/bar 1: Several notes stand together \(\[GB\]\); the top one was taken/)],
  });
  expect(seen.value.preview.choices.tunes).toHaveLength(2);
  expect(seen.value.preview.guesses).toBeUndefined();
  expect(seen.value.tune.title).toBe('Weir');
});

test('what cannot be read, or chosen, is told in sentences with its place', () => {
  const long = previewOf(bytes('X:1\nM:3/4\nL:1/4\nK:C\nCDEF|\n'), 'long.abc', {});
  const strange = previewOf(bytes(BOOK), 'book.abc', { key: 'H' });
  expect([long.ok ? [] : long.problem, strange.ok ? [] : strange.problem]).toEqual([
    ['line 5, bar 1: The bar holds 4 quarters; 3/4 has room for 3'],
    ['key: a key like D, Bb or Em'],
  ]);
});
