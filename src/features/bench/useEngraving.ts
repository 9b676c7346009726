'use client';

import { proxy, wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Work } from '../../core/levels/work';
import type { DrawRequest, LanesDrawn } from '../../engrave/benchEngraver';
import type { EngravedRow } from '../../engrave/engraver';
import type { PitchView } from '../../engrave/lanes';
import type { EngravingDoor } from './engraving.worker';

export interface Engraving extends LanesDrawn {
  /** By place; a row whose bars moved elsewhere is missing until it is drawn. */
  readonly rows: ReadonlyMap<number, EngravedRow>;
}

interface Wanted {
  readonly work: Work;
  readonly view: PitchView;
  readonly width: number;
  readonly staffSpace: number;
}

/**
 * Keeps the picture of the lanes in step with the work. What the server drew is shown until the worker has something newer.
 * @param nearBar which row to draw first, asked at the moment of drawing
 */
export function useEngraving(initial: Engraving, wanted: Wanted, nearBar: () => number): Engraving {
  const [engraving, setEngraving] = useState(initial);
  const door = useRef<Promise<Remote<EngravingDoor>>>(undefined);
  const near = useRef(nearBar);
  useEffect(() => { near.current = nearBar; }, [nearBar]);

  useEffect(() => {
    let worker: Worker | undefined;
    let isOpen = true;
    // The engraving library is large. It is fetched once the server's music is on screen, not while that is being painted.
    door.current = afterFirstFrame().then(() => {
      worker = new Worker(new URL('./engraving.worker.ts', import.meta.url), { type: 'module' });
      if (!isOpen) worker.terminate();
      return wrap<EngravingDoor>(worker);
    });
    return () => {
      isOpen = false;
      door.current = undefined;
      worker?.terminate();
    };
  }, []);

  const { work, view, width, staffSpace } = wanted;
  useEffect(() => {
    if (width <= 0) return;
    let isNewest = true;
    const request: DrawRequest = { work, view, width, staffSpace, nearBar: near.current() };
    const onLanes = (lanes: LanesDrawn) => {
      if (isNewest) setEngraving((before) => ({ ...lanes, rows: rowsThatFit(before.rows, lanes) }));
    };
    const onRow = (index: number, row: EngravedRow) => {
      // A row of an older request is still the right picture when its bars are; the newest draws over it soon.
      setEngraving((before) => (sameLine(before.lines[index], row) ? { ...before, rows: new Map(before.rows).set(index, row) } : before));
    };
    void door.current?.then((open) => (isNewest ? open.draw(request, proxy(onLanes), proxy(onRow)) : undefined));
    return () => { isNewest = false; };
  }, [work, view, width, staffSpace]);

  return engraving;
}

function afterFirstFrame(): Promise<void> {
  return new Promise((done) => requestAnimationFrame(() => setTimeout(done, 0)));
}

function sameLine(line: { readonly from: number; readonly to: number } | undefined, row: EngravedRow): boolean {
  return line !== undefined && line.from === row.from && line.to === row.to;
}

function rowsThatFit(rows: ReadonlyMap<number, EngravedRow>, lanes: LanesDrawn): ReadonlyMap<number, EngravedRow> {
  return new Map([...rows].filter(([index, row]) => sameLine(lanes.lines[index], row)));
}
