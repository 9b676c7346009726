import { remembered } from '../core/derived';
import {
  analysed,
  analysedTune,
  formedPartOfLevel,
  type OnStand,
  type Part,
  partOfLevel,
  soloOfLevel,
  standPart,
} from '../core/levels';
import { type Level, LEVELS } from '../core/instruments';
import { type BarChoice, recipesOf, withRecipe, type Work } from '../core/work';
import { barTicks, TICKS_PER_QUARTER } from '../core/time';
import { accidentalsFor, type Bar, type Clef, isNote, metersOf, type Tune } from '../core/score';
import { LRUCache } from 'lru-cache';
import { Engraver, type EngravedRow } from './engraver';
import { lanesFor, markChanged, type PitchView } from './lanes';
import { pictureSeed } from './pictureSeeds';
import { barWidths, goodLineStarts, planLines } from './lines';
import { laneStaff, tuneLane } from './staves';
import type { Staff } from '../core/formats';

/** Another version of a bar, drawn small; `undefined` is what the level makes of it. */
export interface BarVariant {
  readonly choice: BarChoice | undefined;
  readonly svg: string;
  /** Versions that look alike share a word: what else would give the same bar. */
  readonly same: readonly BarChoice['kind'][];
}

/** Staff space of a small picture, and what a quarter takes there, CSS pixels. */
const SMALL = { staffSpace: 4.6, quarter: 46, head: 64 } as const;

/** What can stand at a bar, in the order in which it is shown: the nearest to the tune first. */
const CHOICES: readonly BarChoice[] = [
  { kind: 'as-written' },
  { kind: 'simpler' },
  { kind: 'simplest' },
  { kind: 'octave-up' },
  { kind: 'octave-down' },
  ...[1, 2, 3].map((seed) => ({ kind: 'embellished' as const, seed })),
  { kind: 'optional' },
  { kind: 'rest' },
];

/**
 * A bar of a level in all its versions: what the level makes of it, and each that can stand there instead. Versions
 * that come out alike are shown once.
 */
export function barVariants(
  engraver: Engraver,
  work: Work,
  level: Level,
  barIndex: number,
  view: PitchView,
): readonly BarVariant[] {
  const bar = work.tune.bars[barIndex];
  if (!bar) return [];
  const { chosen = {}, alternates = {} } = recipesOf(work)[level].bars ?? {};
  const meter = metersOf(work.tune)[barIndex] ?? work.tune.meter;
  const width = SMALL.head + (SMALL.quarter * barTicks(meter)) / TICKS_PER_QUARTER;
  const { [bar.id]: _, ...others } = chosen;
  // The teacher's own bars are known from the recipe; nothing else could make them.
  const own = [chosen[bar.id], alternates[bar.id]].filter((choice) => choice?.kind === 'own');
  const choices: readonly (BarChoice | undefined)[] = [undefined, ...own, ...CHOICES];
  const shown = new Map<string, { variant: BarVariant; same: BarChoice['kind'][] }>();
  for (const choice of choices) {
    const { value } = partOfLevel(
      work.tune,
      level,
      withRecipe(work, level, { bars: { chosen: choice ? { ...others, [bar.id]: choice } : others } }).recipes,
    );
    const staff = laneStaff(level, value, view);
    const look = lookOf(staff.bars[barIndex]);
    const known = shown.get(look);
    if (known && choice) {
      if (!known.same.includes(choice.kind)) known.same.push(choice.kind);
      continue;
    }
    const { svg } = engraver.row({
      staves: [staff],
      line: { from: barIndex, to: barIndex + 1 },
      width,
      staffSpace: SMALL.staffSpace,
      seed: pictureSeed('bar version', shown.size),
    });
    const same: BarChoice['kind'][] = [];
    shown.set(look, { variant: { choice, svg, same }, same });
  }
  return [...shown.values()].map(({ variant }) => variant);
}

/** A bar as it is read, names of events apart. */
function lookOf(bar: Bar | undefined): string {
  return JSON.stringify(bar?.events.map(({ id: _, ...event }) => event) ?? []);
}

/** A line alone, as it is being written: one bar of a part under the part's clef. */
export function drawLine(engraver: Engraver, tune: Tune, clef: Clef, width: number): EngravedRow {
  const staff = { ...tuneLane('tune', tune), clef };
  return engraver.row({
    staves: [{ ...staff, accidentals: accidentalsFor(staff) }],
    line: { from: 0, to: tune.bars.length },
    width,
    staffSpace: 8,
    seed: pictureSeed('line', 0),
  });
}

/** The first two lines of a tune (with its second part), for a look before it is saved. */
export function previewRows(engraver: Engraver, tune: Tune, width: number): readonly string[] {
  const { staves, lines } = lanesFor({ tune, recipes: {} }, 'sounding', width, partOfLevel, 'tune');
  return lines
    .slice(0, 2)
    .map(
      (line, index) => engraver.row({ staves, line, width, staffSpace: 7, seed: pictureSeed('opening', index) }).svg,
    );
}

/** Staff space of a level's whole line, drawn to be compared, CSS pixels. */
const COMPARED = 5.4;

/** A level's line in one variation, in rows. */
export function drawVariation(
  engraver: Engraver,
  work: Work,
  level: Level,
  seed: number,
  view: PitchView,
  width: number,
): readonly EngravedRow[] {
  const { value, changes } = partOfLevel(work.tune, level, withRecipe(work, level, { embellish: { seed } }).recipes);
  return drawRows(
    engraver,
    value,
    new Set(changes.flatMap(({ events }) => events.map((event) => `${level}:${event}`))),
    view,
    width,
    seed,
  );
}

/** A level through its form, as it is printed and played, in rows. */
export function drawThrough(
  engraver: Engraver,
  work: Work,
  level: Level,
  view: PitchView,
  width: number,
): readonly EngravedRow[] {
  return drawRows(engraver, formedPartOfLevel(work.tune, level, work.recipes).part, new Set(), view, width, 0);
}

/**
 * A part as large as it is asked for, with the chords that the player wants to see, in rows; none where there is no
 * solo.
 */
export function drawStand(
  engraver: Engraver,
  work: Work,
  { level, what, staffSpace, hasChords }: StandWishes,
  view: PitchView,
  width: number,
): readonly EngravedRow[] {
  const part = standPart(work, level, what);
  if (!part) return [];
  const lane = laneStaff(level, part, view);
  return drawStaff(
    engraver,
    { ...lane, hideChords: !hasChords },
    new Set(),
    width,
    2_000 + LEVELS.indexOf(level),
    staffSpace,
  );
}

export interface StandWishes {
  readonly level: Level;
  readonly what: OnStand;
  /** Height of a staff space, CSS pixels. */
  readonly staffSpace: number;
  readonly hasChords: boolean;
}

/** A take of a level's solo with its chords, in rows; with what each note is under it, where that is wanted. */
export function drawSolo(
  engraver: Engraver,
  work: Work,
  wishes: {
    readonly level: Level;
    readonly seed: number;
    /** Its place on the page, from 0: pictures of one place keep what has not changed. */
    readonly slot: number;
    readonly isAnalysed: boolean;
  },
  view: PitchView,
  width: number,
): readonly EngravedRow[] {
  const { level, seed, slot, isAnalysed } = wishes;
  const made = soloOfLevel(work.tune, level, work.recipes, seed);
  if (!made) return [];
  const part = isAnalysed ? analysed(made) : made.part;
  // Each place and level has ids of its own on the page.
  return drawRows(
    engraver,
    part,
    new Set(),
    view,
    width,
    1_000 + (slot % 200) * LEVELS.length + LEVELS.indexOf(level),
    true,
  );
}

/** A tune read as a solo: its phrases, and what each note is over its chord; none where it has no chords. */
export function drawReadTune(engraver: Engraver, tune: Tune, width: number): readonly EngravedRow[] {
  const made = analysedTune(tune);
  return made ? drawStaff(engraver, tuneLane('read', made.tune), new Set(), width, 999) : [];
}

function drawRows(
  engraver: Engraver,
  part: Part,
  changed: ReadonlySet<string>,
  view: PitchView,
  width: number,
  seed: number,
  hasChords = false,
): readonly EngravedRow[] {
  const lane = laneStaff(part.level, part, view);
  return drawStaff(engraver, hasChords ? { ...lane, hideChords: false } : lane, changed, width, seed);
}

/**
 * Rows drawn lately by an engraver, by what they are drawn from: of a solo in which one phrase changed, one row is
 * drawn anew.
 */
const drawn = new WeakMap<Engraver, LRUCache<string, EngravedRow>>();
const MAX_DRAWN = 240;

function rowsOf(engraver: Engraver): LRUCache<string, EngravedRow> {
  const known = drawn.get(engraver) ?? new LRUCache<string, EngravedRow>({ max: MAX_DRAWN });
  drawn.set(engraver, known);
  return known;
}

/** So much less stands in a line where degrees under short notes want room of their own. */
const WITH_WORDS = 0.66;

function drawStaff(
  engraver: Engraver,
  plain: Staff,
  changed: ReadonlySet<string>,
  width: number,
  seed: number,
  staffSpace = COMPARED,
): readonly EngravedRow[] {
  const staff = { ...plain, accidentals: accidentalsFor(plain) };
  const hasWords = staff.bars.some(({ events }) => events.some((event) => isNote(event) && event.lyrics));
  const room = ((width - 50) / (staffSpace * 4.4)) * (hasWords ? WITH_WORDS : 1);
  const lines = planLines(barWidths([staff]), Math.max(3, room), goodLineStarts(staff));
  return lines.map((line, index) => {
    const asked = {
      staves: [staff],
      line,
      width,
      staffSpace,
      seed: pictureSeed('variation', seed * 100 + index),
    };
    const source = Engraver.rowSource(asked);
    const row = remembered(rowsOf(engraver), `${width}/${staffSpace}/${asked.seed}/${source}`, () =>
      engraver.row(asked, source),
    );
    return { ...row, svg: markChanged(row.svg, changed) };
  });
}
