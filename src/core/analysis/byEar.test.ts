import { key, noteName } from '../../../tests/given';
import { degreeName, kinWords, phraseWords } from './byEar';
import type { Movement } from './contour';
import type { PhraseFinding } from './tuneAnalysis';

const phrase = (given: Partial<PhraseFinding>): PhraseFinding =>
  ({
    startsOn: noteName('C'),
    endsOn: noteName('C'),
    contour: 'rises',
    movements: [],
    differsAt: [],
    pitches: [],
    ...given,
  }) as unknown as PhraseFinding;
const move = (direction: Movement['direction'], notes: number, steps: number, widest = Math.abs(steps)): Movement =>
  ({ direction, notes, steps, widest }) as Movement;
const shape = (...movements: readonly Movement[]) => phraseWords(phrase({ movements }), [], key('C')).shape;

describe('a note’s place in the key', () => {
  test.each([
    ['C', 'C', 'home note'],
    ['G', 'C', 'fifth'],
    ['Eb', 'C', 'lowered third'],
    ['F#', 'C', 'raised fourth'],
    ['Eb', 'Cm', 'third'],
    ['B', 'Cm', 'raised seventh'],
    ['C#', 'D', 'seventh'],
    ['C', 'D dorian', 'seventh'],
  ])('%s in %s is its %s', (note, tonality, name) => expect(degreeName(noteName(note), key(tonality))).toBe(name));
});

describe('how a phrase moves, without a note’s name', () => {
  test.each([
    [
      'a step, a skip and a leap have names of their own',
      [move('up', 2, 1), move('up', 2, 2), move('down', 2, -4)],
      'a step up, a skip up, a leap of a fifth down',
    ],
    ['an octave takes “an”', [move('up', 2, 7)], 'a leap of an octave up'],
    ['beyond an octave it is wide', [move('down', 2, -9)], 'a wide leap down'],
    ['a step away and back is one thing', [move('up', 2, 1), move('down', 2, -1)], 'to the note above and back'],
    ['and so below', [move('down', 2, -1), move('up', 2, 1)], 'to the note below and back'],
    ['runs are counted', [move('up', 5, 4, 1)], '4 steps up'],
    ['chains of thirds are skips', [move('down', 4, -6, 2)], '3 skips down'],
    ['steps and skips mixed say how far they go', [move('up', 4, 4, 2)], 'up a fifth in steps and skips'],
    ['a leap in a run is told', [move('up', 4, 6, 4)], 'up, with a leap of a fifth'],
    [
      'repetitions are counted',
      [move('repeats', 2, 0), move('repeats', 4, 0)],
      'the same note again, the same note 4 times',
    ],
    ['a note alone is one note', [], 'one note'],
  ] as const)('%s', (_, movements, words) => expect(shape(...movements)).toBe(words));

  test('nobody remembers more than seven stretches: the rest is drawn', () => {
    const words = shape(...Array.from({ length: 9 }, (_, k) => move(k % 2 ? 'down' : 'up', 3, k % 2 ? -2 : 2, 1)));
    expect(words.split(', ')).toHaveLength(7);
    expect(words.endsWith('… and on as drawn')).toBe(true);
  });
});

describe('how a phrase goes back to an earlier one', () => {
  const words = (relation: Parameters<typeof kinWords>[0], given: Partial<PhraseFinding> = {}) =>
    kinWords(relation, 2, phrase(given));
  const differs = (count: number) => Array.from({ length: count }, (_, k) => k);
  const pitches = Array<PhraseFinding['pitches'][number]>(8).fill({ step: 'C', alter: 0, octave: 4 });

  test.each([
    [{ kind: 'same' }, {}, 'the same as phrase 2'],
    [
      { kind: 'other-ending', differs: differs(1) },
      { pitches },
      'phrase 2 with another ending: only the last note is new',
    ],
    [
      { kind: 'other-ending', differs: differs(3) },
      { pitches },
      'phrase 2 with another ending: only the last three notes are new',
    ],
    [
      { kind: 'other-beginning', differs: differs(2) },
      {},
      'phrase 2 with another beginning: only the first two notes are new',
    ],
    [{ kind: 'sequence', steps: 1, differs: [] }, {}, 'phrase 2 moved up a step'],
    [{ kind: 'sequence', steps: -7, differs: [] }, {}, 'phrase 2 moved down an octave'],
    [
      { kind: 'sequence', steps: 3, differs: [1] },
      { differsAt: [7] },
      'phrase 2 moved up a fourth, but other in bar 7',
    ],
    [{ kind: 'nearly', differs: [1, 2] }, { differsAt: [3, 4, 6] }, 'nearly phrase 2, but other in bars 3, 4 and 6'],
    [{ kind: 'same-rhythm' }, {}, 'the rhythm of phrase 2 with other notes'],
    [{ kind: 'same-contour' }, {}, 'the shape of phrase 2 with other steps'],
  ] as const)('%j', (relation, given, told) =>
    expect(words(relation as unknown as Parameters<typeof kinWords>[0], given as Partial<PhraseFinding>)).toBe(told),
  );

  test('a phrase says it only where the earlier one is there', () => {
    const kin = { of: 0, relation: { kind: 'same' } } as unknown as NonNullable<PhraseFinding['kin']>;
    expect(phraseWords(phrase({ kin }), [phrase({})], key('C')).kin).toBe('the same as phrase 1');
    expect(phraseWords(phrase({ kin }), [], key('C')).kin).toBeUndefined();
  });
});
