import { type Level, LEVELS, withLimits } from '../instruments';
import { knownNotes } from '../levels';
import { instrumentOf, type Recipe, recipesOf, withRecipe, type Work } from '../work';
import { type Key, nameKey, sameKey, signatureOf } from '../pitch';
import { keyPlayers, type Group } from './group';
import type { KeyPlayer } from './player';
import { signatureText } from './reasons';
import { startKey } from './startKey';
import { writtenKeyOf } from './together';

/** The player of a level where no group is chosen: the lane's instrument, as the recipe has it. */
export function lanePlayer(work: Pick<Work, 'recipes'>, level: Level): KeyPlayer {
  const recipe = recipesOf(work)[level];
  const known = knownNotes(recipe);
  const instrument = withLimits(instrumentOf(recipe), level, recipe.limits?.range ?? {});
  return { instrument, level, ...(known && { known }) };
}

/**
 * The work with its beginner level in the key it begins in, for the lane's instrument or a group's beginners. A key
 * that a teacher set stays; one that was found before is found anew.
 */
export function withStartKey(work: Work, group?: Group): Work {
  // A drill goes through keys of its own.
  if (work.tune.drill) return work;
  const level = 'beginner';
  const { keyAndTempo } = recipesOf(work)[level];
  if (keyAndTempo?.key && !keyAndTempo.moved) return work;
  const inGroup = group ? keyPlayers(group).filter((player) => player.level === level) : [];
  const found = startKey(work.tune, inGroup.length > 0 ? inGroup : [lanePlayer(work, level)]);
  if (!found && !keyAndTempo?.moved) return work;
  if (found && keyAndTempo?.key && sameKey(found.key, keyAndTempo.key)) return work;
  return withRecipe(work, level, {
    keyAndTempo: found ? { key: found.key, moved: found.because } : { key: undefined, moved: undefined },
  });
}

/** The work with a level back in the tune's own key. */
export function withOwnKey(work: Work, level: Level): Work {
  // Set by hand: it is not moved again.
  return withRecipe(work, level, { keyAndTempo: { key: work.tune.key, moved: undefined } });
}

/** A level that begins in another key than the tune's, in words; `undefined` for one whose key nobody moved. */
export function movedText({ tune, recipes }: Work, level: Level): string | undefined {
  const recipe: Recipe = recipesOf({ recipes })[level];
  const { key, moved } = recipe.keyAndTempo ?? {};
  if (!key || !moved) return undefined;
  return `Moved to ${nameKey(key)}: ${reasonText(moved, tune.key, recipe)}. Recordings in ${nameKey(tune.key)} do not fit.`;
}

function reasonText(moved: 'range' | 'signature', own: Key, recipe: Recipe): string {
  if (moved === 'range') return `in ${nameKey(own)} some notes are out of reach`;
  return `${nameKey(own)} is read in ${signatureText(signatureOf(writtenKeyOf(instrumentOf(recipe), own)))}`;
}

/** Why levels begin in another key than the tune's, for those that do. */
export function movedTexts(work: Work): Readonly<Partial<Record<Level, string>>> {
  return Object.fromEntries(LEVELS.map((level) => [level, movedText(work, level)]));
}
