'use client';

import { wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import { type Work, WorkSender } from '../../core/work';
import type { EngravedRow } from '../../engrave/engraver';
import type { PitchView } from '../../engrave/lanes';
import type { StandWishes } from '../../engrave/variants';
import type { EngravingApi } from '../work/engraving.worker';

/** The rows of a part for the stand, drawn by a worker of their own; `undefined` until they are there. */
export function useStandRows(
  work: Work,
  { level, what, staffSpace, hasChords }: StandWishes,
  view: PitchView,
  width: number,
  /** Whether the worker may be fetched yet. */
  isReady: boolean,
): readonly EngravedRow[] | undefined {
  const [rows, setRows] = useState<readonly EngravedRow[]>();
  const open = useRef<{ readonly door: Remote<EngravingApi>; readonly works: WorkSender }>(undefined);
  useEffect(() => {
    if (!isReady) return undefined;
    const worker = new Worker(new URL('../work/engraving.worker.ts', import.meta.url), { type: 'module' });
    open.current = { door: wrap<EngravingApi>(worker), works: new WorkSender() };
    return () => {
      open.current = undefined;
      worker.terminate();
    };
  }, [isReady]);
  useEffect(() => {
    const { door, works } = open.current ?? {};
    if (!door || !works || width <= 0) return undefined;
    let isNewest = true;
    void door.stand(works.next(work), { level, what, staffSpace, hasChords }, view, width).then((made) => {
      if (isNewest) setRows(made);
    });
    return () => {
      isNewest = false;
    };
  }, [isReady, work, level, what, staffSpace, hasChords, view, width]);
  return rows;
}
