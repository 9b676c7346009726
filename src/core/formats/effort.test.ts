import { HOSTILE } from '../../../tests/hostileFiles';
import { spend, TooMuchWork, withinEffort } from './effort';
import { readTune } from './readTune';

const stepsFor = (bytes: Uint8Array) => withinEffort(bytes.length, () => readTune(bytes, 'hostile.abc')).steps;

test('steps are counted inside one reading alone, and beyond the limit it stops', () => {
  expect(withinEffort(10, () => spend(7)).steps).toBe(7);
  expect(() => withinEffort(0, () => spend(1_000_000))).toThrow(TooMuchWork);
  expect(withinEffort(10, () => spend(3)).steps).toBe(3);
});

test.each(HOSTILE.map((kind) => [kind.name, kind] as const))(
  '%s: four times as much takes four times the steps',
  (_, kind) => {
    const [small, large] = [kind.make(2_000), kind.make(8_000)];
    const [few, many] = [stepsFor(small), stepsFor(large)];
    expect(many).toBeLessThanOrEqual(5 * few + 2_000);
    expect(many).toBeLessThanOrEqual(4 * large.length + 10_000);
  },
);

test.each(HOSTILE.map((kind) => [kind.name, kind] as const))(
  '%s: at the size of an upload it ends in a tune or in words',
  (_, kind) => {
    let bytes = kind.make(1_000);
    for (let size = 2_000; size <= 128_000 && bytes.length < 100_000; size *= 4) bytes = kind.make(size);
    const read = readTune(bytes, 'hostile.abc');
    if (!read.ok) expect(read.problem.length).toBeGreaterThan(0);
  },
);
