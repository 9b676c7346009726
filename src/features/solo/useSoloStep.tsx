'use client';

import { useRouter } from 'next/navigation';
import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { z } from 'zod';
import { useStore } from 'zustand';
import { storedWork } from '../../core/work/stored';
import { emptyChorus, FIRST_TAKE, keptTake, soloOfLevel } from '../../core/levels';
import { type Level, LEVELS } from '../../core/instruments';
import type { Tune } from '../../core/score';
import { readSolo, withoutTake } from '../../core/solos';
import { recipesOf } from '../../core/work';
import { useToast } from '../../ui/Toast';
import { send } from '../work/send';
import type { Bench, Engraved, ViewContent } from '../work/step';
import { Player } from '../work/sound/player';
import { LickSheet } from './LickSheet';
import { SoloDrawer } from './SoloDrawer';
import { SoloTakes, type ShownTake } from './SoloTakes';

/** Takes that stand under one another. */
const TAKES = 3;

/** The Solo step: an example solo for each level, in takes to choose from, with its plan and what its notes do. */
export function useSoloStep(bench: Bench, isOpen: boolean): ViewContent {
  const { store } = bench;
  const work = useStore(store, ({ document }) => document);
  const quiet = useDeferredValue(work);
  const [level, setLevel] = useState<Level>('beginner');
  const [isAll, setAll] = useState(false);
  const [first, setFirst] = useState(FIRST_TAKE);
  const [isAnalysed, setAnalysed] = useState(true);
  const [isReading, setReading] = useState(false);
  const read = useMemo(() => (isOpen && isReading ? readSolo(quiet.tune) : undefined), [isOpen, isReading, quiet.tune]);
  const [lifting, setLifting] = useState<{ readonly from: number; readonly to: number }>();
  const router = useRouter();
  const tell = useToast();
  const [player] = useState(() => new Player());
  useEffect(() => () => player.close(), [player]);
  useEffect(() => {
    if (!isOpen) player.stop();
  }, [isOpen, player]);
  const kept = recipesOf(quiet)[level].solo?.seed;
  const seeds = useMemo(() => {
    const next = Array.from({ length: TAKES + 1 }, (_, k) => first + k).filter((seed) => seed !== kept);
    return kept === undefined ? next.slice(0, TAKES) : [kept, ...next.slice(0, TAKES - 1)];
  }, [first, kept]);
  const shown = useMemo((): readonly ShownTake[] => {
    if (!isAll) return seeds.map((seed) => ({ level, seed, isKept: seed === kept }));
    const recipes = recipesOf(quiet);
    return LEVELS.map((one) => {
      const own = recipes[one].solo?.seed;
      return { level: one, seed: own ?? first, isKept: own !== undefined };
    });
  }, [isAll, seeds, level, kept, quiet, first]);
  const [firstSeed] = seeds;
  const made = useMemo(
    () => (isOpen && firstSeed !== undefined ? soloOfLevel(quiet.tune, level, quiet.recipes, firstSeed) : undefined),
    [isOpen, quiet, level, firstSeed],
  );
  if (!isOpen) return { drawer: () => null };
  const liftedLine = isReading ? quiet.tune : made?.tune;
  const begin = async (tune: Tune) => {
    const added = await send('/api/tunes/new', z.object({ id: z.string() }), {
      method: 'POST',
      json: storedWork({ tune, recipes: {} }),
    });
    if (added.ok) router.push(`/tunes/${added.value.id}/tune`);
    else tell(`${added.problem.message} Nothing was saved; please try again.`);
  };
  const keep = (of: Level, seed: number | undefined) => {
    const words = seed === undefined ? 'no solo kept' : `solo ${seed}`;
    store.getState().dispatch((present) => {
      const wishes = withoutTake(recipesOf(present)[of].solo ?? {});
      const made = seed === undefined ? undefined : soloOfLevel(present.tune, of, present.recipes, seed);
      const { plan, given, isPlanOfTake } =
        made && seed !== undefined ? keptTake(made, present.tune, wishes, seed) : wishes;
      return { kind: 'recipe', level: of, words, change: { solo: { seed, plan, given, isPlanOfTake } } };
    });
  };
  return {
    body: ({ draws }: Engraved) => (
      <SoloTakes
        work={quiet}
        level={level}
        onLevel={(next) => {
          setLevel(next);
          setAll(false);
        }}
        shown={shown}
        isAll={isAll}
        onAll={() => setAll(true)}
        isAnalysed={isAnalysed}
        onAnalysed={setAnalysed}
        draws={draws}
        player={player}
        onKeep={keep}
        onMore={() => setFirst(first + TAKES)}
        isReading={isReading}
        onReading={setReading}
      />
    ),
    drawer: () => (
      <>
        {lifting && liftedLine && <LickSheet line={liftedLine} {...lifting} onClose={() => setLifting(undefined)} />}
        <SoloDrawer
          work={work}
          level={level}
          made={made}
          read={read}
          isKept={kept !== undefined}
          seeds={seeds}
          takeOf={(seed) => soloOfLevel(quiet.tune, level, quiet.recipes, seed)}
          onVary={() => setFirst(first + TAKES)}
          onOwn={() => void begin(emptyChorus(quiet.tune))}
          onCopy={() => made && void begin({ ...made.tune, rights: quiet.tune.rights })}
          onLift={(from, to) => setLifting({ from, to })}
          onFile={bench.openFile}
          onDispatch={store.getState().dispatch}
        />
      </>
    ),
    drawerWidth: 320,
  };
}
