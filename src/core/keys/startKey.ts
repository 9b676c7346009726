import { profileOf } from '../instruments';
import { type Key, sameKey } from '../pitch';
import type { Tune } from '../score';
import type { KeyPlayer } from './player';
import { rankKeys, type RankedKey } from './rankKeys';

/** Nobody reads more sharps or flats than their level does. */
function isReadable({ players }: Pick<RankedKey, 'players'>): boolean {
  return players.every(({ player, signature }) => Math.abs(signature) <= profileOf(player.level).maxSignature);
}

/**
 * One concert key for all: the first of the ranking in which no beginner reads too many sharps or flats, else the first
 * of all.
 */
export function bestKey(tune: Tune, players: readonly KeyPlayer[], options: Parameters<typeof rankKeys>[2] = {}): Key {
  return bestRanked(rankKeys(tune, players, options))?.key ?? tune.key;
}

/** The same of a ranking that is there. */
export function bestRanked(ranking: readonly RankedKey[]): RankedKey | undefined {
  return ranking.find(isReadable) ?? ranking[0];
}

/** A key that a level begins in instead of the tune's own, and why. */
export interface StartKey {
  readonly key: Key;
  /** What is wrong with the tune's own key: notes out of reach, or the signature. */
  readonly because: 'range' | 'signature';
  readonly ranked: RankedKey;
}

/**
 * The key a beginner level begins in: the tune's own, unless it leaves notes out of reach or has too many accidentals
 * for somebody; then the best of the ranking. `undefined` where the tune's own stays. Rule, out of reach: another key
 * comes first.
 */
export function startKey(tune: Tune, players: readonly KeyPlayer[]): StartKey | undefined {
  const ranking = rankKeys(tune, players);
  const own = ranking.find(({ isOriginal }) => isOriginal);
  if (!own) return undefined;
  const isInReach = own.players.every(({ fits }) => fits);
  if (isInReach && isReadable(own)) return undefined;
  const better = ranking.find(isReadable);
  if (!better || sameKey(better.key, own.key) || better.cost >= own.cost) return undefined;
  return { key: better.key, because: isInReach ? 'signature' : 'range', ranked: better };
}
