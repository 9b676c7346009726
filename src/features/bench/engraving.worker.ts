import { expose } from 'comlink';
import { BenchEngraver, type DrawnRow, type DrawRequest, type LanesDrawn } from '../../engrave/benchEngraver';
import { Engraver, type EngravedRow } from '../../engrave/engraver';

const bench = Engraver.start().then((engraver) => new BenchEngraver(engraver));

/** The worker's door: the same engraver as on the server, warm for as long as the bench is open. */
const door = {
  async draw(request: DrawRequest, lanes: (lanes: LanesDrawn, first?: DrawnRow) => void, row: (index: number, row: EngravedRow) => void): Promise<void> {
    await (await bench).draw(request, { lanes, row });
  },
};
export type EngravingDoor = typeof door;

expose(door);
