/** @jest-environment jsdom */
import type { Work } from '../../../core/work/work';
import type { PlayWishes } from '../../../sound/playPlan';
import { tuneOf } from '../../../../tests/given';
import { Player } from './player';
import type { PagePlan } from './sound.worker';

/** The worker that renders: `plan` is what it begins with, and it has so many stretches to give. */
let plan: PagePlan;
let stretches: number;
let begun: number;
let volumes: unknown[];
let failure: Error | undefined;
class NoWorker {
  terminate() {}
}
Object.assign(globalThis, { Worker: NoWorker });
jest.mock('comlink', () => ({
  wrap: () => ({
    begin: async () => {
      begun += 1;
      if (failure) throw failure;
      return plan;
    },
    next: async (count: number) => {
      stretches -= 1;
      return stretches < 0 ? undefined : { left: new Float32Array(count), right: new Float32Array(count) };
    },
    volume: async (who: string, share: number) => void volumes.push([who, share]),
  }),
}));

/** A sound output whose clock goes on when the test says so. */
class Output {
  static last: Output | undefined;
  currentTime = 0;
  sampleRate = 1_000;
  outputLatency = 0;
  destination = {};
  isClosed = false;
  readonly begun: number[] = [];
  readonly stopped: number[] = [];
  readonly gain = { value: 1, targets: [] as number[] };
  constructor() {
    Output.last = this;
  }
  async resume() {}
  async close() {
    this.isClosed = true;
  }
  createGain() {
    const { gain } = this;
    return {
      gain: {
        get value() {
          return gain.value;
        },
        set value(value: number) {
          gain.value = value;
        },
        setTargetAtTime: (value: number) => gain.targets.push(value),
      },
      connect: () => undefined,
    };
  }
  createBuffer(_channels: number, length: number, rate: number) {
    return { duration: length / rate, copyToChannel: () => undefined };
  }
  createBufferSource() {
    const { begun: starts, stopped } = this;
    return {
      buffer: undefined,
      connect: () => undefined,
      start: (at: number) => void starts.push(at),
      stop: () => void stopped.push(1),
      onended: undefined,
    };
  }
}
Object.assign(globalThis, { AudioContext: Output });

const work: Work = { tune: tuneOf('c4 e4|g8|'), recipes: {} };
const wishes: PlayWishes = { heard: 'tune', backing: 'none', click: false, countIn: true, from: 0 };
const mark = (id: string, start: number, end: number) => ({ lane: 'tune', id, start, end }) as const;
const PLAN = {
  seconds: 6,
  lead: 2,
  loops: false,
  said: [],
  marks: [mark('a', 2, 3), mark('b', 3, 4), mark('c', 4, 6)],
  bars: [
    { bar: 0, start: 2, seconds: 2 },
    { bar: 1, start: 4, seconds: 2 },
  ],
  beats: [4, 4],
} as unknown as PagePlan;
const output = () => Output.last as Output;
const settled = () => new Promise((done) => setTimeout(done, 10));

beforeEach(() => {
  [plan, stretches, begun, volumes, failure] = [PLAN, 3, 0, [], undefined];
  Output.last = undefined;
});

/** A player that plays; its first stretch began a moment after the asking. */
async function playing(more: Partial<PlayWishes> = {}) {
  const player = new Player();
  void player.play(work, { ...wishes, ...more });
  await settled();
  return player;
}

test('it wakes, then plays: the first sound comes a moment after the asking, the next ones end to end', async () => {
  const player = new Player();
  void player.play(work, wishes);
  expect(player.store.getState().kind).toBe('waking');
  await settled();
  expect(player.store.getState()).toEqual({ kind: 'playing', plan: PLAN });
  const [first = 0, second = 0] = output().begun;
  expect([first > 0.02, first < 0.2, Math.abs(second - first - 0.15) < 1e-9]).toEqual([true, true, true]);
  player.close();
});

test('only some of it is made ahead: the rest waits until it is nearly heard', async () => {
  stretches = 50;
  const player = await playing();
  const ahead = output().begun.length;
  expect(ahead).toBeLessThan(6);
  output().currentTime = 3;
  await new Promise((done) => setTimeout(done, 150));
  expect(output().begun.length).toBeGreaterThan(ahead);
  player.close();
});

test('a machine too busy to keep up plays late rather than twice at once, and what is lit goes along', async () => {
  stretches = 4;
  const player = await playing();
  const before = player.begins() ?? 0;
  output().currentTime = 5;
  await new Promise((done) => setTimeout(done, 150));
  const last = output().begun.at(-1) ?? 0;
  expect([last >= 5, (player.begins() ?? 0) > before]).toEqual([true, true]);
  player.close();
});

test('what sounds at a moment: nothing in the count-in, then notes, bar and how much of it has passed', async () => {
  const player = await playing();
  const start = (player.begins() ?? 0) - 2;
  const at = (seconds: number) => {
    output().currentTime = start + seconds;
    const { lit = [], bar, share = 0 } = player.moment() ?? {};
    return [lit.map(({ id }) => id), bar, Math.round(100 * share)];
  };
  expect([at(1), at(2.5), at(3), at(5)]).toEqual([
    [[], undefined, 0],
    [['a'], 0, 25],
    [['b'], 0, 50],
    [['c'], 1, 50],
  ]);
  player.close();
});

test('beats are counted within the bar; its first is told from the others', async () => {
  const player = await playing();
  const start = (player.begins() ?? 0) - 2;
  output().currentTime = start + 1;
  expect(player.beat()).toBeUndefined();
  output().currentTime = start + 2.1;
  expect(player.beat()?.isFirst).toBe(true);
  output().currentTime = start + 2.6;
  expect([player.beat()?.isFirst, Math.round((player.beat()?.share ?? 0) * 100)]).toEqual([false, 20]);
  player.close();
});

test('bars that go round are counted round: the count-in comes once', async () => {
  plan = { ...PLAN, loops: true };
  const player = await playing();
  const start = (player.begins() ?? 0) - 2;
  output().currentTime = start + 6 + 0.5;
  expect(player.moment()?.lit.map(({ id }) => id)).toEqual(['a']);
  output().currentTime = start + 6 + 4 + 2.5;
  expect([player.moment()?.lit.map(({ id }) => id), player.moment()?.bar]).toEqual([['c'], 1]);
  player.close();
});

test('stopped it is silent at once; what was being made for it is dropped', async () => {
  const player = await playing();
  const { length } = output().begun;
  player.stop();
  expect([player.store.getState().kind, output().stopped.length, player.moment(), player.begins()]).toEqual([
    'still',
    length,
    undefined,
    undefined,
  ]);
  await settled();
  expect(output().begun.length).toBe(length);
});

test('asked twice at once, only the newest plays', async () => {
  const player = new Player();
  void player.play(work, wishes);
  void player.play(work, { ...wishes, from: 1 });
  await settled();
  expect([begun, player.store.getState().kind]).toEqual([2, 'playing']);
  player.close();
  expect([output().isClosed, player.store.getState().kind]).toEqual([true, 'still']);
});

test('stopped while it wakes, it stays still', async () => {
  const player = new Player();
  void player.play(work, wishes);
  player.stop();
  await settled();
  expect([player.store.getState().kind, Output.last?.begun ?? []]).toEqual(['still', []]);
});

test('why it failed is told, and it can be tried again', async () => {
  failure = new Error('The sounds are not there.');
  const player = await playing();
  expect(player.store.getState()).toEqual({ kind: 'failed', message: 'The sounds are not there.' });
  failure = undefined;
  void player.play(work, wishes);
  await settled();
  expect(player.store.getState().kind).toBe('playing');
  player.close();
});

test('when the last stretch has been heard it ends by itself', async () => {
  stretches = 1;
  const player = await playing();
  output().currentTime = 10;
  await new Promise((done) => setTimeout(done, 200));
  expect(player.store.getState().kind).toBe('still');
  player.close();
});

test('loudness goes with the square, so that a half sounds like a half; shares go to who renders, once there is one', async () => {
  const player = new Player();
  player.setShare('bass', 0.5);
  player.setVolume(0.5);
  expect([volumes, Output.last]).toEqual([[], undefined]);
  void player.play(work, wishes);
  await settled();
  expect(output().gain.value).toBe(0.25);
  player.setVolume(0.1);
  player.setShare('bass', 0.3);
  expect([output().gain.targets[0]?.toFixed(3), volumes]).toEqual(['0.010', [['bass', 0.3]]]);
  player.close();
});
