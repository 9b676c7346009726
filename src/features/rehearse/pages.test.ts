import type { EngravedRow } from '../../engrave/engraver';
import { pageAt, pagesOf } from './pages';

const row = (from: number, to: number, height: number) =>
  ({ from, to, svg: '', geometry: { width: 0, height, bars: [], staves: [] } }) satisfies EngravedRow;
const rows = [row(0, 4, 100), row(4, 8, 100), row(8, 12, 100), row(12, 16, 300), row(16, 18, 100)];

test('as many rows as fit stand on a page, and a row that is too high stands alone', () => {
  expect(pagesOf(rows, 230)).toEqual([[0, 1], [2], [3], [4]]);
  expect(pagesOf(rows, 10)).toEqual([[0], [1], [2], [3], [4]]);
});

test('the page is turned in the second half of its last bar, before the next line is reached', () => {
  const pages = pagesOf(rows, 230);
  expect([pageAt(pages, rows, 3, 0.9), pageAt(pages, rows, 7, 0.4), pageAt(pages, rows, 7, 0.6)]).toEqual([0, 0, 1]);
  expect([pageAt(pages, rows, 17, 0.9), pageAt(pages, rows, 99, 0)]).toEqual([3, 0]);
});
