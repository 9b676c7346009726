import type { DrawnRow, LanesDrawn } from '../../engrave/benchEngraver';
import type { EngravedRow } from '../../engrave/engraver';

export interface RowsInPlace extends LanesDrawn {
  /** By place; a row whose bars moved elsewhere is missing until it is drawn. */
  readonly rows: ReadonlyMap<number, EngravedRow>;
}

/** So many rows from the one that is looked at fill a screen. */
const A_SCREEN = 3;

/**
 * Which rows stand on the page while the worker draws others. Where the number of lanes changes (the levels go while
 * the tune is written), the rows that are there stay until a screen of the new ones is drawn: a page of gaps would be
 * worse than an old picture.
 */
export class RowsShown {
  private waiting: { readonly near: number; readonly rows: RowsInPlace } | undefined;

  constructor(private now: RowsInPlace) {}

  /** What is shown once the lanes are known, with the first row where its picture is another one. */
  lanes(lanes: LanesDrawn, first: DrawnRow | undefined, nearBar: number): RowsInPlace {
    const held = new Map([...this.now.rows].filter(([index, row]) => fits(row, index, lanes)));
    const rows = { ...lanes, rows: first ? held.set(first.index, first.row) : held };
    const isOther = this.now.rows.size > 0 && this.now.infos.length !== lanes.infos.length;
    const near = Math.max(
      0,
      lanes.lines.findIndex(({ to }) => to > nearBar),
    );
    this.waiting = isOther ? { near, rows } : undefined;
    if (!this.waiting) this.now = rows;
    return this.settled();
  }

  /**
   * What is shown once a row is drawn. A row of an older request is the right picture still where its bars and lanes
   * are.
   */
  row(index: number, row: EngravedRow): RowsInPlace {
    const target = this.waiting?.rows ?? this.now;
    if (!fits(row, index, target)) return this.now;
    const rows = { ...target, rows: new Map(target.rows).set(index, row) };
    if (this.waiting) this.waiting = { ...this.waiting, rows };
    else this.now = rows;
    return this.settled();
  }

  private settled(): RowsInPlace {
    const { waiting } = this;
    if (!waiting) return this.now;
    const { near, rows } = waiting;
    const screen = rows.lines.slice(near, near + A_SCREEN).map((_, place) => near + place);
    if (screen.every((index) => rows.rows.has(index))) {
      this.now = rows;
      this.waiting = undefined;
    }
    return this.now;
  }
}

function fits(row: EngravedRow, index: number, { lines, infos, staves = infos.length }: LanesDrawn): boolean {
  const line = lines[index];
  return line?.from === row.from && line.to === row.to && row.geometry.staves.length === staves;
}
