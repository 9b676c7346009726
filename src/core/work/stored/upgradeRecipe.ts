import { placeId } from '../../solos';
import type { Recipe } from '../recipe';
import type { SavedRecipe } from '../savedRecipe';
import type { Work } from '../work';

type Json = Readonly<Record<string, unknown>>;

/** The number that stored recipes, named ones too, carry now. */
export const RECIPE_SCHEMA = 3;

/** Until schema 2 a recipe was one flat record without a number: the group and the name that each field had then. */
const GROUP_OF_FIRST_FIELDS: Readonly<Record<string, readonly [group: string, field: string]>> = {
  key: ['setting', 'key'],
  perMinute: ['setting', 'perMinute'],
  shortest: ['rhythm', 'shortest'],
  syncopation: ['rhythm', 'offBeat'],
  dotted: ['rhythm', 'dotted'],
  ties: ['rhythm', 'ties'],
  density: ['embellish', 'density'],
  devices: ['embellish', 'devices'],
  seed: ['embellish', 'seed'],
  leap: ['limits', 'leap'],
  range: ['limits', 'range'],
  known: ['limits', 'known'],
  remedies: ['limits', 'remedies'],
  manner: ['articulation', 'style'],
  swing: ['articulation', 'swing'],
  form: ['form', 'plays'],
  leaveOut: ['form', 'leaveOut'],
  bars: ['bars', 'chosen'],
  alternates: ['bars', 'alternates'],
  alternatesAs: ['bars', 'alternatesAs'],
  aids: ['page', 'aids'],
  syllables: ['page', 'syllables'],
  marks: ['page', 'marks'],
  school: ['page', 'school'],
  pins: ['page', 'pins'],
};

/** Words for what a level does that were put better. */
const FIRST_WORDS: Readonly<Record<string, string>> = {
  thinned: 'simplified',
  dressed: 'embellished',
  thinner: 'simpler',
  'thinner-still': 'simplest',
};

/**
 * What brings a recipe's groups from each schema to the next, oldest first: those of no number become those of 2, those
 * of 2 those of 3. A recipe goes through all that come after its own.
 */
const STEPS: readonly (readonly [schema: number | undefined, step: (groups: Json) => Json])[] = [
  [undefined, grouped],
  [2, named],
];

/**
 * A stored recipe of an older shape brought to the present one; anything else comes back as it is, for the checks that
 * follow.
 */
export function upgradedRecipe(data: unknown): unknown {
  if (!isObject(data)) return data;
  const { schema, ...groups } = data;
  const first = STEPS.findIndex(([from]) => from === schema);
  if (first < 0) return data;
  return { schema: RECIPE_SCHEMA, ...STEPS.slice(first).reduce((before, [, step]) => step(before), groups) };
}

/** The same for a recipe saved under a name. */
export function upgradedSavedRecipe(data: unknown): unknown {
  if (!isObject(data)) return data;
  const { wishes, schema, ...rest } = data;
  if (!isObject(wishes)) return data;
  const upgraded = upgradedRecipe({ ...wishes, ...(schema !== undefined && { schema }) });
  if (!isObject(upgraded)) return data;
  const { schema: now, ...groups } = upgraded;
  return { schema: now, ...rest, wishes: groups };
}

/**
 * Until schema 3 key and tempo stood under `setting`, and the phrases of a solo's plan went by their places, from 0.
 */
function named(recipe: Json): Json {
  const { setting, ...groups } = recipe;
  const { solo } = groups;
  return {
    ...groups,
    ...(setting !== undefined && { keyAndTempo: setting }),
    ...(isObject(solo) && { solo: withPhraseIds(solo) }),
  };
}

function withPhraseIds(solo: Json): Json {
  const { plan, given } = solo;
  return {
    ...solo,
    ...(Array.isArray(plan) && {
      plan: plan.map((phrase: unknown, place) => {
        if (!isObject(phrase)) return phrase;
        const { of, ...rest } = phrase;
        return { id: placeId(place), ...rest, ...(typeof of === 'number' && { of: placeId(of) }) };
      }),
    }),
    ...(isObject(given) && {
      given: Object.fromEntries(Object.entries(given).map(([place, phrase]) => [placeId(Number(place)), phrase])),
    }),
  };
}

/** Until schema 2, a custom instrument of a player stood under `own`. */
export function upgradedGroup(data: unknown): unknown {
  if (!isObject(data) || !Array.isArray(data['players'])) return data;
  return {
    ...data,
    players: data['players'].map((player: unknown) => (isObject(player) ? withCustom(player) : player)),
  };
}

function grouped(flat: Json): Json {
  const groups: Record<string, unknown> = {};
  for (const [field, value] of Object.entries(withCustom(flat))) {
    const place = GROUP_OF_FIRST_FIELDS[field];
    if (!place) groups[field] = field === 'melody' ? renamed(value) : value;
    else {
      const [group, name] = place;
      const before = groups[group];
      const said = name === 'chosen' || name === 'alternates' ? withKinds(value) : value;
      groups[group] = { ...(isObject(before) ? before : {}), [name]: said };
    }
  }
  return groups;
}

function withKinds(bars: unknown): unknown {
  if (!isObject(bars)) return bars;
  return Object.fromEntries(
    Object.entries(bars).map(([id, choice]) => [
      id,
      isObject(choice) ? { ...choice, kind: renamed(choice['kind']) } : choice,
    ]),
  );
}

function renamed(word: unknown): unknown {
  return typeof word === 'string' ? (FIRST_WORDS[word] ?? word) : word;
}

function withCustom(record: Json): Json {
  if (!('own' in record)) return record;
  const { own, ...rest } = record;
  return { ...rest, custom: own };
}

function isObject(value: unknown): value is Json {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

/** A recipe as it is stored and sent: with the number of its shape. */
function storedRecipe(recipe: Recipe): Recipe & { readonly schema: typeof RECIPE_SCHEMA } {
  return { schema: RECIPE_SCHEMA, ...recipe };
}

export function storedRecipes(recipes: Work['recipes']): Work['recipes'] {
  return Object.fromEntries(Object.entries(recipes).map(([level, recipe]) => [level, storedRecipe(recipe)]));
}

export function storedSavedRecipe(saved: SavedRecipe): SavedRecipe & { readonly schema: typeof RECIPE_SCHEMA } {
  return { schema: RECIPE_SCHEMA, ...saved };
}

/** A work as it is sent and kept in the browser. */
export function storedWork(work: Work): Work {
  return { tune: work.tune, recipes: storedRecipes(work.recipes) };
}
