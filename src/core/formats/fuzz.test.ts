import { fuzz } from '../../../tests/fuzzReaders';

test('damaged and foreign files of every format end in a sound tune or in a reason, quickly', () => {
  const { read, refused, faults } = fuzz(1_500, 40_001, undefined, Infinity);
  expect(faults).toEqual([]);
  expect([read > 20, refused > 1_000]).toEqual([true, true]);
});
