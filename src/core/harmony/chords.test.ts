import fc from 'fast-check';
import { opposite } from '../pitch/interval';
import { namePitchClass } from '../pitch/pitch';
import { chordTones } from './chordTones';
import { nameChord, parseChord, printChord, transposeChord, type ChordSymbol } from './chordSymbol';

const chord = (text: string): ChordSymbol => {
  const parsed = parseChord(text);
  if (!parsed.ok) throw new Error(`${text}: ${JSON.stringify(parsed.problem)}`);
  return parsed.value;
};
const tones = (text: string) =>
  chordTones(chord(text))
    .map(({ degree, pitchClass }) => `${degree}${namePitchClass(pitchClass)}`)
    .join(' ');

const KINDS = [
  '',
  'm',
  '6',
  'm6',
  '7',
  'maj7',
  'm7',
  'm7b5',
  '°',
  '°7',
  'sus2',
  'sus4',
  '7sus4',
  '9',
  'maj9',
  'm9',
  '13',
  '7b9',
  '7#9',
  '7#11',
  'maj7#11',
  '7alt',
  '+',
  '+7',
  'mmaj7',
  '6/9',
  'add9',
  'm7add11',
  '5',
  '9sus4',
  '7b9#11',
  '7no3',
  '(b5)',
  '(#11)',
  '+maj7',
  '°maj7',
  'mmaj9',
];
const ROOTS = ['C', 'Bb', 'F#', 'Eb', 'G#'];

test('what is printed is read as the same chord, for every kind, root and bass', () => {
  for (const root of ROOTS)
    for (const kind of KINDS)
      for (const bass of ['', '/E', '/Ab']) {
        const symbol = chord(root + kind + bass);
        expect(parseChord(printChord(symbol))).toEqual({ ok: true, value: symbol });
      }
});

test('one chord has one print form, however it was written', () => {
  const same: Readonly<Record<string, readonly string[]>> = {
    Cm7b5: ['Cø', 'C-7b5', 'Cm7(b5)', 'Cø7'],
    Cmaj7: ['CΔ', 'CM7', 'CMaj7', 'C△7', 'Cma7', 'Cmajor7'],
    Cm7: ['C-7', 'Cmin7', 'Cmi7', 'Cminor7'],
    'C+': ['Caug'],
    'C+maj7': ['Caugmaj7', 'C+M7', 'C+maj7'],
    Csus2: ['C2'],
    C7b13: ['C7b6'],
    'C(#11)': ['Cadd#11', 'C(#11)'],
    'C°7': ['Cdim7', 'Co7'],
    C7sus4: ['C7sus'],
    'C6/9': ['C69', 'C6add9', 'C6(9)'],
    Cmmaj7: ['Cm(maj7)', 'CmMaj7', 'Cmin(maj7)', 'C-Δ7'],
  };
  for (const [form, spellings] of Object.entries(same))
    for (const text of spellings) expect([text, printChord(chord(text))]).toEqual([text, form]);
  expect(nameChord(chord('Bbm7b5/Ab'))).toBe('B♭m7♭5/A♭');
});

test('chord tones are spelled from the root, one letter a degree', () => {
  expect(tones('Ebm')).toBe('1E♭ 3G♭ 5B♭');
  expect(tones('B°7')).toBe('1B 3D 5F 7A♭');
  expect(tones('G13')).toBe('1G 3B 5D 7F 9A 13E');
  expect(tones('C7#9')).toBe('1C 3E 5G 7B♭ 9D♯');
  expect(tones('Dsus4')).toBe('1D 4G 5A');
  expect(tones('F6/9')).toBe('1F 3A 5C 6D 9G');
  expect(tones('N.C.')).toBe('');
});

test('root and bass move together and come back', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...ROOTS),
      fc.constantFrom(...KINDS),
      fc.constantFrom('', '/E', '/Db'),
      (root, kind, bass) => {
        const up = { diatonic: 5, chromatic: 9 };
        const symbol = chord(root + kind + bass);
        expect(transposeChord(transposeChord(symbol, up), opposite(up))).toEqual(symbol);
      },
    ),
  );
  expect(printChord(transposeChord(chord('Eb/G'), { diatonic: 1, chromatic: 2 }))).toBe('F/A');
});

test('what cannot be read is a problem that names the rest, never a guess', () => {
  const problems = { H7: 'H7', Cfoo: 'foo', 'Dm7/': '/', C7x: 'x', '': '', 'C-5': '5', am: 'am' };
  for (const [text, rest] of Object.entries(problems))
    expect(parseChord(text)).toEqual({ ok: false, problem: { code: 'unreadable-chord', found: text, rest } });
});
