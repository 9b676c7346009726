import { LRUCache } from 'lru-cache';
import { derived, isRemembering } from '../../derived';
import { type Pitch, semitones } from '../../pitch';
import { quartersPerMinute, type Tune } from '../../score';
import { shape, type Shaped, type ShapeWishes } from './shape';
import type { Source } from './source';
import type { Embellished } from '../embellish/embellish';

/** Tempos and seeds of one instrument that are remembered at a time. */
const MAX_LINES = 24;

/** A tune simplified or eased without bars set by hand, made once for all who want the same. */
export const sharedShape = derived(
  ({ tune, phrases }: Source, wishes: ShapeWishes): Shaped => shape(tune, phrases, wishes),
  {
    most: MAX_LINES,
    by: (source, { chosen: _, outOfReach, tempo, ...rest }) => {
      // A simplified melody is the same at any tempo.
      const speed = rest.melody === 'simplified' ? 0 : quartersPerMinute(tempo);
      return [source, JSON.stringify({ ...rest, speed, outOfReach: [...outOfReach] })];
    },
  },
);

/**
 * An embellished line with what was asked for it: whether the player has these pitches. Whoever answers alike gets the
 * same.
 */
interface SharedEmbellishing {
  readonly asked: ReadonlyMap<number, { readonly pitch: Pitch; readonly isFree: boolean }>;
  readonly made: Embellished;
}

/**
 * Players of many instruments have the same line in other octaves. Tuned by hand: what makes two requests alike is
 * known only while the first is worked out.
 */
const embellished = new WeakMap<Tune, LRUCache<string, readonly SharedEmbellishing[]>>();

export function sharedEmbellishing(
  base: Tune,
  name: string,
  isFree: (pitch: Pitch) => boolean,
  make: (isFree: (pitch: Pitch) => boolean) => Embellished,
): Embellished {
  if (!isRemembering()) return make(isFree);
  const byName = embellished.get(base) ?? new LRUCache<string, readonly SharedEmbellishing[]>({ max: MAX_LINES * 4 });
  embellished.set(base, byName);
  const known = byName.get(name) ?? [];
  const found = known.find(({ asked }) => [...asked.values()].every((one) => isFree(one.pitch) === one.isFree));
  if (found) return found.made;
  const asked = new Map<number, { readonly pitch: Pitch; readonly isFree: boolean }>();
  const made = make((pitch) => {
    const height = semitones(pitch);
    const before = asked.get(height);
    if (before) return before.isFree;
    const answer = isFree(pitch);
    asked.set(height, { pitch, isFree: answer });
    return answer;
  });
  byName.set(name, [...known.slice(-MAX_LINES), { asked, made }]);
  return made;
}
