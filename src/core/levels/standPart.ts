import type { Level } from '../instruments';
import { partOfLevel, soloOfLevel } from './levelPart';
import { usualAids } from './page/aids';
import type { Part } from './parts/part';
import { type AidWishes, instrumentOf, recipesOf, withRecipe, type Work } from '../work';
import { soloPage } from './soloPages';

/**
 * What of a level stands on the stand: its part, its example solo, or an empty chorus with the notes to improvise with.
 */
export const ON_STAND = ['part', 'solo', 'pool'] as const;
export type OnStand = (typeof ON_STAND)[number];

/** A level's part for the stand; `undefined` where it has no solo. */
export function standPart({ tune, recipes }: Work, level: Level, what: OnStand): Part | undefined {
  if (what === 'part') return partOfLevel(tune, level, recipes).value;
  const made = soloOfLevel(tune, level, recipes);
  if (what === 'solo' || !made) return made?.part;
  return soloPage(tune, made, recipesOf({ recipes })[level], 'own');
}

/**
 * Which aids stand with the notes: those of the page, those where something comes for the first time, none; or names,
 * or rhythm syllables, alone.
 */
export type StandAids = 'page' | 'fading' | 'none' | 'names' | 'syllables';

/** The work with a level's aids as they are wanted on the stand; nothing of it is kept. */
export function withStandAids(work: Work, level: Level, wanted: StandAids): Work {
  if (wanted === 'page') return work;
  const recipe = recipesOf(work)[level];
  if (wanted === 'names' || wanted === 'syllables')
    return withRecipe(work, level, { page: { aids: { [wanted]: 'stays' }, barAids: undefined, marks: 'none' } });
  if (wanted === 'none') return withRecipe(work, level, { page: { aids: {}, barAids: undefined, marks: 'none' } });
  const aids = recipe.page?.aids ?? usualAids(instrumentOf(recipe), level);
  const fading = Object.fromEntries(Object.keys(aids).map((aid) => [aid, 'first-time'])) as AidWishes;
  return withRecipe(work, level, { page: { aids: fading, marks: 'unusual' } });
}
