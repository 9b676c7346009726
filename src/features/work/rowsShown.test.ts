import type { LanesDrawn } from '../../engrave/benchEngraver';
import type { EngravedRow } from '../../engrave/engraver';
import { RowsShown } from './rowsShown';

const lanes = (ids: readonly string[], starts: readonly number[]): LanesDrawn => ({
  infos: ids.map((id) => ({ id })) as unknown as LanesDrawn['infos'],
  lines: starts.map((from, k) => ({ from, to: starts[k + 1] ?? from + 4 })),
  numbers: [],
});
const row = (from: number, to: number, staves: number, svg = `${from}/${staves}`): EngravedRow => ({
  from,
  to,
  svg,
  geometry: { width: 1, height: 1, bars: [], staves: Array.from({ length: staves }, () => ({ top: 0, bottom: 1 })) },
});
const ALL = lanes(['tune', 'beginner', 'intermediate', 'advanced'], [0, 4, 8, 12, 16]);
const ALONE = lanes(['tune'], [0, 8, 16]);
const shownAll = () =>
  new RowsShown({ ...ALL, rows: new Map([0, 4, 8, 12, 16].map((from, k) => [k, row(from, from + 4, 4)])) });
const pictures = ({ rows }: { readonly rows: ReadonlyMap<number, EngravedRow> }) =>
  [...rows].toSorted(([a], [b]) => a - b).map(([, { svg }]) => svg);

test('entering writing, all lanes stay on the page until a screen of the tune alone is drawn', () => {
  const shown = shownAll();
  const before = pictures(shown.lanes(ALONE, { index: 0, row: row(0, 8, 1) }, 0));
  expect(before).toEqual(['0/4', '4/4', '8/4', '12/4', '16/4']);
  expect(pictures(shown.row(1, row(8, 16, 1)))).toEqual(before);
  const after = shown.row(2, row(16, 20, 1));
  expect([after.infos.length, pictures(after)]).toEqual([1, ['0/1', '8/1', '16/1']]);
});

test('a screen counts from the bar that is looked at', () => {
  const shown = shownAll();
  shown.lanes(ALONE, undefined, 17);
  expect(pictures(shown.row(2, row(16, 20, 1)))).toEqual(['16/1']);
});

test('with as many lanes as before, rows that still fit stay and the others are gaps until they are drawn', () => {
  const shown = shownAll();
  const moved = lanes(['tune', 'beginner', 'intermediate', 'advanced'], [0, 4, 9]);
  expect(pictures(shown.lanes(moved, { index: 1, row: row(4, 9, 4) }, 5))).toEqual(['0/4', '4/4']);
  expect(pictures(shown.row(2, row(9, 13, 4)))).toEqual(['0/4', '4/4', '9/4']);
});

test('a row of an older request that fits nowhere is not shown', () => {
  const shown = shownAll();
  const late = row(0, 8, 1);
  expect(pictures(shown.row(0, late))[0]).toBe('0/4');
  expect(pictures(shown.row(0, row(0, 4, 4, 'newer')))[0]).toBe('newer');
});
