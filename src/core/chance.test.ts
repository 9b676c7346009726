import { chanceFrom } from './chance';

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
