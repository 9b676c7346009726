import type { Change } from '../levels/change';
import type { Level } from '../instruments/instrument';
import { AIDS, type AidWishes } from '../levels/page/aids';
import { formedFrom, requestOf } from '../levels/levelPart';
import { partFor, type Part, type PartRequest } from '../levels/partFor';
import { aidWishes, type Recipe } from '../levels/recipe/recipe';
import { recipesOf, type Work } from '../levels/recipe/work';
import { semitones } from '../pitch/pitch';
import { instrumentOfPlayer, type GroupPlayer } from './group';

/** What one player of a group gets: the part of their level, on their instrument, inside their limits and with their aids. */
export interface PlayerPart {
  readonly player: GroupPlayer;
  readonly part: Part;
  readonly changes: readonly Change[];
}

/** The part of a player, once through; `undefined` where their instrument is not there any more. */
export function partForPlayer({ tune, recipes }: Work, player: GroupPlayer): PlayerPart | undefined {
  const request = playerRequest({ tune, recipes }, player);
  if (!request) return undefined;
  const { value: part, changes } = partFor(tune, request);
  return { player, part: named(part, player), changes };
}

/** The part of a player through its form: what is printed for them. */
export function formedPartForPlayer({ tune, recipes }: Work, player: GroupPlayer): Part | undefined {
  const request = playerRequest({ tune, recipes }, player);
  if (!request) return undefined;
  return named(formedFrom(tune, recipesOf({ recipes })[player.level], request).part, player);
}

function named(part: Part, { name }: GroupPlayer): Part {
  return name ? { ...part, playerName: name } : part;
}

function playerRequest({ tune, recipes }: Work, player: GroupPlayer): PartRequest | undefined {
  const instrument = instrumentOfPlayer(player);
  if (!instrument) return undefined;
  const level = recipesOf({ recipes })[player.level];
  const { remedies, known: _known, ...recipe } = recipeFor(level, player, player.level);
  return {
    ...requestOf(tune, recipe, player.level, instrument),
    // Remedies were chosen for the level's own instrument; on another they may be about notes that it has.
    ...(remedies && recipe.instrument === recipes[player.level]?.instrument && { remedies }),
    // What the player knows, else what the level does where it is the same instrument.
    ...(player.known && player.known.length > 0
      ? { known: new Set(player.known.map(semitones)) }
      : level.known && level.instrument === player.instrument
        ? { known: new Set(level.known.map(semitones)) }
        : {}),
  };
}

/** A level's recipe as a player has it: their instrument, marks and aids; pins hold on the instrument they were set for. */
export function recipeFor(recipe: Recipe, player: GroupPlayer, level: Level): Recipe {
  const { own: _, pins, marks, ...rest } = recipe;
  const isSame = player.instrument === recipe.instrument && player.own?.id === recipe.own?.id;
  const wanted = player.marks === 'level' || player.marks === undefined ? (isSame ? marks : undefined) : player.marks;
  const { aids: _aids, ...plain } = rest;
  const made: Recipe = {
    ...plain,
    instrument: player.instrument,
    ...(player.own && { own: player.own }),
    ...(isSame && pins && { pins }),
    ...(wanted && { marks: wanted }),
  };
  const asked: AidWishes | undefined =
    player.aids &&
    Object.fromEntries(AIDS.filter((aid) => player.aids?.includes(aid)).map((aid) => [aid, 'stays' as const]));
  return { ...made, aids: asked ?? recipe.aids ?? aidWishes(made, level) };
}
