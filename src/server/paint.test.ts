import { ArtifactCache } from './artifactCache';
import { benchPaint, paintWidth } from './paint';
import { JobError } from './pool/workerPool';

const runOnPool = jest.fn<Promise<unknown>, [string]>();
jest.mock('./pool/pool', () => ({
  ...jest.requireActual<object>('./pool/pool'),
  runOnPool: (job: string) => runOnPool(job),
}));
const kept = new ArtifactCache(undefined);
jest.mock('./artifactCache', () => ({ ...jest.requireActual<object>('./artifactCache'), artifactCache: () => kept }));
beforeEach(() => runOnPool.mockReset());

const stored = (title: string) => ({ tune: JSON.stringify({ title }), recipes: {} });
const drawn = { view: 'written', width: 800, rows: [{ svg: '<svg/>' }] };

test('a first paint that found others before it is empty, and is drawn for whoever comes next', async () => {
  runOnPool.mockRejectedValueOnce(new JobError('firstPaint', 'busy')).mockResolvedValueOnce(drawn);
  expect((await benchPaint(stored('Busy'), 'written', 800)).rows).toEqual([]);
  expect(await benchPaint(stored('Busy'), 'written', 800)).toEqual(drawn);
  expect(await benchPaint(stored('Busy'), 'written', 800)).toEqual(drawn);
  expect(runOnPool).toHaveBeenCalledTimes(2);
});

test('a tune that takes too long to draw is not tried again for each reader', async () => {
  runOnPool.mockRejectedValue(new JobError('firstPaint', 'too long'));
  for (let readers = 0; readers < 3; readers += 1)
    expect((await benchPaint(stored('Long'), 'written', 800)).rows).toEqual([]);
  expect(runOnPool).toHaveBeenCalledTimes(1);
  runOnPool.mockRejectedValue(new RangeError('a defect'));
  await expect(benchPaint(stored('Defect'), 'written', 800)).rejects.toThrow('a defect');
});

test('whatever a browser says, there are about a hundred widths, each near enough to the one said', () => {
  const widths = Array.from({ length: 2_400 }, (_, k) => paintWidth(String(240 + k / 1.11)));
  expect(new Set(widths).size).toBeLessThan(112);
  for (let said = 240; said <= 2_400; said += 7) expect(Math.abs(paintWidth(String(said)) - said)).toBeLessThan(12);
  expect(['', undefined, 'x', '-1', '239', '1e9', '800;drop'].map(paintWidth)).toEqual(
    Array.from({ length: 7 }, () => 800),
  );
  expect(paintWidth('3999')).toBe(2_400);
});
