import { withLimits } from '../instruments/limits';
import type { Instrument, Level } from '../instruments/instrument';
import { hasSecondPart, type Tune } from '../score/tune';
import { formedPart, type ChorusWishes, type FormedPart } from './form/formedPart';
import { partFor, type PartRequest } from './partFor';
import { pageRequest } from './page/pageRequest';
import { instrumentOf, type Recipe } from './recipe/recipe';
import { recipesOf, type Work } from './recipe/work';

export type PartMaker = (tune: Tune, level: Level, recipes: Work['recipes']) => ReturnType<typeof partFor>;

/** The part of a level as its recipe says, once through: what a lane shows. */
export const partOfLevel: PartMaker = (tune, level, recipes) => {
  const recipe = recipesOf({ recipes })[level];
  return partFor(tune, requestOf(tune, recipe, level, playedOn(recipe, level)));
};

/** The part of a level through its form: what is printed and played. */
export function formedPartOfLevel(tune: Tune, level: Level, recipes: Work['recipes']): FormedPart {
  const recipe = recipesOf({ recipes })[level];
  return formedFrom(tune, recipe, requestOf(tune, recipe, level, playedOn(recipe, level)));
}

/** A recipe's instrument with the range that the recipe allows. */
function playedOn(recipe: Recipe, level: Level): Instrument {
  return withLimits(instrumentOf(recipe), level, recipe.limits?.range ?? {});
}

/** Plays a request through a recipe's form, other versions of bars where the recipe wants them. */
export function formedFrom(
  tune: Tune,
  { form = {}, bars = {} }: Pick<Recipe, 'form' | 'bars'>,
  request: PartRequest,
): FormedPart {
  const { alternates = {}, alternatesAs = 'over' } = bars;
  const hasOthers = Object.keys(alternates).length > 0;
  const make = (wishes: ChorusWishes = {}) => partFor(tune, { ...request, ...wishes }).value;
  const inSecondTime = hasOthers && alternatesAs === 'second-time' ? alternates : {};
  const formed = formedPart(form.plays ?? 'once', make, request, inSecondTime);
  if (!hasOthers || alternatesAs !== 'over') return formed;
  const written = make({ bars: { chosen: { ...request.bars?.chosen, ...alternates } } }).bars;
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
export function requestOf(tune: Tune, recipe: Recipe, level: Level, instrument: Instrument): PartRequest {
  const { instrument: _, custom: _custom, page = {}, ...groups } = recipe;
  return {
    ...groups,
    level,
    instrument,
    page: pageRequest(page, instrument, level),
    ...(recipe.form?.plays === 'second' && hasSecondPart(tune) && { ofSecond: true as const }),
  };
}
