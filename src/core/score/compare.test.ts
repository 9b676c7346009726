import fc from 'fast-check';
import { richTune } from '../../../tests/richTune';
import { differences } from './compare';
import type { Bar, Tune } from './tune';

const tune = richTune(3, { oddTuplets: true, ownMarks: false, second: false });
const withBars = (bars: readonly Bar[]): Tune => ({ ...tune, bars });
const renamed = (bars: readonly Bar[], mark: string) =>
  bars.map((bar) => ({
    ...bar,
    id: `${mark}${bar.id}`,
    events: bar.events.map((event) => ({ ...event, id: `${mark}${event.id}` })),
  }));
const distinct = (count: number): readonly Bar[] =>
  Array.from({ length: count }, (_, k) => ({
    id: `b${k}`,
    chords: [],
    section: `${k}`,
    events: tune.bars[0]?.events ?? [],
  }));

test('ids are no difference, notes are', () => {
  expect(differences(tune, withBars(renamed(tune.bars, 'x')))).toEqual([]);
  const changed = tune.bars.map((bar, index) => (index === 2 ? { ...bar, events: bar.events.slice(1) } : bar));
  expect(differences(tune, withBars(changed))).toEqual([{ before: { from: 2, to: 3 }, after: { from: 2, to: 3 } }]);
});

test('bars that were put in or taken out are told where they are', () => {
  const bars = distinct(8);
  const [first] = distinct(1);
  const added = [...bars.slice(0, 3), { ...first, section: 'new' } as Bar, ...bars.slice(3)];
  expect(differences(withBars(bars), withBars(added))).toEqual([
    { before: { from: 3, to: 3 }, after: { from: 3, to: 4 } },
  ]);
  expect(differences(withBars(added), withBars(bars))).toEqual([
    { before: { from: 3, to: 4 }, after: { from: 3, to: 3 } },
  ]);
  expect(differences(withBars(bars), withBars([]))).toEqual([
    { before: { from: 0, to: 8 }, after: { from: 0, to: 0 } },
  ]);
});

test('putting the differences in makes the one tune the other, and bars outside of them are alike', () => {
  const anyOrder = fc.array(fc.nat({ max: 6 }), { maxLength: 14 });
  const pool = distinct(7);
  const barsOf = (order: readonly number[]) => order.flatMap((k) => pool[k] ?? []);
  fc.assert(
    fc.property(anyOrder, anyOrder, (one, other) => {
      const found = differences(withBars(barsOf(one)), withBars(barsOf(other)));
      const made: number[] = [];
      let at = 0;
      for (const { before, after } of found) {
        made.push(...one.slice(at, before.from), ...other.slice(after.from, after.to));
        at = before.to;
      }
      expect([...made, ...one.slice(at)]).toEqual(other);
      expect(found.every(({ before, after }) => before.to > before.from || after.to > after.from)).toBe(true);
    }),
  );
});
