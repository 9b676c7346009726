'use client';

import { useEffect, useState, type RefObject } from 'react';
import type { LaneId } from '../../engrave/lanes';
import type { Line } from '../../engrave/lines';
import type { Selection } from '../work/workStore';

/**
 * Room at the left of a row for the names of its lanes, CSS pixels: with words, or for the signs alone where the screen
 * is narrow.
 */
const LABEL_WIDTHS = { wide: 132, narrow: 58 } as const;
const NARROW = 600;
/** Room after the last barline; the class `pr-4` says the same. */
const RIGHT_MARGIN = 16;
const NARROWEST_MUSIC = 240;
/** A change of width as small as this is not worth drawing everything anew. */
const SAME_WIDTH = 12;

export interface MusicWidth {
  /** That the music may take, CSS pixels. */
  readonly width: number;
  readonly labelWidth: number;
}

/** The width that music may take, followed as the window changes; the server is told for the next first paint. */
export function useMusicWidth(lanes: RefObject<HTMLElement | null>, first: number): MusicWidth {
  const [measured, setMeasured] = useState<MusicWidth>({ width: first, labelWidth: LABEL_WIDTHS.wide });
  useEffect(() => {
    const element = lanes.current;
    if (!element) return undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const measure = () => {
      const labelWidth = element.clientWidth < NARROW ? LABEL_WIDTHS.narrow : LABEL_WIDTHS.wide;
      const width = Math.max(NARROWEST_MUSIC, Math.round(element.clientWidth - labelWidth - RIGHT_MARGIN));
      document.cookie = `music-width=${width}; path=/; max-age=31536000; samesite=lax`;
      setMeasured((before) =>
        Math.abs(before.width - width) < SAME_WIDTH && before.labelWidth === labelWidth
          ? before
          : { width, labelWidth },
      );
    };
    const observer = new ResizeObserver(() => {
      clearTimeout(timer);
      timer = setTimeout(measure, 120);
    });
    observer.observe(element);
    measure();
    return () => {
      clearTimeout(timer);
      observer.disconnect();
    };
  }, [lanes]);
  return measured;
}

/** The bar whose row is drawn first: the picked one, else the first row in view. */
export function nearBar(selection: Selection | undefined, lanes: HTMLElement | null): number {
  if (selection) return selection.bar;
  const top = lanes?.getBoundingClientRect().top ?? 0;
  const rows = [...(lanes?.querySelectorAll<HTMLElement>('[data-row]') ?? [])];
  return Number(rows.find((row) => row.getBoundingClientRect().bottom > top)?.dataset['row'] ?? 0);
}

/**
 * The bar that an arrow leads to: along the lane, to the lane above or below, and from the last lane into the next row.
 */
export function neighbourBar(
  key: string,
  at: Selection,
  { lanes, bars, lines }: { readonly lanes: readonly LaneId[]; readonly bars: number; readonly lines: readonly Line[] },
): Selection | undefined {
  const lane = lanes.indexOf(at.lane);
  const line = lines.findIndex(({ from, to }) => at.bar >= from && at.bar < to);
  const inLine = at.bar - (lines[line]?.from ?? 0);
  const toRow = (step: -1 | 1): Selection | undefined => {
    const next = lines[line + step];
    const nextLane = step > 0 ? lanes[0] : lanes.at(-1);
    return next && nextLane ? { lane: nextLane, bar: Math.min(next.to - 1, next.from + inLine) } : undefined;
  };
  const inLane = (index: number) => {
    const found = lanes[index];
    return found ? { ...at, lane: found } : undefined;
  };
  switch (key) {
    case 'ArrowLeft':
      return at.bar > 0 ? { ...at, bar: at.bar - 1 } : undefined;
    case 'ArrowRight':
      return at.bar < bars - 1 ? { ...at, bar: at.bar + 1 } : undefined;
    case 'ArrowUp':
      return lane > 0 ? inLane(lane - 1) : toRow(-1);
    case 'ArrowDown':
      return lane < lanes.length - 1 ? inLane(lane + 1) : toRow(1);
    case 'Home':
      return { ...at, bar: 0 };
    case 'End':
      return { ...at, bar: bars - 1 };
    default:
      return undefined;
  }
}

/** The button may be drawn only after the selection has moved there. */
export function focusBar(lanes: HTMLElement | null, { lane, bar }: Selection): void {
  requestAnimationFrame(() =>
    lanes?.querySelector<HTMLElement>(`[data-lane="${lane}"][data-bar="${bar}"]`)?.focus({ preventScroll: false }),
  );
}
