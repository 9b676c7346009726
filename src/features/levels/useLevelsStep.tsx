'use client';

import { useDeferredValue, useState } from 'react';
import { useStore } from 'zustand';
import { DrillLanes } from '../work/drills/DrillLanes';
import type { Bench, Engraved, ViewContent } from '../work/step';
import { LevelsDrawer } from './LevelsDrawer';

/** The Levels step: what each level does to the tune, bar by bar, and what is handed out. */
export function useLevelsStep(bench: Bench): ViewContent {
  const [saved, setSaved] = useState(bench.studio.saved);
  const { store } = bench;
  const work = useStore(store, ({ document }) => document);
  const quietWork = useDeferredValue(work);
  const isDrill = work.tune.drill !== undefined;
  const selection = useStore(store, (state) => state.selection);
  return {
    ...(isDrill && {
      body: ({ infos, draws }: Engraved) => (
        <DrillLanes
          work={quietWork}
          infos={infos}
          draws={draws}
          selection={selection}
          onSelect={store.getState().select}
        />
      ),
    }),
    drawer: ({ infos, numbers, draws }: Engraved) => (
      <LevelsDrawer
        work={quietWork}
        infos={infos}
        numbers={numbers}
        selection={selection}
        group={bench.group}
        groupId={bench.groupId}
        custom={bench.studio.custom}
        saved={saved}
        onSaved={setSaved}
        draws={draws}
        onDispatch={store.getState().dispatch}
        onSelect={store.getState().select}
        onFile={bench.openFile}
        onGo={bench.openPage}
      />
    ),
  };
}
