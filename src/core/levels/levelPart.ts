import { derived } from '../derived';
import { type Instrument, type Level, withLimits } from '../instruments';
import { type DrillIdea, hasSecondPart, type Tune } from '../score';
import { drillPart, type DrillPart } from './parts/drillPart';
import { formedPart, type ChorusWishes, type FormedPart } from './form/formedPart';
import { partFor, type PartRequest } from './parts/partFor';
import { pageRequest } from './page/pageRequest';
import { soloOf, type SoloPart } from './parts/soloPart';
import { chroma, type Key, nameKey } from '../pitch';
import type { Part } from './parts/part';
import { type BarWishes, instrumentOf, type Recipe, recipesOf, type Work } from '../work';

export type PartMaker = (tune: Tune, level: Level, recipes: Work['recipes']) => ReturnType<typeof partFor>;

/** The part of a level as its recipe says, once through: what a lane shows. */
export const partOfLevel: PartMaker = (tune, level, recipes) => {
  if (tune.drill) return drillOfLevel(tune, level, recipes);
  const recipe = recipesOf({ recipes })[level];
  return partFor(tune, requestOf(tune, recipe, level, playedOn(recipe, level)));
};

/** A level of a drill with its keys. @throws RangeError where the tune is no drill */
export function drillOfLevel({ drill, title }: Tune, level: Level, recipes: Work['recipes']): DrillPart {
  if (!drill) throw new RangeError('no drill');
  return drillFor(drill, title, level, recipesOf({ recipes })[level]);
}

/** Lanes and rows ask for the same; a few recipes at each level are remembered. */
const drillFor = derived(
  (idea: DrillIdea, title: string, level: Level, recipe: Recipe): DrillPart =>
    drillPart(idea, drillRequest(recipe, level), recipe.drill, title),
  { most: 9, by: (idea, title, level, recipe) => [idea, title, level, JSON.stringify(recipe)] },
);

function drillRequest(recipe: Recipe, level: Level): Parameters<typeof drillPart>[1] {
  const instrument = playedOn(recipe, level);
  const { page = {}, keyAndTempo } = recipe;
  return { level, instrument, page: pageRequest(page, instrument, level), ...(keyAndTempo && { keyAndTempo }) };
}

/** The example solo of a level. */
export function soloOfLevel(tune: Tune, level: Level, recipes: Work['recipes'], seed?: number): SoloPart | undefined {
  const recipe = recipesOf({ recipes })[level];
  return soloOf(tune, recipe, level, playedOn(recipe, level), seed);
}

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
export function formedFrom(tune: Tune, recipe: Recipe, request: PartRequest): FormedPart {
  const { form = {}, bars = {} } = recipe;
  const { alternates = {}, alternatesAs = 'over' } = bars;
  const hasOthers = Object.keys(alternates).length > 0;
  const make = (wishes: ChorusWishes = {}) => partFor(tune, { ...request, ...wishes }).value;
  const inSecondTime = hasOthers && alternatesAs === 'second-time' ? alternates : {};
  const plays = tune.drill ? 'once' : (form.plays ?? 'once');
  const solo =
    plays === 'solo' && recipe.solo?.seed !== undefined
      ? soloOf(tune, recipe, request.level, request.instrument)
      : undefined;
  const formed = formedPart(plays, make, request, inSecondTime, solo?.part);
  if (!hasOthers || alternatesAs !== 'over') return formed;
  const written = make(withAlternates(bars)).bars;
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

/** A request for the bars that stand as alternatives over a part: in the places of those that it has. */
function withAlternates({ chosen, alternates }: BarWishes): ChorusWishes {
  return { bars: { chosen: { ...chosen, ...alternates } } };
}

/** The part with its alternatives in it, where these are printed over it; `undefined` where there are none. */
export function alternativesOfLevel(
  tune: Tune,
  level: Level,
  recipes: Work['recipes'],
): { readonly part: FormedPart['part']; readonly has: (bar: number) => boolean } | undefined {
  const { alternates = {}, alternatesAs = 'over', chosen } = recipes[level]?.bars ?? {};
  if (alternatesAs !== 'over' || !tune.bars.some(({ id }) => alternates[id])) return undefined;
  const recipe = recipesOf({ recipes })[level];
  return {
    part: partOfLevel(tune, level, { ...recipes, [level]: { ...recipe, ...withAlternates({ chosen, alternates }) } })
      .value,
    has: (bar) => alternates[tune.bars[bar]?.id ?? ''] !== undefined,
  };
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

/** A part to be worked out in another key, and how it reads there. */
export interface WorkingOut {
  readonly question: Part;
  readonly answer: Part;
}

/**
 * A level's part in its friendly key with every mark, an empty staff under it in the key of the recording, for a pupil
 * to fill; and the answer. `undefined` where the tune has no recording, or the part stands in its key already.
 */
export function workingOutOf(tune: Tune, level: Level, recipes: Work['recipes']): WorkingOut | undefined {
  if (!tune.recordingKey || tune.drill) return undefined;
  const recipe = recipesOf({ recipes })[level];
  const there: Key = { tonic: tune.recordingKey.tonic, mode: tune.key.mode };
  const friendly = { ...recipe, page: { ...recipe.page, marks: 'all' as const } };
  const { part } = formedPartOfLevel(tune, level, { ...recipes, [level]: friendly });
  if (chroma(part.concertKey.tonic) === chroma(there.tonic)) return undefined;
  const moved = { ...recipe, keyAndTempo: { ...recipe.keyAndTempo, key: there } };
  const { part: answer } = formedPartOfLevel(tune, level, { ...recipes, [level]: moved });
  const name = nameKey(answer.writtenKey);
  return {
    question: {
      ...part,
      below: { key: answer.writtenKey, title: name },
      lead: [
        `The recording is in ${name} for you. Write the tune there on the lower staff, note by note, and play along.`,
      ],
    },
    answer: { ...answer, title: `${answer.title}: the answer` },
  };
}
