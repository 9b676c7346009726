'use client';

import { Tabs } from 'radix-ui';
import { useDeferredValue, useState } from 'react';
import { useStore } from 'zustand';
import { ALL_TONICS, patternName } from '../../core/drills';
import { LEVELS } from '../../core/instruments';
import { bestKeys, keyPlayers, keyTable, lanePlayer } from '../../core/keys';
import type { DrillIdea } from '../../core/score';
import { changedFields } from './setIdea';
import { DrawerTabs } from '../../ui/DrawerTabs';
import { DrillLanes } from '../work/drills/DrillLanes';
import type { Bench, Engraved, ViewContent } from '../work/step';
import { BorrowSheet } from '../work/BorrowSheet';
import { DrillPaper } from './DrillPaper';
import { DrillWords } from './DrillWords';
import { PatternShelf } from './PatternShelf';
import { TuneDrills } from './TuneDrills';
import { VariantGrid } from './VariantGrid';

type Tab = 'patterns' | 'variants' | 'paper';
const TAB_NAMES: Readonly<Record<Tab, string>> = { patterns: 'Patterns', variants: 'Variants', paper: 'Paper' };

/**
 * The Drills step: of a tune, the drills that it asks for; of a drill, the sentence that makes it and its music key by
 * key.
 */
export function useDrillsStep(bench: Bench, isOpen: boolean): ViewContent {
  const { store } = bench;
  const work = useStore(store, ({ document }) => document);
  const selection = useStore(store, (state) => state.selection);
  const quiet = useDeferredValue(work);
  const [tab, setTab] = useState<Tab>('patterns');
  const [isBorrowing, setBorrowing] = useState(false);
  const idea = work.tune.drill;
  if (!isOpen) return { drawer: () => null };
  if (!idea)
    return {
      drawer: ({ infos, numbers }: Engraved) => <TuneDrills work={quiet} infos={infos} numbers={numbers} />,
    };
  const onIdea = (what: string, next: DrillIdea) =>
    store.getState().dispatch({ kind: 'idea', words: what, change: changedFields(idea, next) });
  const { group } = bench;
  const friendly = group && {
    name: group.name,
    find: () => bestKeys(keyTable(idea, keyPlayers(group), ALL_TONICS)).slice(0, FRIENDLY),
  };
  const players = group ? keyPlayers(group) : LEVELS.map((level) => lanePlayer(work, level));
  const hasFrets = players.some(({ instrument }) => instrument.mechanism.kind === 'fretted');
  const readers = [...new Map(players.map(({ instrument }) => [instrument.id, instrument])).values()].filter(
    ({ transposition }) => transposition.chromatic % 12 !== 0,
  );
  const [first, ...rest] = idea.steps;
  return {
    head: (
      <>
        <DrillWords
          idea={idea}
          onIdea={onIdea}
          friendly={friendly}
          hasFrets={hasFrets}
          onBorrow={() => setBorrowing(true)}
          readers={readers}
          title={work.tune.title}
          onTitle={(title) =>
            store.getState().dispatch({ kind: 'details', words: `title ${title}`, details: { title } })
          }
        />
        {isBorrowing && (
          <BorrowSheet
            onClose={() => setBorrowing(false)}
            onTake={(borrowed, title) => {
              setBorrowing(false);
              onIdea(`The rhythm of ${title}`, {
                ...idea,
                borrowed,
                steps: [{ ...first, rhythm: 'borrowed' }, ...rest],
              });
            }}
          />
        )}
      </>
    ),
    body: ({ infos, draws }: Engraved) => (
      <DrillLanes work={quiet} infos={infos} draws={draws} selection={selection} onSelect={store.getState().select} />
    ),
    drawer: ({ draws }: Engraved) => (
      <DrawerTabs label="About this drill" names={TAB_NAMES} value={tab} onChange={setTab}>
        <Tabs.Content value="patterns">
          <PatternShelf
            set={first.set}
            chosen={first.pattern}
            hasForm={idea.over !== undefined}
            draws={draws}
            onPick={(pattern) =>
              onIdea(`Pattern: ${patternName(pattern)}`, { ...idea, steps: [{ ...first, pattern }, ...rest] })
            }
          />
        </Tabs.Content>
        <Tabs.Content value="variants">
          <VariantGrid idea={idea} onIdea={onIdea} />
        </Tabs.Content>
        <Tabs.Content value="paper">
          <DrillPaper bench={bench} idea={idea} onIdea={onIdea} />
        </Tabs.Content>
      </DrawerTabs>
    ),
    drawerWidth: 300,
  };
}

/** How many keys a group is given. */
const FRIENDLY = 6;
