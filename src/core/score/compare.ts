import { dequal } from 'dequal';
import type { Bar, ScoreEvent, Tune } from './tune';

/**
 * A stretch in which two tunes differ; indices count from 0, `to` is the bar after the last one. An empty side has
 * `from` = `to`.
 */
export interface Difference {
  readonly before: { readonly from: number; readonly to: number };
  readonly after: { readonly from: number; readonly to: number };
}

/** Longer than this (bars times bars) and the middle is told as one stretch: nobody reads a list of thousands. */
const MAX_PAIRS = 1_000_000;

/**
 * Where two tunes differ, bar by bar: bars are the same when they print and sound alike, whatever their ids. The
 * longest common order of bars stays; what is between is different.
 */
export function differences(before: Tune, after: Tune): readonly Difference[] {
  const [a, b] = [before.bars.map(withoutIds), after.bars.map(withoutIds)];
  const same = (i: number, j: number) => dequal(a[i], b[j]);
  let start = 0;
  while (start < a.length && start < b.length && same(start, start)) start += 1;
  let end = 0;
  while (end < a.length - start && end < b.length - start && same(a.length - 1 - end, b.length - 1 - end)) end += 1;
  const [rows, columns] = [a.length - start - end, b.length - start - end];
  if (rows === 0 && columns === 0) return [];
  const whole = {
    before: { from: start, to: a.length - end },
    after: { from: start, to: b.length - end },
  };
  if (rows === 0 || columns === 0 || rows * columns > MAX_PAIRS) return [whole];
  return stretches(
    commonBars(rows, columns, (i, j) => same(start + i, start + j)),
    whole,
  );
}

/** Pairs of bars that stay, by the longest common subsequence. */
function commonBars(
  rows: number,
  columns: number,
  same: (i: number, j: number) => boolean,
): readonly (readonly [number, number])[] {
  const width = columns + 1;
  const longest = new Uint16Array((rows + 1) * width);
  const isSame = new Uint8Array(rows * columns);
  const at = (i: number, j: number) => longest[i * width + j] ?? 0;
  for (let i = rows - 1; i >= 0; i -= 1)
    for (let j = columns - 1; j >= 0; j -= 1) {
      const found = same(i, j);
      isSame[i * columns + j] = found ? 1 : 0;
      longest[i * width + j] = found ? at(i + 1, j + 1) + 1 : Math.max(at(i + 1, j), at(i, j + 1));
    }
  const pairs: [number, number][] = [];
  for (let i = 0, j = 0; i < rows && j < columns;) {
    if (isSame[i * columns + j] === 1) pairs.push([i++, j++]);
    else if (at(i + 1, j) >= at(i, j + 1)) i += 1;
    else j += 1;
  }
  return pairs;
}

/** What lies between the bars that stay. */
function stretches(pairs: readonly (readonly [number, number])[], whole: Difference): readonly Difference[] {
  const found: Difference[] = [];
  let [i, j] = [whole.before.from, whole.after.from];
  const tell = (toBefore: number, toAfter: number) => {
    if (toBefore > i || toAfter > j) found.push({ before: { from: i, to: toBefore }, after: { from: j, to: toAfter } });
  };
  for (const [row, column] of pairs) {
    const [atBefore, atAfter] = [whole.before.from + row, whole.after.from + column];
    tell(atBefore, atAfter);
    [i, j] = [atBefore + 1, atAfter + 1];
  }
  tell(whole.before.to, whole.after.to);
  return found;
}

/** A bar as it prints and sounds. Tuplets are told by their shape: ids are given anew in every reading. */
function withoutIds({ id: _, events, second, ...bar }: Bar): unknown {
  const plain = (list: readonly ScoreEvent[]) => list.map((event) => ({ ...event, id: '', tuplet: shape(event) }));
  return { ...bar, events: plain(events), ...(second && { second: plain(second) }) };
}

function shape({ tuplet }: ScoreEvent): string {
  let text = '';
  for (let one = tuplet; one; one = one.outer) text += `${one.actual}:${one.normal} `;
  return text;
}
