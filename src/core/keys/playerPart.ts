import { AIDS, type AidWishes, type Change, type Recipe, recipesOf, type Work } from '../work';
import type { Instrument } from '../instruments';
import { formedFrom, type Part, partFor, type PartRequest, requestOf, usualAids } from '../levels';
import { instrumentOfPlayer, type GroupPlayer } from './group';

/**
 * What one player of a group gets: the part of their level, on their instrument, inside their limits and with their
 * aids.
 */
export interface PlayerPart {
  readonly player: GroupPlayer;
  readonly part: Part;
  readonly changes: readonly Change[];
}

/**
 * The part of a player, once through; `undefined` where their instrument is not there any more.
 * @param page `bare` leaves out all that is printed to help, and prints what may be left out
 */
export function partForPlayer(
  { tune, recipes }: Work,
  player: GroupPlayer,
  page: 'as-wished' | 'bare' = 'as-wished',
): PlayerPart | undefined {
  const request = playerRequest({ tune, recipes }, player);
  if (!request) return undefined;
  const { form: _, page: _page, ...bare } = request;
  const { value: part, changes } = partFor(tune, page === 'bare' ? bare : request);
  return { player, part: named(part, player), changes };
}

/** The part of a player through its form: what is printed for them. */
export function formedPartForPlayer({ tune, recipes }: Work, player: GroupPlayer): Part | undefined {
  const request = playerRequest({ tune, recipes }, player);
  if (!request) return undefined;
  return named(formedFrom(tune, recipesOf({ recipes })[player.level], request).part, player);
}

/** A tune whose level is as one player has it: what their stand draws and plays. The work as it is where they have no instrument. */
export function workForPlayer(work: Work, player: GroupPlayer): Work {
  const instrument = instrumentOfPlayer(player);
  if (!instrument) return work;
  const recipe = recipeOfPlayer(recipesOf(work)[player.level], player, instrument);
  return { ...work, recipes: { ...work.recipes, [player.level]: recipe } };
}

function named(part: Part, { name }: GroupPlayer): Part {
  return name ? { ...part, playerName: name } : part;
}

function playerRequest({ tune, recipes }: Work, player: GroupPlayer): PartRequest | undefined {
  const instrument = instrumentOfPlayer(player);
  if (!instrument) return undefined;
  const recipe = recipeOfPlayer(recipesOf({ recipes })[player.level], player, instrument);
  return requestOf(tune, recipe, player.level, instrument);
}

/**
 * A level's recipe as a player has it: their instrument, known notes, marks and aids. Pins, remedies and known notes of
 * the level hold on the instrument they were set for; on another they may be about notes that it has.
 */
export function recipeOfPlayer(recipe: Recipe, player: GroupPlayer, instrument: Instrument): Recipe {
  const { custom: _, limits = {}, page = {}, ...rest } = recipe;
  const isSame = player.instrument === recipe.instrument && player.custom?.id === recipe.custom?.id;
  const { pins, marks, aids: levelAids, barAids, ...plainPage } = page;
  const { known, remedies, range: _range, ...plainLimits } = limits;
  const wanted = player.marks === 'level' || player.marks === undefined ? (isSame ? marks : undefined) : player.marks;
  const knows = player.known && player.known.length > 0 ? player.known : isSame ? known : undefined;
  const asked: AidWishes | undefined =
    player.aids &&
    Object.fromEntries(AIDS.filter((aid) => player.aids?.includes(aid)).map((aid) => [aid, 'stays' as const]));
  return {
    ...rest,
    instrument: player.instrument,
    ...(player.custom && { custom: player.custom }),
    limits: { ...plainLimits, ...(knows && { known: knows }), ...(isSame && remedies && { remedies }) },
    page: {
      ...plainPage,
      ...(isSame && pins && { pins }),
      ...(wanted && { marks: wanted }),
      // Who has aids of their own has them in every bar.
      ...(!asked && barAids && { barAids }),
      aids: asked ?? levelAids ?? usualAids(instrument, player.level),
    },
  };
}
