import { kindText, parseChord, type ChordSymbol } from '../../harmony/chordSymbol';
import { harmonyKind, kindOfHarmony } from './chordKinds';

type Chord = Extract<ChordSymbol, { kind: 'chord' }>;
const chord = (text: string): Chord => {
  const parsed = parseChord(text);
  if (!parsed.ok || parsed.value.kind !== 'chord') throw new Error(text);
  return parsed.value;
};
const said = (text: string) => {
  const { kind, degrees } = harmonyKind(chord(text));
  return `${kind}${degrees.map(({ value, alter, type }) => ` ${type} ${alter < 0 ? 'b' : alter > 0 ? '#' : ''}${value}`).join('')}`;
};

test.each([
  ['C', 'major'],
  ['Cm7', 'minor-seventh'],
  ['Cmaj9', 'major-ninth'],
  ['C6', 'major-sixth'],
  ['Cm7b5', 'half-diminished'],
  ['C°7', 'diminished-seventh'],
  ['C7b9', 'dominant add b9'],
  ['C9#11', 'dominant-ninth add #11'],
  ['C13b9', 'dominant-13th alter b9'],
  ['C7b5', 'dominant alter b5'],
  ['Cadd9', 'major add 9'],
  ['C7sus4', 'suspended-fourth add b7'],
  ['C9sus4', 'suspended-fourth add b7 add 9'],
  ['Csus2', 'suspended-second'],
  ['C5', 'power'],
])('%s is written as %s', (text, kind) => expect(said(text)).toBe(kind));

test.each([
  'C',
  'Cm',
  'C+',
  'C°',
  'C7',
  'Cmaj7',
  'Cm7',
  'C°7',
  'Cm7b5',
  'Cmmaj7',
  'C6',
  'Cm6',
  'C9',
  'Cm9',
  'Cmaj9',
  'C11',
  'C13',
  'Cmaj13',
  'C7b9',
  'C7#9',
  'C7b5',
  'C7#5',
  'C7b9#11',
  'C13b9',
  'C9#11',
  'Cadd9',
  'Cmadd9',
  'Csus4',
  'Csus2',
  'C7sus4',
  'C9sus4',
  'C13sus4',
  'C5',
  'C7alt',
  'C69',
])('%s comes back as it went, with the printed text and without', (text) => {
  const { quality } = chord(text);
  const { kind, text: printed, degrees } = harmonyKind(chord(text));
  expect(kindText(kindOfHarmony(kind, printed, degrees) as Chord['quality'])).toBe(kindText(quality));
  // What is printed says "altered"; kind and degrees alone cannot.
  if (!quality.altered)
    expect(kindText(kindOfHarmony(kind, undefined, degrees) as Chord['quality'])).toBe(kindText(quality));
});

test('the printed text is believed only where it agrees with kind and degrees', () => {
  expect(kindText(kindOfHarmony('dominant', '7alt', []) as Chord['quality'])).toBe('7alt');
  expect(kindText(kindOfHarmony('minor', '7alt', []) as Chord['quality'])).toBe('m');
});

test('degrees come in any order and are said in one', () => {
  const degrees = [
    { value: 13, alter: -1, type: 'add' },
    { value: 9, alter: -1, type: 'add' },
  ] as const;
  expect(kindOfHarmony('dominant', undefined, degrees)).toEqual(
    kindOfHarmony('dominant', undefined, degrees.toReversed()),
  );
});

test.each([
  ['a kind that nobody knows', 'Neapolitan', []],
  ['a degree that cannot be left out', 'dominant', [{ value: 7, alter: 0, type: 'subtract' }]],
  ['a degree that there is not', 'major', [{ value: 8, alter: 0, type: 'add' }]],
  ['an altered sixth', 'major', [{ value: 6, alter: -1, type: 'add' }]],
  ['a ninth raised twice', 'dominant', [{ value: 9, alter: 2, type: 'alter' }]],
] as const)('%s is no chord of this program', (_, kind, degrees) =>
  expect(kindOfHarmony(kind, undefined, degrees)).toBeUndefined(),
);
