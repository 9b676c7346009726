import { INSTRUMENTS } from '../../core/instruments/catalogue';
import { transpositionText } from './transpositionText';

test.each([
  [0, 'what sounds'],
  [2, 'a whole step above what sounds'],
  [12, 'an octave above what sounds'],
  [14, 'an octave and a whole step above what sounds'],
  [-12, 'an octave below what sounds'],
  [24, '2 octaves above what sounds'],
])('%i half steps: %s', (chromatic, text) => expect(transpositionText(chromatic)).toBe(text));

test('no two transpositions of the catalogue are said alike', () => {
  const all = [...new Set(INSTRUMENTS.map(({ transposition }) => transposition.chromatic))];
  expect(new Set(all.map(transpositionText)).size).toBe(all.length);
});
