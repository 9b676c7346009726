import { withLimits } from '../instruments/limits';
import type { Instrument, Level } from '../instruments/instrument';
import { semitones } from '../pitch/pitch';
import { hasSecondPart, type Tune } from '../score/tune';
import { formedPart, type FormedPart } from './form/formedPart';
import { partFor, type PartRequest } from './partFor';
import { aidWishes, fingerWishes, instrumentOf, melodyWishes, type MelodyWishes, type Recipe } from './recipe/recipe';
import { recipesOf, type Work } from './recipe/work';

export type PartMaker = (tune: Tune, level: Level, recipes: Work['recipes']) => ReturnType<typeof partFor>;

/** The part of a level as its recipe says, once through: what a lane shows. */
export const partOfLevel: PartMaker = (tune, level, recipes) => {
  const recipe = recipesOf({ recipes })[level];
  return partFor(tune, requestOf(tune, recipe, level, withLimits(instrumentOf(recipe), level, recipe.range ?? {})));
};

/** The part of a level through its form: what is printed and played. */
export function formedPartOfLevel(tune: Tune, level: Level, recipes: Work['recipes']): FormedPart {
  const recipe = recipesOf({ recipes })[level];
  const request = requestOf(tune, recipe, level, withLimits(instrumentOf(recipe), level, recipe.range ?? {}));
  return formedFrom(tune, recipe, request);
}

/** Plays a request through a recipe's form, other versions of bars where the recipe wants them. */
export function formedFrom(
  tune: Tune,
  recipe: Pick<Recipe, 'form' | 'alternates' | 'alternatesAs'>,
  request: PartRequest,
): FormedPart {
  const { form = 'once', alternates = {}, alternatesAs = 'over' } = recipe;
  const { melody = {} } = request;
  const others = { ...melody, bars: { ...melody.bars, ...alternates } };
  const hasOthers = Object.keys(alternates).length > 0;
  const make = (wishes?: MelodyWishes) => partFor(tune, wishes ? { ...request, melody: wishes } : request).value;
  const formed = formedPart(form, make, melody, hasOthers && alternatesAs === 'second-time' ? alternates : {});
  if (!hasOthers || alternatesAs !== 'over') return formed;
  const written = make(others).bars;
  const ossias = tune.bars
    .flatMap(({ id }, index) => (alternates[id] ? [index] : []))
    .reduce<{ from: number; to: number }[]>((runs, index) => {
      const last = runs.at(-1);
      if (last?.to === index) last.to = index + 1;
      else runs.push({ from: index, to: index + 1 });
      return runs;
    }, [])
    .map(({ from, to }) => ({
      at: formed.source.findIndex(({ chorus, bar }) => chorus === 0 && bar === from),
      bars: written.slice(from, to),
    }));
  return { ...formed, part: { ...formed.part, ossias } };
}

/** What a recipe asks of the part of one instrument. A second part that the tune does not have any more is the tune. */
export function requestOf(
  tune: Tune,
  recipe: Recipe,
  level: Level,
  instrument: Instrument,
  melody: MelodyWishes = melodyWishes(recipe),
): PartRequest {
  return {
    level,
    instrument,
    melody,
    aids: aidWishes(recipe, level),
    fingers: fingerWishes(recipe, level),
    ...(recipe.key && { key: recipe.key }),
    ...(recipe.perMinute !== undefined && { perMinute: recipe.perMinute }),
    ...(recipe.remedies && { remedies: recipe.remedies }),
    ...(recipe.syllables && { syllables: recipe.syllables }),
    ...(recipe.manner && { manner: recipe.manner }),
    ...(recipe.swing && { swing: recipe.swing }),
    ...(recipe.leaveOut && { leaveOut: recipe.leaveOut }),
    ...(recipe.known && recipe.known.length > 0 && { known: new Set(recipe.known.map(semitones)) }),
    ...(recipe.form === 'second' && hasSecondPart(tune) && { ofSecond: true as const }),
  };
}
