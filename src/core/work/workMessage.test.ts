import fc from 'fast-check';
import { anyTune } from '../../../tests/anyTune';
import { withCommand } from '../../../tests/given';
import { LEVELS } from '../instruments/instrument';
import type { Work } from './work';
import { checksumOf, isWorkMissed, WorkMissed, WorkReceiver, WorkSender } from './workMessage';

const copied = <Value>(value: Value): Value => structuredClone(value);

let names = 0;
/** The same bars under names of their own. */
const again = (bars: Work['tune']['bars']) => bars.map((bar) => ({ ...bar, id: `again${(names += 1)}` }));

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
        {
          ...last,
          tune: { ...last.tune, bars: [...bars.slice(0, to), ...again(bars.slice(from, to)), ...bars.slice(to)] },
        },
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
  );
});

const [TUNE] = fc.sample(
  anyTune.filter(({ bars }) => bars.length > 3),
  { numRuns: 1, seed: 4 },
);

/** A sender, a receiver, and what the one says as it reaches the other. */
function ends() {
  const [sender, receiver] = [new WorkSender(), new WorkReceiver()];
  return { receiver, said: (...about: Parameters<WorkSender['next']>) => copied(sender.next(...about)), sender };
}

test('what did not change is the same object there: the tune under another recipe, the bars beside the one that was written', () => {
  if (!TUNE) throw new Error('no tune');
  const { receiver, said } = ends();
  const first = receiver.take(said({ tune: TUNE, recipes: {} }));
  const recipes = { beginner: { instrument: 'oboe' } };
  expect(receiver.take(said({ tune: TUNE, recipes })).tune).toBe(first.tune);
  const bars = TUNE.bars.map((bar, index) => (index === 1 ? { ...bar, section: 'B' } : bar));
  const message = said({ tune: { ...TUNE, bars }, recipes });
  expect(message).toMatchObject({
    number: 3,
    command: { kind: 'difference', difference: { bars: { from: 1, gone: [bars[1]?.id], bars: [bars[1]] } } },
  });
  const after = receiver.take(message);
  expect(after.tune.bars.map((bar, index) => bar === first.tune.bars[index])).toEqual(bars.map((_, k) => k !== 1));
});

test('a command is sent as it is, and gives the same there as here', () => {
  if (!TUNE) throw new Error('no tune');
  const { receiver, said } = ends();
  const before: Work = { tune: TUNE, recipes: { advanced: { instrument: 'oboe' } } };
  receiver.take(said(before));
  const command = { kind: 'recipe', level: 'advanced', words: '', change: { embellish: { seed: 3 } } } as const;
  const after = withCommand(before, command);
  const message = said(after, { command, before, after });
  expect(message).toMatchObject({ number: 2, command });
  expect(receiver.take(message)).toEqual(after);
  // One that is about another work than the one sent last is not sent.
  const other = said(before, { command, before: { ...before }, after: before });
  expect(other).toMatchObject({ command: { kind: 'difference' } });
  expect(receiver.take(other)).toEqual(before);
});

test('a message that was lost, or gives something else there, is answered with a wish for the whole; then all goes on', () => {
  if (!TUNE) throw new Error('no tune');
  const { receiver, said, sender } = ends();
  const works = ['Ebb', 'Flow', 'Slack'].map((title): Work => ({ tune: { ...TUNE, title }, recipes: {} }));
  const [first, second, third] = works as [Work, Work, Work];
  receiver.take(said(first));
  said(second);
  const late = said(third);
  expect(() => receiver.take(late)).toThrow(WorkMissed);
  expect(receiver.take(copied(sender.whole(third)))).toEqual(third);
  const wrong = { ...said(first), checksum: 1 };
  const caught = (() => {
    try {
      receiver.take(wrong);
      return undefined;
    } catch (error) {
      return error;
    }
  })();
  // Another thread gets a copy of the error, of which the name is left.
  expect([isWorkMissed(caught), isWorkMissed(new Error('something else'))]).toEqual([true, false]);
  expect(receiver.take(copied(sender.whole(second)))).toEqual(second);
});

test('what arrives twice changes once', () => {
  if (!TUNE) throw new Error('no tune');
  const { receiver, said } = ends();
  const first = said({ tune: TUNE, recipes: {} });
  const second = said({ tune: { ...TUNE, title: 'Ebb' }, recipes: {} });
  receiver.take(first);
  const now = receiver.take(second);
  expect([receiver.take(second), receiver.take(first)]).toEqual([now, now]);
  expect(receiver.take(second)).toBe(now);
});

test('works that hold the same have one checksum, in whatever order their head is written; any change gives another', () => {
  if (!TUNE) throw new Error('no tune');
  const { title, bars, ...head } = TUNE;
  const sum = checksumOf({ tune: TUNE, recipes: {} });
  expect(checksumOf({ tune: { bars: copied(bars), ...head, title }, recipes: {} })).toBe(sum);
  const others: readonly Work[] = [
    { tune: { ...TUNE, title: `${title}!` }, recipes: {} },
    { tune: { ...TUNE, bars: bars.slice(1) }, recipes: {} },
    { tune: { ...TUNE, bars: [bars[1], bars[0], ...bars.slice(2)] as typeof bars }, recipes: {} },
    { tune: TUNE, recipes: { beginner: { instrument: 'flute' } } },
    { tune: TUNE, recipes: { advanced: { instrument: 'flute' } } },
  ];
  expect(new Set([sum, ...others.map(checksumOf)]).size).toBe(others.length + 1);
});
