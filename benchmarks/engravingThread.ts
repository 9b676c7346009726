import { parentPort } from 'node:worker_threads';
import { BenchEngraver } from '../src/engrave/benchEngraver';
import { Engraver } from '../src/engrave/engraver';
import { type WorkMessage, WorkReceiver } from '../src/core/work';

export interface Asked {
  readonly work: WorkMessage;
  readonly nearBar: number;
  readonly lanes?: 'all' | 'tune';
}

/** Milliseconds from the request's arrival: lanes computed, first row drawn, all drawn. */
export interface Drawn {
  readonly lanes: number;
  readonly first: number;
  readonly all: number;
  readonly rows: number;
}

const bench = new BenchEngraver(await Engraver.start());
const received = new WorkReceiver();

parentPort?.on('message', (asked: Asked) => {
  const start = performance.now();
  let lanes = 0;
  let first = 0;
  let rows = 0;
  const request = {
    ...asked,
    work: received.take(asked.work),
    lanes: asked.lanes ?? 'all',
    view: 'written',
    width: 800,
    staffSpace: 7,
  } as const;
  void bench
    .draw(request, {
      lanes: (_, near) => {
        lanes = performance.now() - start;
        if (!near) return;
        rows += 1;
        first = lanes;
      },
      row: () => {
        rows += 1;
        if (first === 0) first = performance.now() - start;
      },
    })
    .then(() => parentPort?.postMessage({ lanes, first, all: performance.now() - start, rows } satisfies Drawn));
});
