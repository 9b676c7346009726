import { instrument, key, pitch } from '../../../tests/given';
import { CAUSES, type Causes } from '../analysis/difficulty';
import { costsText } from './playTogether';
import type { KeyForPlayer } from './rankKeys';
import { keyReasons, signatureText } from './reasons';

const easy = Object.fromEntries(CAUSES.map((cause) => [cause, 0])) as Causes;
const reasons = (more: Partial<KeyForPlayer>) =>
  keyReasons({
    player: { name: '', instrument: instrument('clarinet-bb'), level: 'beginner' },
    writtenKey: key('C'),
    signature: 0,
    octave: 0,
    below: 0,
    above: 0,
    unknown: 0,
    fits: true,
    missing: [],
    canPlay: true,
    crossings: 0,
    isHomeKey: false,
    difficulty: 1,
    causes: easy,
    cost: 1,
    ...more,
  } as KeyForPlayer);

test('a key that lies well says its signature and its top note, and no more', () => {
  expect(reasons({ highest: pitch('E4') })).toEqual(['C major, no sharps or flats', 'top note E4, comfortable']);
});

test.each<[string, Partial<KeyForPlayer>, string]>([
  ['one note too low', { below: 1, lowest: pitch('D3') }, '1 note below E3, down to D3'],
  ['some notes too high', { above: 4, highest: pitch('B5') }, /^4 notes above .*, up to B5$/ as unknown as string],
  ['notes not learned yet', { unknown: 2 }, '2 notes not known yet'],
  ['a key to begin with', { isHomeKey: true }, 'C major, no sharps or flats, a key that first pupils start in'],
  ['the break, once', { crossings: 1 }, 'crosses the break once'],
  ['the break, twice', { crossings: 2 }, 'crosses the break twice'],
  ['the break, often', { crossings: 9 }, 'crosses the break 9 times'],
  ['an octave up', { octave: 1 }, 'an octave above the tune'],
  ['two octaves down', { octave: -2 }, '2 octaves below the tune'],
  ['what makes it hard', { causes: { ...easy, speed: 6, leaps: 4 } }, /^hardest by .+ and .+$/ as unknown as string],
])('%s', (_, judged, words) => {
  const said = reasons(judged);
  expect(said).toContainEqual(typeof words === 'string' ? words : expect.stringMatching(words));
});

test('notes that the instrument does not have come first; so many that nobody can play it are said so', () => {
  const missing = [pitch('C3'), pitch('D3')];
  expect(reasons({ missing })[0]).toMatch(/^the .* does not have C3, D3$/);
  expect(reasons({ missing, canPlay: false })[0]).toMatch(/^cannot be played: the .* does not have C3, D3$/);
});

test('what the signature and the break weigh is not said a second time as what makes it hardest', () => {
  expect(reasons({ causes: { ...easy, signature: 9, break: 9 } }).join()).not.toMatch(/hardest/);
});

test.each([
  [0, 'no sharps or flats'],
  [1, '1 sharp'],
  [-1, '1 flat'],
  [4, '4 sharps'],
  [-6, '6 flats'],
])('%i is %s', (signature, words) => expect(signatureText(signature)).toBe(words));

describe('what playing together costs, in a sentence', () => {
  const text = (costs: Parameters<typeof costsText>[0]['costs'], mended: readonly number[] = []) =>
    costsText({ costs, mended } as unknown as Parameters<typeof costsText>[0]);

  test.each([
    [text([]), ''],
    [text([{ level: 'advanced', text: 'at 72 instead of 96' }]), 'Advanced at 72 instead of 96.'],
    [text([], [4]), 'Bar 4 as written, so that nothing clashes.'],
    [
      text([{ level: 'beginner', text: 'plays in G major instead of F major' }], [2, 7]),
      'Beginner plays in G major instead of F major; bars 2, 7 as written, so that nothing clashes.',
    ],
  ])('%s', (said, words) => expect(said).toBe(words));
});
