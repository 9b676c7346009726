import { remembered } from '../core/derived';
import { LRUCache } from 'lru-cache';
import {
  drillOfLevel,
  type BowRhythm,
  firstNotes,
  formedPartOfLevel,
  hasGrips,
  type Part,
  roundOf,
  type RoundNumber,
  ROUNDS,
  stringChords,
  type StringChords,
  type UnderPace,
  underPart,
  type UnderPart,
  warmUpPart,
  workingOutOf,
} from '../core/levels';
import { BENCH_STAFF_SPACE, lanesFor, markChanged, stavesOfRow, type PitchView } from '../engrave/lanes';
import type { FirstPaint } from '../engrave/benchEngraver';
import { Engraver, type EngravedRow, type RowRequest } from '../engrave/engraver';
import { pictureSeed } from '../engrave/pictureSeeds';
import { openingPicture } from '../engrave/opening';
import { bookPdf, partPdf, partsPdf, withCoveredNames } from '../engrave/pdf';
import type { SheetWords } from '../engrave/poolSheet';
import { scaleSheetPdf } from '../engrave/scaleSheet';
import type { Paper } from '../engrave/sheet';
import { laneStaff, partScore, scoreWithOssias, tuneLane } from '../engrave/staves';
import type { Instrument, Level } from '../core/instruments';
import { accidentalsFor, type Tune, withoutSecondPart } from '../core/score';
import { writeMusicXml } from '../core/formats';
import { instrumentOf, levelTempo, recipesOf, type Work } from '../core/work';

/**
 * One warm engraver a process; starting it takes half a second. Kept on the global object for the development server's
 * sake.
 */
const holder = globalThis as typeof globalThis & { reedHookEngraver?: Promise<Engraver> };

export function engraver(): Promise<Engraver> {
  return (holder.reedHookEngraver ??= Engraver.start().catch((error: unknown) => {
    // A start that failed is tried again by the next who asks.
    delete holder.reedHookEngraver;
    throw error;
  }));
}

/** Rows drawn lately, by their source. A tune is opened far more often than it is changed. */
const drawn = new LRUCache<string, EngravedRow>({ max: 200 });

async function drawRow(request: RowRequest): Promise<EngravedRow> {
  const source = Engraver.rowSource(request);
  const key = `${request.width}/${request.staffSpace}/${request.seed}/${source}`;
  const started = await engraver();
  return remembered(drawn, key, () => started.row(request, source));
}

/** As many rows as a screen shows. */
const ROWS_AT_FIRST = 3;

export async function firstPaint(work: Work, view: PitchView, width: number): Promise<FirstPaint> {
  const lanes = lanesFor(work, view, width);
  const rows: EngravedRow[] = [];
  for (const [index, line] of lanes.lines.slice(0, ROWS_AT_FIRST).entries()) {
    const row = await drawRow({
      staves: stavesOfRow(lanes, line),
      line,
      width,
      staffSpace: BENCH_STAFF_SPACE,
      seed: pictureSeed('bench row', index),
    });
    rows.push({ ...row, svg: markChanged(row.svg, lanes.changed) });
  }
  const { infos, lines, numbers, staves } = lanes;
  return { view, width, infos, lines, numbers, staves: staves.length, rows };
}

/** @param drill of a drill, whether the names of its keys are covered, and whether it goes through all twelve */
export async function pdfOfLevel(
  { tune, recipes }: Work,
  level: Level,
  paper: Paper,
  drill: { readonly words?: SheetWords; readonly allKeys?: boolean } = {},
): Promise<Uint8Array> {
  const asked = tune.drill && drill.allKeys ? throughAllKeys(tune, recipes, level) : { tune, recipes };
  const { part } = formedPartOfLevel(asked.tune, level, asked.recipes);
  return partPdf(await engraver(), tune.drill && drill.words === 'covered' ? withCoveredNames(part) : part, paper);
}

/** The pages of a round of four keys as one book. */
export async function roundPdf(
  { tune, recipes }: Work,
  level: Level,
  round: RoundNumber,
  paper: Paper,
): Promise<Uint8Array | undefined> {
  if (tune.drill) return undefined;
  const title = `${tune.title || 'The tune'}, round ${round} of ${ROUNDS.length}`;
  return bookPdf(await engraver(), title, roundOf(tune, level, recipes, round), paper);
}

/** A page to be worked out in the recording's key, and its answer. */
export async function workingOutPdf(
  { tune, recipes }: Work,
  level: Level,
  paper: Paper,
): Promise<Uint8Array | undefined> {
  const made = workingOutOf(tune, level, recipes);
  return made && partsPdf(await engraver(), [made.question, made.answer], paper);
}

/** A drill's set as sheets to say, finger and play it from, one a key of its level (or in all twelve). */
export async function sheetsOfDrill(
  { tune, recipes }: Work,
  level: Level,
  paper: Paper,
  allKeys: boolean,
): Promise<Uint8Array | undefined> {
  if (!tune.drill) return undefined;
  const asked = allKeys ? throughAllKeys(tune, recipes, level) : { tune, recipes };
  const made = drillOfLevel(asked.tune, level, asked.recipes);
  const { set } = tune.drill.steps[0];
  const sections = made?.line.sections.filter(({ step }) => step === 0) ?? [];
  if (!made || sections.length === 0) return undefined;
  const { instrument } = made.value;
  const tonics = sections.map(({ key }) => key.tonic);
  return scaleSheetPdf(await engraver(), { set, tonics, instrument, level, extent: '1', paper });
}

function throughAllKeys(tune: Tune, recipes: Work['recipes'], level: Level): Work {
  if (!tune.drill) return { tune, recipes };
  const { drill: _, ...recipe } = recipesOf({ recipes })[level];
  const keys = typeof tune.drill.keys === 'string' ? tune.drill.keys : ('fourths' as const);
  return { tune: { ...tune, drill: { ...tune.drill, keys } }, recipes: { ...recipes, [level]: recipe } };
}

export function musicXmlOfLevel({ tune, recipes }: Work, level: Level): string {
  return writeMusicXml(scoreWithOssias(formedPartOfLevel(tune, level, recipes).part, tune.rights));
}

/**
 * The chords of a tune for a string player, in a level's key and tempo and for its instrument; `undefined` where it has
 * no two strings.
 */
export function stringChordsOf({ tune, recipes }: Work, level: Level, rhythm: BowRhythm): StringChords | undefined {
  const recipe = recipesOf({ recipes })[level];
  const instrument = instrumentOf(recipe);
  return hasGrips(instrument)
    ? stringChords(
        tune,
        instrument,
        level,
        rhythm,
        recipe.keyAndTempo?.key ?? tune.key,
        levelTempo(tune, level, recipe.keyAndTempo?.perMinute).perMinute,
      )
    : undefined;
}

export async function partFile(
  part: Part,
  format: 'pdf' | 'musicxml',
  paper: Paper,
  rights: Tune['rights'],
): Promise<string | Uint8Array> {
  return format === 'pdf' ? partPdf(await engraver(), part, paper) : writeMusicXml(scoreWithOssias(part, rights));
}

/** How the easier part under a tune is wished for. */
export interface UnderWishes {
  readonly level: Level;
  readonly notes: 3 | 5;
  readonly pace: UnderPace;
}

/** The easier part under the tune, in a level's key and tempo and for its instrument. */
function underPartOf({ tune, recipes }: Work, { level, notes, pace }: UnderWishes): UnderPart {
  const recipe = recipesOf({ recipes })[level];
  const instrument = instrumentOf(recipe);
  return underPart(
    tune,
    instrument,
    firstNotes(instrument, notes),
    pace,
    recipe.keyAndTempo?.key ?? tune.key,
    levelTempo(tune, level, recipe.keyAndTempo?.perMinute).perMinute,
  );
}

export async function underPdf(work: Work, wishes: UnderWishes, paper: Paper): Promise<Uint8Array> {
  return partPdf(await engraver(), underPartOf(work, wishes).part, paper);
}

export function underMusicXml(work: Work, wishes: UnderWishes): string {
  return writeMusicXml(partScore(underPartOf(work, wishes).part, work.tune.rights));
}

/** Some bars of a tune alone, as wide as given: a phrase. */
export async function barsPicture(tune: Tune, from: number, to: number, width: number): Promise<string> {
  const lane = tuneLane('phrase', { ...tune, bars: withoutSecondPart(tune.bars) });
  const staff = { ...lane, accidentals: accidentalsFor(lane) };
  return (
    await drawRow({
      staves: [staff],
      line: { from, to },
      width,
      staffSpace: BENCH_STAFF_SPACE,
      seed: pictureSeed('phrase', from),
    })
  ).svg;
}

/** Some bars of a part as its player reads them, small. `to` is the bar after the last one. */
export function partBars(part: Part, from: number, to: number, width: number): Promise<EngravedRow> {
  const lane = laneStaff('bars', part, 'written');
  return drawRow({
    staves: [{ ...lane, accidentals: accidentalsFor(lane) }],
    line: { from, to },
    width,
    staffSpace: BENCH_STAFF_SPACE,
    seed: pictureSeed('phrase', from),
  });
}

/** The tune's own scale as a page to print, for a reader of the catalogue or, without one, as it sounds. */
export async function warmUpPdf(tune: Tune, instrument: Instrument, paper: Paper): Promise<Uint8Array> {
  return partPdf(await engraver(), warmUpPart(tune, instrument), paper);
}

/** The first bars of a tune, for the shelf. */
export async function openingOf(tune: Tune): Promise<string> {
  return openingPicture(await engraver(), tune);
}

/**
 * Some bars of a tune for its history. `to` is the bar after the last one; both are kept within the tune. @param width
 * CSS pixels
 */
export function historyPicture(tune: Tune, from: number, to: number, width: number): Promise<string> {
  const first = Math.min(Math.max(0, from), tune.bars.length - 1);
  return barsPicture(tune, first, Math.min(Math.max(first + 1, to), tune.bars.length), width);
}
