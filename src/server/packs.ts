import { fileSlug } from '../core/formats';
import { type GroupPlayer, instrumentOfPlayer, PACK_SHEET_NAMES, type PackChoice, type PackFile } from '../core/keys';
import {
  dateOfDay,
  dateWords,
  knownDay,
  type Plan,
  type PlanItem,
  playingOf,
  type Pupil,
  type PupilWork,
} from '../core/planning';
import { uncapitalised } from '../core/plainText';
import { restMinutes } from '../core/rehearsal';
import type { StudioDatabase } from '../db/studioDatabase';
import type { StoredTexts, StoredWork } from '../db/tuneRepository';
import { playerSheetOnPool, playerSoundOnPool } from './groupArchive';
import { openGroup } from './groups';
import type { CachedFile } from './http';
import type { PlayerSoundWish } from './levelSounds';
import { runPatiently } from './pool/pool';
import { planOfPupil, worksOf } from './pupilFiles';
import { openPupil, type OpenedPupil } from './pupils';
import { buildId, contentKey } from './storedWork';
import { togetherFileOnPool } from './togetherFiles';
import { storedTune } from './tunes';

type Making = Pick<CachedFile, 'key' | 'make'>;

/** Pages of a pack, as a file of their own before they are joined. */
interface PackedSheet {
  /** The tune; nothing for what belongs to no tune. */
  readonly title: string;
  readonly words: string;
  readonly making: Making;
}

/** What goes with the pages. */
interface PackedFile {
  readonly what: PackFile;
  readonly tune: string;
  readonly title: string;
  readonly name: string;
  readonly making: Making;
}

/** Somebody who gets a pack. */
export interface PackRecipient {
  readonly id: string;
  readonly player: GroupPlayer;
  readonly instrument: string;
  /** What the week is about, a line each. */
  readonly goals: readonly string[];
  readonly caution: string;
  readonly sheets: readonly PackedSheet[];
  readonly files: readonly PackedFile[];
  /** Tunes that can be put on the stand. */
  readonly tunes: readonly {
    readonly id: string;
    readonly title: string;
    readonly isDrill: boolean;
    readonly player: GroupPlayer;
  }[];
}

/** A pack before any of it is made. */
export interface Pack {
  readonly title: string;
  readonly date: string;
  readonly choice: PackChoice;
  readonly recipients: readonly PackRecipient[];
  /** What was chosen and cannot be in it, each with why. */
  readonly missing: readonly string[];
}

/** A pack is for the days from one lesson to the next. */
const DAYS = 7;
/** Lines about the week on the cover, and of them about one work. */
const MOST_GOALS = 10;
const GOALS_OF_WORK = 3;

/** A pupil's pack of what is on their stand; `undefined` where there is no such pupil. */
export async function packOfPupil(
  studio: StudioDatabase,
  id: string,
  choice: PackChoice,
  date: string,
): Promise<Pack | undefined> {
  const opened = await openPupil(studio, id);
  if (!opened) return undefined;
  const { pupil } = opened;
  const week = await weekOf(studio, opened, date);
  const missing: string[] = [];
  const works = pupil.work.filter(({ state, tune }) => state === 'going' && !choice.without?.includes(tune ?? ''));
  const found = await Promise.all(
    works.map(async (work) => {
      const playing = playingOf(pupil, work.playing);
      const stored = work.tune === undefined ? undefined : await storedTune(studio, work.tune);
      if (work.tune === undefined || !stored || !playing) {
        missing.push(
          `${work.title}: ${work.tune === undefined ? 'has no page of its own; the week’s plan names it' : 'is not on the shelf any more'}.`,
        );
        return undefined;
      }
      const player: GroupPlayer = { ...playing, name: pupil.name };
      return { work, tune: work.tune, stored, player, bars: barsOf(week, work) };
    }),
  );
  const present = found.flatMap((one) => one ?? []);
  const [first] = pupil.playing;
  const player: GroupPlayer | undefined = present[0]?.player ?? (first && { ...first, name: pupil.name });
  const instrument = player && instrumentOfPlayer(player);
  if (!player || !instrument) missing.push(`${pupil.name}: the instrument is not in the catalogue any more.`);
  const recipients =
    player && instrument
      ? [
          {
            id,
            player,
            instrument: instrument.name,
            goals: week ? goalsOf(week, pupil) : [],
            caution: cautionFor(player),
            sheets: [
              ...(choice.sheets.includes('week') && week ? [weekSheet(studio, pupil, week, choice)] : []),
              ...present.flatMap(({ stored, player: plays }) => sheetsOf(stored, plays, choice)),
            ],
            files: present.flatMap(({ tune, stored, player: plays, bars }) =>
              filesOf(tune, stored, plays, choice, bars),
            ),
            tunes: present.map(({ tune, stored, player: plays }) => ({
              id: tune,
              title: titleOf(stored),
              isDrill: stored.kind === 'drill',
              player: plays,
            })),
          },
        ]
      : [];
  return { title: pupil.name, date, choice, recipients, missing };
}

/** A pack for everybody in a group, of tunes of the shelf; `undefined` where there is no such group. */
export async function packOfGroup(
  studio: StudioDatabase,
  id: string,
  choice: PackChoice,
  date: string,
): Promise<Pack | undefined> {
  const found = await openGroup(studio, id);
  if (!found) return undefined;
  const { group } = found;
  const missing: string[] = [];
  const tunes = (
    await Promise.all(
      (choice.tunes ?? []).map(async (tune) => {
        const stored = await storedTune(studio, tune);
        if (!stored) missing.push('A tune that was chosen is not on the shelf any more.');
        return stored ? [{ id: tune, stored }] : [];
      }),
    )
  ).flat();
  const recipients: PackRecipient[] = [];
  for (const player of group.players) {
    const instrument = instrumentOfPlayer(player);
    if (!instrument) {
      missing.push(`${player.name || 'A player'}: the instrument is not in the catalogue any more.`);
      continue;
    }
    const wantsWeek = choice.sheets.includes('week') && player.pupil !== undefined;
    const opened = wantsWeek ? await openPupil(studio, player.pupil) : undefined;
    const week = opened && (await weekOf(studio, opened, date));
    if (wantsWeek && !opened) missing.push(`${player.name}: their week is another teacher’s.`);
    recipients.push({
      id: player.id,
      player,
      instrument: instrument.name,
      goals: week ? goalsOf(week, opened.pupil) : [],
      caution: cautionFor(player),
      sheets: [
        ...(week ? [weekSheet(studio, opened.pupil, week, choice)] : []),
        ...tunes.flatMap(({ stored }) => [
          ...sheetsOf(stored, player, choice),
          ...(choice.sheets.includes('together') && stored.kind !== 'drill'
            ? [
                {
                  title: titleOf(stored),
                  words: PACK_SHEET_NAMES.together,
                  making: togetherFileOnPool(
                    textsOf(stored),
                    { name: group.name, players: group.players },
                    { kind: 'part', player: player.id, format: 'pdf' },
                    choice.paper,
                  ),
                },
              ]
            : []),
        ]),
      ],
      files: tunes.flatMap(({ id: tune, stored }) => filesOf(tune, stored, player, choice, undefined)),
      tunes: tunes.map(({ id: tune, stored }) => ({
        id: tune,
        title: titleOf(stored),
        isDrill: stored.kind === 'drill',
        player,
      })),
    });
  }
  return { title: group.name, date, choice, recipients, missing };
}

const titleOf = ({ title }: StoredWork) => title || 'Untitled';
const textsOf = ({ tune, recipes }: StoredWork): StoredTexts => ({ tune, recipes });

/** A pupil's plan for the days from a date to the lesson after it; nothing where there is none. */
async function weekOf(studio: StudioDatabase, opened: OpenedPupil, date: string): Promise<Plan | undefined> {
  const plan = await planOfPupil(studio, opened, date);
  const last = dateOfDay(knownDay(date) + DAYS - 1);
  return plan && { ...plan, days: plan.days.filter((day) => day.date <= last) };
}

/** What is practised of the works in a week, without warm-ups and what is only recalled. */
function practised(week: Plan): readonly PlanItem[] {
  return week.days.flatMap(({ items }) => items).filter(({ kind }) => kind !== 'warm-up' && kind !== 'recall');
}

/** What a pupil learns in a week, work by work, as lines for the cover. */
function goalsOf(week: Plan, { work: works }: Pupil): readonly string[] {
  const items = practised(week);
  return works
    .flatMap(({ id, title }) => {
      const lines = new Map<string, number>();
      for (const { work, what } of items) if (work === id) lines.set(what, (lines.get(what) ?? 0) + 1);
      return [...lines].slice(0, GOALS_OF_WORK).map(([what, days]) => {
        const line = what.startsWith(title)
          ? what
          : `${title}: ${/^(?:Bar|Pickup|All)/.test(what) ? uncapitalised(what) : what}`;
        return days === 1 ? line : `${line} (${days} days)`;
      });
    })
    .slice(0, MOST_GOALS);
}

/** The bars of a work that are learned in a week, and how fast. */
function barsOf(week: Plan | undefined, { id }: PupilWork): Exclude<PlayerSoundWish, string> | undefined {
  const item =
    week &&
    practised(week).find(({ work, fromBar, toBar }) => work === id && fromBar !== undefined && toBar !== undefined);
  if (item?.fromBar === undefined || item.toBar === undefined) return undefined;
  return { fromBar: item.fromBar, toBar: item.toBar, ...(item.tempo !== undefined && { perMinute: item.tempo }) };
}

function cautionFor(player: GroupPlayer): string {
  const instrument = instrumentOfPlayer(player);
  const minutes = instrument ? restMinutes(instrument, player.level) : 10;
  return `Rest after ${minutes} minutes of playing. Stop when something hurts or makes you dizzy, and tell your teacher.`;
}

function weekSheet(studio: StudioDatabase, pupil: Pupil, plan: Plan, { paper }: PackChoice): PackedSheet {
  return {
    title: '',
    words: PACK_SHEET_NAMES.week,
    making: {
      // The hard bars are drawn of tunes as they are when it is made: what they hold does not change the plan.
      key: contentKey(buildId(), 'packWeek', studio.studioId, pupil, plan, paper),
      make: async (signal) =>
        runPatiently('practiceSheet', { pupil, plan, paper, works: await worksOf(studio, pupil) }, signal),
    },
  };
}

/** A player's pages of a tune. */
function sheetsOf(stored: StoredWork, player: GroupPlayer, { sheets, paper }: PackChoice): readonly PackedSheet[] {
  return (['part', 'pools', 'solo', 'ear'] as const)
    .filter((sheet) => sheets.includes(sheet) && (sheet === 'part' || stored.kind !== 'drill'))
    .map((sheet) => ({
      title: titleOf(stored),
      words: stored.kind === 'drill' ? 'Drill' : PACK_SHEET_NAMES[sheet],
      making: playerSheetOnPool(textsOf(stored), player, sheet, 'pdf', paper),
    }));
}

const FILE_NAMES: Readonly<Record<PackFile, string>> = {
  bars: '1-this-week.mp3',
  slow: '2-slowly.mp3',
  tempo: '3-at-tempo.mp3',
  musicxml: 'part.musicxml',
};

/** What of a tune goes with a player's pages. @param bars that are learned this week */
function filesOf(
  tune: string,
  stored: StoredWork,
  player: GroupPlayer,
  { files }: PackChoice,
  bars: Exclude<PlayerSoundWish, string> | undefined,
): readonly PackedFile[] {
  return files.flatMap((what): readonly PackedFile[] => {
    if (what === 'bars' && !bars) return [];
    // All keys of a drill slowly would be a quarter of an hour.
    if (what === 'slow' && stored.kind === 'drill') return [];
    const making =
      what === 'musicxml'
        ? playerSheetOnPool(textsOf(stored), player, 'part', 'musicxml', 'a4')
        : playerSoundOnPool(
            textsOf(stored),
            player,
            what === 'bars' && bars ? bars : what === 'slow' ? 'slow' : 'tempo',
          );
    return [{ what, tune, title: titleOf(stored), name: `${fileSlug(titleOf(stored))}.${FILE_NAMES[what]}`, making }];
  });
}

/** For whom and for when, as the cover says it. */
export function underWords({ player, instrument }: PackRecipient, date: string): string {
  const { level } = player;
  return `${instrument} · ${level} · from ${dateWords(knownDay(date))}`;
}
