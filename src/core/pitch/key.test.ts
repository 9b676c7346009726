import fc from 'fast-check';
import { key } from '../../../tests/given';
import {
  intervalBetweenTonics,
  intervalUp,
  keyProblemText,
  MODES,
  nameKey,
  parseKey,
  printKey,
  signatureOf,
  transposeKey,
  type Key,
} from './key';
import { semitones, LETTERS, type PitchClass } from './pitch';
import { transposeClass } from './transpose';

const tonic = fc.record({ step: fc.constantFrom(...LETTERS), alter: fc.integer({ min: -1, max: 1 }) });
const anyKey = fc
  .record({ tonic, mode: fc.constantFrom(...MODES) })
  .filter((key: Key) => Math.abs(signatureOf(key)) <= 7);
const said = (text: string) => {
  const parsed = parseKey(text);
  return parsed.ok ? nameKey(parsed.value) : keyProblemText(parsed.problem);
};

describe('keys as people write them', () => {
  test.each([
    ['C', 'C major'],
    ['bb', 'B♭ major'],
    ['F#m', 'F♯ minor'],
    ['CM', 'C major'],
    ['Cm', 'C minor'],
    [' d Dorian ', 'D dorian'],
    ['B♭ major', 'B♭ major'],
    ['E phr', 'E phrygian'],
    ['A aeo', 'A aeolian'],
  ])('“%s” is %s', (text, name) => expect(said(text)).toBe(name));

  test.each([
    ['H major', /is no key: write a tonic and a mode/],
    ['C happy', /has no known mode: use major, minor \(m\)/],
    ['D## major', /is no key/],
    ['G# major', /more than seven sharps or flats: use its enharmonic twin/],
    ['C constructor', /has no known mode/],
  ])('“%s” is refused with what would be right', (text, words) => expect(said(text)).toMatch(words));

  test('every key is read back from how it is printed', () => {
    fc.assert(fc.property(anyKey, (one) => expect(parseKey(printKey(one))).toEqual({ ok: true, value: one })));
  });
});

describe('from tonic to tonic', () => {
  const step = (from: string, to: string) => {
    const { diatonic, chromatic } = intervalBetweenTonics(key(from).tonic, key(to).tonic);
    return `${diatonic}/${chromatic}`;
  };

  test.each([
    ['C', 'D', '1/2'],
    ['C', 'Bb', '-1/-2'],
    ['C', 'G', '-3/-5'],
    ['C', 'F#', '3/6'],
    ['F#', 'C', '4/6'],
    ['Eb', 'E', '0/1'],
    ['B', 'C', '1/1'],
  ])('%s to %s goes the shorter way', (from, to, interval) => expect(step(from, to)).toBe(interval));

  test('it arrives, and never by more than a tritone', () => {
    fc.assert(
      fc.property(anyKey, anyKey, ({ tonic: from }, { tonic: to }) => {
        const interval = intervalBetweenTonics(from, to);
        expect(transposeClass(from, interval)).toEqual(to);
        expect(Math.abs(interval.chromatic)).toBeLessThanOrEqual(7);
        const up = intervalUp(from, to);
        expect(up.diatonic >= 0 && up.diatonic < 8).toBe(true);
        expect(transposeClass(from, up)).toEqual(to);
      }),
    );
  });

  test('moving a key keeps its mode and all its steps', () => {
    fc.assert(
      fc.property(anyKey, tonic, (one, to) => {
        const interval = intervalBetweenTonics(one.tonic, to);
        const moved = transposeKey(one, interval);
        expect([moved.mode, moved.tonic]).toEqual([one.mode, to]);
        const height = ({ step: letter, alter }: PitchClass) => semitones({ step: letter, alter, octave: 4 });
        expect(Math.abs(height(moved.tonic) - height(one.tonic) - interval.chromatic) % 12).toBe(0);
      }),
    );
  });
});
