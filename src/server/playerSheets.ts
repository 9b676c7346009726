import { writeMusicXml } from '../core/formats';
import type { Instrument } from '../core/instruments';
import { formedPartForPlayer, type GroupPlayer, instrumentOfPlayer, partForPlayer, workForPlayer } from '../core/keys';
import { inKey, type Part, soloOfLevel } from '../core/levels';
import type { Work } from '../core/work';
import { byEarPdf } from '../engrave/byEarPdf';
import { byEarSheet } from '../engrave/byEarSheet';
import { partPdf } from '../engrave/pdf';
import type { Paper } from '../engrave/sheet';
import { scoreWithOssias } from '../engrave/staves';
import { barsPicture, engraver } from './engraving';
import { poolsOfPlayer } from './poolFiles';

/** What one player gets of a tune. Learning by ear is paper alone. */
export const PLAYER_SHEETS = ['part', 'pools', 'solo', 'ear'] as const;
export type PlayerSheet = (typeof PLAYER_SHEETS)[number];

/** Of a phrase on paper, in the engraver's pixels. */
const PHRASE_WIDTH = 640;

/**
 * A sheet of a tune for one player, as a file; `undefined` where there is none: the instrument is not there any more, a
 * drill has nothing to improvise over, no solo was found.
 */
export async function playerSheet(
  work: Work,
  player: GroupPlayer,
  sheet: PlayerSheet,
  format: 'pdf' | 'musicxml',
  paper: Paper,
): Promise<string | Uint8Array | undefined> {
  const instrument = instrumentOfPlayer(player);
  if (!instrument || (work.tune.drill && sheet !== 'part')) return undefined;
  switch (sheet) {
    case 'part':
      return partAsFile(work, formedPartForPlayer(work, player), format, paper);
    case 'solo':
      return partAsFile(work, soloFor(work, player), format, paper);
    case 'pools':
      return poolsOfPlayer(work, player, instrument, format, paper);
    case 'ear':
      return format === 'pdf' ? earPdf(work, player, instrument, paper) : undefined;
  }
}

async function partAsFile(
  { tune }: Work,
  part: Part | undefined,
  format: 'pdf' | 'musicxml',
  paper: Paper,
): Promise<string | Uint8Array | undefined> {
  if (!part) return undefined;
  return format === 'pdf' ? partPdf(await engraver(), part, paper) : writeMusicXml(scoreWithOssias(part, tune.rights));
}

/** The example solo of the player's level, on their instrument. */
function soloFor(work: Work, player: GroupPlayer): Part | undefined {
  const part = soloOfLevel(work.tune, player.level, workForPlayer(work, player).recipes)?.part;
  return part && { ...part, ...(player.name && { playerName: player.name }) };
}

/** In the key of the player's part, so that it is the one that is heard. */
async function earPdf(work: Work, player: GroupPlayer, instrument: Instrument, paper: Paper): Promise<Uint8Array> {
  const key = partForPlayer(work, player, 'bare')?.part.concertKey ?? work.tune.key;
  const tune = { ...work.tune, ...inKey(work.tune, key) };
  const sheet = await byEarSheet(tune, instrument, (tune, from, to) => barsPicture(tune, from, to, PHRASE_WIDTH));
  return byEarPdf(sheet, player.name, paper);
}
