import { chanceFrom } from '../chance';

/**
 * What a metronome sounds of the beats: all; the weak ones (two and four); the first of each bar; every other bar; two
 * bars on and two off; or fewer and fewer, by dice.
 */
export const CLICK_PATTERNS = ['all', 'back-beats', 'first', 'every-other-bar', 'two-and-two', 'fading'] as const;
export type ClickPattern = (typeof CLICK_PATTERNS)[number];

/** How many of the beats are dropped at first, what is added a bar, and the most. */
const FADING = { first: 0.05, perBar: 0.04, most: 0.75 } as const;

/**
 * Whether a beat is clicked.
 * @param bar how many bars were played before, from 0
 * @param beat from 0, of so many in the bar
 * @param seed of the dice, for `fading`
 */
export function isClicked(pattern: ClickPattern, bar: number, beat: number, seed = 0): boolean {
  switch (pattern) {
    case 'all':
      return true;
    case 'back-beats':
      return beat % 2 === 1;
    case 'first':
      return beat === 0;
    case 'every-other-bar':
      return bar % 2 === 0;
    case 'two-and-two':
      return bar % 4 < 2;
    case 'fading':
      return chanceFrom(`clicks/${seed}/${bar}/${beat}`)() >= Math.min(FADING.most, FADING.first + FADING.perBar * bar);
  }
}
