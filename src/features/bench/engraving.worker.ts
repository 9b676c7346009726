import { expose } from 'comlink';
import { BenchEngraver, type DrawnRow, type DrawRequest, type LanesDrawn } from '../../engrave/benchEngraver';
import type { Level } from '../../core/instruments/instrument';
import type { Work } from '../../core/levels/recipe/work';
import { Engraver, type EngravedRow } from '../../engrave/engraver';
import type { PitchView } from '../../engrave/lanes';
import type { Clef } from '../../core/score/clef';
import type { Tune } from '../../core/score/tune';
import { barVariants, drawLine, drawThrough, drawVariation, type BarVariant } from '../../engrave/variants';

const engraver = Engraver.start();
const bench = engraver.then((started) => new BenchEngraver(started));

/** The worker's door: the same engraver as on the server, warm for as long as the bench is open. */
const door = {
  async draw(
    request: DrawRequest,
    lanes: (lanes: LanesDrawn, first?: DrawnRow) => void,
    row: (index: number, row: EngravedRow) => void,
  ): Promise<void> {
    await (await bench).draw(request, { lanes, row });
  },
  async variants(work: Work, level: Level, bar: number, view: PitchView): Promise<readonly BarVariant[]> {
    return barVariants(await engraver, work, level, bar, view);
  },
  async line(tune: Tune, clef: Clef, width: number): Promise<EngravedRow> {
    return drawLine(await engraver, tune, clef, width);
  },
  async variationOf(
    work: Work,
    level: Level,
    seed: number,
    view: PitchView,
    width: number,
  ): Promise<readonly EngravedRow[]> {
    return drawVariation(await engraver, work, level, seed, view, width);
  },
  async through(work: Work, level: Level, view: PitchView, width: number): Promise<readonly EngravedRow[]> {
    return drawThrough(await engraver, work, level, view, width);
  },
};
export type EngravingDoor = typeof door;

expose(door);
