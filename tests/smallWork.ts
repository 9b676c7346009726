import { readAbc } from '../src/core/formats/abc/readAbc';
import type { Work } from '../src/core/work/work';

const read = readAbc('X:1\nC:Nobody\nM:4/4\nL:1/8\nK:Eb\n"Eb"B2 c2 e4 | "Bb7"d4 B4 | "Eb"g8 |]\n');

/** A small tune with one level. */
export function smallWork(title: string, perMinute = 60): Work {
  if (!read.ok) throw new Error('the tune of the tests is broken');
  return {
    tune: { ...read.value.tune, title },
    recipes: { beginner: { instrument: 'viola', keyAndTempo: { perMinute } } },
  };
}
