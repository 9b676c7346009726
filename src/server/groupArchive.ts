import { fileSlug } from '../core/formats/fileSlug';
import { instrumentOfPlayer, type Group, type GroupPlayer } from '../core/keys/group';
import type { StoredTexts } from '../db/tuneRepository';
import type { Paper } from '../engrave/pdf';
import type { MadeFile } from './http';
import { made } from './made';
import { runOnPool } from './pool/pool';
import { JobError } from './pool/workerPool';
import { buildId, contentKey } from './storedWork';

type Making = Pick<MadeFile, 'key' | 'make'>;

/** One player's part, made on a worker. */
export function playerFileOnPool(
  stored: StoredTexts,
  player: GroupPlayer,
  format: 'pdf' | 'musicxml',
  paper: Paper,
): Making {
  return {
    key: contentKey(buildId(), 'playerFile', stored, player, format, paper),
    make: (signal) => runOnPool('playerFile', { stored, player, format, paper }, signal),
  };
}

/**
 * Everybody's part in one archive; two players of one name get files of their own. Parts are made one after another, so that an
 * archive takes one worker at most and stops between two parts, and each is kept: what a pupil opens later is there.
 */
export function groupArchive(stored: StoredTexts, group: Group, format: 'pdf' | 'musicxml', paper: Paper): Making {
  return {
    key: contentKey(buildId(), 'groupArchive', stored, group, format, paper),
    make: async (signal) => {
      const files: Record<string, Uint8Array> = {};
      for (const [index, player] of group.players.entries()) {
        if (signal.aborted) throw new JobError('groupArchive', 'cancelled');
        const { key, make } = playerFileOnPool(stored, player, format, paper);
        const data = await made().get(key, make, signal);
        const instrument = instrumentOfPlayer(player);
        if (data && instrument)
          files[
            `${String(index + 1).padStart(2, '0')}-${fileSlug(player.name || 'player')}-${instrument.id}.${format}`
          ] = data;
      }
      return runOnPool('zip', files, signal);
    },
  };
}
