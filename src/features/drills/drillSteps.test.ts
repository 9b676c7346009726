import { printPitchClass } from '../../core/pitch/pitch';
import type { DrillIdea, Exercise } from '../../core/score/drillIdea';
import { cleaned, hasPaths, nextStep, swapped, tonicOf, tonicsIn, withSteps } from './drillSteps';

const step = (pattern: string, set: Exercise['set'] = 'major'): Exercise => ({ set, pattern });
const ladder = (...patterns: readonly [string, ...string[]]): DrillIdea => ({
  steps: [step(patterns[0]), ...patterns.slice(1).map((pattern) => step(pattern))],
});
const patterns = ({ steps }: Pick<DrillIdea, 'steps'>) => steps.map(({ pattern }) => pattern);

describe('a ladder of exercises', () => {
  test('goes on with the next pattern in the order of demand, in the set that the last one has', () => {
    const idea: DrillIdea = { steps: [step('scale'), { ...step('thirds', 'dorian'), direction: 'down' }] };
    expect(nextStep(idea)).toEqual({ set: 'dorian', pattern: 'up-two-down-one', direction: 'down', rhythm: 'triplet' });
    expect(nextStep(ladder('triads')).pattern).toBe('sevenths');
  });

  test('what comes in threes is read in triplets unless it is fours', () => {
    expect(nextStep(ladder('1-2-3-5'))).toEqual({ set: 'major', pattern: 'triads', rhythm: 'triplet' });
    expect(nextStep(ladder('sevenths')).rhythm).toBeUndefined();
  });

  test('the hardest rung stays the last, and a cell of one’s own is followed by the first', () => {
    expect(nextStep(ladder('thirteenths')).pattern).toBe('thirteenths');
    expect(nextStep(ladder('cell:1 3 2')).pattern).toBe('scale');
  });

  test('exercises change places, and the ends have nowhere to go', () => {
    const { steps } = ladder('scale', 'thirds', 'triads');
    expect(patterns(withSteps(ladder('scale'), swapped(steps, 0, 2)))).toEqual(['triads', 'thirds', 'scale']);
    expect(swapped(steps, 0, -1)).toBe(steps);
    expect(swapped(steps, 2, 3)).toBe(steps);
  });

  test('a drill keeps one exercise at least', () => {
    const idea = ladder('scale', 'thirds');
    expect(withSteps(idea, [])).toBe(idea);
    expect(patterns(withSteps(idea, idea.steps.slice(1)))).toEqual(['thirds']);
  });

  test('what is no longer said is not written down as said to be nothing', () => {
    const said = { ...step('scale'), extent: undefined, rhythm: 'eighth' } as unknown as Exercise;
    expect(Object.keys(cleaned(said)).toSorted()).toEqual(['pattern', 'rhythm', 'set']);
  });

  test('only chords laid out one a key have other paths through their inversions', () => {
    expect([
      hasPaths(step('sevenths', 'maj7' as Exercise['set'])),
      hasPaths(step('sevenths')),
      hasPaths(step('scale')),
    ]).toEqual([true, false, false]);
  });
});

describe('tonics as people write them', () => {
  const read = (text: string) => {
    const tonics = tonicsIn(text);
    return tonics.ok ? tonics.value.map(printPitchClass).join(' ') : tonics.problem;
  };

  test.each([
    ['C F Bb', 'C F Bb'],
    ['c, f,b♭', 'C F Bb'],
    [' F♯  g# ', 'F# G#'],
  ])('%s', (text, tonics) => expect(read(text)).toBe(tonics));

  test.each(['', 'C H', 'C Bbb', 'C-major', 'C '.repeat(25)])('“%s” is answered with what would be right', (text) =>
    expect(read(text)).toBe('Give 1 to 24 concert tonics, like C F B♭.'),
  );

  test('one alone: a letter with one sign at most', () => {
    expect(
      [tonicOf('Eb'), tonicOf('e'), tonicOf('E##'), tonicOf('')].map((one) => one && printPitchClass(one)),
    ).toEqual(['Eb', 'E', undefined, undefined]);
  });
});
