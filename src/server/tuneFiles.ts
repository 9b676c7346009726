import { z } from 'zod';
import { tuneStaff, writeAbc, writeJson, writeMidi, writeMusicXml, writeMxl } from '../core/formats';
import { parseScaleName, scaleProblemText } from '../core/harmony';
import { instrumentById, type Level, LEVELS } from '../core/instruments';
import {
  analysed,
  BOW_RHYTHMS,
  ROUNDS,
  SOLO_PAGES,
  soloOfLevel,
  soloPage,
  type SoloPage,
  UNDER_PACES,
  usualBowRhythm,
} from '../core/levels';
import { recipesOf, type Work } from '../core/work';
import { EXTENTS } from '../core/pools';
import { TEMPO_LIMITS } from '../core/score';
import { PAPERS } from '../engrave/sheet';
import { issueTexts, type Checked } from './checked';
import { failure, success } from '../core/result';
import { LEVEL_SOUNDS, soundOfLevel } from './levelSounds';
import {
  musicXmlOfLevel,
  openingOf,
  partFile,
  pdfOfLevel,
  sheetsOfDrill,
  workingOutPdf,
  roundPdf,
  stringChordsOf,
  underMusicXml,
  underPdf,
  warmUpPdf,
} from './engraving';
import { poolsOfLevelFile, setsOfLevelPdf } from './poolFiles';

type Made = string | Uint8Array | undefined;

/**
 * A file that is made of a tune: its media type, what of an address matters to it, and what makes it (`undefined`:
 * there is none).
 */
interface TuneFile {
  readonly type: string;
  readonly query: z.ZodType;
  readonly make: (work: Work, query: unknown) => Made | Promise<Made>;
}

/** A file of a level. */
interface LevelFile extends Omit<TuneFile, 'make'> {
  readonly make: (work: Work, level: Level, query: unknown) => Made | Promise<Made>;
}

/** What is wished of a file, checked: plain data that holds nothing else, so that it may be part of a key. */
export interface FileWishes {
  readonly name: string;
  /** As the file's own schema gives it. */
  readonly query: unknown;
}

const TYPES = {
  pdf: 'application/pdf',
  svg: 'image/svg+xml; charset=utf-8',
  musicxml: 'application/vnd.recordare.musicxml+xml; charset=utf-8',
  mxl: 'application/vnd.recordare.musicxml',
  abc: 'text/vnd.abc; charset=utf-8',
  mid: 'audio/midi',
  json: 'application/json; charset=utf-8',
  mp3: 'audio/mpeg',
  wav: 'audio/wav',
} as const;

/** One of some words; the first where nothing is said. */
function oneOf<const Words extends readonly [string, ...string[]]>(words: Words, usual: Words[number] = words[0]) {
  return z
    .enum(words, { error: ({ input }) => `${quoted(input)} is not one of ${words.join(', ')}` })
    .default(usual as z.core.util.NoUndefined<Words[number]>);
}
const quoted = (input: unknown) => `"${String(input).slice(0, 40)}"`;

const paper = oneOf(PAPERS);
const names = z.enum(['covered', 'names']).catch('names').default('names');
const NOTHING = z.object({});
const instrument = z
  .string()
  .default('flute')
  .refine((id) => instrumentById(id) !== undefined, {
    error: ({ input }) => `${quoted(input)} is not an instrument of the catalogue`,
  });
const UNDER = { notes: oneOf(['3', '5']), pace: oneOf(UNDER_PACES) } as const;
const scaleName = z
  .string()
  .max(60)
  .optional()
  .superRefine((name, context) => {
    const parsed = name === undefined ? undefined : parseScaleName(name);
    if (parsed && !parsed.ok)
      context.addIssue({ code: 'custom', message: `there is no such set: ${scaleProblemText(parsed.problem)}` });
  });
const TEMPO = z.object({
  tempo: z
    .string()
    .transform(Number)
    .refine(
      (tempo) => Number.isInteger(tempo) && tempo >= TEMPO_LIMITS.slowest && tempo <= TEMPO_LIMITS.fastest,
      `a tempo is a whole number from ${TEMPO_LIMITS.slowest} to ${TEMPO_LIMITS.fastest}`,
    )
    .optional(),
});
const SOLO = {
  analysis: z
    .string()
    .optional()
    .transform((said) => said !== undefined),
  page: oneOf(SOLO_PAGES).unwrap().optional(),
} as const;

/** @param make gets what the schema gives */
function file<Query>(
  type: keyof typeof TYPES,
  query: z.ZodType<Query>,
  make: (work: Work, query: Query) => Made | Promise<Made>,
): TuneFile {
  // The schema beside it has made the query, on the thread that answers.
  return { type: TYPES[type], query, make: (work, checked) => make(work, checked as Query) };
}

function levelFile<Query>(
  type: keyof typeof TYPES,
  query: z.ZodType<Query>,
  make: (work: Work, level: Level, query: Query) => Made | Promise<Made>,
): LevelFile {
  return { type: TYPES[type], query, make: (work, level, checked) => make(work, level, checked as Query) };
}

const TUNE_FILES: ReadonlyMap<string, TuneFile> = new Map([
  ['tune.musicxml', file('musicxml', NOTHING, ({ tune }) => writeMusicXml(tuneStaff(tune)))],
  ['tune.mxl', file('mxl', NOTHING, ({ tune }) => writeMxl(writeMusicXml(tuneStaff(tune))))],
  ['tune.abc', file('abc', NOTHING, ({ tune }) => writeAbc(tune).text)],
  ['tune.mid', file('mid', NOTHING, ({ tune }) => writeMidi(tune).data)],
  ['tune.reed.json', file('json', NOTHING, ({ tune }) => writeJson(tune))],
  ['opening.svg', file('svg', NOTHING, ({ tune }) => openingOf(tune))],
  [
    'warm-up.pdf',
    file('pdf', z.object({ paper, for: instrument }), ({ tune }, query) => {
      const found = instrumentById(query.for);
      return found && warmUpPdf(tune, found, query.paper);
    }),
  ],
]);

/** By what follows the level in their names. */
const LEVEL_FILES: ReadonlyMap<string, LevelFile> = new Map([
  [
    'pdf',
    levelFile('pdf', z.object({ paper, names, keys: z.string().optional() }), (work, level, query) =>
      pdfOfLevel(work, level, query.paper, { words: query.names, allKeys: query.keys === 'all' }),
    ),
  ],
  [
    'sheets.pdf',
    levelFile('pdf', z.object({ paper, keys: z.string().optional() }), (work, level, query) =>
      sheetsOfDrill(work, level, query.paper, query.keys === 'all'),
    ),
  ],
  [
    'round.pdf',
    levelFile('pdf', z.object({ paper, round: oneOf(ROUNDS) }), (work, level, query) =>
      roundPdf(work, level, query.round, query.paper),
    ),
  ],
  [
    'working-out.pdf',
    levelFile('pdf', z.object({ paper }), (work, level, query) => workingOutPdf(work, level, query.paper)),
  ],
  ['musicxml', levelFile('musicxml', NOTHING, musicXmlOfLevel)],
  [
    'under.pdf',
    levelFile('pdf', z.object({ paper, ...UNDER }), (work, level, query) =>
      underPdf(work, underWishes(level, query), query.paper),
    ),
  ],
  [
    'under.musicxml',
    levelFile('musicxml', z.object(UNDER), (work, level, query) => underMusicXml(work, underWishes(level, query))),
  ],
  [
    'pools.pdf',
    levelFile('pdf', z.object({ paper, names }), (work, level, query) =>
      poolsOfLevelFile(work, level, 'pdf', query.paper, query.names),
    ),
  ],
  [
    'pools.musicxml',
    levelFile('musicxml', z.object({ names }), (work, level, query) =>
      poolsOfLevelFile(work, level, 'musicxml', PAPERS[0], query.names),
    ),
  ],
  [
    'sets.pdf',
    levelFile('pdf', z.object({ paper, set: scaleName, extent: oneOf(EXTENTS, 'full') }), (work, level, query) =>
      setsOfLevelPdf(work, level, { set: query.set, extent: query.extent, paper: query.paper }),
    ),
  ],
  [
    'chords.pdf',
    levelFile('pdf', z.object({ paper, rhythm: bowRhythm() }), (work, level, query) =>
      chordsFile(work, level, query.rhythm, 'pdf', query.paper),
    ),
  ],
  [
    'chords.musicxml',
    levelFile('musicxml', z.object({ rhythm: bowRhythm() }), (work, level, query) =>
      chordsFile(work, level, query.rhythm, 'musicxml', PAPERS[0]),
    ),
  ],
  [
    'solo.pdf',
    levelFile('pdf', z.object({ paper, ...SOLO }), (work, level, query) =>
      soloFile(work, level, query, 'pdf', query.paper),
    ),
  ],
  [
    'solo.musicxml',
    levelFile('musicxml', z.object(SOLO), (work, level, query) => soloFile(work, level, query, 'musicxml', PAPERS[0])),
  ],
  ...LEVEL_SOUNDS.flatMap((sound) =>
    (['mp3', 'wav'] as const).map((format): readonly [string, LevelFile] => [
      sound === 'part' ? format : `${sound}.${format}`,
      levelFile(format, TEMPO, (work, level, query) => soundOfLevel(work, level, sound, format, query.tempo)),
    ]),
  ),
]);

function bowRhythm() {
  return oneOf(BOW_RHYTHMS).unwrap().optional();
}

function underWishes(
  level: Level,
  { notes, pace }: { readonly notes: '3' | '5'; readonly pace: (typeof UNDER_PACES)[number] },
) {
  return { level, notes: notes === '5' ? (5 as const) : (3 as const), pace };
}

function chordsFile(
  work: Work,
  level: Level,
  rhythm: (typeof BOW_RHYTHMS)[number] | undefined,
  format: 'pdf' | 'musicxml',
  on: (typeof PAPERS)[number],
) {
  const chords = stringChordsOf(work, level, rhythm ?? usualBowRhythm(level));
  return chords && partFile(chords.part, format, on, work.tune.rights);
}

function soloFile(
  work: Work,
  level: Level,
  { analysis, page }: { readonly analysis: boolean; readonly page?: SoloPage | undefined },
  format: 'pdf' | 'musicxml',
  on: (typeof PAPERS)[number],
) {
  const solo = soloOfLevel(work.tune, level, work.recipes);
  if (!solo) return undefined;
  const plain = page === undefined ? solo.part : soloPage(work.tune, solo, recipesOf(work)[level], page);
  const part = analysis ? analysed(solo) : plain;
  return part && partFile(part, format, on, work.tune.rights);
}

/** The file of a name; nothing for a name that no file of a tune has. */
function fileOf(name: string): TuneFile | undefined {
  const own = TUNE_FILES.get(name);
  if (own) return own;
  const level = LEVELS.find((known) => name.startsWith(`${known}.`));
  const found = level && LEVEL_FILES.get(name.slice(level.length + 1));
  return found && { ...found, make: (work, query) => found.make(work, level, query) };
}

/** All names, with LEVEL for a level. */
export const FILE_NAMES: readonly string[] = [
  ...TUNE_FILES.keys(),
  ...[...LEVEL_FILES.keys()].map((rest) => `LEVEL.${rest}`),
];

/** The media type of a file by its name; `undefined` for a name that no file of a tune has. */
export function fileType(name: string): string | undefined {
  return fileOf(name)?.type;
}

/**
 * What an address wishes of a file: only what the file uses, with what is usual where nothing was said. What else the
 * address holds is not looked at.
 * @param name of a file that there is
 */
export function fileWishes(name: string, query: URLSearchParams): Checked<FileWishes> {
  const found = fileOf(name);
  if (!found) return failure([`there is no file ${name.slice(0, 40)}`]);
  const parsed = found.query.safeParse(Object.fromEntries(query));
  return parsed.success ? success({ name, query: parsed.data }) : failure(issueTexts(parsed.error));
}

/** Makes a file of a tune; `undefined` where there is none (chords for an instrument without two strings). */
export async function makeTuneFile(work: Work, { name, query }: FileWishes): Promise<Made> {
  return fileOf(name)?.make(work, query);
}
