import { createStore } from 'zustand';
import type { Work } from '../src/core/work/work';
import type { Player, PlayerState } from '../src/features/work/sound/player';
import type { PlayWishes } from '../src/sound/playPlan';

/** A player without a loudspeaker: `asked` is what it was to play, newest last; it plays until it is stopped. */
export function playerStandIn(): {
  readonly player: Player;
  readonly asked: { readonly work: Work; readonly wishes: PlayWishes }[];
  readonly shares: unknown[];
} {
  const asked: { work: Work; wishes: PlayWishes }[] = [];
  const shares: unknown[] = [];
  const store = createStore<PlayerState>(() => ({ kind: 'still' }));
  const player = {
    store,
    play: async (work: Work, wishes: PlayWishes) => {
      asked.push({ work, wishes });
      store.setState({ kind: 'waking' }, true);
    },
    stop: () => store.setState({ kind: 'still' }, true),
    close: () => undefined,
    wake: () => undefined,
    setVolume: (volume: number) => void shares.push(['all', volume]),
    setShare: (who: string, share: number) => void shares.push([who, share]),
    begins: () => undefined,
    moment: () => undefined,
    beat: () => undefined,
  };
  return { player: player as unknown as Player, asked, shares };
}
