import { expose } from 'comlink';
import type { ScaleName } from '../../core/harmony';
import type { Level } from '../../core/instruments';
import type { Clef, Tune } from '../../core/score';
import { BenchEngraver, type DrawnRow, type DrawRequest, type LanesDrawn } from '../../engrave/benchEngraver';
import { DrillEngraver, type DrillSink } from '../../engrave/drillEngraver';
import { Engraver, type EngravedRow } from '../../engrave/engraver';
import type { StemlessScore } from '../../core/formats';
import type { PitchView } from '../../engrave/lanes';
import { patternPictures, type PatternPicture } from '../../engrave/patternPictures';
import { drawPoolRows, type PoolPage, type PoolRow } from '../../engrave/poolRows';
import {
  barVariants,
  drawLine,
  drawReadTune,
  drawSolo,
  drawStand,
  drawThrough,
  drawVariation,
  type BarVariant,
} from '../../engrave/variants';
import {
  TogetherEngraver,
  type TogetherSink,
  type TogetherVersion,
  type TogetherWishes,
} from '../../engrave/togetherEngraver';
import type { Group } from '../../core/keys';
import { type WorkMessage, WorkReceiver } from '../../core/work';

const engraver = Engraver.start();
const bench = engraver.then((started) => new BenchEngraver(started));
const drills = engraver.then((started) => new DrillEngraver(started));
const together = engraver.then((started) => new TogetherEngraver(started));
const received = new WorkReceiver();

/**
 * The worker's door: the same engraver as on the server, warm for as long as the bench is open. Works are taken before
 * anything is waited for: they come in order.
 */
const api = {
  async draw(
    { work, ...request }: Omit<DrawRequest, 'work'> & { readonly work: WorkMessage },
    lanes: (lanes: LanesDrawn, first?: DrawnRow) => void,
    row: (index: number, row: EngravedRow) => void,
  ): Promise<void> {
    const taken = received.take(work);
    await (await bench).draw({ ...request, work: taken }, { lanes, row });
  },
  async variants(work: WorkMessage, level: Level, bar: number, view: PitchView): Promise<readonly BarVariant[]> {
    const taken = received.take(work);
    return barVariants(await engraver, taken, level, bar, view);
  },
  async line(tune: Tune, clef: Clef, width: number): Promise<EngravedRow> {
    return drawLine(await engraver, tune, clef, width);
  },
  async variationOf(
    work: WorkMessage,
    level: Level,
    seed: number,
    view: PitchView,
    width: number,
  ): Promise<readonly EngravedRow[]> {
    const taken = received.take(work);
    return drawVariation(await engraver, taken, level, seed, view, width);
  },
  async pools(score: StemlessScore, page: PoolPage, quiet: ReadonlySet<string>): Promise<readonly PoolRow[]> {
    return drawPoolRows(await engraver, score, page, quiet);
  },
  async drill(
    work: WorkMessage,
    view: PitchView,
    width: number,
    laidOut: DrillSink['laidOut'],
    rows: DrillSink['rows'],
  ): Promise<void> {
    const taken = received.take(work);
    await (await drills).draw(taken, view, width, { laidOut, rows });
  },
  async solo(
    work: WorkMessage,
    wishes: Parameters<typeof drawSolo>[2],
    view: PitchView,
    width: number,
  ): Promise<readonly EngravedRow[]> {
    const taken = received.take(work);
    return drawSolo(await engraver, taken, wishes, view, width);
  },
  async stand(
    work: WorkMessage,
    wishes: Parameters<typeof drawStand>[2],
    view: PitchView,
    width: number,
  ): Promise<readonly EngravedRow[]> {
    const taken = received.take(work);
    return drawStand(await engraver, taken, wishes, view, width);
  },
  async together(
    work: WorkMessage,
    wishes: TogetherWishes,
    laidOut: TogetherSink['laidOut'],
    row: TogetherSink['row'],
  ): Promise<void> {
    const taken = received.take(work);
    await (await together).draw(taken, wishes, { laidOut, row });
  },
  async togetherVersions(
    work: WorkMessage,
    group: Group,
    player: string,
    bar: number,
    view: PitchView,
  ): Promise<readonly TogetherVersion[]> {
    const taken = received.take(work);
    return (await together).versions(taken, group, player, bar, view);
  },
  async readTune(tune: Tune, width: number): Promise<readonly EngravedRow[]> {
    return drawReadTune(await engraver, tune, width);
  },
  async patterns(set: ScaleName, ids: readonly string[]): Promise<readonly PatternPicture[]> {
    return patternPictures(await engraver, set, ids);
  },
  async through(work: WorkMessage, level: Level, view: PitchView, width: number): Promise<readonly EngravedRow[]> {
    const taken = received.take(work);
    return drawThrough(await engraver, taken, level, view, width);
  },
};
export type EngravingApi = typeof api;

expose(api);
