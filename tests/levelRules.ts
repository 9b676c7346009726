import fc from 'fast-check';
import { INSTRUMENTS } from '../src/core/instruments/catalogue';
import { LEVELS, outsideBy, type Level } from '../src/core/instruments/instrument';
import { withLimits } from '../src/core/instruments/limits';
import { formedPartOfLevel, partOfLevel } from '../src/core/levels/levelPart';
import { instrumentOf, MELODIES, type Recipe } from '../src/core/work/recipe';
import { firstNotes } from '../src/core/levels/accompany/underPart';
import { keyWithSignature, signatureOf } from '../src/core/pitch/key';
import { semitones } from '../src/core/pitch/pitch';
import { isNote, type Bar, type Tune } from '../src/core/score/tune';
import { scoreProblems } from '../src/core/score/validate';
import { anyTune } from './anyTune';
import {
  ALTERNATES_AS,
  ARTICULATION_STYLES,
  type BarChoice,
  DEVICES,
  FORMS,
  LEAPS,
  LEAVE_OUTS,
} from '../src/core/work/groups';
import { ALL_BEAT_RHYTHMS, SHORTEST } from '../src/core/work/beatRhythms';

const choice = fc.constantFrom<BarChoice>(
  { kind: 'as-written' },
  { kind: 'simpler' },
  { kind: 'simplest' },
  { kind: 'octave-up' },
  { kind: 'embellished', seed: 3 },
  { kind: 'optional' },
  { kind: 'rest' },
);

/** Some of a group's fields, or none of them. */
const some = <Fields extends object>(fields: { [Name in keyof Fields]: fc.Arbitrary<Fields[Name]> }) =>
  fc.record(fields, { requiredKeys: [] });

/** A recipe with any of its groups, bars by their place in the tune. */
const anyWishes = some({
  melody: fc.constantFrom(...MELODIES),
  form: some({ plays: fc.constantFrom(...FORMS), leaveOut: fc.constantFrom(...LEAVE_OUTS) }),
  rhythm: some({
    shortest: fc.constantFrom(...SHORTEST),
    offBeat: fc.boolean(),
    ties: fc.boolean(),
    dotted: fc.boolean(),
    words: fc.subarray([...ALL_BEAT_RHYTHMS]),
  }),
  limits: some({ leap: fc.constantFrom(...LEAPS) }),
  articulation: some({
    style: fc.constantFrom(...ARTICULATION_STYLES),
    swing: fc.constantFrom('straight' as const, { unit: 'eighth' as const, ratio: 2 }),
  }),
  embellish: some({
    density: fc.integer({ min: 0, max: 100 }),
    devices: fc.subarray([...DEVICES], { minLength: 1 }),
    seed: fc.integer({ min: 0, max: 99 }),
  }),
});

export interface LevelCase {
  readonly tune: Tune;
  readonly level: Level;
  readonly recipe: Recipe;
}

/** Any tune at any level on any instrument by any recipe. */
export const anyLevelCase: fc.Arbitrary<LevelCase> = fc
  .record({
    tune: anyTune,
    level: fc.constantFrom(...LEVELS),
    player: fc.constantFrom(...INSTRUMENTS),
    wishes: anyWishes,
    signature: fc.option(fc.integer({ min: -6, max: 6 }), { nil: undefined }),
    bars: fc.array(fc.tuple(fc.nat(), choice), { maxLength: 3 }),
    knows: fc.integer({ min: 0, max: 3 }).map((n) => n === 0),
    alternates: fc.array(fc.tuple(fc.nat(), choice), { maxLength: 2 }),
    alternatesAs: fc.option(fc.constantFrom(...ALTERNATES_AS), { nil: undefined }),
  })
  .map(({ tune, level, player, wishes, signature, bars, knows, alternates, alternatesAs }) => {
    const at = (places: readonly (readonly [number, BarChoice])[]) =>
      Object.fromEntries(places.map(([place, one]) => [tune.bars[place % tune.bars.length]?.id ?? '', one]));
    const key = signature === undefined ? undefined : keyWithSignature(signature, tune.key.mode);
    return {
      tune,
      level,
      recipe: {
        ...wishes,
        instrument: player.id,
        limits: { ...wishes.limits, ...(knows && { known: firstNotes(player, 5) }) },
        ...(key && { keyAndTempo: { key } }),
        bars: {
          ...(bars.length > 0 && { chosen: at(bars) }),
          ...(alternates.length > 0 && { alternates: at(alternates) }),
          ...(alternatesAs && { alternatesAs }),
        },
      },
    };
  });

const notesOf = (bars: readonly Bar[]) => bars.flatMap(({ events }) => events.filter(isNote).filter(({ cue }) => !cue));

/** The hard rules of the levels that a part breaks, in words; none when all is well. */
export function brokenRules({ tune, level, recipe }: LevelCase): readonly string[] {
  const broken: string[] = [];
  const recipes = { [level]: recipe };
  const made = partOfLevel(tune, level, recipes);
  const { value: part } = made;
  const rule = (holds: boolean, words: string) => {
    if (!holds) broken.push(words);
  };
  for (const [name, bars] of [
    ['written', part.bars],
    ['sounding', part.soundingBars],
  ] as const)
    for (const { code, bar } of scoreProblems({ ...tune, bars })) rule(false, `${name} bar ${bar}: ${code}`);
  rule(Math.abs(signatureOf(part.writtenKey)) <= 6, 'more than six sharps or flats');
  rule(
    part.bars.length === tune.bars.length &&
      part.bars.every(
        (bar, k) =>
          bar.id === tune.bars[k]?.id &&
          bar.repeatEnd === tune.bars[k]?.repeatEnd &&
          bar.chords.length === tune.bars[k]?.chords.length,
      ),
    'bars, repeats or chords are not the tune’s',
  );
  // Another key, and back: the part is the same to the letter.
  partOfLevel(tune, level, {
    [level]: { ...recipe, keyAndTempo: { key: { ...tune.key, tonic: { step: 'A', alter: 0 } } } },
  });
  rule(
    JSON.stringify(partOfLevel(structuredClone(tune), level, structuredClone(recipes))) === JSON.stringify(made),
    'made again, the part is another',
  );
  for (const [id, { kind }] of Object.entries(recipe.bars?.chosen ?? {}))
    if (kind === 'rest') rule(!part.bars.find((bar) => bar.id === id)?.events.some(isNote), `bar ${id} does not rest`);
  if (level === 'beginner')
    rule(
      notesOf(part.bars).every((note) => Math.abs(note.pitch.alter) < 2),
      'a double accidental for a beginner',
    );
  if (!recipe.bars?.chosen) {
    const instrument = withLimits(instrumentOf(recipe), level, recipe.limits?.range ?? {});
    const limits = level === 'beginner' ? instrument.range.beginner : instrument.range.full;
    rule(
      notesOf(part.bars).every((note) => outsideBy(note.pitch, limits) === 0),
      'a note beyond the range',
    );
    const known = recipe.limits?.known;
    const heights = new Set(known?.filter((one) => outsideBy(one, limits) === 0).map(semitones));
    if (known && heights.size > 0)
      rule(
        notesOf(part.bars).every((note) => heights.has(semitones(note.pitch))),
        'a note that is not known',
      );
    if (level === 'beginner' && (recipe.melody ?? 'simplified') === 'simplified')
      rule(
        notesOf(part.bars).every((note) => !note.graces && !note.ornaments && !note.tuplet),
        'tuplets or ornaments for a beginner',
      );
    if (recipe.melody === 'simplified' && recipe.rhythm?.ties === false)
      rule(
        part.bars.every(({ events }) => {
          const last = events.at(-1);
          return !last || !isNote(last) || !last.tied;
        }),
        'a tie over a barline',
      );
  }
  const formed = formedPartOfLevel(tune, level, recipes).part;
  for (const [name, bars] of [
    ['written', formed.bars],
    ['sounding', formed.soundingBars],
  ] as const)
    for (const { code, bar } of scoreProblems({ ...tune, bars }))
      rule(false, `through its form, ${name} bar ${bar}: ${code}`);
  rule(
    formed.bars.length === formed.soundingBars.length,
    'through its form, written and sounding bars differ in number',
  );
  return broken;
}
