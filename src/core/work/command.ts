import { withIdea } from '../drills';
import type { ChordFunction } from '../harmony';
import type { Level } from '../instruments';
import { type Key, nameKey } from '../pitch';
import { capitalised } from '../plainText';
import { failure, success, unreachable, type Result } from '../result';
import {
  type DrillIdea,
  type ReadingNote,
  rebarProblemText,
  type Style,
  type TogetherBar,
  type TogetherCell,
  type TogetherNotes,
  type Tune,
} from '../score';
import { type PhraseWish, type PlanEdit, withPlanEdit } from '../solos';
import { type Meter, printMeter, type Ticks } from '../time';
import { differenceBetween, withDifference, type Difference } from './difference';
import {
  recipesOf,
  withDetails,
  withKey,
  withMeter,
  withRecipe,
  type RecipeChange,
  type TuneDetails,
  type Work,
} from './work';

/** The tables of a recipe that are changed entry by entry: decisions about single bars, notes and chords. */
const RECIPE_TABLES = {
  chosen: 'bars',
  alternates: 'bars',
  barAids: 'page',
  pins: 'page',
  remedies: 'limits',
  chords: 'improvise',
} as const satisfies Readonly<Record<string, keyof RecipeChange>>;
export type RecipeTable = keyof typeof RECIPE_TABLES;

/**
 * A change of a work as a value: what a person decided, apart from the document that it was decided in front of. It is
 * carried out on the work as it is by then, here and in the worker alike. Words are what the history says; what they do
 * not name stays out of the change.
 */
export type Command =
  /** Some of a level's recipe. */
  | { readonly kind: 'recipe'; readonly level: Level; readonly words: string; readonly change: RecipeChange }
  /** Entries of one table of a level's recipe, by their names; `undefined` takes one out. */
  | {
      readonly kind: 'entries';
      readonly level: Level;
      readonly words: string;
      readonly table: RecipeTable;
      readonly entries: Readonly<Record<string, unknown>>;
    }
  /** Edits of the plan of a level's solo. `shown` is the plan they begin from where the recipe has none of its own. */
  | {
      readonly kind: 'plan';
      readonly level: Level;
      readonly words: string;
      readonly shown: readonly PhraseWish[];
      readonly edits: readonly PlanEdit[];
    }
  /** What stands at the tune's head. */
  | { readonly kind: 'details'; readonly words: string; readonly details: TuneDetails }
  /** The key that the tune stands in; its notes stay. */
  | { readonly kind: 'key'; readonly key: Key }
  /** The tune barred anew. */
  | { readonly kind: 'meter'; readonly meter: Meter }
  /** `undefined`: as the program finds. */
  | { readonly kind: 'style'; readonly style: Style | undefined }
  /** How the chord of a place is read; neither key nor function: as the program finds. */
  | {
      readonly kind: 'reading';
      readonly words: string;
      readonly bar: string;
      readonly at: Ticks;
      readonly key?: Key | undefined;
      readonly function?: ChordFunction | undefined;
    }
  /** Fields of how the tune is played together; `undefined` puts one back to what the program would do. */
  | { readonly kind: 'together'; readonly words: string; readonly change: TogetherChange }
  /** Cells of the table of sections and players; `undefined` leaves one to the program. */
  | {
      readonly kind: 'together-cell';
      readonly words: string;
      readonly section: string;
      readonly cells: Readonly<Record<string, TogetherCell | undefined>>;
    }
  /** A bar of a player's part in a group; `undefined` leaves it to the program. */
  | {
      readonly kind: 'together-bar';
      readonly words: string;
      readonly player: string;
      readonly bar: string;
      readonly choice: TogetherBar | undefined;
    }
  /** Fields of a drill's idea; `undefined` takes one away. */
  | {
      readonly kind: 'idea';
      readonly words: string;
      readonly change: { readonly [Field in keyof DrillIdea]?: DrillIdea[Field] | undefined };
    }
  /**
   * Whatever else makes one work of another: bars that were written, levels set to each other, a version restored, a
   * change undone.
   */
  | { readonly kind: 'difference'; readonly words: string; readonly difference: Difference };

/** What came of a command. */
export interface Applied {
  readonly work: Work;
  /** For the history. */
  readonly name: string;
}

/**
 * Carries out a command. What arrives twice changes once; commands of different scopes (`scopesOf`) may change places.
 * @returns a failure with words for a person where it cannot be done; nothing is changed then
 */
export function apply(work: Work, command: Command): Result<Applied, string> {
  // What says nothing is not to make a recipe where there was none.
  const changed = scopesOf(command).length === 0 ? success(work) : changedBy(work, command);
  return changed.ok ? success({ work: changed.value, name: nameOf(command) }) : changed;
}

function changedBy(work: Work, command: Command): Result<Work, string> {
  switch (command.kind) {
    case 'recipe':
      return success(withRecipe(work, command.level, command.change));
    case 'entries':
      return success(withEntries(work, command));
    case 'plan':
      return success(withEditedPlan(work, command));
    case 'details':
      return success(withDetails(work, command.details));
    case 'key':
      return success(withKey(work, command.key));
    case 'meter': {
      const barred = withMeter(work, command.meter);
      return barred.ok ? barred : failure(rebarProblemText(barred.problem));
    }
    case 'style':
      return success(
        withHarmony(work, ({ style: _, ...rest }) => ({ ...rest, ...(command.style && { style: command.style }) })),
      );
    case 'reading':
      return success(withReading(work, command));
    case 'together':
      return success(withTogether(work, (before) => ({ ...before, ...command.change })));
    case 'together-cell':
      return success(
        withTogether(work, ({ cells = {}, ...rest }) => ({
          ...rest,
          cells: withEntry(cells, command.section, setOnes({ ...cells[command.section], ...command.cells })),
        })),
      );
    case 'together-bar':
      return success(
        withTogether(work, ({ bars = {}, ...rest }) => ({
          ...rest,
          bars: withEntry(bars, command.player, withEntry(bars[command.player] ?? {}, command.bar, command.choice)),
        })),
      );
    case 'idea':
      return success(withIdeaChange(work, command.change));
    case 'difference': {
      const next = withDifference(work, command.difference);
      return next.ok ? next : failure('The bars that this is about are not there any more.');
    }
    default:
      return unreachable(command);
  }
}

/** What the history calls each kind of command; the level is said first where there is one. */
const NAMES: { readonly [Kind in Command['kind']]: (command: Extract<Command, { readonly kind: Kind }>) => string } = {
  recipe: ({ level, words }) => `${capitalised(level)}: ${words}`,
  entries: ({ level, words }) => `${capitalised(level)}: ${words}`,
  plan: ({ level, words }) => `${capitalised(level)}: ${words}`,
  details: ({ words }) => words,
  key: ({ key }) => `Key ${nameKey(key)}`,
  meter: ({ meter }) => `Meter ${meter.sign ? (meter.sign === 'cut' ? 'C|' : 'C') : printMeter(meter)}`,
  style: ({ style }) => (style ? `Style: ${style}` : 'Style as found'),
  reading: ({ words }) => words,
  together: ({ words }) => words,
  'together-cell': ({ words }) => words,
  'together-bar': ({ words }) => words,
  idea: ({ words }) => words,
  difference: ({ words }) => words,
};

/** The name of a command for the history. */
function nameOf<Kind extends Command['kind']>(command: Extract<Command, { readonly kind: Kind }>): string {
  return NAMES[command.kind as Kind](command);
}

/** The command that makes one work of another, for changes that are worked out of the whole of it. */
export function becoming(words: string, before: Work, after: Work): Command {
  return { kind: 'difference', words, difference: differenceBetween(before, after) };
}

/** What of playing together is to be set as a whole. */
export type TogetherChange = {
  readonly [Field in Exclude<keyof TogetherNotes, 'cells' | 'bars'>]?: TogetherNotes[Field] | undefined;
};

/** A path into a work, outermost first: `recipes/beginner/rhythm/ties`. */
export type Scope = string;

/** What a command may change. */
export function scopesOf(command: Command): readonly Scope[] {
  switch (command.kind) {
    case 'recipe':
      return recipeScopes(command.level, command.change);
    case 'entries': {
      const table = `recipes/${command.level}/${RECIPE_TABLES[command.table]}/${command.table}`;
      return Object.keys(command.entries).map((name) => `${table}/${name}`);
    }
    case 'plan':
      return command.edits.length === 0
        ? []
        : ['plan', 'given'].map((field) => `recipes/${command.level}/solo/${field}`);
    case 'details':
      return Object.keys(command.details).map((field) => `tune/${field}`);
    case 'key':
      return ['tune/key', 'recipes'];
    case 'meter':
      return ['tune/meter', 'tune/bars'];
    case 'style':
      return ['tune/harmony/style'];
    case 'reading':
      return [`tune/harmony/readings/${command.bar}/${command.at}`];
    case 'together':
      return Object.keys(command.change).map((field) => `tune/together/${field}`);
    case 'together-cell':
      return Object.keys(command.cells).map((player) => `tune/together/cells/${command.section}/${player}`);
    case 'together-bar':
      return [`tune/together/bars/${command.player}/${command.bar}`];
    case 'idea':
      // The sketch, the meter and often the title follow from the whole idea.
      return ['tune'];
    case 'difference': {
      const { head = {}, bars, recipes = {} } = command.difference;
      return [
        ...Object.keys(head).map((field) => `tune/${field}`),
        ...(bars ? ['tune/bars'] : []),
        ...Object.keys(recipes).map((level) => `recipes/${level}`),
      ];
    }
    default:
      return unreachable(command);
  }
}

/** Whether nothing that one may change is touched by the other: then it does not matter which comes first. */
export function areApart(one: readonly Scope[], other: readonly Scope[]): boolean {
  const isIn = (inner: Scope, outer: Scope) => inner === outer || inner.startsWith(`${outer}/`);
  return !one.some((a) => other.some((b) => isIn(a, b) || isIn(b, a)));
}

function recipeScopes(level: Level, change: RecipeChange): readonly Scope[] {
  return Object.entries(change).flatMap(([name, value]: readonly [string, unknown]) => {
    // A custom instrument goes with the id it was chosen by.
    if (name === 'instrument' || name === 'custom') return [`recipes/${level}/instrument`];
    if (typeof value !== 'object' || value === null) return [`recipes/${level}/${name}`];
    const fields = Object.keys(value).map((field) => `recipes/${level}/${name}/${field}`);
    // A key that is set is nobody's but the teacher's any more.
    return name === 'keyAndTempo' && 'key' in value ? [...fields, `recipes/${level}/${name}/moved`] : fields;
  });
}

function withEntries(work: Work, { level, table, entries }: Extract<Command, { readonly kind: 'entries' }>): Work {
  const group = RECIPE_TABLES[table];
  const recipe = recipesOf(work)[level];
  const before = new Map<string, unknown>(Object.entries(recipe[group] ?? {})).get(table);
  const all = Object.entries({ ...(before ?? {}), ...entries }).filter(([, value]) => value !== undefined);
  const change = { [group]: { [table]: all.length > 0 ? Object.fromEntries(all) : undefined } } as RecipeChange;
  return withRecipe(work, level, change);
}

/** Phrases that are kept or let go alone need no plan of their own. */
function withEditedPlan(work: Work, { level, shown, edits }: Extract<Command, { readonly kind: 'plan' }>): Work {
  const { plan, given = {} } = recipesOf(work)[level].solo ?? {};
  const after = edits.reduce(withPlanEdit, { plan: plan ? goneOn(plan, shown) : shown, given });
  const isPlanned = plan !== undefined || edits.some(({ kind }) => kind !== 'keep' && kind !== 'release');
  return withRecipe(work, level, { solo: { ...(isPlanned && { plan: after.plan }), given: after.given } });
}

/** A plan with the phrases after it that a form goes on with where it is longer. */
function goneOn(plan: readonly PhraseWish[], shown: readonly PhraseWish[]): readonly PhraseWish[] {
  const length = (phrases: readonly PhraseWish[]) => phrases.reduce((sum, { bars }) => sum + bars, 0);
  if (length(plan) >= length(shown)) return plan;
  const last = shown.findLastIndex(({ id }) => plan.some((phrase) => phrase.id === id));
  return [...plan, ...shown.slice(last + 1)];
}

function withHarmony(work: Work, change: (before: NonNullable<Tune['harmony']>) => NonNullable<Tune['harmony']>): Work {
  const { harmony: before = {}, ...tune } = work.tune;
  const harmony = change(before);
  return { ...work, tune: { ...tune, ...(Object.keys(harmony).length > 0 && { harmony }) } };
}

function withReading(
  work: Work,
  { bar, at, key, function: does }: Extract<Command, { readonly kind: 'reading' }>,
): Work {
  return withHarmony(work, ({ readings: before = [], ...rest }) => {
    const others = before.filter((note) => note.bar !== bar || note.at !== at);
    const note: ReadingNote = { bar, at, ...(key && { key }), ...(does && { function: does }) };
    const readings = (key ?? does) ? [...others, note] : others;
    // In one order, whichever was set first.
    const ordered = readings.toSorted((a, b) => (a.bar === b.bar ? a.at - b.at : a.bar < b.bar ? -1 : 1));
    return { ...rest, ...(ordered.length > 0 && { readings: ordered }) };
  });
}

/** What is said of playing together; what says nothing goes, so that equal wishes are equal documents. */
function withTogether(work: Work, change: (before: TogetherNotes) => TogetherNotes): Work {
  const { together: before = {}, ...tune } = work.tune;
  const together = settled(change(before));
  return { ...work, tune: { ...tune, ...(together && { together }) } };
}

/** A record without what is not set, in one order; none where nothing is. */
function settled<Value extends object>(record: Value): Value | undefined {
  const entries = Object.entries(record)
    .filter(([name, value]) => value !== undefined && !(name === 'seed' && value === 0))
    .filter(([, value]) => !(typeof value === 'object' && Object.keys(value).length === 0))
    .toSorted(([a], [b]) => (a < b ? -1 : 1));
  return entries.length === 0 ? undefined : (Object.fromEntries(entries) as Value);
}

function setOnes<Value>(
  record: Readonly<Record<string, Value | undefined>>,
): Readonly<Record<string, Value>> | undefined {
  return settled(record) as Readonly<Record<string, Value>> | undefined;
}

function withEntry<Value>(
  record: Readonly<Record<string, Value>>,
  name: string,
  value: Value | undefined,
): Readonly<Record<string, Value>> | undefined {
  const { [name]: _, ...others } = record;
  return settled(value === undefined ? others : { ...others, [name]: value });
}

/** A tune that is no drill stays as it is. */
function withIdeaChange(work: Work, change: Extract<Command, { readonly kind: 'idea' }>['change']): Work {
  const { drill } = work.tune;
  if (!drill) return work;
  const fields = Object.entries({ ...drill, ...change }).filter(([, value]) => value !== undefined);
  return { ...work, tune: withIdea(work.tune, Object.fromEntries(fields) as unknown as DrillIdea) };
}
