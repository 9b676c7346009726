import { recipeSchema, recipesSchema, savedRecipeSchema } from './recipeSchema';
import { storedRecipes, storedSavedRecipe, upgradedGroup } from './upgradeRecipe';

describe('recipes as they were stored first', () => {
  test('come in as groups, every field in its place and under the words of today', () => {
    const key = { tonic: { step: 'G', alter: 0 }, mode: 'major' };
    const first = {
      instrument: 'violin',
      own: { id: 'own-1', name: 'High violin', base: 'violin' },
      key,
      perMinute: 72,
      melody: 'dressed',
      shortest: 'eighth',
      syncopation: false,
      dotted: true,
      ties: false,
      density: 20,
      devices: ['passing'],
      seed: 3,
      leap: 4,
      range: { high: { step: 'A', alter: 0, octave: 5 } },
      known: [{ step: 'D', alter: 0, octave: 4 }],
      remedies: { e1: 'phrase-up' },
      manner: 'swung',
      swing: 'straight',
      form: 'twice',
      leaveOut: 'rests',
      bars: { b1: { kind: 'thinner-still' }, b2: { kind: 'dressed', seed: 0 } },
      alternates: { b1: { kind: 'thinner' } },
      alternatesAs: 'second-time',
      aids: { names: 'stays' },
      syllables: 'ta',
      marks: 'change',
      school: 'fourth',
      pins: { e1: '0' },
    };
    expect(recipeSchema.parse(first)).toEqual({
      instrument: 'violin',
      custom: first.own,
      melody: 'embellished',
      keyAndTempo: { key, perMinute: 72 },
      rhythm: { shortest: 'eighth', offBeat: false, dotted: true, ties: false },
      embellish: { density: 20, devices: ['passing'], seed: 3 },
      limits: { leap: 4, range: first.range, known: first.known, remedies: first.remedies },
      articulation: { style: 'swung', swing: 'straight' },
      form: { plays: 'twice', leaveOut: 'rests' },
      bars: {
        chosen: { b1: { kind: 'simplest' }, b2: { kind: 'embellished', seed: 0 } },
        alternates: { b1: { kind: 'simpler' } },
        alternatesAs: 'second-time',
      },
      page: { aids: { names: 'stays' }, syllables: 'ta', marks: 'change', school: 'fourth', pins: { e1: '0' } },
    });
  });

  test('saved recipes and players come along', () => {
    const named = { id: 'recipe-1', name: 'Spring', level: 'beginner', wishes: { melody: 'thinned', manner: 'crisp' } };
    expect(savedRecipeSchema.parse(named).wishes).toEqual({ melody: 'simplified', articulation: { style: 'crisp' } });
    expect(upgradedGroup({ name: 'Room', players: [{ id: '1', own: { id: 'own-1' } }, { id: '2' }] })).toEqual({
      name: 'Room',
      players: [{ id: '1', custom: { id: 'own-1' } }, { id: '2' }],
    });
  });
});

test('what is stored today comes back as it went in; what is not ours is refused with its place', () => {
  const recipes = { beginner: { instrument: 'flute', form: { plays: 'solo' as const }, bars: { chosen: {} } } };
  expect(recipesSchema.parse(JSON.parse(JSON.stringify(storedRecipes(recipes))))).toEqual(recipes);
  const saved = {
    id: 'recipe-1',
    name: 'Spring',
    level: 'beginner' as const,
    wishes: { limits: { leap: 4 as const } },
  };
  expect(savedRecipeSchema.parse(JSON.parse(JSON.stringify(storedSavedRecipe(saved))))).toEqual(saved);
  const refusals = [
    { schema: 2, instrument: 'flute', rhythm: { shortest: 'longa' } },
    { schema: 2, instrument: 'no-such-flute' },
    { schema: 2, instrument: 'flute', perMinute: 60 },
    { schema: 4, instrument: 'flute' },
    { instrument: 'flute', form: { plays: 'solo' } },
  ].map((one) => recipeSchema.safeParse(one).error?.issues.map(({ path }) => path.join('.')));
  expect(refusals).toEqual([['rhythm.shortest'], ['instrument'], [''], ['schema'], ['form.plays']]);
});
