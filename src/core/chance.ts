/** A number from 0 up to 1 at each call, the same row for the same words. */
export type Chance = () => number;

/**
 * Chance that can be repeated: the words are hashed (FNV-1a) and carried on by a mulberry32 generator, both in the
 * public domain. The core knows no other chance, so that equal decisions give equal parts.
 */
export function chanceFrom(words: string): Chance {
  let state = 0x811c9dc5;
  for (let k = 0; k < words.length; k += 1) state = Math.imul(state ^ words.charCodeAt(k), 0x01000193);
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}
