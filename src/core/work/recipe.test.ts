import type { Recipe } from './recipe';
import { isAsSaved, savedChange, savedWishes } from './savedRecipe';
import { withRecipe, type Work } from './work';

const pitch = { step: 'A', alter: 0, octave: 5 } as const;
const workWith = (beginner: Recipe): Work => ({ tune: {} as Work['tune'], recipes: { beginner } });
const full: Recipe = {
  instrument: 'flute',
  melody: 'embellished',
  keyAndTempo: { perMinute: 60 },
  rhythm: { shortest: 'eighth', ties: false },
  embellish: { density: 20, seed: 5 },
  limits: { leap: 4, range: { high: pitch }, known: [pitch], remedies: { e1: 'leave-out' } },
  page: { aids: { names: 'stays', counts: 'first-half' }, pins: { e1: '1' }, barAids: { b1: ['names'] } },
  solo: { seed: 3, plan: [{ id: 'p1', bars: 2, kind: 'idea' }], given: { p1: { notes: [] } } },
};

describe('setting a recipe', () => {
  test('inside a group what is not named stays; what says nothing is left out, group and all', () => {
    const set = withRecipe(workWith(full), 'beginner', {
      rhythm: { ties: undefined },
      embellish: { seed: 0, density: undefined },
      limits: { remedies: {} },
    }).recipes.beginner;
    const { embellish: _, ...rest } = full;
    expect(set).toEqual({
      ...rest,
      rhythm: { shortest: 'eighth' },
      limits: { leap: 4, range: { high: pitch }, known: [pitch] },
    });
  });

  test('the seed of one bar is a choice like any other, the first included', () => {
    const chosen = { b1: { kind: 'embellished', seed: 0 } } as const;
    expect(withRecipe(workWith({ instrument: 'flute' }), 'beginner', { bars: { chosen } }).recipes.beginner).toEqual({
      instrument: 'flute',
      bars: { chosen },
    });
  });

  test('a custom instrument goes when another is chosen, and stays when something else is set', () => {
    const custom = { id: 'own-1', name: 'High flute', base: 'flute' };
    const work = workWith({ instrument: 'own-1', custom });
    expect(withRecipe(work, 'beginner', { instrument: 'oboe' }).recipes.beginner).toEqual({ instrument: 'oboe' });
    expect(withRecipe(work, 'beginner', { melody: 'as written' }).recipes.beginner?.custom).toEqual(custom);
  });
});

describe('a saved recipe', () => {
  test('holds what serves any tune, and nothing of this one', () => {
    expect(savedWishes(full)).toEqual({
      melody: 'embellished',
      rhythm: { shortest: 'eighth', ties: false },
      embellish: { density: 20 },
      limits: { leap: 4 },
      page: { aids: { names: 'stays', counts: 'first-half' } },
      solo: { plan: [{ id: 'p1', bars: 2, kind: 'idea' }] },
    });
  });

  test('is recognised in whatever order its aids were ticked', () => {
    const wishes = { ...savedWishes(full), page: { aids: { counts: 'first-half', names: 'stays' } } } as const;
    expect(isAsSaved(full, { wishes })).toBe(true);
    expect(isAsSaved(full, { wishes: { ...wishes, limits: { leap: 5 } } })).toBe(false);
  });

  test('takes back what it does not say and leaves what belongs to the tune', () => {
    const wishes = { rhythm: { dotted: false }, form: { plays: 'twice' } } as const;
    const taken = withRecipe(workWith(full), 'beginner', savedChange(full, { wishes })).recipes.beginner;
    expect(taken).toEqual({
      instrument: 'flute',
      keyAndTempo: { perMinute: 60 },
      rhythm: { dotted: false },
      embellish: { seed: 5 },
      limits: { range: { high: pitch }, known: [pitch], remedies: { e1: 'leave-out' } },
      form: { plays: 'twice' },
      page: { pins: { e1: '1' }, barAids: { b1: ['names'] } },
      solo: { seed: 3, given: { p1: { notes: [] } } },
    });
    expect(taken && isAsSaved(taken, { wishes })).toBe(true);
  });
});
