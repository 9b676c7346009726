import { tuneOf } from '../../tests/given';
import type { Tempo, Tune } from '../core/score/tune';
import { TICKS_PER_QUARTER } from '../core/time/ticks';
import { TimeMap } from './timeMap';

const q = (quarters: number) => quarters * TICKS_PER_QUARTER;
const tempo = (perMinute: number): Tempo => ({ beat: { type: 'quarter', dots: 0 }, perMinute });
const inOrder = (tune: Tune) => tune.bars.map((_, bar) => ({ bar, pass: 1 }));
const map = (tune: Tune, perMinute = 60, order = inOrder(tune)) => new TimeMap(tune, order, tempo(perMinute));
const TUNE = { ...tuneOf('C2 D2 E2 F2 | G2 A2 B2 c2 | d8 |]'), tempo: tempo(60) };

describe('even time', () => {
  test('a quarter at 60 is a second, at 120 half of one', () => {
    expect([map(TUNE).at(0, q(3)), map(TUNE).at(1, 0), map(TUNE).seconds]).toEqual([3, 4, 12]);
    expect([map(TUNE, 120).at(0, q(3)), map(TUNE, 120).seconds]).toEqual([1.5, 6]);
  });

  test('bars come in the order in which they are played, each time for itself', () => {
    const played = map(
      TUNE,
      60,
      [0, 1, 0, 2].map((bar, k) => ({ bar, pass: k === 2 ? 2 : 1 })),
    );
    expect(played.bars.map(({ bar, pass, start }) => [bar, pass, start])).toEqual([
      [0, 1, 0],
      [1, 1, 4],
      [0, 2, 8],
      [2, 1, 12],
    ]);
    expect(played.at(2, q(1))).toBe(9);
    expect(played.at(4, 0)).toBe(16);
  });

  test('which bar sounds at a time, and how much of it is over', () => {
    expect(map(TUNE).placeAt(5)).toEqual({ place: 1, share: 0.25 });
    expect(map(TUNE).placeAt(-1)).toEqual({ place: 0, share: 0 });
    expect(map(TUNE).placeAt(99)).toEqual({ place: 2, share: 1 });
  });
});

describe('tempos on the way', () => {
  const slower = {
    ...TUNE,
    bars: TUNE.bars.map((bar, k) => (k === 1 ? { ...bar, tempos: [{ at: q(2), tempo: tempo(30) }] } : bar)),
  };

  test('hold from their place on', () => {
    expect([map(slower).at(1, q(2)), map(slower).at(1, q(3)), map(slower).at(2, 0), map(slower).seconds]).toEqual([
      6, 8, 10, 18,
    ]);
  });

  test('keep their proportion when the whole is played quicker', () => {
    expect(map(slower, 120).seconds).toBe(9);
  });
});

test('what stands under a fermata lasts three quarters longer, and time goes on from there', () => {
  const held = {
    ...TUNE,
    bars: TUNE.bars.map((bar, k) =>
      k === 0
        ? { ...bar, events: bar.events.map((event, n) => (n === 3 ? { ...event, fermata: true as const } : event)) }
        : bar,
    ),
  };
  expect([map(held).at(0, q(3)), map(held).at(1, 0), map(held).seconds]).toEqual([3, 4.75, 12.75]);
});

describe('swing', () => {
  const swung = { ...TUNE, swing: { unit: 'eighth', ratio: 2 } as const };

  test('makes the first eighth of a pair twice as long as the second', () => {
    expect(map(swung).at(0, q(0.5))).toBeCloseTo(2 / 3);
    expect(map(swung).at(0, q(1.5))).toBeCloseTo(5 / 3);
    expect(map(swung).at(0, q(1))).toBe(1);
  });

  test('stretches what lies in a half with it, and leaves straight what is told to be', () => {
    expect(map(swung).at(0, q(0.25))).toBeCloseTo(1 / 3);
    expect(map(swung).at(0, q(0.5), true)).toBe(0.5);
  });

  test('of sixteenths goes by pairs of sixteenths', () => {
    const sixteenths = map({ ...TUNE, swing: { unit: '16th', ratio: 2 } });
    expect(sixteenths.at(0, q(0.25))).toBeCloseTo(1 / 3);
    expect(sixteenths.at(0, q(0.5))).toBe(0.5);
  });

  test('is not for beats of three', () => {
    const jig = {
      ...tuneOf('CDE FGA | c6 |]', 'M:6/8\nL:1/8\nK:C'),
      tempo: tempo(60),
      swing: { unit: 'eighth', ratio: 2 } as const,
    };
    expect(map(jig).at(0, q(0.5))).toBe(0.5);
  });

  test('counts a pickup from the end of its bar', () => {
    const pickup = {
      ...tuneOf('G2 | C2 D2 E2 F2 | G8 |]'),
      tempo: tempo(60),
      swing: { unit: 'eighth', ratio: 2 } as const,
    };
    expect(map(pickup).at(0, q(0.5))).toBeCloseTo(2 / 3);
    expect(map(pickup).at(1, 0)).toBe(1);
  });
});
