import { remembered } from '../../core/derived';
import { zipSync } from 'fflate';
import { customInstrument, type CustomInstrument, instrumentById, withChart } from '../../core/instruments';
import type { Group, GroupPlayer } from '../../core/keys';
import type { Work } from '../../core/work';
import { LRUCache } from 'lru-cache';
import type { FirstPaint } from '../../engrave/benchEngraver';
import { byEarSheet, type ByEarSheet } from '../../engrave/byEarSheet';
import type { PitchView } from '../../engrave/lanes';
import { type PackChapter, type PackCover, packPdf, packsPdf } from '../../engrave/packPdf';
import type { Paper } from '../../engrave/sheet';
import { barsPicture, firstPaint, historyPicture } from '../engraving';
import { chartNotes, type DrawnNote } from '../fingerCharts';
import { makeDrillBook, type BookWishes } from '../drillPages';
import { groupFile, groupSheet, type GroupFile, type GroupSheet } from '../groupParts';
import { soundOfPlayer, type PlayerSoundWish } from '../levelSounds';
import { playerSheet, type PlayerSheet } from '../playerSheets';
import { groupSet } from '../poolFiles';
import type { StoredTexts } from '../../db/tuneRepository';
import { contentKey } from '../storedWork';
import { togetherFile, type TogetherWish } from '../togetherMaking';
import { makeTuneFile, type FileWishes } from '../tuneFiles';
import { practiceSheet, type SheetRequest, workSource } from '../workSource';
import { checkStoredTexts } from '../workSchema';
import type { Playing } from '../../core/planning';

const PHRASE_WIDTH = 700;

/** Works read lately, by their content: three parts of one tune read it once. */
const opened = new LRUCache<string, Work>({ max: 12 });

/** @throws Error where the document is damaged */
function workOf(stored: StoredTexts): Work {
  return remembered(opened, contentKey(stored), () => {
    const checked = checkStoredTexts(stored);
    if (!checked.ok) throw new Error(`a stored tune is damaged: ${checked.problem.join('; ')}`);
    return checked.value;
  });
}

const bytesOf = (made: string | Uint8Array): Uint8Array =>
  typeof made === 'string' ? new TextEncoder().encode(made) : made;

/**
 * What is drawn, written or sounded on a worker: what goes in and comes out is copied between threads, so it is plain
 * data.
 */
export const MAKING_JOBS = {
  firstPaint: ({
    stored,
    view,
    width,
  }: {
    readonly stored: StoredTexts;
    readonly view: PitchView;
    readonly width: number;
  }) => firstPaint(workOf(stored), view, width) satisfies Promise<FirstPaint>,
  byEar: ({ stored, instrument }: { readonly stored: StoredTexts; readonly instrument: string | undefined }) =>
    byEarSheet(
      workOf(stored).tune,
      instrument === undefined ? undefined : instrumentById(instrument),
      (tune, from, to) => barsPicture(tune, from, to, PHRASE_WIDTH),
    ) satisfies Promise<ByEarSheet>,
  historyPicture: async ({
    stored,
    from,
    to,
    width,
  }: {
    readonly stored: StoredTexts;
    readonly from: number;
    readonly to: number;
    readonly width: number;
  }) => bytesOf(JSON.stringify({ svg: await historyPicture(workOf(stored).tune, from, to, width) })),
  tuneFile: async ({ stored, wishes }: { readonly stored: StoredTexts; readonly wishes: FileWishes }) => {
    const made = await makeTuneFile(workOf(stored), wishes);
    return made === undefined ? undefined : bytesOf(made);
  },
  drillBook: ({ stored, wishes }: { readonly stored: readonly StoredTexts[]; readonly wishes: BookWishes }) =>
    makeDrillBook(stored.map(workOf), wishes),
  playerSheet: async ({
    stored,
    player,
    sheet,
    format,
    paper,
  }: {
    readonly stored: StoredTexts;
    readonly player: GroupPlayer;
    readonly sheet: PlayerSheet;
    readonly format: 'pdf' | 'musicxml';
    readonly paper: Paper;
  }) => {
    const made = await playerSheet(workOf(stored), player, sheet, format, paper);
    return made === undefined ? undefined : bytesOf(made);
  },
  groupFile: async ({
    stored,
    group,
    file,
    paper,
  }: {
    readonly stored: StoredTexts;
    readonly group: Group;
    readonly file: GroupFile;
    readonly paper: Paper;
  }) => {
    const made = await groupFile(workOf(stored), group, file, paper);
    return made === undefined ? undefined : bytesOf(made);
  },
  packPdf: ({ cover, chapters }: { readonly cover: PackCover; readonly chapters: readonly PackChapter[] }) =>
    packPdf(cover, chapters),
  packsPdf: ({ title, packs }: { readonly title: string; readonly packs: readonly Uint8Array[] }) =>
    packsPdf(title, packs),
  togetherFile: async ({
    stored,
    group,
    wish,
    paper,
  }: {
    readonly stored: StoredTexts;
    readonly group: Group;
    readonly wish: TogetherWish;
    readonly paper: Paper;
  }) => {
    const made = await togetherFile(workOf(stored), group, wish, paper);
    return made === undefined ? undefined : bytesOf(made);
  },
  playerSound: ({
    stored,
    player,
    what,
  }: {
    readonly stored: StoredTexts;
    readonly player: GroupPlayer;
    readonly what: PlayerSoundWish;
  }) => soundOfPlayer(workOf(stored), player, what),
  groupSet: ({
    stored,
    group,
    paper,
  }: {
    readonly stored: StoredTexts;
    readonly group: Group;
    readonly paper: Paper;
  }) => groupSet(workOf(stored), group, paper),
  groupSheet: ({ stored, group }: { readonly stored: StoredTexts; readonly group: Group }): GroupSheet =>
    groupSheet(workOf(stored), group),
  workSource: ({ stored, playing }: { readonly stored: StoredTexts; readonly playing: Playing }) =>
    workSource(workOf(stored), playing),
  practiceSheet: ({
    works,
    ...request
  }: Omit<SheetRequest, 'works'> & { readonly works: readonly (readonly [string, StoredTexts])[] }) =>
    practiceSheet({ ...request, works: new Map(works.map(([id, stored]) => [id, workOf(stored)])) }),
  chart: ({
    instrument: id,
    custom,
    system,
  }: {
    readonly instrument: string;
    readonly custom: CustomInstrument | undefined;
    readonly system: Parameters<typeof withChart>[1] | undefined;
  }): readonly DrawnNote[] => {
    const instrument = custom ? customInstrument(custom) : instrumentById(id);
    if (!instrument) return [];
    return chartNotes(
      system === undefined ? instrument : { ...instrument, mechanism: withChart(instrument.mechanism, system) },
    );
  },
  zip: (files: Readonly<Record<string, Uint8Array>>) =>
    zipSync(files, { level: 6, mtime: new Date('2000-01-01T00:00:00Z') }),
} as const;
