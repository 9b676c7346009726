import { remembered } from '../core/derived';
import type { Level } from '../core/instruments';
import { type PartMaker, partOfLevel } from '../core/levels';
import { recipesOf, type Work } from '../core/work';
import { LRUCache } from 'lru-cache';
import { type Tune, withoutTogether } from '../core/score';
import { Engraver, type EngravedRow } from './engraver';
import { lanesFor, markChanged, stavesOfRow, type LaneInfo, type LaneSet, type PitchView } from './lanes';
import type { Line } from './lines';
import { pictureSeed } from './pictureSeeds';

export interface DrawRequest {
  readonly work: Work;
  readonly view: PitchView;
  /** CSS pixels that a row may take. */
  readonly width: number;
  readonly staffSpace: number;
  /** Index of a bar; the row that holds it is drawn first, then those after it. */
  readonly nearBar: number;
  readonly lanes: LaneSet;
}

/** What is known as soon as the parts are computed, before anything is drawn. */
export interface LanesDrawn {
  readonly infos: readonly LaneInfo[];
  readonly lines: readonly Line[];
  readonly numbers: readonly number[];
  /** Staves of a row, where they are not as many as the lanes: of a drill the sketch alone. */
  readonly staves?: number;
}

/** What the bench shows before its own engraver is warm. */
export interface FirstPaint extends LanesDrawn {
  readonly view: PitchView;
  readonly width: number;
  /** The first rows; the others follow in the browser. */
  readonly rows: readonly EngravedRow[];
}

/** A row with its place among the rows. */
export interface DrawnRow {
  readonly index: number;
  readonly row: EngravedRow;
}

export interface DrawSink {
  /** Together with the row asked for, if its picture is another one: what is looked at changes in one go. */
  readonly lanes: (lanes: LanesDrawn, first?: DrawnRow) => void;
  /** Called for each row whose picture is not the one last given for its place. */
  readonly row: (index: number, row: EngravedRow) => void;
}

const MAX_CACHED = 400;

/**
 * The bench's engraver: computes the lanes and draws those rows alone that changed. A newer request ends an older one
 * between rows. Rows drawn before are cached by their source, so that undo costs nothing.
 */
export class BenchEngraver {
  private newest = 0;
  private readonly drawn = new LRUCache<string, EngravedRow>({ max: MAX_CACHED });
  private shown = new Map<number, string>();
  private readonly parts = new Map<
    Level,
    { readonly tune: Tune; readonly recipe: string; readonly made: ReturnType<PartMaker> }
  >();

  constructor(private readonly engraver: Engraver) {}

  async draw(request: DrawRequest, sink: DrawSink): Promise<void> {
    const mine = (this.newest += 1);
    // What is said of playing together changes nothing here.
    const work = { ...request.work, tune: withoutTogether(request.work.tune) };
    const lanes = lanesFor(work, request.view, request.width, this.makePart, request.lanes);
    for (const index of [...this.shown.keys()]) if (index >= lanes.lines.length) this.shown.delete(index);
    const first = Math.max(
      0,
      lanes.lines.findIndex(({ to }) => to > request.nearBar),
    );
    const order = [...lanes.lines.keys()].toSorted((a, b) => priority(a, first) - priority(b, first));
    const changed = (index: number): EngravedRow | undefined => {
      const line = lanes.lines[index];
      if (!line) return undefined;
      const drawn = this.rowFor({
        staves: stavesOfRow(lanes, line),
        line,
        width: request.width,
        staffSpace: request.staffSpace,
        seed: pictureSeed('bench row', index),
      });
      const svg = markChanged(drawn.svg, lanes.changed);
      if (this.shown.get(index) === svg) return undefined;
      this.shown.set(index, svg);
      return { ...drawn, svg };
    };
    const near = changed(first);
    const drawn = { infos: lanes.infos, lines: lanes.lines, numbers: lanes.numbers, staves: lanes.staves.length };
    sink.lanes(drawn, near && { index: first, row: near });
    for (const index of order) {
      const row = index === first ? undefined : changed(index);
      if (row) {
        sink.row(index, row);
        // Lets a newer request in: what it asks for is wanted sooner.
        await new Promise((done) => setTimeout(done, 0));
        if (mine !== this.newest) return;
      }
    }
  }

  private rowFor(request: Parameters<Engraver['row']>[0]): EngravedRow {
    const source = Engraver.rowSource(request);
    const key = `${request.width}/${request.staffSpace}/${request.seed}/${source}`;
    return remembered(this.drawn, key, () => this.engraver.row(request, source));
  }

  private readonly makePart: PartMaker = (tune, level, recipes) => {
    const recipe = JSON.stringify(recipesOf({ recipes })[level]);
    const known = this.parts.get(level);
    if (known && known.tune === tune && known.recipe === recipe) return known.made;
    const made = partOfLevel(tune, level, recipes);
    this.parts.set(level, { tune, recipe, made });
    return made;
  };
}

/** The row asked for, then downwards, then upwards. */
function priority(index: number, first: number): number {
  return index >= first ? index - first : 10_000 + first - index;
}
