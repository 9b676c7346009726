import { withStartKey } from '../../core/keys/startWork';
import { zipSync } from 'fflate';
import { readOptionsOf } from '../../core/formats/json/readOptions';
import { formatProblemText } from '../../core/formats/problem';
import { readTune } from '../../core/formats/readTune';
import { instrumentById } from '../../core/instruments/catalogue';
import type { GroupPlayer, Group } from '../../core/keys/group';
import { customInstrument, withChart, type CustomInstrument } from '../../core/instruments/customInstrument';
import type { Work } from '../../core/levels/recipe/work';
import { Lru } from '../../core/lru';
import { failure, success } from '../../core/result';
import type { FirstPaint } from '../../engrave/benchEngraver';
import { byEarSheet, type ByEarSheet } from '../../engrave/byEarSheet';
import type { PitchView } from '../../engrave/lanes';
import type { Paper } from '../../engrave/sheet';
import type { Checked } from '../checked';
import { barsPicture, firstPaint, historyPicture } from '../engraving';
import { readArchive } from '../archive';
import { chartNotes, type DrawnNote } from '../fingerCharts';
import { makeDrillBook, type BookWishes } from '../drillPages';
import { groupFile, groupSheet, playerFile, type GroupFile, type GroupSheet } from '../groupParts';
import { soundOfPlayer, type PlayerSound } from '../levelSounds';
import { groupSet, playerPools } from '../poolFiles';
import type { StoredTexts } from '../../db/tuneRepository';
import { contentKey } from '../storedWork';
import { makeTuneFile, type FileWishes } from '../tuneFiles';
import { checkNewWork, checkSave, checkStoredTexts } from '../workSchema';

/** How a body that should hold JSON is wrong: no JSON at all (400), or not what is wanted (422). */
export interface BodyProblem {
  readonly status: 400 | 422;
  readonly messages: readonly string[];
}

const PHRASE_WIDTH = 700;

/** Works read lately, by their content: three parts of one tune read it once. */
const opened = new Lru<string, Work>(12);

/** @throws Error where the document is damaged */
function workOf(stored: StoredTexts): Work {
  return opened.getOr(contentKey(stored), () => {
    const checked = checkStoredTexts(stored);
    if (!checked.ok) throw new Error(`a stored tune is damaged: ${checked.problem.join('; ')}`);
    return checked.value;
  });
}

function jsonOf(bytes: Uint8Array) {
  try {
    return success(JSON.parse(new TextDecoder().decode(bytes)) as unknown);
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    return failure<BodyProblem>({ status: 400, messages: [`The request is no JSON: ${error.message.slice(0, 200)}`] });
  }
}

function checkedBody<Value>(bytes: Uint8Array, check: (data: unknown) => Checked<Value>) {
  const data = jsonOf(bytes);
  if (!data.ok) return data;
  const checked = check(data.value);
  return checked.ok ? checked : failure<BodyProblem>({ status: 422, messages: checked.problem });
}

const bytesOf = (made: string | Uint8Array): Uint8Array =>
  typeof made === 'string' ? new TextEncoder().encode(made) : made;

/** Everything that is done on a worker: what goes in and comes out is copied between threads, so it is plain data. */
export const JOBS = {
  /** Reads a file of any format that is read. */
  readUpload: ({
    bytes,
    chosen,
  }: {
    readonly bytes: Uint8Array;
    readonly chosen: Readonly<Record<string, string>>;
  }) => {
    const options = readOptionsOf(chosen);
    if (!options.ok) return failure<BodyProblem>({ status: 400, messages: options.problem });
    const read = readTune(bytes, chosen['name'] ?? '', options.value);
    if (!read.ok) return failure<BodyProblem>({ status: 422, messages: read.problem.map(formatProblemText) });
    // A reader that let something through which no document may hold must not make a tune that can never be opened.
    const checked = checkNewWork(withStartKey({ tune: read.value.tune, recipes: {} }));
    return checked.ok ? success(checked.value) : failure<BodyProblem>({ status: 422, messages: checked.problem });
  },
  checkSave: (bytes: Uint8Array) => checkedBody(bytes, checkSave),
  checkNewWork: (bytes: Uint8Array) => checkedBody(bytes, checkNewWork),
  checkStored: checkStoredTexts,
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
  playerFile: async ({
    stored,
    player,
    format,
    paper,
  }: {
    readonly stored: StoredTexts;
    readonly player: GroupPlayer;
    readonly format: 'pdf' | 'musicxml';
    readonly paper: Paper;
  }) => {
    const made = await playerFile(workOf(stored), player, format, paper);
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
  playerSound: ({
    stored,
    player,
    what,
  }: {
    readonly stored: StoredTexts;
    readonly player: GroupPlayer;
    readonly what: PlayerSound;
  }) => soundOfPlayer(workOf(stored), player, what),
  playerPools: async ({
    stored,
    player,
    format,
    paper,
  }: {
    readonly stored: StoredTexts;
    readonly player: GroupPlayer;
    readonly format: 'pdf' | 'musicxml';
    readonly paper: Paper;
  }) => {
    const made = await playerPools(workOf(stored), player, format, paper);
    return made === undefined ? undefined : bytesOf(made);
  },
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
  readArchive: (bytes: Uint8Array) => readArchive(bytes),
  zip: (files: Readonly<Record<string, Uint8Array>>) =>
    zipSync(files, { level: 6, mtime: new Date('2000-01-01T00:00:00Z') }),
} as const;

export type JobName = keyof typeof JOBS;
export type JobArgs<Name extends JobName> = Parameters<(typeof JOBS)[Name]>[0];
export type JobResult<Name extends JobName> = Awaited<ReturnType<(typeof JOBS)[Name]>>;
