import { difficultyText } from '../core/analysis';
import { writeMusicXml } from '../core/formats';
import type { Level } from '../core/instruments';
import {
  apartBecause,
  formedPartForPlayer,
  type Group,
  type GroupPlayer,
  instrumentOfPlayer,
  type LevelSetting,
  partForPlayer,
  type PlayerPart,
  playTogether,
} from '../core/keys';
import { recipesOf, type Work } from '../core/work';
import { nameKey, printPitch } from '../core/pitch';
import { barNumbers } from '../core/score';
import { partsPdf } from '../engrave/pdf';
import { groupScore, scorePdf } from '../engrave/scorePdf';
import type { Paper } from '../engrave/sheet';
import { engraver } from './engraving';

/** What one player gets, in words and figures for a list. */
interface PlayerRow {
  readonly id: string;
  readonly name: string;
  readonly level: Level;
  readonly instrument: string;
  readonly reads: string;
  readonly sounds: string;
  readonly perMinute: number;
  readonly range: string;
  /** In words, with the bar and the cause. */
  readonly difficulty: string;
  /** What the teacher should look at; none where all is well. */
  readonly attention: readonly string[];
}

export interface GroupSheet {
  readonly rows: readonly PlayerRow[];
  /** Levels in sets that can play at once, and why a set is apart from the first. */
  readonly sets: readonly {
    readonly levels: readonly Level[];
    readonly key: string;
    readonly perMinute: number;
    readonly apart: string;
  }[];
}

/** The list of a group's parts: who gets what, who needs attention, who can play together. */
export function groupSheet(work: Work, group: Group): GroupSheet {
  const made = group.players.map((player) => ({ player, found: partForPlayer(work, player) }));
  const settings = new Map<Level, LevelSetting>();
  for (const { found } of made)
    if (found && !settings.has(found.part.level))
      settings.set(found.part.level, {
        level: found.part.level,
        key: found.part.concertKey,
        tempo: found.part.tempo,
        form: recipesOf(work)[found.part.level].form?.plays ?? 'once',
      });
  const sets = playTogether([...settings.values()]);
  return {
    rows: made.map(({ player, found }) => (found ? rowOf(found) : missingRow(player))),
    sets: sets.map((set) => ({
      levels: set.map(({ level }) => level),
      key: set[0] ? nameKey(set[0].key) : '',
      perMinute: set[0]?.tempo.perMinute ?? 0,
      apart: set !== sets[0] && set[0] && sets[0]?.[0] ? apartBecause(set[0], sets[0][0]) : '',
    })),
  };
}

function rowOf({ player, part, changes }: PlayerPart): PlayerRow {
  const outside = part.outside.map(({ bar, pitch }) => `${printPitch(pitch)} in bar ${bar}`);
  const swapped = [
    ...new Set(
      changes.filter(({ detail }) => detail.kind === 'swapped' || detail.kind === 'not-known').map(({ bar }) => bar),
    ),
  ];
  return {
    id: player.id,
    name: player.name,
    level: part.level,
    instrument: part.instrument.name,
    reads: nameKey(part.writtenKey),
    sounds: nameKey(part.concertKey),
    perMinute: part.tempo.perMinute,
    range: part.lowest && part.highest ? `${printPitch(part.lowest)} to ${printPitch(part.highest)}` : '',
    difficulty: difficultyText(part.difficulty, barNumbers(part), part.level),
    attention: [
      ...(outside.length > 0 ? [`beyond the level: ${shortList(outside)}`] : []),
      ...(swapped.length > 0
        ? [`other notes than the tune's in ${swapped.length === 1 ? 'bar' : 'bars'} ${shortList(swapped.map(String))}`]
        : []),
    ],
  };
}

function missingRow({ id, name, level, instrument }: GroupPlayer): PlayerRow {
  return {
    id,
    name,
    level,
    instrument,
    reads: '',
    sounds: '',
    perMinute: 0,
    range: '',
    difficulty: '',
    attention: ['the instrument is not there any more: choose another in Groups'],
  };
}

function shortList(words: readonly string[]): string {
  return words.length <= 4 ? words.join(', ') : `${words.slice(0, 4).join(', ')} and ${words.length - 4} more`;
}

/** What a teacher prints for a whole group at once. */
export const GROUP_FILES = [
  'all.pdf',
  'score.pdf',
  'score.musicxml',
  'concert-score.pdf',
  'concert-score.musicxml',
] as const;
export type GroupFile = (typeof GROUP_FILES)[number];

/**
 * All parts in playing order in one PDF, or the score of them; `undefined` for a group without players that have an
 * instrument.
 */
export async function groupFile(
  work: Work,
  { players }: Group,
  file: GroupFile,
  paper: Paper,
): Promise<string | Uint8Array | undefined> {
  const there = players.filter((player) => instrumentOfPlayer(player));
  if (file === 'all.pdf') {
    const parts = there.flatMap((player) => formedPartForPlayer(work, player) ?? []);
    return parts.length > 0 ? partsPdf(await engraver(), parts, paper) : undefined;
  }
  const parts = there.flatMap((player) => partForPlayer(work, player, 'bare')?.part ?? []);
  if (parts.length === 0) return undefined;
  const pitch = file.startsWith('concert') ? 'concert' : 'written';
  return file.endsWith('.pdf')
    ? scorePdf(await engraver(), parts, pitch, paper)
    : writeMusicXml(groupScore(parts, pitch, work.tune.rights));
}
