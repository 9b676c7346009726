import fc from 'fast-check';
import { anyTune } from '../../tests/anyTune';
import { LEVELS } from '../core/instruments/instrument';
import type { Work } from '../core/work/work';
import { WorkReceiver, WorkSender } from './workMessage';

const copied = <Value>(value: Value): Value => structuredClone(value);

/** A work and what becomes of it: bars put in, taken out and changed, another head, other recipes, and back again. */
const anyStory = fc
  .tuple(anyTune, fc.array(fc.tuple(fc.nat(), fc.nat(), fc.integer({ min: 0, max: 6 })), { maxLength: 12 }))
  .map(([tune, moves]) => {
    const works: Work[] = [{ tune, recipes: {} }];
    for (const [at, many, kind] of moves) {
      const last = works.at(-1) as Work;
      const { bars } = last.tune;
      const [from, to] = [at % bars.length, Math.min(bars.length, (at % bars.length) + (many % 3))];
      const level = LEVELS[many % 3] ?? 'beginner';
      const next: readonly Work[] = [
        { ...last, tune: { ...last.tune, bars: [...bars.slice(0, from), ...bars.slice(to)] } },
        { ...last, tune: { ...last.tune, bars: [...bars.slice(0, to), ...bars.slice(from)] } },
        {
          ...last,
          tune: { ...last.tune, bars: bars.map((bar, k) => (k === from ? { ...bar, section: `${many}` } : bar)) },
        },
        { ...last, tune: { ...last.tune, title: `${many}` } },
        { ...last, recipes: { ...last.recipes, [level]: { instrument: 'flute', embellish: { seed: many } } } },
        { ...last, recipes: {} },
        works[at % works.length] as Work,
      ];
      const chosen = next[kind] as Work;
      if (chosen.tune.bars.length > 0) works.push(chosen);
    }
    return works;
  });

test('whatever is done to a work, the other side has the same, told by messages that are copied on their way', () => {
  fc.assert(
    fc.property(anyStory, (works) => {
      const [sender, receiver] = [new WorkSender(), new WorkReceiver()];
      for (const work of works) expect(receiver.take(copied(sender.next(work)))).toEqual(work);
    }),
    { numRuns: 300 },
  );
});

test('what did not change is the same object there: the tune under another recipe, the bars beside the one that was written', () => {
  const [tune] = fc.sample(
    anyTune.filter(({ bars }) => bars.length > 3),
    { numRuns: 1, seed: 4 },
  );
  if (!tune) throw new Error('no tune');
  const [sender, receiver] = [new WorkSender(), new WorkReceiver()];
  const first = receiver.take(copied(sender.next({ tune, recipes: {} })));
  const recipes = { beginner: { instrument: 'oboe' } };
  expect(receiver.take(copied(sender.next({ tune, recipes }))).tune).toBe(first.tune);
  const bars = tune.bars.map((bar, index) => (index === 1 ? { ...bar, section: 'B' } : bar));
  const message = sender.next({ tune: { ...tune, bars }, recipes });
  expect(message).toEqual({ number: 3, bars: { from: 1, to: 2, bars: [bars[1]] } });
  const after = receiver.take(copied(message));
  expect(after.tune.bars.map((bar, index) => bar === first.tune.bars[index])).toEqual(bars.map((_, k) => k !== 1));
  expect(() => receiver.take({ number: 5 })).toThrow('work 5 came after work 3');
});
