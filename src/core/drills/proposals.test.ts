import { key, tuneOf } from '../../../tests/given';
import { analyseTune } from '../analysis/tuneAnalysis';
import type { Tune } from '../score/tune';
import { TICKS_PER_QUARTER } from '../time/ticks';
import { dateOfKey } from './dates';
import { drillsFromTune, rhythmOfBars } from './proposals';
import { drillTune, withIdea } from './sketch';

const q = (quarters: number) => quarters * TICKS_PER_QUARTER;
const TUNE = tuneOf('"Dm7"D2 F2 A3 c | "G7"B>A GF D4 | (3EFG A2 z2 C2- | C8 |]');
const proposed = (tune: Tune, hardest?: { index: number; number: number }) =>
  drillsFromTune(tune, analyseTune(tune), hardest);

describe('drills that a tune asks for', () => {
  test('its own scale, the thirds of it, its chords and its guide tones; the hardest bar where it is known', () => {
    expect(proposed(TUNE, { index: 1, number: 2 }).map(({ id }) => id)).toEqual([
      'scale',
      'thirds',
      'chords',
      'guide-tones',
      'hard-bar',
    ]);
    expect(proposed(TUNE).map(({ id }) => id)).not.toContain('hard-bar');
  });

  test('the hard bar is a cell of degrees above its first note, in the rhythm of the bar', () => {
    const cell = proposed(TUNE, { index: 1, number: 2 }).find(({ id }) => id === 'hard-bar');
    expect(cell?.title).toBe('Bar 2 of T as an exercise');
    expect(cell?.idea.steps[0]).toMatchObject({ pattern: 'cell:1 0 -1 -2 -4', rhythm: 'borrowed' });
    expect(cell?.idea.borrowed).toEqual([q(0.75), q(0.25), q(0.5), q(0.5), q(2)]);
  });

  test('a bar of two notes is no exercise', () => {
    const plain = tuneOf('C4 E4 | G8 |]');
    expect(proposed(plain, { index: 0, number: 1 }).map(({ id }) => id)).not.toContain('hard-bar');
  });

  test('every proposal can be laid out as it is proposed', () => {
    for (const { idea, id } of proposed(TUNE, { index: 1, number: 2 })) {
      const tune = drillTune(idea);
      expect([id, tune.bars.some(({ events }) => events.some(({ kind }) => kind === 'note'))]).toEqual([id, true]);
    }
  });
});

describe('a rhythm that is borrowed', () => {
  test('rests are negative, tied notes are one, and triplets fall on the grid without lengthening the bar', () => {
    const lengths = rhythmOfBars(TUNE, 2, 4);
    expect(lengths).toEqual([q(0.25), q(0.5), q(0.25), q(1), -q(1), q(4)]);
  });

  test('bars of rests lend none', () => {
    expect(rhythmOfBars(tuneOf('C4 D4 | z8 | C8 |]'), 1, 2)).toBeUndefined();
  });
});

describe('the document of a drill', () => {
  const idea = { steps: [{ set: 'major', pattern: 'thirds' }] } as const;

  test('is called after its idea, and is called anew with another one unless somebody named it', () => {
    const drill = drillTune(idea);
    const other = { steps: [{ set: 'dorian', pattern: 'scale' }] } as const;
    expect(withIdea(drill, other).title).toBe(drillTune(other).title);
    expect(withIdea({ ...drill, title: 'Before the march' }, other).title).toBe('Before the march');
  });

  test('rights, composer and source of the page stay when the idea changes', () => {
    const drill: Tune = {
      ...drillTune(idea),
      rights: 'cleared',
      composer: 'Oda Brinkworth',
      source: 'Book 2',
    };
    expect(withIdea(drill, { steps: [{ set: 'major', pattern: 'scale' }] })).toMatchObject({
      rights: 'cleared',
      composer: 'Oda Brinkworth',
      source: 'Book 2',
    });
  });

  test('sketches a few keys without headings, whatever the idea goes through', () => {
    const twelve = drillTune({ ...idea, keys: 'fourths' });
    const three = drillTune({ ...idea, keys: ['C', 'F', 'Bb'].map((name) => key(name).tonic) });
    expect(twelve.bars.length).toBe(three.bars.length);
    expect(twelve.bars.some(({ section }) => section)).toBe(false);
  });
});

test.each([
  ['day', 0, 'Mon 30 Nov'],
  ['day', 1, 'Tue 1 Dec'],
  ['day', 32, 'Fri 1 Jan'],
  ['week', 0, 'week of 30 Nov'],
  ['week', 5, 'week of 4 Jan'],
] as const)('keys practised by the %s: number %i is for %s', (every, index, words) => {
  expect(dateOfKey({ every, from: '2026-11-30' }, index)).toBe(words);
});
