import { derived } from '../../derived';
import type { Beat, Ticks } from '../../time';
import { BEAT_RHYTHMS, type BeatRhythm, type BeatRhythmEntry, fits } from '../../work';

/** What a slot of a beat does: a note begins, it goes on, or there is silence. */
export type BeatSign = 'n' | 'h' | 'r';

/**
 * What may stand in a beat so far, slot by slot: `n`, `nn`, `hn`. The number of each tells states of one line apart.
 */
export type RhythmPrefixes = ReadonlyMap<string, number>;

/**
 * All beginnings of what is allowed in a beat.
 * @param starts where the slots of the beat begin, in twelfths of it
 */
export const prefixesOf = derived(freshPrefixes, {
  most: 200,
  by: (words, starts) => [words.join(' '), starts.join(' ')],
});

function freshPrefixes(words: readonly BeatRhythm[], starts: readonly number[]): RhythmPrefixes {
  const whole = (sign: BeatSign): string => sign + (sign === 'r' ? 'r' : 'h').repeat(starts.length - 1);
  const allowed = [
    whole('n'),
    whole('h'),
    whole('r'),
    ...words.filter((word) => fits(word, starts)).map((word) => written(BEAT_RHYTHMS[word], starts)),
  ];
  const prefixes = new Map<string, number>();
  for (const one of allowed)
    for (let length = 1; length <= one.length; length += 1) {
      const prefix = one.slice(0, length);
      if (!prefixes.has(prefix)) prefixes.set(prefix, prefixes.size + 1);
    }
  return prefixes;
}

const FIRST_SIGNS: Readonly<Record<BeatRhythmEntry['begins'], BeatSign>> = { note: 'n', held: 'h', rest: 'r' };

function written({ begins, notes = [], rest }: BeatRhythmEntry, starts: readonly number[]): string {
  let sign = FIRST_SIGNS[begins];
  return starts
    .map((at, k) => {
      if (k === 0) return sign;
      if (notes.includes(at)) sign = 'n';
      else if (at === rest) sign = 'r';
      else if (sign === 'n') sign = 'h';
      return sign;
    })
    .join('');
}

/** Places of a beat as twelfths of it. */
export function twelfthsIn(beat: Beat, starts: readonly Ticks[]): readonly number[] {
  return starts.map((start) => ((start - beat.start) * 12) / beat.length);
}
