import fc from 'fast-check';
import { chanceFrom } from './chance';
import { Lru } from './lru';
import { PairMemo } from './pairMemo';

describe('a bounded cache', () => {
  test('lets go of what was not asked for the longest', () => {
    const cache = new Lru<string, number>(2);
    cache.set('a', 1);
    cache.set('b', 2);
    expect(cache.get('a')).toBe(1);
    cache.set('c', 3);
    expect([cache.get('a'), cache.get('b'), cache.get('c')]).toEqual([1, undefined, 3]);
  });

  test('makes what it does not have, once', () => {
    const cache = new Lru<string, number>(4);
    const make = jest.fn(() => 7);
    expect([cache.getOr('a', make), cache.getOr('a', make), make.mock.calls.length]).toEqual([7, 7, 1]);
  });

  test('keeps nothing of what could not be made', () => {
    const cache = new Lru<string, number>(4);
    const broken = () => {
      throw new Error('broken');
    };
    expect(() => cache.getOr('a', broken)).toThrow('broken');
    expect([cache.size, cache.getOr('a', () => 5)]).toEqual([0, 5]);
  });

  test('never holds more than it may, and always what was set last', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5 }), fc.array(fc.nat(9), { maxLength: 60 }), (most, keys) => {
        const cache = new Lru<number, string>(most);
        for (const key of keys) {
          cache.set(key, `value ${key}`);
          expect(cache.size).toBeLessThanOrEqual(most);
          expect(cache.get(key)).toBe(`value ${key}`);
        }
        // Of the keys set last, as many different ones as there is room for are there.
        const last = [...new Set(keys.toReversed())].slice(0, most);
        expect(last.every((key) => cache.get(key) !== undefined)).toBe(true);
      }),
    );
  });
});

describe('what was made of two objects', () => {
  test('belongs to both of them, in their order', () => {
    const memo = new PairMemo<object, object, { readonly name: string }>();
    const [a, b] = [{}, {}];
    const first = memo.getOr(a, b, () => ({ name: 'a with b' }));
    expect(memo.getOr(a, b, () => ({ name: 'made again' }))).toBe(first);
    expect(memo.getOr(b, a, () => ({ name: 'b with a' })).name).toBe('b with a');
    expect(memo.getOr(a, a, () => ({ name: 'a with a' })).name).toBe('a with a');
  });
});

describe('chance that can be repeated', () => {
  const row = (words: string, count = 50) => {
    const chance = chanceFrom(words);
    return Array.from({ length: count }, chance);
  };

  test('the same words give the same row, other words another', () => {
    expect(row('kelp')).toEqual(row('kelp'));
    expect(row('kelp')).not.toEqual(row('help'));
    expect(row('')).toEqual(row(''));
  });

  test('throws lie from 0 up to 1, spread evenly enough', () => {
    const throws = row('slipway', 4_000);
    expect(throws.every((one) => one >= 0 && one < 1)).toBe(true);
    const tenths = Array.from({ length: 10 }, (_, k) => throws.filter((one) => Math.floor(one * 10) === k).length);
    expect(Math.min(...tenths)).toBeGreaterThan(320);
    expect(Math.max(...tenths)).toBeLessThan(480);
  });

  test('two rows that are read in turn do not disturb each other', () => {
    const [a, b] = [chanceFrom('a'), chanceFrom('b')];
    const mixed = Array.from({ length: 20 }, (_, k) => (k % 2 === 0 ? a() : b()));
    expect(mixed.filter((_, k) => k % 2 === 0)).toEqual(row('a', 10));
    expect(mixed.filter((_, k) => k % 2 === 1)).toEqual(row('b', 10));
  });
});
