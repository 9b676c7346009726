'use client';

import { proxy, wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import type { ScaleName } from '../../core/harmony';
import type { Level } from '../../core/instruments';
import { type CarriedOut, isWorkMissed, type Work, type WorkMessage, WorkSender } from '../../core/work';
import type { Clef, Tune } from '../../core/score';
import type { DrawnRow, LanesDrawn } from '../../engrave/benchEngraver';
import type { DrillSink } from '../../engrave/drillEngraver';
import type { EngravedRow } from '../../engrave/engraver';
import type { StemlessScore } from '../../core/formats';
import type { PatternPicture } from '../../engrave/patternPictures';
import type { PoolPage, PoolRow } from '../../engrave/poolRows';
import type { LaneSet, PitchView } from '../../engrave/lanes';
import type { TogetherSink, TogetherVersion, TogetherWishes } from '../../engrave/togetherEngraver';
import type { BarVariant } from '../../engrave/variants';
import type { Group } from '../../core/keys';
import type { EngravingApi } from './engraving.worker';
import { RowsShown, type RowsInPlace } from './rowsShown';
import type { WorkStore } from './workStore';

/** What else the worker draws, on demand. */
export interface Draws {
  /** A bar in all its versions. */
  readonly variants: (work: Work, level: Level, bar: number) => Promise<readonly BarVariant[]>;
  /** A line alone, as it is being written. */
  readonly line: (tune: Tune, clef: Clef, width: number) => Promise<EngravedRow | undefined>;
  /** A level's line in one variation. */
  readonly variationOf: (work: Work, level: Level, seed: number, width: number) => Promise<readonly EngravedRow[]>;
  /** Notes to improvise with, a row of chords at a time. */
  readonly pools: (score: StemlessScore, page: PoolPage, quiet: ReadonlySet<string>) => Promise<readonly PoolRow[]>;
  /** A drill, key by key. What is told belongs to the newest request alone. */
  readonly drill: (work: Work, width: number, sink: DrillSink) => Promise<void>;
  /** A take of a level's solo. */
  readonly solo: (
    work: Work,
    wishes: { readonly level: Level; readonly seed: number; readonly slot: number; readonly isAnalysed: boolean },
    width: number,
  ) => Promise<readonly EngravedRow[]>;
  /** A tune read as a solo. */
  readonly readTune: (tune: Tune, width: number) => Promise<readonly EngravedRow[]>;
  /** The first bars of patterns over a set, by their names. */
  readonly patterns: (set: ScaleName, ids: readonly string[]) => Promise<readonly PatternPicture[]>;
  /** A tune that a group plays together, row by row. */
  readonly together: (work: Work, wishes: Omit<TogetherWishes, 'view'>, sink: TogetherSink) => Promise<void>;
  /** A bar of a player of a group in its versions. */
  readonly togetherVersions: (
    work: Work,
    group: Group,
    player: string,
    bar: number,
  ) => Promise<readonly TogetherVersion[]>;
  /** A level through its form. */
  readonly through: (work: Work, level: Level, width: number) => Promise<readonly EngravedRow[]>;
}

export interface Engraving extends RowsInPlace {
  readonly draws: Draws;
}

interface Wanted {
  readonly view: PitchView;
  readonly width: number;
  readonly staffSpace: number;
  readonly lanes: LaneSet;
}

/** The worker, and what it was told last. */
interface Open {
  readonly api: Remote<EngravingApi>;
  readonly works: WorkSender;
}

/**
 * Keeps the picture of the lanes in step with the work. What the server drew is shown until the worker has something
 * newer. A change of the work goes to the worker at once, before the page itself has drawn anything anew.
 * @param nearBar which row to draw first, asked at the moment of drawing
 */
export function useEngraving(initial: RowsInPlace, store: WorkStore, wanted: Wanted, nearBar: () => number): Engraving {
  const [shown] = useState(() => new RowsShown(initial));
  const [rows, setRows] = useState(initial);
  const opening = useRef<Promise<Open>>(undefined);
  /** The same once it is there: then nothing need wait for a turn of the event loop. */
  const opened = useRef<Open>(undefined);
  const near = useRef(nearBar);
  const newest = useRef(0);
  useEffect(() => {
    near.current = nearBar;
  }, [nearBar]);

  useEffect(() => {
    let worker: Worker | undefined;
    let isOpen = true;
    // The engraving library is large. It is fetched once the server's music is on screen, not while that is being
    // painted.
    opening.current = afterFirstFrame().then(() => {
      worker = new Worker(new URL('./engraving.worker.ts', import.meta.url), { type: 'module' });
      if (!isOpen) worker.terminate();
      opened.current = { api: wrap<EngravingApi>(worker), works: new WorkSender() };
      return opened.current;
    });
    return () => {
      isOpen = false;
      opening.current = undefined;
      opened.current = undefined;
      worker?.terminate();
    };
  }, []);

  const { view, width, staffSpace, lanes: set } = wanted;
  const draw = useCallback(
    (work: Work, change?: CarriedOut) => {
      if (width <= 0) return;
      newest.current += 1;
      const mine = newest.current;
      const nearest = near.current();
      const onLanes = (lanes: LanesDrawn, first?: DrawnRow) => {
        if (mine !== newest.current) return;
        const next = shown.lanes(lanes, first, nearest);
        // What was just written shall be seen in the next frame, not when React finds the time.
        flushSync(() => setRows(next));
      };
      const onRow = (index: number, row: EngravedRow) => setRows(shown.row(index, row));
      const send = (open: Open) => {
        if (mine !== newest.current) return;
        const request = { view, width, staffSpace, nearBar: nearest, lanes: set };
        void told(
          open,
          work,
          (message) => open.api.draw({ work: message, ...request }, proxy(onLanes), proxy(onRow)),
          change,
        );
      };
      if (opened.current) send(opened.current);
      else void opening.current?.then(send);
    },
    [shown, view, width, staffSpace, set],
  );

  useEffect(() => {
    draw(store.getState().document);
    return store.subscribe((state, before) => {
      if (state.document !== before.document) draw(state.document, state.lastChange);
    });
  }, [store, draw]);

  const draws = useMemo<Draws>(() => {
    /** Asks the worker, once it is there; the work is told at the moment of asking, so that none overtakes another. */
    const ask = async <Answer>(question: (open: Open) => Promise<Answer>, none: Answer): Promise<Answer> => {
      const open = await opening.current;
      return open ? question(open) : none;
    };
    const about = <Answer>(
      work: Work,
      question: (api: Open['api'], message: WorkMessage) => Promise<Answer>,
      none: Answer,
    ): Promise<Answer> => ask((open) => told(open, work, (message) => question(open.api, message)), none);
    return {
      variants: (work, level, bar) => about(work, (api, message) => api.variants(message, level, bar, view), []),
      line: (tune, clef, wide) => ask<EngravedRow | undefined>(({ api }) => api.line(tune, clef, wide), undefined),
      variationOf: (work, level, seed, wide) =>
        about(work, (api, message) => api.variationOf(message, level, seed, view, wide), []),
      pools: (score, page, quiet) => ask(({ api }) => api.pools(score, page, quiet), []),
      drill: (work, wide, { laidOut, rows: onRows }) =>
        about<void>(work, (api, message) => api.drill(message, view, wide, proxy(laidOut), proxy(onRows)), undefined),
      solo: (work, wishes, wide) => about(work, (api, message) => api.solo(message, wishes, view, wide), []),
      together: (work, wishes, { laidOut, row: onRow }) =>
        about<void>(
          work,
          (api, message) => api.together(message, { ...wishes, view }, proxy(laidOut), proxy(onRow)),
          undefined,
        ),
      togetherVersions: (work, group, player, bar) =>
        about(work, (api, message) => api.togetherVersions(message, group, player, bar, view), []),
      readTune: (tune, wide) => ask(({ api }) => api.readTune(tune, wide), []),
      patterns: (set, ids) => ask(({ api }) => api.patterns(set, ids), []),
      through: (work, level, wide) => about(work, (api, message) => api.through(message, level, view, wide), []),
    };
  }, [view]);
  return useMemo(() => ({ ...rows, draws }), [rows, draws]);
}

/**
 * Tells the worker a work and asks something about it; one that has missed what came before is told the whole, once.
 */
async function told<Answer>(
  { works }: Open,
  work: Work,
  question: (message: WorkMessage) => Promise<Answer>,
  change?: CarriedOut,
): Promise<Answer> {
  try {
    return await question(works.next(work, change));
  } catch (error) {
    if (!isWorkMissed(error)) throw error;
    return question(works.whole(work));
  }
}

function afterFirstFrame(): Promise<void> {
  return new Promise((done) => requestAnimationFrame(() => setTimeout(done, 0)));
}
