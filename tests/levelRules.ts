import fc from 'fast-check';
import { INSTRUMENTS } from '../src/core/instruments/catalogue';
import { LEVELS, outsideBy, type Level } from '../src/core/instruments/instrument';
import { withLimits } from '../src/core/instruments/limits';
import { MANNERS } from '../src/core/levels/line/articulate';
import { DEVICES } from '../src/core/levels/embellish/devices';
import { FORMS } from '../src/core/levels/form/form';
import { LEAPS } from '../src/core/levels/fit/leaps';
import { LEAVE_OUTS } from '../src/core/levels/bars/leaveOut';
import { formedPartOfLevel, partOfLevel } from '../src/core/levels/levelPart';
import { ALTERNATES_AS, instrumentOf, MELODIES, type BarChoice, type Recipe } from '../src/core/levels/recipe/recipe';
import { SHORTEST } from '../src/core/levels/simplify/slots';
import { firstNotes } from '../src/core/levels/accompany/underPart';
import { keyWithSignature, signatureOf } from '../src/core/pitch/key';
import { semitones } from '../src/core/pitch/pitch';
import { isNote, type Bar, type Tune } from '../src/core/score/tune';
import { scoreProblems } from '../src/core/score/validate';
import { anyTune } from './anyTune';

const choice = fc.constantFrom<BarChoice>(
  { kind: 'as-written' },
  { kind: 'thinner' },
  { kind: 'thinner-still' },
  { kind: 'octave-up' },
  { kind: 'dressed', seed: 3 },
  { kind: 'optional' },
  { kind: 'rest' },
);

/** A recipe with any of its fields, bars by their place in the tune. */
const anyWishes = fc.record(
  {
    melody: fc.constantFrom(...MELODIES),
    form: fc.constantFrom(...FORMS),
    shortest: fc.constantFrom(...SHORTEST),
    syncopation: fc.boolean(),
    ties: fc.boolean(),
    dotted: fc.boolean(),
    leap: fc.constantFrom(...LEAPS),
    manner: fc.constantFrom(...MANNERS),
    swing: fc.constantFrom('straight' as const, { unit: 'eighth' as const, ratio: 2 }),
    density: fc.integer({ min: 0, max: 100 }),
    devices: fc.subarray([...DEVICES], { minLength: 1 }),
    seed: fc.integer({ min: 0, max: 99 }),
    leaveOut: fc.constantFrom(...LEAVE_OUTS),
    alternatesAs: fc.constantFrom(...ALTERNATES_AS),
  },
  { requiredKeys: [] },
);

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
  })
  .map(({ tune, level, player, wishes, signature, bars, knows, alternates }) => {
    const at = (places: readonly (readonly [number, BarChoice])[]) =>
      Object.fromEntries(places.map(([place, one]) => [tune.bars[place % tune.bars.length]?.id ?? '', one]));
    const key = signature === undefined ? undefined : keyWithSignature(signature, tune.key.mode);
    const said = Object.fromEntries(Object.entries(wishes).filter(([, value]) => value !== undefined));
    return {
      tune,
      level,
      recipe: {
        ...said,
        instrument: player.id,
        ...(knows && { known: firstNotes(player, 5) }),
        ...(key && { key }),
        ...(bars.length > 0 && { bars: at(bars) }),
        ...(alternates.length > 0 && { alternates: at(alternates) }),
      } as Recipe,
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
  partOfLevel(tune, level, { [level]: { ...recipe, key: { ...tune.key, tonic: { step: 'A', alter: 0 } } } });
  rule(
    JSON.stringify(partOfLevel(structuredClone(tune), level, structuredClone(recipes))) === JSON.stringify(made),
    'made again, the part is another',
  );
  for (const [id, { kind }] of Object.entries(recipe.bars ?? {}))
    if (kind === 'rest') rule(!part.bars.find((bar) => bar.id === id)?.events.some(isNote), `bar ${id} does not rest`);
  if (level === 'beginner')
    rule(
      notesOf(part.bars).every((note) => Math.abs(note.pitch.alter) < 2),
      'a double accidental for a beginner',
    );
  if (!recipe.bars) {
    const instrument = withLimits(instrumentOf(recipe), level, recipe.range ?? {});
    const limits = level === 'beginner' ? instrument.range.beginner : instrument.range.full;
    rule(
      notesOf(part.bars).every((note) => outsideBy(note.pitch, limits) === 0),
      'a note beyond the range',
    );
    const { known } = recipe;
    const heights = new Set(known?.filter((one) => outsideBy(one, limits) === 0).map(semitones));
    if (known && heights.size > 0)
      rule(
        notesOf(part.bars).every((note) => heights.has(semitones(note.pitch))),
        'a note that is not known',
      );
    if (level === 'beginner' && (recipe.melody ?? 'thinned') === 'thinned')
      rule(
        notesOf(part.bars).every((note) => !note.graces && !note.ornaments && !note.tuplet),
        'tuplets or ornaments for a beginner',
      );
    if (recipe.melody === 'thinned' && recipe.ties === false)
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
