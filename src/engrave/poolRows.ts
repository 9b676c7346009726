import { type StemlessColumn, type StemlessScore, writeStemless } from '../core/formats';
import type { Engraver, EngravedRow } from './engraver';

/** A line of the road map: columns `from` up to but without `to`, drawn. */
export interface PoolRow extends EngravedRow {
  /** Of each staff, as it stands in the score. */
  readonly columns: readonly string[];
}

/** Bars in a row: the way a form is counted. */
const BARS_IN_ROW = 4;
/** Staff spaces that a head takes with its name under it, and a chord beside its heads. */
const ROOM = { head: 3.4, chord: 1.6, rowHead: 14 } as const;

/** Where rows begin and end: four bars, fewer where their heads would touch; a section begins a row. */
export function rowsOfColumns(
  columns: readonly StemlessColumn[],
  { width, staffSpace }: Pick<PoolPage, 'width' | 'staffSpace'>,
): readonly { readonly from: number; readonly to: number }[] {
  const room = width / staffSpace - ROOM.rowHead;
  const bars: { from: number; to: number; wide: number; opensSection: boolean }[] = [];
  columns.forEach((column, index) => {
    const wide = ROOM.chord + ROOM.head * Math.max(1, ...column.staves.map((heads) => heads.length));
    const bar = bars.at(-1);
    if (bar && column.number === undefined) {
      bar.to = index + 1;
      bar.wide += wide;
    } else bars.push({ from: index, to: index + 1, wide, opensSection: column.section !== undefined });
  });
  const rows: { from: number; to: number; bars: number; wide: number }[] = [];
  bars.forEach((bar, index) => {
    const row = rows.at(-1);
    // Two bars beside two look better than three beside one.
    const four = bars.slice(index - (row?.bars ?? 0), index - (row?.bars ?? 0) + BARS_IN_ROW);
    const most = four.reduce((sum, { wide }) => sum + wide, 0) <= room ? BARS_IN_ROW : BARS_IN_ROW / 2;
    const fits = row && row.bars < most && (row.wide + bar.wide <= room || row.bars === 0) && !bar.opensSection;
    if (!row || !fits) rows.push({ from: bar.from, to: bar.to, bars: 1, wide: bar.wide });
    else {
      row.to = bar.to;
      row.bars += 1;
      row.wide += bar.wide;
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
  score: StemlessScore,
  page: PoolPage,
  quiet: ReadonlySet<string> = new Set(),
): readonly PoolRow[] {
  return rowsOfColumns(score.columns, page).map(({ from, to }, index) => {
    const columns = score.columns.slice(from, to);
    const source = writeStemless({ ...score, columns }, true);
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
