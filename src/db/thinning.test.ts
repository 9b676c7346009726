import fc from 'fast-check';
import { superfluous, type AgedRevision } from './thinning';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const now = new Date('2030-06-15T12:30:00Z');
const ago = (milliseconds: number) => new Date(now.getTime() - milliseconds);
const at = (revision: number, milliseconds: number, isNamed = false): AgedRevision => ({
  revision,
  isNamed,
  savedAt: ago(milliseconds),
});

const MINUTE = 60_000;
/** The newest, which stay whatever their age. */
const newest = (age: number) => Array.from({ length: 20 }, (_, k) => at(1_000 - k, age + k));

test('of a day one every five minutes, then one an hour, then one a day; named ones, the newest twenty and the first always', () => {
  const list = [
    ...newest(0),
    at(20, 6 * MINUTE),
    at(19, 7 * MINUTE),
    at(18, 7 * MINUTE + 1_000, true),
    at(17, 11 * MINUTE),
    at(10, 2 * DAY),
    at(9, 2 * DAY + MINUTE),
    at(8, 2 * DAY + 2 * MINUTE, true),
    at(7, 2 * DAY + HOUR + MINUTE),
    at(6, 20 * DAY),
    at(5, 20 * DAY + HOUR),
    at(4, 20 * DAY + 2 * HOUR, true),
    at(3, 21 * DAY),
    at(1, 21 * DAY + HOUR),
  ];
  expect(superfluous(list, now)).toEqual([19, 9, 5]);
});

test('a clock that jumps leaves the newest twenty as they are', () => {
  expect(superfluous(newest(400 * DAY), now)).toEqual([]);
  expect(superfluous([...newest(400 * DAY), at(2, 400 * DAY + 100), at(1, 400 * DAY + 1_000)], now)).toEqual([2]);
});

test('thinning twice takes nothing more, and no stretch is left without a version', () => {
  const anyList = fc
    .array(fc.tuple(fc.nat({ max: 40 * 24 * 60 }), fc.boolean()), { minLength: 1, maxLength: 60 })
    .map((ages) =>
      ages
        .toSorted(([a], [b]) => a - b)
        .map(([minutes, isNamed], index) => at(ages.length - index, minutes * 60_000, isNamed && index % 5 === 0)),
    );
  fc.assert(
    fc.property(anyList, (list) => {
      const gone = new Set(superfluous(list, now));
      const left = list.filter(({ revision }) => !gone.has(revision));
      expect(superfluous(left, now)).toEqual([]);
      for (const { savedAt, revision, isNamed } of list) {
        if (!gone.has(revision)) continue;
        expect(isNamed).toBe(false);
        const sameDay = left.some(
          (one) => Math.floor(one.savedAt.getTime() / DAY) === Math.floor(savedAt.getTime() / DAY),
        );
        expect(sameDay).toBe(true);
      }
    }),
  );
});
