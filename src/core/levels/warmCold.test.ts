import { instrument, key, pitch, tuneOf } from '../../../tests/given';
import { likelyTune } from '../../../tests/likelyTune';
import { withoutMemory } from '../derived';
import { LEVELS, type Level } from '../instruments/instrument';
import type { Tune } from '../score/tune';
import type { Recipe } from '../work/recipe';
import { recipesOf, type Work } from '../work/work';
import { drillTune } from '../drills/sketch';
import { easiestKeys } from '../drills/levelDrill';
import { drillOfLevel, formedPartOfLevel, soloOfLevel } from './levelPart';
import { poolsOfLevel } from './levelPools';

/**
 * The law of everything that is remembered: what is asked after other things gives what it gives when it is asked
 * first. Requests follow one another that differ in one field, so that a key without that field gives the answer
 * before.
 */
const TUNES = [
  likelyTune(3),
  // Fast enough to be eased at one tempo and not at another.
  tuneOf(
    '"C"C2E2G2c2 edcB AGFE|"F"FGAB cdef "G7"g2f2 d2B2|"Am"ABcd efga "Dm"f2d2 A4|"G7"B2d2 g2f2 "C"e4 c4|',
    'M:4/4\nL:1/16\nQ:1/4=104\nK:C',
  ),
];

/** Recipes that say one thing otherwise; the first says nothing. */
function recipesFor(tune: Tune): readonly Partial<Recipe>[] {
  const bar = (k: number) => tune.bars[k]?.id ?? '';
  const event = (k: number) => tune.bars[k]?.events[0]?.id ?? '';
  const [low, high] = [pitch('D4'), pitch('A5')];
  return [
    {},
    { keyAndTempo: { key: { ...tune.key, tonic: key('D').tonic } } },
    { keyAndTempo: { key: { ...tune.key, tonic: key('Ab').tonic } } },
    { keyAndTempo: { perMinute: 44 } },
    { keyAndTempo: { perMinute: 208 } },
    { melody: 'simplified' },
    { melody: 'simplified', rhythm: { shortest: 'half' } },
    { melody: 'simplified', rhythm: { shortest: 'eighth' } },
    { melody: 'simplified', rhythm: { dotted: false } },
    { melody: 'simplified', rhythm: { ties: true } },
    { melody: 'simplified', rhythm: { offBeat: true } },
    { melody: 'simplified', rhythm: { words: ['two-eighths', 'three-eighths'] } },
    { melody: 'simplified', limits: { known: ['G4', 'A4', 'B4', 'C5', 'D5'].map(pitch) } },
    { melody: 'as written' },
    { melody: 'as written', keyAndTempo: { perMinute: 208 } },
    { melody: 'as written', rhythm: { shortest: 'quarter' } },
    { melody: 'embellished' },
    { melody: 'embellished', embellish: { density: 60 } },
    { melody: 'embellished', embellish: { seed: 4 } },
    { melody: 'embellished', embellish: { devices: ['passing', 'grace'] } },
    { melody: 'embellished', keyAndTempo: { perMinute: 208 } },
    { embellish: { seed: 2 } },
    { limits: { leap: 2 } },
    { limits: { range: { low } } },
    { limits: { range: { high } } },
    { limits: { known: ['G4', 'A4', 'B4', 'C5', 'D5'].map(pitch) } },
    { limits: { remedies: { [event(0)]: 'phrase-up' } } },
    { limits: { remedies: { [event(0)]: 'leave-out' } } },
    { articulation: { style: 'swung' } },
    { articulation: { swing: 'straight' } },
    { form: { plays: 'twice' } },
    { bars: { chosen: { [bar(1)]: { kind: 'simplest' } } } },
    { bars: { chosen: { [bar(1)]: { kind: 'embellished', seed: 1 } } } },
    { bars: { chosen: { [bar(1)]: { kind: 'embellished', seed: 2 } } } },
    { bars: { alternates: { [bar(2)]: { kind: 'rest' } } } },
    { page: { aids: { names: 'stays' } } },
    { page: { aids: { names: 'first-time' } } },
    { page: { barAids: { [bar(0)]: ['degrees'] } } },
    { page: { marks: 'all' } },
    { page: { marks: 'all', pins: { [event(0)]: '1' } } },
  ];
}

/**
 * Every answer of a row of requests as it comes after those before it, and as it comes alone; the row is gone through
 * twice.
 */
function answers(requests: readonly (() => unknown)[]) {
  const warm = [...requests, ...requests].map((ask) => ask());
  const cold = requests.map((ask) => withoutMemory(ask));
  return { warm, cold: [...cold, ...cold] };
}

function expectAlike(requests: readonly (() => unknown)[], names: readonly string[]): void {
  const { warm, cold } = answers(requests);
  const wrong = warm.flatMap((answer, k) => {
    try {
      expect(answer).toEqual(cold[k]);
      return [];
    } catch {
      return [names[k % names.length]];
    }
  });
  expect(wrong).toEqual([]);
  // Answers that are all alike could not tell a wrong key.
  expect(new Set(cold.map((one) => JSON.stringify(one))).size).toBeGreaterThan(requests.length / 3);
}

const withRecipe = (level: Level, recipe: Partial<Recipe>): Work['recipes'] => ({
  [level]: { ...recipesOf({ recipes: {} })[level], ...recipe },
});

test.each(TUNES.flatMap((tune) => LEVELS.map((level) => [tune.title, level, tune] as const)))(
  'parts of %s for %s are the same after others and alone',
  (_title, level, tune) => {
    const recipes = recipesFor(tune);
    const requests = ['flute', 'trombone'].flatMap((id) => recipes.map((one) => ({ ...one, instrument: id })));
    expectAlike(
      requests.map((recipe) => () => formedPartOfLevel(tune, level, withRecipe(level, recipe)).part),
      requests.map((recipe) => JSON.stringify(recipe)),
    );
  },
);

test('parts of tunes that differ in one thing', () => {
  const [tune] = TUNES as [Tune];
  const variants: readonly Tune[] = [
    tune,
    { ...tune, tempo: { ...tune.tempo, perMinute: 60 } },
    { ...tune, swing: { ratio: 2 } } as unknown as Tune,
    { ...tune, key: { ...tune.key, mode: tune.key.mode === 'minor' ? 'dorian' : 'mixolydian' } },
    { ...tune, bars: tune.bars.map((one, k) => (k === 2 ? { ...one, chords: [] } : one)) },
    { ...tune, bars: tune.bars.slice(0, -1) },
    { ...tune, harmony: { style: 'jazz' } },
  ];
  const requests = variants.flatMap((one) => LEVELS.map((level) => ({ one, level })));
  expectAlike(
    requests.map(
      ({ one, level }) =>
        () =>
          formedPartOfLevel(one, level, {}).part,
    ),
    requests.map(({ level }, k) => `${level} ${Math.floor(k / 3)}`),
  );
});

test('notes to improvise with, by level, wish and chord', () => {
  const requests = TUNES.flatMap((tune) => {
    const first = tune.bars[0]?.id ?? '';
    const variants: readonly Tune[] = [
      tune,
      { ...tune, harmony: { style: 'blues' } },
      { ...tune, harmony: { style: 'hymn' } },
      { ...tune, harmony: { readings: [{ bar: first, at: 0, key: key('Eb') }] } },
    ];
    const wishes: readonly Partial<Recipe>[] = [
      {},
      { improvise: { school: 'chord-tones' } },
      { improvise: { pools: ['chord-scale', 'guide-tones'] } },
      { improvise: { whole: { name: 'minor pentatonic', above: { diatonic: 0, chromatic: 0 } } } },
      { improvise: { stage: 1 } },
      { keyAndTempo: { key: { ...tune.key, tonic: key('B').tonic } } },
      { instrument: 'alto-sax' },
    ];
    return variants.flatMap((one) =>
      LEVELS.flatMap((level) => wishes.map((wish) => ({ one, level, recipes: withRecipe(level, wish) }))),
    );
  });
  expectAlike(
    requests.map(
      ({ one, level, recipes }) =>
        () =>
          poolsOfLevel({ tune: one, recipes }, level, 'written'),
    ),
    requests.map(({ level, recipes }) => `${level} ${JSON.stringify(recipes)}`),
  );
});

test('solos, by take, wish and player', () => {
  const [tune] = TUNES as [Tune];
  const wishes: readonly Partial<Recipe>[] = [
    {},
    { solo: { seed: 3 } },
    { solo: { seed: 3, tools: { space: 3 } } },
    { solo: { seed: 3, targets: [{ bar: 2, degree: 3 }] } },
    { solo: { seed: 3, plan: [{ id: 'p1', bars: 4, kind: 'idea' }] } },
    { solo: { seed: 3, given: { p1: { notes: [{ at: 0, length: 10_080, pitch: pitch('G4') }] } } } },
    { keyAndTempo: { perMinute: 60 } },
    { instrument: 'trombone' },
    { limits: { range: { high: pitch('D5') } } },
  ];
  expectAlike(
    wishes.map((wish) => () => soloOfLevel(tune, 'intermediate', withRecipe('intermediate', wish))),
    wishes.map((wish) => JSON.stringify(wish)),
  );
});

test('drills, by idea, level, instrument and wish; and the keys that are easiest', () => {
  const ideas = [
    { steps: [{ set: 'major', pattern: 'scale', direction: 'up-down' }], keys: 'fourths' },
    { steps: [{ set: 'major', pattern: 'thirds', direction: 'up-down' }], keys: 'fourths' },
    { steps: [{ set: 'dorian', pattern: 'scale', direction: 'up' }], keys: 'fifths' },
  ] as const;
  const drills = ideas.map((idea) => drillTune(idea as unknown as Parameters<typeof drillTune>[0]));
  const wishes: readonly Partial<Recipe>[] = [
    {},
    { drill: { keys: 2 } },
    { drill: { rhythm: 'half' } },
    { drill: { extent: 'full' } },
    { instrument: 'violin' },
    { keyAndTempo: { perMinute: 50 } },
    { page: { aids: { names: 'stays' } } },
  ];
  const requests = drills.flatMap((tune) =>
    LEVELS.flatMap((level) => wishes.map((wish) => ({ tune, level, recipes: withRecipe(level, wish) }))),
  );
  expectAlike(
    requests.map(
      ({ tune, level, recipes }) =>
        () =>
          drillOfLevel(tune, level, recipes).value,
    ),
    requests.map(({ level, recipes }) => `${level} ${JSON.stringify(recipes)}`),
  );
  // Custom instruments have an id of their own for as long as they are there, whatever becomes of their facts.
  const flute = instrument('flute');
  const lower = { ...flute, transposition: { diatonic: -3, chromatic: -5 } };
  expectAlike(
    [flute, lower].flatMap((one) =>
      LEVELS.map((level) => () => easiestKeys(one, level, 'major', { kind: 'cell', name: 'scale', offsets: [0] })),
    ),
    ['flute', 'lower'],
  );
});
