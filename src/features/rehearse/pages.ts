import type { EngravedRow } from '../../engrave/engraver';

/** Room under each row, CSS pixels. */
export const ROW_GAP = 10;

/** Rows that stand on a page together, by index: as many as fit, one at least. */
export function pagesOf(rows: readonly EngravedRow[], height: number): readonly (readonly number[])[] {
  const pages: number[][] = [];
  let left = 0;
  rows.forEach(({ geometry }, index) => {
    const need = geometry.height + ROW_GAP;
    const last = pages.at(-1);
    if (last && need <= left) {
      last.push(index);
      left -= need;
      return;
    }
    pages.push([index]);
    left = height - need;
  });
  return pages;
}

/**
 * The page that shall be seen while a bar sounds: its own, but the next one once the first half of the page's last bar
 * is past, so that the eye is there first.
 * @param share of the bar that has passed, 0 to 1
 */
export function pageAt(
  pages: readonly (readonly number[])[],
  rows: readonly Pick<EngravedRow, 'from' | 'to'>[],
  bar: number,
  share: number,
): number {
  const row = rows.findIndex(({ from, to }) => bar >= from && bar < to);
  const page = pages.findIndex((one) => one.includes(row));
  if (page < 0) return 0;
  const isLastRow = pages[page]?.at(-1) === row;
  const isEnd = bar === (rows[row]?.to ?? 0) - 1 && share > 0.5;
  return isLastRow && isEnd && page + 1 < pages.length ? page + 1 : page;
}
