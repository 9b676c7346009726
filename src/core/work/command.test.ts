import fc from 'fast-check';
import { anyTune } from '../../../tests/anyTune';
import { tuneOf } from '../../../tests/given';
import { LEVELS, type Level } from '../instruments/instrument';
import { barsByOctaves } from '../score/octaves';
import type { PhraseWish } from '../solos/wishes';
import { apply, areApart, becoming, scopesOf, type Command, type TogetherChange } from './command';
import { differenceBetween } from './difference';
import { recipesOf, type RecipeChange, type Work } from './work';

const TUNE = tuneOf('"C"C2E2 G2E2|"F"F2A2 c2A2|"G7"G2B2 d2B2|"C"c8|');
const BARS = TUNE.bars.map(({ id }) => id);
const anyLevel = fc.constantFrom<Level>(...LEVELS);
const anyBar = fc.constantFrom(...BARS);

/** What of a recipe may be set, in groups that tell fields apart, keep lists, or follow one another. */
const anyChange: fc.Arbitrary<RecipeChange> = fc.oneof(
  fc.constantFrom<RecipeChange>(
    { melody: 'as written' },
    { melody: undefined },
    { instrument: 'oboe' },
    { rhythm: { ties: false } },
    { rhythm: { shortest: 'eighth', ties: undefined } },
    { rhythm: { words: ['two-eighths'] } },
    { embellish: { devices: [] } },
    { keyAndTempo: { key: { tonic: { step: 'D', alter: 0 }, mode: 'major' } } },
    { keyAndTempo: { key: undefined, moved: undefined } },
    { limits: { range: { low: { step: 'D', alter: 0, octave: 4 } } } },
    { form: { plays: 'twice' }, page: { size: 'large' } },
    { improvise: { advice: 'Sing it first.' } },
    { solo: { seed: 3 } },
  ),
  fc.record({ embellish: fc.record({ seed: fc.nat({ max: 5 }) }) }),
  fc.record({ keyAndTempo: fc.record({ perMinute: fc.integer({ min: 40, max: 200 }) }) }),
);

const anyCommand: fc.Arbitrary<Command> = fc.oneof(
  fc.record({ kind: fc.constant('recipe' as const), level: anyLevel, words: fc.constant('so'), change: anyChange }),
  fc.record({
    kind: fc.constant('entries' as const),
    level: anyLevel,
    words: fc.constant('so'),
    table: fc.constantFrom('chosen' as const, 'alternates' as const),
    entries: fc.dictionary(anyBar, fc.constantFrom({ kind: 'rest' }, { kind: 'simpler' }, undefined)),
  }),
  fc.record({
    kind: fc.constant('plan' as const),
    level: anyLevel,
    words: fc.constant('so'),
    shown: fc.constant([
      { id: 'p1', bars: 2, kind: 'idea' as const },
      { id: 'p2', bars: 2, kind: 'varied' as const, of: 'p1' },
    ]),
    edits: fc.array(
      fc.constantFrom(
        { kind: 'cut' as const, phrase: 'p1', second: 'p3' },
        { kind: 'join' as const, phrase: 'p1', next: 'p2' },
        { kind: 'keep' as const, phrase: 'p2', given: { notes: [] } },
        { kind: 'move' as const, phrase: 'p2', before: 'p1' },
      ),
      { maxLength: 2 },
    ),
  }),
  fc.record({
    kind: fc.constant('details' as const),
    words: fc.constant('so'),
    details: fc.constantFrom({ title: 'Ebb' }, { composer: 'The Net Loft' }, { composer: '' }, { source: 'the quay' }),
  }),
  fc.record({
    kind: fc.constant('together' as const),
    words: fc.constant('so'),
    change: fc.constantFrom<TogetherChange>(
      { handing: 'one' },
      { absent: ['p1'] },
      { absent: undefined },
      { intro: 'two', seed: 3 },
      { intro: undefined },
    ),
  }),
  fc.record({
    kind: fc.constant('together-cell' as const),
    words: fc.constant('so'),
    section: anyBar,
    cells: fc.dictionary(fc.constantFrom('p1', 'p2'), fc.constantFrom('bass' as const, 'out' as const, undefined)),
  }),
  fc.record({
    kind: fc.constant('together-bar' as const),
    words: fc.constant('so'),
    player: fc.constantFrom('p1', 'p2'),
    bar: anyBar,
    choice: fc.constantFrom({ kind: 'rest' as const }, { kind: 'other' as const, seed: 2 }, undefined),
  }),
  fc.record({
    kind: fc.constant('key' as const),
    key: fc.constantFrom({ ...TUNE.key, mode: 'minor' as const }, { ...TUNE.key, mode: 'dorian' as const }),
  }),
  fc.record({
    kind: fc.constant('meter' as const),
    meter: fc.constantFrom({ count: 2, unit: 4 }, { count: 4, unit: 4 }, { count: 3, unit: 4 }),
  }),
  fc.record({
    kind: fc.constant('style' as const),
    style: fc.constantFrom('jazz' as const, 'hymn' as const, undefined),
  }),
  fc.record({
    kind: fc.constant('reading' as const),
    words: fc.constant('so'),
    bar: anyBar,
    at: fc.constant(0),
    key: fc.constantFrom(TUNE.key, undefined),
  }),
  fc.constantFrom<Command>(
    becoming('Bars', { tune: TUNE, recipes: {} }, { tune: { ...TUNE, bars: TUNE.bars.slice(1) }, recipes: {} }),
    becoming(
      'Bars',
      { tune: TUNE, recipes: {} },
      { tune: { ...TUNE, bars: TUNE.bars.map((bar, k) => (k === 1 ? { ...bar, section: 'B' } : bar)) }, recipes: {} },
    ),
  ),
);

const first: Work = { tune: TUNE, recipes: { beginner: { instrument: 'flute', melody: 'as written' } } };
/** The work after a command; as it was where the command is refused. */
const done = (work: Work, command: Command): Work => {
  const applied = apply(work, command);
  return applied.ok ? applied.value.work : work;
};
const anyWork = fc.array(anyCommand, { maxLength: 5 }).map((commands) => commands.reduce(done, first));

test('commands of different scopes may change places', () => {
  fc.assert(
    fc.property(anyWork, anyCommand, anyCommand, (work, one, other) => {
      fc.pre(areApart(scopesOf(one), scopesOf(other)));
      expect(done(done(work, one), other)).toEqual(done(done(work, other), one));
    }),
  );
});

test('a command changes nothing beyond its scopes', () => {
  const scopes = (work: Work) =>
    scopesOf(becoming('', first, work))
      .filter((scope) => !scope.startsWith('recipes'))
      .toSorted();
  fc.assert(
    fc.property(anyCommand, (command) => {
      const own = scopesOf(command);
      const touched = scopes(done(first, command));
      expect(touched.filter((scope) => areApart(own, [scope]))).toEqual([]);
      const levels = LEVELS.filter((level) => areApart(own, [`recipes/${level}`]));
      for (const level of levels) expect(done(first, command).recipes[level]).toEqual(first.recipes[level]);
    }),
  );
});

test('what arrives twice changes once', () => {
  fc.assert(
    fc.property(anyWork, anyCommand, (work, command) => {
      const once = done(work, command);
      expect(done(once, command)).toEqual(once);
    }),
  );
});

test('a change and what takes it back is nothing', () => {
  fc.assert(
    fc.property(anyWork, anyCommand, (work, command) => {
      const after = done(work, command);
      const back = done(after, { kind: 'difference', words: 'Undo', difference: differenceBetween(after, work) });
      expect(back).toEqual(work);
    }),
  );
});

test('the difference of any two tunes makes the one the other; of tunes that share bars it is no more than what differs', () => {
  fc.assert(
    fc.property(anyTune, anyTune, (a, b) => {
      const [before, after]: readonly Work[] = [
        { tune: a, recipes: {} },
        { tune: b, recipes: { advanced: { instrument: 'oboe' } } },
      ];
      expect(done(before as Work, becoming('', before as Work, after as Work))).toEqual(after);
    }),
  );
  const lower = {
    ...TUNE,
    bars: [...TUNE.bars.slice(0, 2), ...barsByOctaves(TUNE.bars.slice(2, 3), -1), ...TUNE.bars.slice(3)],
  };
  expect(differenceBetween({ tune: TUNE, recipes: {} }, { tune: lower, recipes: {} })).toEqual({
    bars: { from: 2, gone: [BARS[2]], bars: [lower.bars[2]] },
  });
});

test('what cannot be done is refused in words, and nothing is changed', () => {
  const louder = TUNE.bars.map((bar, k) => (k === 2 ? { ...bar, section: 'B' } : bar));
  const gone = becoming('Bars', first, { ...first, tune: { ...TUNE, bars: louder } });
  const other: Work = { ...first, tune: tuneOf('C8|') };
  expect(apply(other, gone)).toEqual({ ok: false, problem: 'The bars that this is about are not there any more.' });
  const repeated: Work = { tune: tuneOf('|:C2E2 G2E2:|c8|'), recipes: {} };
  const barred = apply(repeated, { kind: 'meter', meter: { count: 3, unit: 4 } });
  expect(barred.ok ? '' : barred.problem).toMatch(/repeat/);
});

test('the history has one word for each kind, the level first', () => {
  const name = (command: Command) => {
    const applied = apply(first, command);
    return applied.ok ? applied.value.name : applied.problem;
  };
  expect([
    name({ kind: 'recipe', level: 'beginner', words: 'tempo 60', change: { keyAndTempo: { perMinute: 60 } } }),
    name({ kind: 'key', key: { ...TUNE.key, mode: 'minor' } }),
    name({ kind: 'meter', meter: { count: 2, unit: 2, sign: 'cut' } }),
    name({ kind: 'meter', meter: { count: 2, unit: 4 } }),
    name({ kind: 'style', style: undefined }),
    name({ kind: 'style', style: 'jazz' }),
  ]).toEqual(['Beginner: tempo 60', 'Key C minor', 'Meter C|', 'Meter 2/4', 'Style as found', 'Style: jazz']);
});

test('a phrase that is kept needs no plan of its own; one that does something else does', () => {
  const shown = [{ id: 'p1', bars: 2, kind: 'idea' }] as const;
  const given = { notes: [] };
  const plan = (edits: Extract<Command, { kind: 'plan' }>['edits']) =>
    recipesOf(done(first, { kind: 'plan', level: 'beginner', words: '', shown, edits })).beginner.solo;
  expect(plan([{ kind: 'keep', phrase: 'p1', given }])).toEqual({ given: { p1: given } });
  expect(plan([{ kind: 'does', phrase: 'p1', does: 'rest' }])).toEqual({ plan: [{ id: 'p1', bars: 2, kind: 'rest' }] });
});

test('a plan that is shorter than what is shown goes on as shown; a phrase that was joined away does not come back', () => {
  const two = [
    { id: 'p1', bars: 2, kind: 'idea' },
    { id: 'p2', bars: 2, kind: 'answer' },
  ] as const;
  const shown = [...two, { id: 'p3', bars: 2, kind: 'varied', of: 'p1' } as const];
  const bars = (of: readonly PhraseWish[], edits: Extract<Command, { kind: 'plan' }>['edits']) =>
    recipesOf(
      done(
        { ...first, recipes: { beginner: { instrument: 'flute', solo: { plan: of } } } },
        { kind: 'plan', level: 'beginner', words: '', shown, edits },
      ),
    ).beginner.solo?.plan?.map((phrase) => `${phrase.id} ${phrase.bars} ${phrase.kind}`);
  expect(bars(two, [{ kind: 'does', phrase: 'p3', does: 'rest' }])).toEqual(['p1 2 idea', 'p2 2 answer', 'p3 2 rest']);
  const joined = [two[0], { id: 'p2', bars: 4, kind: 'answer' }] as const;
  expect(bars(joined, [{ kind: 'does', phrase: 'p1', does: 'rest' }])).toEqual(['p1 2 rest', 'p2 4 answer']);
});
