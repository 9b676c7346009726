'use client';

import { becoming, withRecipe, type Work } from '../../core/work';
import { useCallback, useDeferredValue, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { type Level, LEVELS } from '../../core/instruments';
import { type Group, type KeyPlayer, keyPlayers, lanePlayer, rankKeys, withStartKey } from '../../core/keys';
import { type Key, nameKey } from '../../core/pitch';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import type { Bench, Engraved, ViewContent } from '../work/step';
import { KeysDrawer, sharedKey, type KeyScope } from './KeysDrawer';
import { KeysGrid, type KeyOrder } from './KeysGrid';

/** The Keys step: the twelve keys weighed for a group, and what follows for each level. */
export function useKeysStep(bench: Bench, isOpen: boolean): ViewContent {
  const { store, group } = bench;
  const work = useStore(store, ({ document }) => document);
  const quietWork = useDeferredValue(work);
  const [scope, setScope] = useState<KeyScope>('all');
  const [order, setOrder] = useState<KeyOrder>('fifths');
  const ranking = useMemo(() => {
    if (!isOpen) return [];
    const { recordingKey } = quietWork.tune;
    return rankKeys(
      quietWork.tune,
      playersFor(quietWork, group, scope),
      recordingKey ? { recording: recordingKey } : {},
    );
  }, [isOpen, quietWork, group, scope]);
  const chosenKey = useMemo(() => sharedKey(work, scope), [work, scope]);
  const onKey = useCallback(
    (key: Key) => {
      const levels: readonly Level[] = scope === 'all' ? LEVELS : [scope];
      store.getState().dispatch((present) =>
        becoming(
          `${scope === 'all' ? 'All levels' : LEVEL_NAMES[scope]}: ${nameKey(key)}`,
          present,
          levels.reduce<Work>((after, level) => withRecipe(after, level, { keyAndTempo: { key } }), present),
        ),
      );
    },
    [store, scope],
  );
  // A group's beginners may need another key than the lane's instrument did.
  const onGroup = useCallback(
    (id: string) => {
      bench.chooseGroup(id);
      const chosen = bench.studio.groups.find((one) => one.id === id)?.group;
      store
        .getState()
        .dispatch((present) => becoming('Beginner: the key to begin in', present, withStartKey(present, chosen)));
    },
    [bench, store],
  );
  return {
    head: (
      <div className="no-print sticky top-0 z-20 overflow-x-auto border-b border-line bg-panel">
        <KeysGrid ranking={ranking} order={order} chosen={chosenKey} onChoose={onKey} />
      </div>
    ),
    drawer: ({ infos }: Engraved) => (
      <KeysDrawer
        work={quietWork}
        infos={infos}
        groups={bench.studio.groups}
        groupId={bench.groupId}
        onGroup={onGroup}
        players={playersFor(quietWork, group, 'all')}
        scope={scope}
        onScope={setScope}
        order={order}
        onOrder={setOrder}
        best={ranking[0]}
        ranking={ranking}
        onKey={onKey}
        onDispatch={store.getState().dispatch}
        onSelect={store.getState().select}
      />
    ),
  };
}

/** Whom the keys are weighed for: the group's players, or the lanes' instruments where no group is chosen. */
function playersFor(work: Work, group: Group | undefined, scope: KeyScope): readonly KeyPlayer[] {
  const players = group ? keyPlayers(group) : LEVELS.map((level) => lanePlayer(work, level));
  return scope === 'all' ? players : players.filter(({ level }) => level === scope);
}
