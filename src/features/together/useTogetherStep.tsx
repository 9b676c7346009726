'use client';

import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import type { Group } from '../../core/keys';
import type { Work } from '../../core/work';
import { Player } from '../work/sound/player';
import type { Bench, Engraved, ViewContent } from '../work/step';
import { NoGroup } from './NoGroup';
import { TogetherDrawer } from './TogetherDrawer';
import { TogetherScore } from './TogetherScore';
import { TogetherTable } from './TogetherTable';
import { useTogether } from './useTogether';
import type { PickedBar } from './words';

/** The Together step: one tune for a whole group, each player with a part of their own. */
export function useTogetherStep(bench: Bench, isOpen: boolean): ViewContent {
  const { store, group } = bench;
  const work = useStore(store, ({ document }) => document);
  const quiet = useDeferredValue(work);
  const [picked, setPicked] = useState<PickedBar>();
  const [alone, setAlone] = useState<string>();
  const [player] = useState(() => new Player());
  useEffect(() => () => player.close(), [player]);
  useEffect(() => {
    if (!isOpen) player.stop();
  }, [isOpen, player]);
  const named = useMemo(() => group && withNames(group), [group]);
  const shownAlone = named?.players.some(({ id }) => id === alone) ? alone : undefined;
  if (!isOpen) return { drawer: () => null };
  if (!named || named.players.length === 0)
    return {
      body: () => <NoGroup groups={bench.studio.groups} isEmpty={named !== undefined} onGroup={bench.chooseGroup} />,
      drawer: () => <p>Everybody of a group gets a part of their own here: the tune, a second voice, the bass.</p>,
    };
  return {
    body: ({ draws }: Engraved) => (
      <Together
        bench={bench}
        group={named}
        work={work}
        quiet={quiet}
        draws={draws}
        player={player}
        picked={picked}
        onPick={setPicked}
        alone={shownAlone}
        onAlone={setAlone}
      />
    ),
    drawer: ({ draws }: Engraved) => (
      <TogetherDrawer
        bench={bench}
        group={named}
        work={quiet}
        draws={draws}
        picked={picked}
        onPick={setPicked}
        alone={shownAlone}
        onAlone={setAlone}
      />
    ),
    drawerWidth: 312,
  };
}

/** Players without a name are called by their place. */
function withNames(group: Group): Group {
  return {
    ...group,
    players: group.players.map((player, k) => (player.name ? player : { ...player, name: `Player ${k + 1}` })),
  };
}

function Together({
  bench,
  group,
  work,
  quiet,
  draws,
  player,
  picked,
  onPick,
  alone,
  onAlone,
}: {
  readonly bench: Bench;
  readonly group: Group;
  readonly work: Work;
  /** The same, perhaps a moment later: what is drawn. */
  readonly quiet: Work;
  readonly draws: Engraved['draws'];
  readonly player: Player;
  readonly picked: PickedBar | undefined;
  readonly onPick: (picked: PickedBar | undefined) => void;
  readonly alone: string | undefined;
  readonly onAlone: (player: string | undefined) => void;
}) {
  const made = useTogether(draws, quiet, group, alone, picked?.bar ?? 0);
  return (
    <div className="min-h-full bg-paper">
      <TogetherTable
        bench={bench}
        group={group}
        work={work}
        made={made.laidOut}
        changed={made.changed}
        player={player}
        alone={alone}
        onAlone={onAlone}
      />
      <TogetherScore made={made} player={player} picked={picked} onPick={onPick} alone={alone} />
    </div>
  );
}
