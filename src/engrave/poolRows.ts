import { writeHeads, type HeadColumn, type HeadScore } from '../core/formats/musicxml/writeHeads';
import type { Engraver, EngravedRow } from './engraver';

/** A line of the road map: columns `from` up to but without `to`, drawn. */
export interface PoolRow extends EngravedRow {
  /** Of each staff, as it stands in the score. */
  readonly columns: readonly string[];
}

/** Bars in a row: the way a form is counted. */
const BARS_IN_ROW = 4;
/** More chords than this in a row would be too small to read. */
const MOST_COLUMNS = 8;

/** Where rows begin and end: four bars, fewer where they hold many chords; a section begins a row. */
export function rowsOfColumns(
  columns: readonly HeadColumn[],
): readonly { readonly from: number; readonly to: number }[] {
  const rows: { from: number; to: number; bars: number }[] = [];
  columns.forEach((column, index) => {
    const row = rows.at(-1);
    const opensBar = column.number !== undefined;
    const isFull =
      row && opensBar && (row.bars === BARS_IN_ROW || (row.to - row.from >= MOST_COLUMNS - 1 && row.bars > 1));
    if (!row || isFull || (opensBar && column.section !== undefined && row.bars > 0))
      rows.push({ from: index, to: index + 1, bars: 1 });
    else {
      row.to = index + 1;
      if (opensBar) row.bars += 1;
    }
  });
  return rows.map(({ from, to }) => ({ from, to }));
}

export interface PoolPage {
  readonly width: number;
  readonly staffSpace: number;
  /** Tells this score's glyphs from those of another on the page. */
  readonly seed: number;
}

/** Draws a score of pools a row at a time; `quiet` notes are marked for the page, which shows them paler. */
export function drawPoolRows(
  engraver: Engraver,
  score: HeadScore,
  page: PoolPage,
  quiet: ReadonlySet<string> = new Set(),
): readonly PoolRow[] {
  return rowsOfColumns(score.columns).map(({ from, to }, index) => {
    const columns = score.columns.slice(from, to);
    const source = writeHeads({ ...score, columns }, true);
    const drawn = engraver.heads(source, `${score.title}/${from}-${to}/${page.seed}`, score.staves.length, {
      width: page.width,
      staffSpace: page.staffSpace,
      seed: page.seed * 1_000 + index,
    });
    return { ...drawn, svg: withQuiet(drawn.svg, quiet), from, to, columns: columns.map(({ id }) => id) };
  });
}

/** The engraver names each note by what stands in the score; those that stay as they were get a class. */
function withQuiet(svg: string, quiet: ReadonlySet<string>): string {
  return svg.replace(/<g id="([^"]+)" class="note"/g, (whole, id: string) =>
    quiet.has(id) ? `<g id="${id}" class="note quiet"` : whole,
  );
}
