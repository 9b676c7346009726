import fc from 'fast-check';
import { withPairedHairpins, withPairedSlurs, withoutSlursOnOneNote, withTrueTies } from './balance';
import { isNote, type Bar, type Note, type ScoreEvent } from './tune';

const pitches = { c: ['C', 0], d: ['D', 0], s: ['C', 1], f: ['D', -1] } as const;
/**
 * Letters are notes (`s` and `f` sound alike), `z` a rest; after a letter: `~` tied, `(` and `)` slurs, `<` and `]` a
 * hairpin and its end.
 */
const bars = (text: string): readonly Bar[] => {
  let id = 0;
  return text.split('|').map((bar, k) => ({
    id: `b${k}`,
    chords: [],
    events: [...bar.matchAll(/([cdsfz])([~()<\]]*)/g)].map(([, letter = 'z', marks = '']): ScoreEvent => {
      id += 1;
      if (letter === 'z') return { kind: 'rest', id: `n${id}`, length: 10_080 };
      const [step, alter] = pitches[letter as keyof typeof pitches];
      const count = (mark: string) => marks.split(mark).length - 1;
      return {
        kind: 'note',
        id: `n${id}`,
        length: 10_080,
        pitch: { step, alter, octave: 4 },
        ...(count('~') > 0 && { tied: true as const }),
        ...(count('(') > 0 && { slurStarts: count('(') }),
        ...(count(')') > 0 && { slurEnds: count(')') }),
        ...(count('<') > 0 && { hairpin: 'crescendo' as const }),
        ...(count(']') > 0 && { hairpinEnds: true as const }),
      };
    }),
  }));
};
const text = (all: readonly Bar[]) =>
  all
    .map(({ events }) =>
      events
        .map((event) => {
          if (!isNote(event)) return 'z';
          const { pitch, tied, slurStarts = 0, slurEnds = 0, hairpin, hairpinEnds } = event satisfies Note;
          const letter = Object.entries(pitches).find(
            ([, [step, alter]]) => step === pitch.step && alter === pitch.alter,
          );
          return `${letter?.[0]}${tied ? '~' : ''}${')'.repeat(slurEnds)}${'('.repeat(slurStarts)}${hairpin ? '<' : ''}${hairpinEnds ? ']' : ''}`;
        })
        .join(''),
    )
    .join('|');

test.each([
  ['c~c', 'c~c', []],
  ['c~d|d~|d', 'cd|d~|d', [0]],
  ['s~f', 's~f', []],
  ['c~z|c~', 'cz|c', [0, 1]],
])('ties of %s are %s', (given, expected, lost) => {
  const made = withTrueTies(bars(given));
  expect([text(made.bars), made.lost]).toEqual([expected, lost]);
});

test.each([
  ['c(d)', 'c(d)', []],
  ['c)d|c(d', 'cd|cd', [0, 1]],
  ['c((d)|d)c)', 'c((d)|d)c', [1]],
])('slurs of %s are %s', (given, expected, lost) => {
  const made = withPairedSlurs(bars(given));
  expect([text(made.bars), made.lost]).toEqual([expected, lost]);
});

test.each([
  ['c<d]', 'c<d]', []],
  ['c]d<|d', 'cd|d', [0, 0]],
  ['c<d<|d]', 'cd<|d]', [0]],
])('hairpins of %s are %s', (given, expected, lost) => {
  const made = withPairedHairpins(bars(given));
  expect([text(made.bars), made.lost]).toEqual([expected, lost]);
});

test('a slur over one pitch goes where one of its notes is new, and only there', () => {
  const given = bars('c(c)d(d)c(d)');
  expect(text(withoutSlursOnOneNote(given, new Set(['n2', 'n5'])))).toBe('ccd(d)c(d)');
  expect(withoutSlursOnOneNote(given, new Set())).toBe(given);
});

test('whatever is given, what comes out is in pairs, and doing it again changes nothing', () => {
  const line = fc
    .array(
      fc.tuple(fc.constantFrom('c', 'd', 's', 'f', 'z', '|'), fc.constantFrom('', '~', '(', ')', '<', ']', ')(')),
      {
        maxLength: 20,
      },
    )
    .map((parts) => parts.map(([letter, mark]) => letter + (letter === '|' || letter === 'z' ? '' : mark)).join(''));
  fc.assert(
    fc.property(line, (given) => {
      for (const balance of [withTrueTies, withPairedSlurs, withPairedHairpins]) {
        const once = balance(bars(given));
        const twice = balance(once.bars);
        expect(twice).toEqual({ bars: once.bars, lost: [] });
        if (once.lost.length === 0) expect(text(once.bars)).toBe(text(bars(given)));
      }
    }),
  );
});
