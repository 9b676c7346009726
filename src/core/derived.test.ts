import { derived, isRemembering, withoutMemory } from './derived';

/** A derived function of objects and plain values, and how often it was worked out. */
function counted(remembering?: Parameters<typeof derived<[object, unknown, (object | undefined)?], object>>[1]) {
  let times = 0;
  const ask = derived((...args: [object, unknown, (object | undefined)?]) => {
    times += 1;
    return { args };
  }, remembering);
  return { ask, times: () => times };
}

test('the same arguments give the same object; any other object, value, type or place another', () => {
  const { ask, times } = counted();
  const [a, b] = [{}, {}];
  const asked = [
    [a, 1],
    [b, 1],
    [a, 2],
    [a, '1'],
    [a, undefined],
    [a, null],
    [a, 1, b],
    [a, b],
    [a, undefined, b],
    [a, '1.object:2'],
  ] as const;
  const first = asked.map((args) => ask(...(args as [object, unknown])));
  expect(new Set(first).size).toBe(asked.length);
  expect(asked.map((args) => ask(...(args as [object, unknown])))).toEqual(first);
  expect([times(), asked.every((args, k) => ask(...(args as [object, unknown])) === first[k])]).toEqual([
    asked.length,
    true,
  ]);
});

test('of plain values so many are kept, and the one that was asked for last stays', () => {
  const { ask, times } = counted({ most: 2 });
  const a = {};
  const one = ask(a, 1);
  ask(a, 2);
  expect(ask(a, 1)).toBe(one);
  ask(a, 3);
  expect([ask(a, 1) === one, times()]).toEqual([true, 3]);
  ask(a, 2);
  expect(times()).toBe(4);
});

test('undefined is an answer; a fault is none', () => {
  let times = 0;
  const ask = derived((value: number) => {
    times += 1;
    if (value < 0) throw new RangeError('below');
    return undefined;
  });
  expect([ask(1), ask(1), times]).toEqual([undefined, undefined, 1]);
  expect(() => ask(-1)).toThrow('below');
  expect(() => ask(-1)).toThrow('below');
});

test('equal arguments that are not the same objects are known by what stands for them', () => {
  const { ask, times } = counted({ by: (of, words) => [of, JSON.stringify(words)] });
  const a = {};
  expect(ask(a, ['x', 'y'])).toBe(ask(a, ['x', 'y']));
  expect([ask(a, ['x']) === ask(a, ['x', 'y']), times()]).toEqual([false, 2]);
});

test('switched off, nothing is used and nothing kept; afterwards all is as it was', () => {
  const { ask, times } = counted();
  const a = {};
  const first = ask(a, 1);
  const other = withoutMemory(() => {
    expect(isRemembering()).toBe(false);
    return ask(a, 1);
  });
  expect([other === first, ask(a, 1) === first, times(), isRemembering()]).toEqual([false, true, 2, true]);
  expect(() =>
    withoutMemory(() => {
      throw new Error('in between');
    }),
  ).toThrow('in between');
  expect(isRemembering()).toBe(true);
});
