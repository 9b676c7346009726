import { nameKey } from '../pitch';
import type { Key } from '../pitch';
import type { KeyForPlayer, RankedKey } from './rankKeys';
import { signatureText } from './reasons';

/** Somebody for whom a common key is much worse than one of their own would be. */
export interface Sufferer {
  readonly here: KeyForPlayer;
  /** Concert, and what it would be for them. */
  readonly own: Key;
  readonly there: KeyForPlayer;
}

/** From this cost more than in the best key of one's own a common key is misery: about as much as a level apart. Ours. */
const MISERY = 1.5;

/** Who suffers in a key of a ranking, by how much each of them would gain alone; the worst first. */
export function sufferersIn(ranking: readonly RankedKey[], key: RankedKey): readonly Sufferer[] {
  return key.players
    .flatMap((here, index): readonly Sufferer[] => {
      const best = ranking.reduce<RankedKey | undefined>((least, one) => {
        const cost = one.players[index]?.cost ?? Infinity;
        return least && (least.players[index]?.cost ?? Infinity) <= cost ? least : one;
      }, undefined);
      const there = best?.players[index];
      return best && there && here.cost - there.cost >= MISERY ? [{ here, own: best.key, there }] : [];
    })
    .toSorted((a, b) => b.here.cost - b.there.cost - (a.here.cost - a.there.cost));
}

/** The same in a sentence. */
export function suffererText({ here, own, there }: Sufferer): string {
  const { player } = here;
  const name = player.name || player.instrument.shortName;
  const reach = here.fits ? '' : ', and not all its notes are in reach';
  return `${name} reads ${nameKey(here.writtenKey)} (${signatureText(here.signature)})${reach}; by itself it would have ${nameKey(there.writtenKey)} (${signatureText(there.signature)}), sounding ${nameKey(own)}`;
}
