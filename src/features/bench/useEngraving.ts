'use client';

import { proxy, wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import type { Level } from '../../core/instruments/instrument';
import type { Work } from '../../core/levels/recipe/work';
import type { Clef } from '../../core/score/clef';
import type { Tune } from '../../core/score/tune';
import type { DrawnRow, DrawRequest, LanesDrawn } from '../../engrave/benchEngraver';
import type { EngravedRow } from '../../engrave/engraver';
import type { LaneSet, PitchView } from '../../engrave/lanes';
import type { BarVariant } from '../../engrave/variants';
import type { BenchStore } from './benchStore';
import type { EngravingDoor } from './engraving.worker';

export interface Engraving extends LanesDrawn {
  /** By place; a row whose bars moved elsewhere is missing until it is drawn. */
  readonly rows: ReadonlyMap<number, EngravedRow>;
}

/** What else the worker draws, on demand. */
export interface Draws {
  /** A bar in all its versions. */
  readonly variants: (work: Work, level: Level, bar: number) => Promise<readonly BarVariant[]>;
  /** A line alone, as it is being written. */
  readonly line: (tune: Tune, clef: Clef, width: number) => Promise<EngravedRow | undefined>;
  /** A level's line as one throw makes it. */
  readonly variationOf: (work: Work, level: Level, seed: number, width: number) => Promise<readonly EngravedRow[]>;
  /** A level through its form. */
  readonly through: (work: Work, level: Level, width: number) => Promise<readonly EngravedRow[]>;
}

interface Wanted {
  readonly view: PitchView;
  readonly width: number;
  readonly staffSpace: number;
  readonly lanes: LaneSet;
}

/**
 * Keeps the picture of the lanes in step with the work. What the server drew is shown until the worker has something newer.
 * A change of the work goes to the worker at once, before the page itself has drawn anything anew.
 * @param nearBar which row to draw first, asked at the moment of drawing
 */
export function useEngraving(
  initial: Engraving,
  store: BenchStore,
  wanted: Wanted,
  nearBar: () => number,
): Engraving & { readonly draws: Draws } {
  const [engraving, setEngraving] = useState(initial);
  const door = useRef<Promise<Remote<EngravingDoor>>>(undefined);
  /** The same once it is there: then nothing need wait for a turn of the event loop. */
  const opened = useRef<Remote<EngravingDoor>>(undefined);
  const near = useRef(nearBar);
  const newest = useRef(0);
  useEffect(() => {
    near.current = nearBar;
  }, [nearBar]);

  useEffect(() => {
    let worker: Worker | undefined;
    let isOpen = true;
    // The engraving library is large. It is fetched once the server's music is on screen, not while that is being painted.
    door.current = afterFirstFrame().then(() => {
      worker = new Worker(new URL('./engraving.worker.ts', import.meta.url), { type: 'module' });
      if (!isOpen) worker.terminate();
      opened.current = wrap<EngravingDoor>(worker);
      return opened.current;
    });
    return () => {
      isOpen = false;
      door.current = undefined;
      opened.current = undefined;
      worker?.terminate();
    };
  }, []);

  const { view, width, staffSpace, lanes: set } = wanted;
  const draw = useCallback(
    (work: Work) => {
      if (width <= 0) return;
      newest.current += 1;
      const mine = newest.current;
      const request: DrawRequest = { work, view, width, staffSpace, nearBar: near.current(), lanes: set };
      const onLanes = (lanes: LanesDrawn, first?: DrawnRow) => {
        if (mine !== newest.current) return;
        // What was just written shall be seen in the next frame, not when React finds the time.
        flushSync(() =>
          setEngraving((before) => {
            const rows = rowsThatFit(before.rows, lanes);
            return { ...lanes, rows: first ? new Map(rows).set(first.index, first.row) : rows };
          }),
        );
      };
      const onRow = (index: number, row: EngravedRow) => {
        // A row of an older request is still the right picture when its bars are; the newest draws over it soon.
        setEngraving((before) =>
          sameLine(before.lines[index], row) && row.geometry.staves.length === before.infos.length
            ? { ...before, rows: new Map(before.rows).set(index, row) }
            : before,
        );
      };
      const send = (open: Remote<EngravingDoor>) =>
        mine === newest.current ? open.draw(request, proxy(onLanes), proxy(onRow)) : undefined;
      if (opened.current) void send(opened.current);
      else void door.current?.then(send);
    },
    [view, width, staffSpace, set],
  );

  useEffect(() => {
    draw(store.getState().work);
    return store.subscribe((state, before) => {
      if (state.work !== before.work) draw(state.work);
    });
  }, [store, draw]);

  const draws = useMemo<Draws>(
    () => ({
      variants: async (work, level, bar) => (await (await door.current)?.variants(work, level, bar, view)) ?? [],
      line: async (tune, clef, wide) => (await door.current)?.line(tune, clef, wide),
      variationOf: async (work, level, seed, wide) =>
        (await (await door.current)?.variationOf(work, level, seed, view, wide)) ?? [],
      through: async (work, level, wide) => (await (await door.current)?.through(work, level, view, wide)) ?? [],
    }),
    [view],
  );
  return useMemo(() => ({ ...engraving, draws }), [engraving, draws]);
}

function afterFirstFrame(): Promise<void> {
  return new Promise((done) => requestAnimationFrame(() => setTimeout(done, 0)));
}

function sameLine(line: { readonly from: number; readonly to: number } | undefined, row: EngravedRow): boolean {
  return line !== undefined && line.from === row.from && line.to === row.to;
}

/** Rows whose bars stand where they stood, in as many lanes as before. */
function rowsThatFit(rows: ReadonlyMap<number, EngravedRow>, lanes: LanesDrawn): ReadonlyMap<number, EngravedRow> {
  return new Map(
    [...rows].filter(
      ([index, row]) => sameLine(lanes.lines[index], row) && row.geometry.staves.length === lanes.infos.length,
    ),
  );
}
