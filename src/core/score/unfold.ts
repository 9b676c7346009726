import type { Bar, Jump } from './tune';

/** The bars of a tune in the order in which they are played. */
export interface Unfolded {
  /** Indices into the bars. */
  readonly order: readonly number[];
  /** Which time through a repeat each is, counted from 1; for verses and second endings. */
  readonly passes: readonly number[];
  readonly problems: readonly UnfoldProblem[];
}

/** A sign that leads nowhere; the playing goes on without it. */
export interface UnfoldProblem {
  readonly code: 'no-segno' | 'no-coda' | 'no-fine' | 'too-long';
  /** Index of the bar with the sign. */
  readonly barIndex: number;
}

/** More bars than this are not played out: repeats inside repeats would fill any memory. */
const MAX_PLAYED = 40_000;

/**
 * Plays out repeats with their endings, D.C., D.S., Fine and Coda, by the usual rules (E. Gould, Behind Bars, 2011,
 * "Repeats"): a repeat without a beginning goes back to the last repeat's end or the start; after a jump back, repeats
 * are not played again and the last ending is taken; a bare D.C. ends at a Fine where there is one.
 */
export function unfold(bars: readonly Bar[]): Unfolded {
  const walk: Walk = { bars, order: [], passes: [], problems: [], start: 0, pass: 1, jumped: 'no' };
  for (let index: number | undefined = 0; index !== undefined && index < bars.length;) {
    if (walk.order.length >= MAX_PLAYED) {
      walk.problems.push({ code: 'too-long', barIndex: index });
      break;
    }
    index = step(walk, index);
  }
  const { order, passes, problems } = walk;
  return { order, passes, problems };
}

/** Where playing has come to. */
interface Walk {
  readonly bars: readonly Bar[];
  readonly order: number[];
  readonly passes: number[];
  readonly problems: UnfoldProblem[];
  /** Where the repeat that is being played begins, and which time through it is. */
  start: number;
  pass: number;
  jumped: 'no' | 'to-fine' | 'to-coda' | 'to-end';
}

/** Plays a bar, or passes over an ending; tells which bar comes next, and nothing at the end. */
function step(walk: Walk, index: number): number | undefined {
  const { bars, order, passes, problems } = walk;
  const bar = bars[index];
  if (!bar) return undefined;
  if (bar.repeatStart && walk.start !== index) begin(walk, index);
  const wanted = walk.jumped === 'no' ? walk.pass : lastPass(bars, walk.start);
  if (bar.ending && !bar.ending.includes(wanted)) return afterEnding(bars, index);
  order.push(index);
  passes.push(wanted);
  if (has(bar, 'fine') && walk.jumped === 'to-fine') return undefined;
  if (has(bar, 'to-coda') && walk.jumped === 'to-coda') {
    const coda = find(bars, 'coda');
    if (coda >= 0) {
      begin(walk, coda);
      walk.jumped = 'to-end';
      return coda;
    }
    problems.push({ code: 'no-coda', barIndex: index });
  }
  const times = timesPlayed(walk, bar, index);
  if (times !== undefined && walk.jumped === 'no' && walk.pass < times) {
    walk.pass += 1;
    return walk.start;
  }
  // Past the last time through; but a following ending still belongs to this repeat.
  if (bar.repeatEnd !== undefined && !bars[index + 1]?.ending) begin(walk, index + 1);
  const back = walk.jumped === 'no' ? jumpBack(bar) : undefined;
  return back ? jump(walk, back, index) : index + 1;
}

/** Goes back by a D.C. or D.S. */
function jump(walk: Walk, back: Jump, index: number): number {
  const { bars, problems } = walk;
  const target = back.startsWith('ds') ? find(bars, 'segno') : 0;
  const hasFine = find(bars, 'fine') >= 0;
  const isToCoda = back.endsWith('coda');
  if (target < 0) problems.push({ code: 'no-segno', barIndex: index });
  if (back.endsWith('fine') && !hasFine) problems.push({ code: 'no-fine', barIndex: index });
  if (isToCoda && find(bars, 'coda') < 0) problems.push({ code: 'no-coda', barIndex: index });
  walk.jumped = isToCoda ? 'to-coda' : hasFine ? 'to-fine' : 'to-end';
  begin(walk, 0);
  return Math.max(0, target);
}

function begin(walk: Walk, start: number): void {
  walk.start = start;
  walk.pass = 1;
}

/** Where endings are numbered, the last of them tells how often a repeat is played. */
function timesPlayed({ bars, start }: Walk, { repeatEnd }: Bar, index: number): number | undefined {
  return repeatEnd !== undefined && endingOf(bars, index) ? Math.max(repeatEnd, lastPass(bars, start)) : repeatEnd;
}

function has(bar: Bar, sign: Jump): boolean {
  return bar.jumps?.includes(sign) === true;
}

function find(bars: readonly Bar[], sign: Jump): number {
  return bars.findIndex((bar) => has(bar, sign));
}

const BACK: readonly Jump[] = ['dc', 'dc-al-fine', 'dc-al-coda', 'ds', 'ds-al-fine', 'ds-al-coda'];

function jumpBack(bar: Bar): Jump | undefined {
  return BACK.find((jump) => bar.jumps?.includes(jump));
}

/** Whether a bar stands under the bracket of an ending. */
function endingOf(bars: readonly Bar[], index: number): boolean {
  for (let k = index; k >= 0; k -= 1) {
    if (bars[k]?.ending) return true;
    if (k < index && (bars[k]?.endingStops || bars[k]?.repeatStart)) return false;
  }
  return false;
}

/** The first bar after an ending that is passed over. */
function afterEnding(bars: readonly Bar[], from: number): number {
  const stop = bars.findIndex((bar, index) => index >= from && bar.endingStops);
  return stop < 0 ? bars.length : stop + 1;
}

/** The highest ending of the repeat that begins at `start`, or the times it is played. */
function lastPass(bars: readonly Bar[], start: number): number {
  let last = 1;
  for (let index = start; index < bars.length; index += 1) {
    const bar = bars[index];
    if (!bar || (index > start && bar.repeatStart)) break;
    last = Math.max(last, ...(bar.ending ?? []), bar.repeatEnd ?? 1);
    if (bar.repeatEnd !== undefined && !bars[index + 1]?.ending) break;
  }
  return last;
}

export function unfoldProblemText({ code }: UnfoldProblem): string {
  switch (code) {
    case 'no-segno':
      return 'a D.S. finds no segno; it goes back to the beginning';
    case 'no-coda':
      return 'a jump to the Coda finds none; the music goes on';
    case 'no-fine':
      return 'a D.C. or D.S. al Fine finds no Fine; it is played to the end';
    case 'too-long':
      return 'the repeats are longer than can be played out';
  }
}
