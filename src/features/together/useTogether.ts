import { useEffect, useRef, useState } from 'react';
import type { Group } from '../../core/keys';
import type { Work } from '../../core/work';
import type { EngravedRow } from '../../engrave/engraver';
import type { TogetherLaidOut } from '../../engrave/togetherEngraver';
import type { Draws } from '../work/useEngraving';
import { useWidth } from '../work/useWidth';
import { changesBetween } from './words';

/** Room at the left for players' names, and after the last barline, CSS pixels. */
export const LABEL = { wide: 124, narrow: 44, from: 600 } as const;
const MARGIN = 16;

/** What the worker made of a tune for a group, as far as it is there. */
export interface TogetherMade {
  readonly frame: React.RefObject<HTMLDivElement | null>;
  readonly label: number;
  readonly width: number;
  readonly laidOut: TogetherLaidOut | undefined;
  readonly rows: ReadonlyMap<number, EngravedRow>;
  /** What the last change made otherwise for others, in sentences. */
  readonly changed: readonly string[];
}

/** Asks the worker whenever tune, group or width change; only the newest answer counts. */
export function useTogether(
  draws: Draws,
  work: Work,
  group: Group,
  alone: string | undefined,
  nearBar: number,
): TogetherMade {
  const frame = useRef<HTMLDivElement>(null);
  const whole = useWidth(frame);
  const label = whole < LABEL.from ? LABEL.narrow : LABEL.wide;
  const width = Math.max(0, whole - label - MARGIN);
  const [laidOut, setLaidOut] = useState<TogetherLaidOut>();
  const [rows, setRows] = useState<ReadonlyMap<number, EngravedRow>>(new Map());
  const [changed, setChanged] = useState<readonly string[]>([]);
  const before = useRef<{ readonly made: TogetherLaidOut; readonly group: Group; readonly tune: Work['tune'] }>(
    undefined,
  );
  const near = useRef(nearBar);
  useEffect(() => {
    near.current = nearBar;
  }, [nearBar]);
  useEffect(() => {
    if (width <= 0) return undefined;
    let isNewest = true;
    void draws.together(
      work,
      { group, width, nearBar: near.current, ...(alone !== undefined && { alone }) },
      {
        laidOut: (made) => {
          if (!isNewest) return;
          const last = before.current;
          // Somebody ill, a level, a cell: what follows for others is told. Another group is another arrangement.
          if (last && last.group === group && last.tune !== work.tune) setChanged(changesBetween(last.made, made));
          else if (last?.group !== group) setChanged([]);
          before.current = { made, group, tune: work.tune };
          setLaidOut(made);
        },
        row: (index, row) => {
          if (isNewest) setRows((all) => (all.get(index)?.svg === row.svg ? all : new Map(all).set(index, row)));
        },
      },
    );
    return () => {
      isNewest = false;
    };
  }, [draws, work, group, alone, width]);
  return { frame, label, width, laidOut, rows, changed };
}
