'use client';

import { useRouter } from 'next/navigation';
import { useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { useStore } from 'zustand';
import type { Work } from '../../core/work';
import type { FirstPaint } from '../../engrave/benchEngraver';
import { HelpSheet } from '../../ui/HelpSheet';
import { HistoryDrawer } from '../history/HistoryDrawer';
import { Rail } from '../../ui/Rail';
import { Saver } from '../work/document/saver';
import type { Bench, StudioPage } from '../work/step';
import { tuneRemote } from '../work/tuneRemote';
import { useChosenGroup } from '../work/useChosenGroup';
import { useEngraving } from '../work/useEngraving';
import { historyKey, plainKey, useKeys } from '../work/useKeys';
import { createWorkStore } from '../work/workStore';
import { BenchDrawer } from './BenchDrawer';
import { BenchFoot } from './BenchFoot';
import { BenchHeader } from './BenchHeader';
import { BenchLanes } from './BenchLanes';
import { nearBar, useMusicWidth } from './lanePlaces';
import { stepName, type BenchStep } from './steps';
import { STEP_HELP, useSteps } from './stepTable';
import { WorkConflict } from './WorkConflict';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly work: Work;
  readonly step: BenchStep;
  readonly paint: FirstPaint;
  readonly staffSpace: number;
  readonly studio: StudioPage;
}

/**
 * The screen where one tune is worked on. The music stays in place from step to step; the drawer belongs to the step.
 */
export function BenchScreen({ id, version, work, step: firstStep, paint, staffSpace, studio }: Props) {
  const [store] = useState(() => createWorkStore(work, paint.view));
  const [step, setStep] = useState(firstStep);
  const [help, setHelp] = useState(false);
  const [versions, setVersions] = useState(false);
  const lanes = useRef<HTMLDivElement>(null);
  const saver = useSaver(id, version, work, store);
  const showBar = useCallback(
    (bar: number) => {
      store.getState().select({ lane: 'tune', bar });
      const button = lanes.current?.querySelector(`[data-lane="tune"][data-bar="${bar}"]`);
      button?.scrollIntoView({ block: 'nearest' });
    },
    [store],
  );
  const bench = useBench({ id, store, studio, showBar, saver });
  const view = useSteps(bench, step);

  const pitchView = useStore(store, (state) => state.view);
  const { width, labelWidth } = useMusicWidth(lanes, paint.width);
  const [initial] = useState(() => ({ ...paint, rows: new Map(paint.rows.map((row, index) => [index, row])) }));
  const wanted = { view: pitchView, width, staffSpace, lanes: view.lanes ?? 'all' } as const;
  const engraving = useEngraving(
    initial,
    store,
    wanted,
    () => view.caret?.()?.bar ?? nearBar(store.getState().selection, lanes.current),
  );
  // The drawer may lag behind the music by a moment, the music behind the keys may not.
  const infos = useDeferredValue(engraving.infos);
  const numbers = useDeferredValue(engraving.numbers);

  useKeys((event) => {
    const history = historyKey(event);
    if (history) {
      store.getState()[history]();
      return true;
    }
    const { view: pitch, setView, select } = store.getState();
    if (plainKey(event) === 'p') setView(pitch === 'written' ? 'sounding' : 'written');
    else if (event.key === '?' && plainKey(event)) setHelp(true);
    else if (event.key === 'Escape') select(undefined);
    return false;
  });

  const openStep = (next: BenchStep) => {
    view.leave?.();
    setVersions(false);
    setStep(next);
    window.history.replaceState(null, '', `/tunes/${id}/${next}`);
  };
  return (
    <div className="app-frame print-plain flex h-dvh">
      <Rail here="bench" onHelp={() => setHelp(true)} />
      <div className="print-plain flex min-w-0 flex-1 flex-col">
        <BenchHeader
          bench={bench}
          step={step}
          onStep={openStep}
          onHistory={view.takeFocus}
          onVersions={() => setVersions(!versions)}
          versionsOpen={versions}
        />
        <div className="print-plain flex min-h-0 flex-1 max-[899px]:flex-col">
          <BenchLanes
            bench={bench}
            view={view}
            lanesRef={lanes}
            surfaceRef={view.surfaceRef}
            engraving={engraving}
            width={width}
            labelWidth={labelWidth}
          />
          <BenchDrawer
            name={versions ? 'History' : stepName(step, work.tune)}
            width={versions ? undefined : view.drawerWidth}
          >
            {versions ? (
              <HistoryDrawer
                bench={bench}
                onClose={() => setVersions(false)}
                flush={async () => (await saver?.flush()) ?? false}
              />
            ) : (
              view.drawer({ infos, numbers, draws: engraving.draws })
            )}
          </BenchDrawer>
        </div>
        <BenchFoot
          bench={bench}
          view={view}
          infos={infos}
          numbers={engraving.numbers}
          onRetry={() => void saver?.flush()}
        />
      </div>
      <HelpSheet open={help} onClose={() => setHelp(false)} more={STEP_HELP} />
      {saver && <WorkConflict store={store} saver={saver} />}
    </div>
  );
}

/** Saves the work by itself, from the moment that the page is awake. */
function useSaver(id: string, version: number, work: Work, store: Bench['store']): Saver<Work> | undefined {
  const [saver, setSaver] = useState<Saver<Work>>();
  useEffect(() => {
    const made = new Saver(tuneRemote(id, 1), { version, document: work }, store);
    made.recover('Changes from last time');
    setSaver(made);
    return () => made.stop();
  }, [id, version, work, store]);
  return saver;
}

/** What the steps are given. The same object as long as nothing in it changed. */
function useBench({
  id,
  store,
  studio,
  showBar,
  saver,
}: Pick<Bench, 'id' | 'store' | 'studio' | 'showBar'> & { readonly saver: Saver<Work> | undefined }): Bench {
  const router = useRouter();
  const [groupId, chooseGroup] = useChosenGroup(id, studio.groups);
  const openAddress = useCallback(
    async (place: string, download: boolean) => {
      if (!(await saver?.flush())) return;
      const address = `/api/tunes/${id}/${place}`;
      if (!download) {
        window.open(address, '_blank', 'noopener');
        return;
      }
      const link = document.createElement('a');
      link.href = `${address}${place.includes('?') ? '&' : '?'}save`;
      link.click();
    },
    [saver, id],
  );
  const openPage = useCallback(
    async (page: string) => {
      if (await saver?.flush()) router.push(`/tunes/${id}/${page}`);
    },
    [saver, id, router],
  );
  return useMemo(
    () => ({
      id,
      store,
      studio,
      showBar,
      groupId,
      group: studio.groups.find((one) => one.id === groupId)?.group,
      chooseGroup,
      openFile: (name, download) => void openAddress(`files/${name}`, download),
      openGroupFile: (name, download) => void openAddress(`groups/${groupId}/${name}`, download),
      openPage: (page) => void openPage(page),
    }),
    [id, store, studio, showBar, groupId, chooseGroup, openAddress, openPage],
  );
}
