import { parseScaleName, readableScale, type ScaleName } from '../core/harmony';
import type { Instrument, Level } from '../core/instruments';
import { type Group, type GroupPlayer, instrumentOfPlayer } from '../core/keys';
import { type PlayerPools, poolsOfLevel } from '../core/levels';
import { recipesOf, type Work } from '../core/work';
import { opposite, readableInterval, transposeClass } from '../core/pitch';
import type { Extent } from '../core/pools';
import { groupSetPdf, poolSheetPdf, poolSheetXml, setsPdf, type PoolSheet } from '../engrave/poolPdf';
import type { SheetWords } from '../engrave/poolSheet';
import type { Paper } from '../engrave/sheet';
import { engraver } from './engraving';

/** Sheets of notes to improvise with: of a level, of a player, of a whole group. */

function sheetOf(work: Work, level: Level, made: PlayerPools): Omit<PoolSheet, 'paper'> {
  const { improvise } = recipesOf(work)[level];
  return {
    made,
    title: work.tune.title,
    ...(work.tune.composer && { composer: work.tune.composer }),
    ...(improvise && { wishes: improvise }),
  };
}

export async function poolsOfLevelFile(
  work: Work,
  level: Level,
  format: 'pdf' | 'musicxml',
  paper: Paper,
  words: SheetWords,
): Promise<string | Uint8Array> {
  const sheet = { ...sheetOf(work, level, poolsOfLevel(work, level)), words };
  return format === 'pdf' ? poolSheetPdf(await engraver(), { ...sheet, paper }) : poolSheetXml(sheet, work.tune.rights);
}

/**
 * A set in all twelve keys for a level's instrument: the set named, or the level's own. `undefined` for a name that is
 * no set.
 */
export async function setsOfLevelPdf(
  work: Work,
  level: Level,
  { set, extent, paper }: { readonly set: string | undefined; readonly extent: Extent; readonly paper: Paper },
): Promise<Uint8Array | undefined> {
  const made = poolsOfLevel(work, level);
  const name = set === undefined ? ownSet(made) : parsedName(set);
  if (!name) return undefined;
  return setsPdf(await engraver(), {
    name,
    from: made.concertKey.tonic,
    instrument: made.instrument,
    level,
    extent,
    paper,
  });
}

function ownSet({ pools }: PlayerPools): ScaleName {
  const [first] = pools.overall;
  return first?.scale.name ?? 'major';
}

function parsedName(text: string): ScaleName | undefined {
  const parsed = parseScaleName(text);
  return parsed.ok ? parsed.value : undefined;
}

/** A player's own pool sheet. */
export async function poolsOfPlayer(
  work: Work,
  { name, level }: GroupPlayer,
  instrument: Instrument,
  format: 'pdf' | 'musicxml',
  paper: Paper,
): Promise<string | Uint8Array> {
  const sheet = {
    ...sheetOf(work, level, poolsOfLevel(work, level, 'written', instrument)),
    ...(name && { playerName: name }),
  };
  return format === 'pdf' ? poolSheetPdf(await engraver(), { ...sheet, paper }) : poolSheetXml(sheet, work.tune.rights);
}

/** The beginners' set in concert pitch, a line for each player as they read it. */
export async function groupSet(work: Work, group: Group, paper: Paper): Promise<Uint8Array | undefined> {
  const made = poolsOfLevel(work, 'beginner');
  const [set] = made.pools.overall;
  if (!set) return undefined;
  const written = readableInterval(made.concertKey, made.instrument.transposition);
  const concert = transposeClass(set.scale.tonic, opposite(written));
  const players = group.players.flatMap((player) => {
    const instrument = instrumentOfPlayer(player);
    return instrument ? [{ name: player.name, instrument, level: player.level }] : [];
  });
  return groupSetPdf(await engraver(), { scale: readableScale(concert, set.scale.name), players, paper });
}
