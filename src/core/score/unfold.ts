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
const MOST_PLAYED = 40_000;

/**
 * Plays out repeats with their endings, D.C., D.S., Fine and Coda, by the usual rules (E. Gould, Behind Bars, 2011, "Repeats"):
 * a repeat without a beginning goes back to the last repeat's end or the start; after a jump back, repeats are not
 * played again and the last ending is taken; a bare D.C. ends at a Fine where there is one.
 */
export function unfold(bars: readonly Bar[]): Unfolded {
  const order: number[] = [];
  const passes: number[] = [];
  const problems: UnfoldProblem[] = [];
  const has = (bar: Bar | undefined, ...jumps: readonly Jump[]) => jumps.some((jump) => bar?.jumps?.includes(jump));
  const find = (jump: Jump) => bars.findIndex((bar) => has(bar, jump));
  let start = 0;
  let pass = 1;
  let jumped: 'no' | 'to-fine' | 'to-coda' | 'to-end' = 'no';
  for (let index = 0; index < bars.length;) {
    const bar = bars[index];
    if (!bar) break;
    if (order.length >= MOST_PLAYED) {
      problems.push({ code: 'too-long', barIndex: index });
      break;
    }
    if (bar.repeatStart && start !== index) {
      start = index;
      pass = 1;
    }
    const ending = bar.ending;
    const wanted = jumped === 'no' ? pass : lastPass(bars, start);
    if (ending && !ending.includes(wanted)) {
      index = afterEnding(bars, index);
      continue;
    }
    order.push(index);
    passes.push(wanted);
    if (has(bar, 'fine') && jumped === 'to-fine') break;
    if (has(bar, 'to-coda') && jumped === 'to-coda') {
      const coda = find('coda');
      if (coda >= 0) {
        index = coda;
        start = coda;
        pass = 1;
        jumped = 'to-end';
        continue;
      }
      problems.push({ code: 'no-coda', barIndex: index });
    }
    // Where endings are numbered, the last of them tells how often it is played.
    const times =
      bar.repeatEnd !== undefined && endingOf(bars, index)
        ? Math.max(bar.repeatEnd, lastPass(bars, start))
        : bar.repeatEnd;
    if (times !== undefined && jumped === 'no' && pass < times) {
      pass += 1;
      index = start;
      continue;
    }
    // Past the last time through; but a following ending still belongs to this repeat.
    if (bar.repeatEnd !== undefined && !bars[index + 1]?.ending) {
      start = index + 1;
      pass = 1;
    }
    const back: Jump | undefined = jumped === 'no' ? jumpBack(bar) : undefined;
    if (back) {
      const isSegno = back.startsWith('ds');
      const target = isSegno ? find('segno') : 0;
      if (target < 0) problems.push({ code: 'no-segno', barIndex: index });
      if (back.endsWith('fine') && find('fine') < 0) problems.push({ code: 'no-fine', barIndex: index });
      jumped = back.endsWith('coda') ? 'to-coda' : find('fine') >= 0 ? 'to-fine' : 'to-end';
      if (jumped === 'to-coda' && find('coda') < 0) problems.push({ code: 'no-coda', barIndex: index });
      index = Math.max(0, target);
      start = 0;
      pass = 1;
      continue;
    }
    index += 1;
  }
  return { order, passes, problems };
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
