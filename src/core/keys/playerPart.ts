import type { Change } from '../levels/change';
import type { Level } from '../instruments/instrument';
import { AIDS, type AidWishes } from '../levels/aids';
import { partFor, type Part } from '../levels/partFor';
import { aidWishes, fingerWishes, melodyWishes, type Recipe } from '../levels/recipe';
import { recipesOf, type Work } from '../levels/work';
import { semitones } from '../pitch/pitch';
import { instrumentOfPlayer, type GroupPlayer } from './group';

/** What one player of a group gets: the part of their level, on their instrument, inside their limits and with their aids. */
export interface PlayerPart {
  readonly player: GroupPlayer;
  readonly part: Part;
  readonly changes: readonly Change[];
}

/** The part of a player; `undefined` where their instrument is not there any more. */
export function partForPlayer({ tune, recipes }: Work, player: GroupPlayer): PlayerPart | undefined {
  const instrument = instrumentOfPlayer(player);
  if (!instrument) return undefined;
  const recipe = recipeFor(recipesOf({ recipes })[player.level], player, player.level);
  const { value: part, changes } = partFor(tune, {
    level: player.level, instrument, melody: melodyWishes(recipe), fingers: fingerWishes(recipe, player.level), aids: aidWishes(recipe, player.level),
    ...(recipe.key && { key: recipe.key }), ...(recipe.perMinute !== undefined && { perMinute: recipe.perMinute }), ...(recipe.syllables && { syllables: recipe.syllables }),
    // Remedies were chosen for the level's own instrument; on another they may be about notes that it has.
    ...(recipe.remedies && recipe.instrument === recipes[player.level]?.instrument && { remedies: recipe.remedies }),
    ...(player.known && player.known.length > 0 && { known: new Set(player.known.map(semitones)) }),
  });
  return { player, part: player.name ? { ...part, playerName: player.name } : part, changes };
}

/** A level's recipe as a player has it: their instrument, marks and aids; pins hold on the instrument they were set for. */
export function recipeFor(recipe: Recipe, player: GroupPlayer, level: Level): Recipe {
  const { own: _, pins, marks, ...rest } = recipe;
  const isSame = player.instrument === recipe.instrument && player.own?.id === recipe.own?.id;
  const wanted = player.marks === 'level' || player.marks === undefined ? (isSame ? marks : undefined) : player.marks;
  const { aids: _aids, ...plain } = rest;
  const made: Recipe = { ...plain, instrument: player.instrument, ...(player.own && { own: player.own }), ...(isSame && pins && { pins }), ...(wanted && { marks: wanted }) };
  const asked: AidWishes | undefined = player.aids && Object.fromEntries(AIDS.filter((aid) => player.aids?.includes(aid)).map((aid) => [aid, 'stays' as const]));
  return { ...made, aids: asked ?? recipe.aids ?? aidWishes(made, level) };
}
