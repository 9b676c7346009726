'use client';

import { useDeferredValue, useState } from 'react';
import { useStore } from 'zustand';
import type { Bench, Engraved, StepView } from '../work/step';
import { LevelsDrawer } from './LevelsDrawer';

/** The Levels step: what each level does to the tune, bar by bar, and what is handed out. */
export function useLevelsStep(bench: Bench): StepView {
  const [saved, setSaved] = useState(bench.studio.saved);
  const { store } = bench;
  const quietWork = useDeferredValue(useStore(store, ({ document }) => document));
  const selection = useStore(store, (state) => state.selection);
  return {
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
        onChange={store.getState().change}
        onSelect={store.getState().select}
        onFile={bench.openFile}
        onGo={bench.openPage}
      />
    ),
  };
}
