import { fileSlug } from '../core/formats';
import { type Group, type GroupPlayer, instrumentOfPlayer } from '../core/keys';
import type { StoredTexts } from '../db/tuneRepository';
import type { Paper } from '../engrave/sheet';
import type { GroupFile } from './groupParts';
import type { CachedFile } from './http';
import { PLAYER_SOUNDS, type PlayerSound, type PlayerSoundWish } from './levelSounds';
import type { PlayerSheet } from './playerSheets';
import { artifactCache } from './artifactCache';
import { togetherFiles } from './togetherFiles';
import { patiently, runOnPool, runPatiently } from './pool/pool';
import { JobError } from './pool/workerPool';
import { buildId, contentKey } from './storedWork';
import type { ArchiveFile } from './zipStream';

type Making = Pick<CachedFile, 'key' | 'make'>;

/** A sheet of one player, made on a worker. */
export function playerSheetOnPool(
  stored: StoredTexts,
  player: GroupPlayer,
  sheet: PlayerSheet,
  format: 'pdf' | 'musicxml',
  paper: Paper,
): Making {
  return {
    key: contentKey(buildId(), 'playerSheet', stored, player, sheet, format, paper),
    make: (signal) => runOnPool('playerSheet', { stored, player, sheet, format, paper }, signal),
  };
}

/** All parts in one file, or the score of them, made on a worker. */
export function groupFileOnPool(stored: StoredTexts, group: Group, file: GroupFile, paper: Paper): Making {
  return {
    key: contentKey(buildId(), 'groupFile', stored, group, file, paper),
    make: (signal) => runOnPool('groupFile', { stored, group, file, paper }, signal),
  };
}

/**
 * Everybody's part and pool sheet in one archive, the tune as they play it together in a folder of its own, and one page
 * with the beginners' set for all; two players of one name
 * get files of their own. Parts are made one after another, so that an archive takes one worker at most and stops
 * between two parts, and each is kept: what a pupil opens later is there.
 */
export function groupArchive(stored: StoredTexts, group: Group, format: 'pdf' | 'musicxml', paper: Paper): Making {
  return {
    key: contentKey(buildId(), 'groupArchive', stored, group, format, paper),
    make: async (signal) => {
      const files: Record<string, Uint8Array> = {};
      for (const [index, player] of group.players.entries()) {
        const instrument = instrumentOfPlayer(player);
        for (const sheet of ['part', 'pools'] as const) {
          if (signal.aborted) throw new JobError('groupArchive', 'cancelled');
          const { key, make } = playerSheetOnPool(stored, player, sheet, format, paper);
          const data = await patiently(() => artifactCache().get(key, make, signal));
          const ending = sheet === 'part' ? format : `pools.${format}`;
          if (data && instrument) files[playerFileName(index, player, instrument.id, ending)] = data;
        }
      }
      const together = await togetherFiles(stored, group, format, paper, signal);
      for (const [name, data] of Object.entries(together)) files[`together/${name}`] = data;
      const set = format === 'pdf' ? await runPatiently('groupSet', { stored, group, paper }, signal) : undefined;
      if (set) files['00-the-set-for-everybody.pdf'] = set;
      return runPatiently('zip', files, signal);
    },
  };
}

const SOUND_NAMES: Readonly<Record<PlayerSound, string>> = {
  slow: '1-slowly.mp3',
  tempo: '2-at-tempo.mp3',
  backing: '3-backing-alone.mp3',
  click: '4-click-alone.mp3',
};

/** A player's part as they hear it at home, made on a worker. */
export function playerSoundOnPool(stored: StoredTexts, player: GroupPlayer, what: PlayerSoundWish): Making {
  // The place and name of a player change no sound.
  const { id: _, name: _name, ...plays } = player;
  return {
    key: contentKey(buildId(), 'playerSound', stored, plays, what),
    make: (signal) => runPatiently('playerSound', { stored, player, what }, signal),
  };
}

/** How many sound files everybody together gets: for those whose instrument is not there, none. */
export function groupSoundCount({ players }: Group): number {
  return players.filter((player) => instrumentOfPlayer(player)).length * PLAYER_SOUNDS.length;
}

/**
 * Everybody's sound files, a folder a player, made one after another as they are sent; each is kept, so that a second
 * time costs nothing.
 */
export async function* groupSounds(
  stored: StoredTexts,
  group: Group,
  signal: AbortSignal,
): AsyncGenerator<ArchiveFile, void> {
  for (const [index, player] of group.players.entries()) {
    const instrument = instrumentOfPlayer(player);
    if (!instrument) continue;
    const folder = playerFileName(index, player, instrument.id);
    for (const what of PLAYER_SOUNDS) {
      if (signal.aborted) throw new JobError('groupSounds', 'cancelled');
      const { key, make } = playerSoundOnPool(stored, player, what);
      const data = await artifactCache().get(key, make, signal);
      if (data) yield { name: `${folder}/${SOUND_NAMES[what]}`, data, isPacked: true };
    }
  }
}

/** The name of a player's file in an archive, or of their folder. */
function playerFileName(index: number, player: GroupPlayer, instrumentId: string, ending?: string): string {
  const name = `${String(index + 1).padStart(2, '0')}-${fileSlug(player.name || 'player')}-${instrumentId}`;
  return ending ? `${name}.${ending}` : name;
}
