import type { LaneId } from '../../engrave/lanes';
import { neighbourBar } from './lanePlaces';

const LANES: readonly LaneId[] = ['tune', 'beginner', 'intermediate', 'advanced'];
const place = {
  lanes: LANES,
  bars: 10,
  lines: [
    { from: 0, to: 4 },
    { from: 4, to: 8 },
    { from: 8, to: 10 },
  ],
};
const from = (lane: LaneId, bar: number) => (key: string) => {
  const to = neighbourBar(key, { lane, bar }, place);
  return to && `${to.lane} ${to.bar}`;
};

test('arrows walk along a lane and from lane to lane, and over the last lane into the next row', () => {
  expect(['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Home', 'End'].map(from('beginner', 5))).toEqual([
    'beginner 4',
    'beginner 6',
    'tune 5',
    'intermediate 5',
    'beginner 0',
    'beginner 9',
  ]);
  expect([from('advanced', 2)('ArrowDown'), from('tune', 5)('ArrowUp')]).toEqual(['tune 6', 'advanced 1']);
});

test('at the edges nothing happens; in a shorter row the nearest bar is picked; other keys are nobody’s', () => {
  expect([from('tune', 0)('ArrowLeft'), from('tune', 9)('ArrowRight'), from('tune', 2)('ArrowUp')]).toEqual([
    undefined,
    undefined,
    undefined,
  ]);
  expect([from('advanced', 7)('ArrowDown'), from('advanced', 9)('ArrowDown')]).toEqual(['tune 9', undefined]);
  expect(from('tune', 3)('a')).toBeUndefined();
});
