import fc from 'fast-check';
import { parseKey, printKey, transposeKey } from '../../pitch/key';
import { transposeChord } from '../chordSymbol';
import { parseProgression } from '../progression';
import { progressionChords } from './progressionChords';
import { readForm } from './readForm';
import type { TimedChord } from './timedChord';

interface Case {
  readonly key?: string;
  readonly home?: string;
  readonly form: string;
  /** Written by hand, a bar between bars, as a teacher would write it over the chart. */
  readonly numerals: string;
  readonly meter?: readonly [number, 4 | 8];
  readonly patterns?: string;
}

const FORMS: Readonly<Record<string, Case>> = {
  'a plain major cadence': {
    home: 'C',
    form: 'Dm7 | G7 | Cmaj7 | Cmaj7',
    numerals: 'ii7 | V7 | Imaj7 | Imaj7',
    patterns: 'ii–V–I',
  },
  'a minor cadence': {
    home: 'Cm',
    form: 'Dm7b5 | G7b9 | Cm6 | Cm6',
    numerals: 'iiø7 | V7♭9 | i6 | i6',
    patterns: 'ii–V–I',
  },
  'a three-chord song': {
    home: 'G',
    form: 'G | C | G | D7 | G | C | D7 | G',
    numerals: 'I | IV | I | V7 | I | IV | V7 | I',
  },
  'blues with three chords': {
    home: 'F',
    form: 'F7 | % | % | % | Bb7 | % | F7 | % | C7 | Bb7 | F7 | C7',
    numerals: 'I7 | I7 | I7 | I7 | IV7 | IV7 | I7 | I7 | V7 | IV7 | I7 | V7',
    patterns: 'blues',
  },
  'blues with passing chords': {
    home: 'Bb',
    form: 'Bb7 | Eb7 | Bb7 | Fm7 Bb7 | Eb7 | E°7 | Bb7 | Dm7b5 G7 | Cm7 | F7 | Bb7 G7 | Cm7 F7',
    numerals: 'I7 | IV7 | I7 | ii7/IV V7/IV | IV7 | ♯iv°7 | I7 | iiø7/ii V7/ii | ii7 | V7 | I7 V7/ii | ii7 V7',
    patterns: 'blues, ii–V–I, turnaround, ii–V',
  },
  'blues in major dress': {
    home: 'F',
    form: 'Fmaj7 | Em7b5 A7 | Dm7 G7 | Cm7 F7 | Bb7 | Bbm7 Eb7 | Am7 | Abm7 Db7 | Gm7 | C7 | F6 D7 | Gm7 C7',
    numerals:
      'Imaj7 | iiø7/vi V7/vi | vi7 V7/v | ii7/IV V7/IV | IV7 | iv7 ♭VII7 | iii7 | ♭iii7 ♭VI7 | ii7 | V7 | I6 V7/ii | ii7 V7',
  },
  'minor blues': {
    home: 'Am',
    form: 'Am7 | Dm7 | Am7 | Am7 | Dm7 | Dm7 | Am7 | Am7 | F7 | E7 | Am7 | E7',
    numerals: 'i7 | iv7 | i7 | i7 | iv7 | iv7 | i7 | i7 | VI7 | V7 | i7 | V7',
    patterns: 'minor blues',
  },
  'the old turnaround': {
    home: 'C',
    form: 'C Am7 | Dm7 G7 | C Am7 | Dm7 G7',
    numerals: 'I vi7 | ii7 V7 | I vi7 | ii7 V7',
  },
  'a turnaround of dominants': {
    key: 'Eb',
    form: 'Ebmaj7 C7 | F7 Bb7 | Ebmaj7 C7 | F7 Bb7',
    numerals: 'Imaj7 V7/ii | V7/V V7 | Imaj7 V7/ii | V7/V V7',
  },
  'a turnaround of substitutes': {
    key: 'C',
    form: 'Cmaj7 | Eb7 D7 | Dm7 Db7 | Cmaj7',
    numerals: 'Imaj7 | ♭II7/ii V7/V | ii7 ♭II7 | Imaj7',
  },
  'by the back door': {
    home: 'C',
    form: 'Cmaj7 | C7 | Fmaj7 | Fm7 Bb7 | Cmaj7 | Am7 | Dm7 G7 | Cmaj7',
    numerals: 'Imaj7 | V7/IV | IVmaj7 | iv7 ♭VII7 | Imaj7 | vi7 | ii7 V7 | Imaj7',
    patterns: 'backdoor, ii–V–I',
  },
  'a vamp in dorian': {
    home: 'D dorian',
    form: 'Dm7 | G7 | Dm7 | G7 | Dm7 | G7 | Dm7 | G7',
    numerals: 'i7 | IV7 | i7 | IV7 | i7 | IV7 | i7 | IV7',
    patterns: 'vamp',
  },
  'a vamp in mixolydian': {
    home: 'G mixolydian',
    form: 'G7 | F | G7 | F',
    numerals: 'I7 | ♭VII | I7 | ♭VII',
    patterns: 'vamp',
  },
  'a vamp in phrygian': {
    home: 'E phrygian',
    form: 'Em7 | Fmaj7 | Em7 | Fmaj7',
    numerals: 'i7 | ♭IImaj7 | i7 | ♭IImaj7',
    patterns: 'vamp',
  },
  'one chord, then the same a half step up': {
    home: 'D dorian',
    form: 'Dm7 | % | % | % | % | % | % | % | Ebm7 | % | % | % | Dm7 | % | % | %',
    numerals: 'i7 | i7 | i7 | i7 | i7 | i7 | i7 | i7 | i7 | i7 | i7 | i7 | i7 | i7 | i7 | i7',
    patterns: 'vamp',
  },
  'a section of rhythm type': {
    home: 'Bb',
    form: 'Bb6 G7 | Cm7 F7 | Dm7 G7 | Cm7 F7 | Bb7 | Eb7 | Dm7 G7 | Cm7 F7',
    numerals: 'I6 V7/ii | ii7 V7 | iii7 V7/ii | ii7 V7 | V7/IV | IV7 | iii7 V7/ii | ii7 V7',
  },
  'its bridge of dominants': {
    key: 'Bb',
    form: 'D7 | % | G7 | % | C7 | % | F7 | %',
    numerals: 'V7/vi | V7/vi | V7/ii | V7/ii | V7/V | V7/V | V7 | V7',
  },
  'through four keys': {
    home: 'C',
    form: 'Cmaj7 | % | Cm7 | F7 | Bbmaj7 | % | Bbm7 | Eb7 | Abmaj7 | % | Abm7 | Db7 | Gbmaj7 | % | Dm7 | G7 | Cmaj7 | % | Dm7 G7 | Cmaj7',
    numerals:
      'Imaj7 | Imaj7 | ii7 | V7 | Imaj7 | Imaj7 | ii7 | V7 | Imaj7 | Imaj7 | ii7 | V7 | Imaj7 | Imaj7 | ii7 | V7 | Imaj7 | Imaj7 | ii7 V7 | Imaj7',
  },
  'down through four keys and straight back': {
    home: 'C',
    form: 'Cmaj7 | % | Cm7 | F7 | Bbmaj7 | % | Bbm7 | Eb7 | Abmaj7 | % | Abm7 | Db7 | Gbmaj7 | % | Dm7 | G7 | Cmaj7',
    numerals:
      'Imaj7 | Imaj7 | ii7 | V7 | Imaj7 | Imaj7 | ii7 | V7 | Imaj7 | Imaj7 | ii7 | V7 | Imaj7 | Imaj7 | ii7 | V7 | Imaj7',
  },
  'a bridge in the third above': {
    home: 'F',
    form: 'Fmaj7 | Gm7 C7 | Fmaj7 | Bm7 E7 | Amaj7 | Bm7 E7 | Amaj7 | % | Gm7 | C7 | Fmaj7 | %',
    numerals: 'Imaj7 | ii7 V7 | Imaj7 | ii7 V7 | Imaj7 | ii7 V7 | Imaj7 | Imaj7 | ii7 | V7 | Imaj7 | Imaj7',
  },
  'minor that looks to its relative': {
    home: 'Gm',
    form: 'Gm | Cm7 | F7 | Bbmaj7 | Ebmaj7 | Am7b5 | D7 | Gm',
    numerals: 'i | iv7 | V7/III | IIImaj7 | VImaj7 | iiø7 | V7 | i',
  },
  'falling in minor': { key: 'Am', form: 'Am | G | F | E7', numerals: 'i | VII | VI | V7' },
  'a waltz': {
    home: 'D',
    meter: [3, 4],
    form: 'D | Bm | Em | A7 | D | D7 | G | A7 | D',
    numerals: 'I | vi | ii | V7 | I | V7/IV | IV | V7 | I',
  },
  'a jig': {
    home: 'G',
    meter: [6, 8],
    form: 'G | C G | Am D7 | G | Em | Am | G D7 | G',
    numerals: 'I | IV I | ii V7 | I | vi | ii | I V7 | I',
  },
  'rock with the lowered seventh': { key: 'D', form: 'D | C | G | D', numerals: 'I | ♭VII | IV | I' },
  'passing diminished chords': {
    home: 'C',
    form: 'C | C#°7 | Dm7 | D#°7 | Em7 | Am7 | Dm7 G7 | C',
    numerals: 'I | vii°7/ii | ii7 | vii°7/iii | iii7 | vi7 | ii7 V7 | I',
  },
  'the minor fourth': {
    home: 'G',
    form: 'G | G7 | C | Cm | G | D7 | G | G',
    numerals: 'I | V7/IV | IV | iv | I | V7 | I | I',
  },
  'borrowed majors': { key: 'C', form: 'C | Ab | Bb | C', numerals: 'I | ♭VI | ♭VII | I' },
  'the lowered second in minor': { key: 'Am', form: 'Am | Bb | E7 | Am', numerals: 'i | ♭II | V7 | i' },
  'suspended before it resolves': { home: 'A', form: 'A | D | E7sus4 | E7 | A', numerals: 'I | IV | V7sus4 | V7 | I' },
  'with a bar of silence': { home: 'C', form: 'C | N.C. | F G7 | C', numerals: 'I |  | IV V7 | I' },
};

const keyOf = (text: string) => {
  const key = parseKey(text);
  if (!key.ok) throw new Error(text);
  return key.value;
};

function chordsOf({ form, meter: [count, unit] = [4, 4] }: Case): {
  readonly chords: readonly TimedChord[];
  readonly bars: number;
} {
  const parsed = parseProgression(form);
  if (!parsed.ok) throw new Error(form);
  return { chords: progressionChords(parsed.value, { count, unit }), bars: parsed.value.length };
}

test.each(Object.entries(FORMS))('%s is read as by hand', (_, form) => {
  const { chords, bars } = chordsOf(form);
  const read = readForm(chords, { bars, ...(form.key !== undefined && { key: keyOf(form.key) }) });
  const byBar = Array.from({ length: bars }, (__, bar) =>
    read.chords.flatMap(({ chord, numeral }) => (chord.bar === bar ? [numeral] : [])).join(' '),
  );
  expect(byBar.join(' | ')).toBe(form.numerals);
  if (form.home !== undefined) expect(printKey(read.home)).toBe(form.home);
  if (form.patterns !== undefined)
    expect([...new Set(read.patterns.map(({ kind }) => kind))].join(', ')).toBe(form.patterns);
});

test('a form reads alike in every key', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...Object.values(FORMS)),
      fc.constantFrom(
        ...([
          [1, 1],
          [1, 2],
          [2, 3],
          [2, 4],
          [3, 5],
          [4, 7],
          [-1, -1],
          [-1, -2],
          [-2, -3],
          [-3, -5],
        ] as const),
      ),
      (form, [diatonic, chromatic]) => {
        const interval = { diatonic, chromatic };
        const { chords, bars } = chordsOf(form);
        const moved = chords.map((chord) => ({ ...chord, symbol: transposeChord(chord.symbol, interval) }));
        const key = form.key === undefined ? undefined : keyOf(form.key);
        const here = readForm(chords, { bars, ...(key && { key }) });
        const there = readForm(moved, { bars, ...(key && { key: transposeKey(key, interval) }) });
        expect(there.chords.map(({ numeral }) => numeral)).toEqual(here.chords.map(({ numeral }) => numeral));
        expect(there.chords.map((one) => one.function)).toEqual(here.chords.map((one) => one.function));
      },
    ),
  );
});

test('a key set by hand holds from its chord to the next one set, and numerals follow', () => {
  const { chords, bars } = chordsOf({ form: 'C | Am | D7 | G | Em | Am7 D7 | G | C', numerals: '' });
  const read = readForm(chords, {
    bars,
    key: keyOf('C'),
    corrections: [
      { bar: 1, at: 0, key: keyOf('G') },
      { bar: 7, at: 0, key: keyOf('C') },
    ],
  });
  expect(read.chords.map(({ numeral }) => numeral).join(' ')).toBe('I ii V7 I vi ii7 V7 I I');
  expect(read.areas.map(({ from, to, key }) => [from, to, printKey(key)])).toEqual([
    [0, 1, 'C'],
    [1, 8, 'G'],
    [8, 9, 'C'],
  ]);
});
