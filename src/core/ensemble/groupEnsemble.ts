import { derived } from '../derived';
import { INSTRUMENTS, type Level, LEVELS } from '../instruments';
import { type Group, type GroupPlayer, instrumentOfPlayer, recipeOfPlayer } from '../keys';
import { semitones } from '../pitch';
import { recipesOf, type Work } from '../work';
import type { Ensemble } from './arranged';
import { arrange } from './ensemble';
import { performed } from './form';
import type { EnsemblePlayer } from './player';

/**
 * A group's tune played together, as the tune says; `undefined` where nobody of the group has an instrument that is
 * there. Players without one are left out: see `playersThere`.
 */
export function ensembleOfGroup(work: Work, group: Group): Ensemble | undefined {
  const players = playersThere(group);
  return players.length === 0 ? undefined : madeFor(work, players);
}

/**
 * A player's own part as a work of its own, as their stand has it: the line through its form, as it is, at the tempo of
 * all. `undefined` where the player is not there.
 */
export function workOfVoice(
  work: Work,
  group: Group,
  player: string,
): { readonly work: Work; readonly level: Level; readonly place: number } | undefined {
  const ensemble = ensembleOfGroup(work, group);
  const place = ensemble?.voices.findIndex((voice) => voice.player.id === player) ?? -1;
  const voice = ensemble?.voices[place];
  const seat = playersThere(group)[place];
  if (!ensemble || !voice || !seat) return undefined;
  const { level, recipe } = voice.player;
  const { tune } = performed(ensemble, voice, work.tune.together ?? {});
  return {
    work: {
      tune,
      recipes: {
        [level]: {
          instrument: seat.instrument,
          ...(seat.custom && { custom: seat.custom }),
          melody: 'as written',
          keyAndTempo: { perMinute: ensemble.perMinute },
          articulation: { phrasing: 'none' },
          ...(recipe?.page && { page: recipe.page }),
        },
      },
    },
    level,
    place,
  };
}

/** The players of a group who have an instrument, as a score has them: by instrument, the more advanced first. */
export function playersThere({ players }: Pick<Group, 'players'>): readonly GroupPlayer[] {
  const place = ({ instrument }: GroupPlayer) => {
    const found = INSTRUMENTS.findIndex(({ id }) => id === instrument);
    return found < 0 ? INSTRUMENTS.length : found;
  };
  return players
    .filter((player) => instrumentOfPlayer(player) !== undefined)
    .toSorted((a, b) => place(a) - place(b) || LEVELS.indexOf(b.level) - LEVELS.indexOf(a.level));
}

/** Screen, paper and sound ask for the same. */
const madeFor = derived(
  ({ tune, recipes }: Work, players: readonly GroupPlayer[]): Ensemble =>
    arrange(tune, {
      players: players.flatMap((player) => ensemblePlayer({ tune, recipes }, player) ?? []),
      ...(tune.together && { notes: tune.together }),
    }),
  { most: 8, by: ({ tune, recipes }, players) => [tune, JSON.stringify([recipes, players])] },
);

function ensemblePlayer(work: Work, grouped: GroupPlayer): EnsemblePlayer | undefined {
  const player = atLevel(work, grouped);
  const instrument = instrumentOfPlayer(player);
  if (!instrument) return undefined;
  const { id, name, level, known } = player;
  return {
    id,
    ...(name && { name }),
    instrument,
    level,
    ...(known && known.length > 0 && { known: new Set(known.map(semitones)) }),
    recipe: recipeOfPlayer(recipesOf(work)[level], player, instrument),
  };
}

/** A player at the level that they have for this tune. */
function atLevel({ tune }: Work, player: GroupPlayer): GroupPlayer {
  const level = LEVELS.find((one) => one === tune.together?.levels?.[player.id]);
  return level ? { ...player, level } : player;
}
