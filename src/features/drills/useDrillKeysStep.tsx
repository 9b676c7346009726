'use client';

import { useDeferredValue, useMemo } from 'react';
import { useStore } from 'zustand';
import { ALL_TONICS, tonicsInOrder } from '../../core/drills';
import { LEVELS } from '../../core/instruments';
import { bestKeys, keyPlayers, keyTable, lanePlayer } from '../../core/keys';
import { recipesOf } from '../../core/work';
import { chroma, namePitchClass, type PitchClass } from '../../core/pitch';
import type { DrillIdea } from '../../core/score';
import { DrillLanes } from '../work/drills/DrillLanes';
import type { Bench, Engraved, ViewContent } from '../work/step';
import { DrillKeysDrawer } from './DrillKeysDrawer';
import { DrillKeysGrid } from './DrillKeysGrid';
import { changedFields } from './setIdea';

/** The twelve keys as they stand in the table: round the fifths from C. */
const COLUMNS = tonicsInOrder('fifths', { step: 'C', alter: 0 });

/** The Keys step of a drill: through which keys it goes and in which order, weighed for everybody who plays it. */
export function useDrillKeysStep(bench: Bench, isOpen: boolean): ViewContent {
  const { store, group } = bench;
  const work = useStore(store, ({ document }) => document);
  const selection = useStore(store, (state) => state.selection);
  const quiet = useDeferredValue(work);
  const players = useMemo(
    () => (group ? keyPlayers(group) : LEVELS.map((level) => lanePlayer(quiet, level))),
    [group, quiet],
  );
  const idea = quiet.tune.drill;
  // Which keys are chosen changes nothing in what each of them means.
  const weighed = useMemo(() => idea && JSON.stringify({ ...idea, keys: undefined, start: undefined }), [idea]);
  const table = useMemo(() => {
    if (!isOpen || !idea) return [];
    const recipes = recipesOf(quiet);
    return keyTable(
      idea,
      players,
      COLUMNS,
      Object.fromEntries(LEVELS.map((level) => [level, recipes[level].drill ?? {}])),
    );
    // The idea is looked at through `weighed`.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [isOpen, weighed, players, quiet.recipes]);
  const ranked = useMemo(() => bestKeys(table), [table]);
  const now = work.tune.drill;
  if (!isOpen || !now) return { drawer: () => null };
  const onIdea = (what: string, next: DrillIdea) =>
    store.getState().dispatch({ kind: 'idea', words: what, change: changedFields(now, next) });
  const chosen = chosenKeys(now, ranked);
  const onKeys = (what: string, keys: readonly PitchClass[]) => {
    const { start: _, ...rest } = now;
    onIdea(what, { ...rest, keys });
  };
  const onToggle = (tonic: PitchClass) => {
    const kept = (chosen ?? []).filter((one) => chroma(one) !== chroma(tonic));
    const name = namePitchClass(tonic);
    if (kept.length === (chosen ?? []).length) onKeys(`Key added: ${name}`, [...kept, tonic]);
    else if (kept.length > 0) onKeys(`Key taken out: ${name}`, kept);
  };
  return {
    head: (
      <div className="no-print sticky top-0 z-20 overflow-x-auto border-b border-line bg-panel px-3 pt-1 pb-2">
        <DrillKeysGrid table={table} players={players} chosen={chosen} best={ranked[0]} onToggle={onToggle} />
      </div>
    ),
    body: ({ infos, draws }: Engraved) => (
      <DrillLanes work={quiet} infos={infos} draws={draws} selection={selection} onSelect={store.getState().select} />
    ),
    drawer: () => (
      <DrillKeysDrawer
        bench={bench}
        chosen={chosen}
        isByLevel={now.keys === undefined}
        isOverForm={now.over !== undefined}
        ranked={ranked}
        onKeys={onKeys}
        onByLevel={() => {
          const { keys: _, ...rest } = now;
          onIdea('Keys by level', rest);
        }}
      />
    ),
  };
}

/** The keys of a drill in their order, where they are the same for all levels. */
function chosenKeys({ keys, start }: DrillIdea, ranked: readonly PitchClass[]): readonly PitchClass[] | undefined {
  if (typeof keys === 'object') return keys;
  if (keys === undefined || keys === 'easiest') return undefined;
  return tonicsInOrder(keys, start ?? ranked[0] ?? ALL_TONICS[0] ?? { step: 'C', alter: 0 });
}
