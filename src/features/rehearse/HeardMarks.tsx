'use client';

import { useLayoutEffect, useState, type RefObject } from 'react';
import type { Level } from '../../core/instruments';
import type { TakeReport } from '../../core/rehearsal';

interface Mark {
  readonly id: string;
  readonly x: number;
  readonly y: number;
  readonly sign: string;
}

/**
 * Marks are told apart by their signs: another name, an arrow back or on, an empty ring. The list beside says the same
 * in words.
 */
const SIGNS = { early: '←', late: '→', missed: '○' } as const;

/** What was not right, marked over the notes of the rows that are shown. */
export function HeardMarks({
  report,
  level,
  sheet,
  shown,
}: {
  readonly report: TakeReport | undefined;
  readonly level: Level;
  readonly sheet: RefObject<HTMLDivElement | null>;
  /** Changes with what is shown: places are read anew. */
  readonly shown: unknown;
}) {
  const [marks, setMarks] = useState<readonly Mark[]>([]);
  useLayoutEffect(() => {
    const frame = sheet.current;
    if (!frame || !report || report.isSilent) {
      setMarks([]);
      return;
    }
    const base = frame.getBoundingClientRect();
    setMarks(
      report.notes.flatMap(({ id, verdict, instead }): readonly Mark[] => {
        if (verdict.kind === 'right') return [];
        const picture = document.getElementById(`${level}:${id}`);
        const head = picture?.querySelector('.notehead') ?? picture;
        const staff = picture?.closest('.staff')?.querySelector('path')?.getBoundingClientRect();
        if (!head || !staff) return [];
        const place = head.getBoundingClientRect();
        return [
          {
            id,
            x: place.left + place.width / 2 - base.left,
            y: Math.min(place.top, staff.top) - base.top - 4,
            sign: verdict.kind === 'wrong' ? (instead ?? '×') : SIGNS[verdict.kind],
          },
        ];
      }),
    );
  }, [report, level, sheet, shown]);
  return (
    <div aria-hidden="true" data-marks className="pointer-events-none absolute inset-0 overflow-hidden">
      {marks.map(({ id, x, y, sign }) => (
        <span
          key={id}
          className="absolute -translate-x-1/2 -translate-y-full rounded bg-warn px-1 text-[12.5px] leading-4.5 font-semibold text-white"
          style={{ left: x, top: y }}
        >
          {sign}
        </span>
      ))}
    </div>
  );
}
