'use client';

import { useCallback, useDeferredValue, useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { type Level, LEVELS } from '../../core/instruments';
import { type PlayerPools, poolsOfLevel } from '../../core/levels';
import type { Bench, Engraved, ViewContent } from '../work/step';
import { Player } from '../work/sound/player';
import { ImproviseDrawer } from './ImproviseDrawer';
import { RoadMap } from './RoadMap';
import type { Shown } from './shown';

/** The Improvise step: which notes may be used where, for each level. */
export function useImproviseStep(bench: Bench, isOpen: boolean): ViewContent {
  const { store } = bench;
  const work = useStore(store, ({ document }) => document);
  const view = useStore(store, (state) => state.view);
  const selection = useStore(store, (state) => state.selection);
  const quiet = useDeferredValue(work);
  const [shown, setShown] = useState<Shown>('beginner');
  const [level, setLevel] = useState<Level>('beginner');
  const [picked, setPicked] = useState<number>();
  const [player] = useState(() => new Player());
  useEffect(() => () => player.close(), [player]);
  useEffect(() => {
    if (!isOpen) player.stop();
  }, [isOpen, player]);

  const levels = useMemo<readonly Level[]>(() => (shown === 'three' ? LEVELS : [shown]), [shown]);
  const made = useMemo<readonly PlayerPools[]>(
    () => (isOpen ? levels.map((one) => poolsOfLevel(quiet, one, view)) : []),
    [isOpen, levels, quiet, view],
  );
  const current = made.find((one) => one.level === level) ?? made[0];
  const place = picked === undefined ? undefined : current?.pools.form.places[picked];
  // A bar picked elsewhere on the bench is picked here too.
  const bar = selection?.bar;
  const chosen = useMemo(() => {
    if (place && (bar === undefined || place.barIndex === bar)) return picked;
    const found =
      bar === undefined ? -1 : (current?.pools.form.places.findLastIndex(({ barIndex }) => barIndex <= bar) ?? -1);
    return found < 0 ? undefined : found;
  }, [place, picked, bar, current]);

  const pick = useCallback(
    (index: number, of: Level) => {
      setPicked(index);
      setLevel(of);
      const barIndex = made[0]?.pools.form.places[index]?.barIndex;
      if (barIndex !== undefined) store.getState().select({ lane: of, bar: barIndex });
    },
    [made, store],
  );
  const show = useCallback((next: Shown) => {
    setShown(next);
    if (next !== 'three') setLevel(next);
  }, []);

  if (!isOpen) return { drawer: () => null };
  return {
    body: ({ draws }: Engraved) => (
      <RoadMap
        made={made}
        shown={shown}
        onShown={show}
        picked={chosen}
        pickedLevel={level}
        onPick={pick}
        draws={draws}
        isWritten={view === 'written'}
        onDispatch={store.getState().dispatch}
      />
    ),
    drawer: () =>
      current && (
        <ImproviseDrawer
          work={work}
          made={current}
          level={current.level}
          onLevel={(next) => {
            setLevel(next);
            if (shown !== 'three') setShown(next);
          }}
          picked={chosen}
          isWritten={view === 'written'}
          player={player}
          onDispatch={store.getState().dispatch}
          onFile={bench.openFile}
        />
      ),
    drawerWidth: 316,
  };
}
