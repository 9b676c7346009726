'use client';

import { useLayoutEffect, useMemo, useRef, useState, type PointerEvent } from 'react';
import { useStore } from 'zustand';
import {
  type Caret,
  compareCarets,
  eventAt,
  eventsIn,
  forecast,
  movePitches,
  settled,
  type Stretch,
} from '../../../core/score/edit';
import type { EngravedRow } from '../../../engrave/engraver';
import { eventBoxes, xAt, type EventBox, type RowPlaces } from '../eventBoxes';
import type { WorkStore } from '../workStore';
import { lineBars, stretchOf, type Writing, type WritingLane } from './writingStore';

const ALONE: readonly WritingLane[] = ['tune'];
const BOTH: readonly WritingLane[] = ['tune', 'second'];

interface Props {
  readonly writing: Writing;
  readonly bench: WorkStore;
  readonly row: EngravedRow;
  readonly hasSecond: boolean;
  readonly onTouch: () => void;
}

/**
 * Lies over a row of music while it is written: shows caret, selection and what comes next; takes clicks and drags of
 * notes.
 */
export function WritingLayer({ writing, bench, row, hasSecond, onTouch }: Props) {
  const state = useStore(writing.store);
  const tune = useStore(bench, ({ document }) => document.tune);
  const lanes = hasSecond ? BOTH : ALONE;
  const layer = useRef<HTMLDivElement>(null);
  const bars = useMemo(() => lineBars(tune, state.lane), [tune, state.lane]);
  const lane = lanes.indexOf(state.lane) < 0 ? 'tune' : state.lane;
  const drag = useRef<{ readonly y: number; steps: number; readonly name: string; readonly id: string } | undefined>(
    undefined,
  );

  const staff = row.geometry.staves[Math.max(0, lanes.indexOf(lane))];
  const caret = settled(bars, state.caret);
  const stretch = stretchOf(state, bars);
  const ahead = useMemo(
    () => forecast({ ...tune, bars }, caret, writing.length),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the caret is made anew on every turn; its two numbers count
    [tune, bars, caret.bar, caret.at, writing, state.type, state.dotted],
  );
  const isWanted =
    isNear(row, caret, ahead.spans, stretch) ||
    bars.slice(row.from, row.to).some(({ events }) => events.some(({ id }) => state.touched.includes(id)));
  const places = useRowPlaces(layer, row, lane, bars, isWanted);
  const scale = (places?.width ?? row.geometry.width) / row.geometry.width;
  const [top, bottom] = [(staff?.top ?? 0) * scale, (staff?.bottom ?? 0) * scale];
  const isHere = caret.bar >= row.from && (caret.bar < row.to || (row.to === bars.length && caret.bar >= row.to - 1));

  const find = (
    event: PointerEvent,
  ): { readonly lane: WritingLane; readonly box: EventBox; readonly x: number; readonly y: number } | undefined => {
    const frame = layer.current?.getBoundingClientRect();
    const music = layer.current?.parentElement;
    if (!frame || !music) return undefined;
    const [x, y] = [event.clientX - frame.left, event.clientY - frame.top];
    const shown = music.clientWidth / row.geometry.width;
    const near =
      lanes
        .map((one, index) => {
          const own = row.geometry.staves[index];
          const middle = (((own?.top ?? 0) + (own?.bottom ?? 0)) / 2) * shown;
          return { one, away: Math.abs(y - middle) };
        })
        .toSorted((a, b) => a.away - b.away)[0]?.one ?? 'tune';
    const boxes = [...eventBoxes(music, near).values()].toSorted((a, b) => a.left - b.left);
    const box = boxes.findLast(({ left }) => left - 6 <= x) ?? boxes[0];
    return box && { lane: near, box, x, y };
  };
  const onPointerDown = (event: PointerEvent<HTMLDivElement>) => {
    if (event.button !== 0) return;
    event.preventDefault();
    onTouch();
    const found = find(event);
    if (!found) return;
    if (event.shiftKey && found.lane === lane) {
      const target = [...bars.entries()]
        .flatMap(([bar, { events }]) => {
          let at = 0;
          return events.map((one) => {
            const place = { id: one.id, caret: { bar, at }, end: { bar, at: at + one.length } };
            at += one.length;
            return place;
          });
        })
        .find(({ id }) => id === found.box.id);
      if (target) {
        const anchor = state.anchor ?? caret;
        const isAfter = compareCarets(target.caret, anchor) >= 0;
        writing.set({ anchor, caret: settled(bars, isAfter ? target.end : target.caret), touched: [] });
      }
      return;
    }
    writing.pick(found.lane, found.box.id);
    const space = (bottom - top) / 4 || 7;
    if (
      found.x <= found.box.right + 8 &&
      found.y > found.box.top - 2 * space &&
      found.y < found.box.bottom + 2 * space
    ) {
      drag.current = { y: event.clientY, steps: 0, name: `drag ${event.timeStamp}`, id: found.box.id };
      event.currentTarget.setPointerCapture(event.pointerId);
    }
  };
  const onPointerMove = (event: PointerEvent<HTMLDivElement>) => {
    const current = drag.current;
    if (!current) return;
    const halfSpace = (bottom - top) / 8 || 3.5;
    const wanted = Math.round((current.y - event.clientY) / halfSpace);
    const more = wanted - current.steps;
    if (more === 0) return;
    current.steps = wanted;
    writing.run((line, at) => movePitches(line, [current.id], { steps: more }, at), {
      merge: current.name,
      keepSelection: true,
    });
  };
  const endDrag = () => {
    drag.current = undefined;
  };

  const selected =
    places && stretch ? eventsIn(bars, stretch).filter(({ bar }) => bar >= row.from && bar < row.to) : [];
  const x = places && isHere ? (caret.bar < row.to ? xAt(places, caret) : undefined) : undefined;
  const touchedBoxes = places
    ? state.touched.flatMap((id) => {
        const box = places.boxes.get(id);
        return box ? [box] : [];
      })
    : [];
  return (
    <div
      ref={layer}
      className="no-print absolute inset-0 cursor-text touch-none"
      data-writing-row={row.from}
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={endDrag}
      onPointerCancel={endDrag}
    >
      {places &&
        selected.map(({ event, bar, start }) => {
          const left = xAt(places, { bar, at: start });
          const right = xAt(places, { bar, at: start + event.length });
          return left === undefined || right === undefined ? null : (
            <span
              key={event.id}
              aria-hidden="true"
              className="absolute rounded-sm bg-cane/16"
              style={{ left: left - 4, width: Math.max(14, right - left), top: top - 14, height: bottom - top + 28 }}
            />
          );
        })}
      {places &&
        ahead.spans
          .filter(({ bar }) => bar >= row.from && bar < row.to && !stretch)
          .map(({ bar, from, to }) => {
            const [left, right] = [xAt(places, { bar, at: from }), xAt(places, { bar, at: to })];
            return left === undefined || right === undefined ? null : (
              <span
                key={bar}
                aria-hidden="true"
                className="absolute border-b-2 border-cane/55 bg-cane/8"
                style={{ left: left - 2, width: Math.max(8, right - left - 2), top: bottom + 6, height: 7 }}
              />
            );
          })}
      {touchedBoxes.map((box) => (
        <span
          key={box.id}
          aria-hidden="true"
          className="absolute rounded-full outline outline-[1.5px] outline-cane/70"
          style={{
            left: box.left - 4,
            top: box.top - 4,
            width: box.right - box.left + 8,
            height: box.bottom - box.top + 8,
          }}
        />
      ))}
      {x !== undefined && (
        <span
          aria-hidden="true"
          data-caret=""
          className="absolute w-[2px] bg-cane"
          style={{ left: x - 5, top: top - 12, height: bottom - top + 24 }}
        >
          <span className="absolute -bottom-[2px] -left-[3px] h-[5px] w-[8px] rounded-sm bg-cane" />
        </span>
      )}
    </div>
  );
}

/** Whether anything of the caret, what it would write or the selection lies in a row. */
function isNear(
  row: EngravedRow,
  caret: Caret,
  spans: readonly { readonly bar: number }[],
  stretch: Stretch | undefined,
): boolean {
  const isIn = (bar: number) => bar >= row.from && bar < row.to;
  if (isIn(caret.bar) || spans.some(({ bar }) => isIn(bar))) return true;
  return stretch !== undefined && stretch.from.bar < row.to && stretch.to.bar >= row.from;
}

/** Measures the row again whenever its picture, its width or the line changes. */
function useRowPlaces(
  layer: React.RefObject<HTMLDivElement | null>,
  row: EngravedRow,
  lane: WritingLane,
  bars: RowPlaces['bars'],
  isWanted: boolean,
): (RowPlaces & { readonly width: number }) | undefined {
  const [places, setPlaces] = useState<RowPlaces & { readonly width: number }>();
  useLayoutEffect(() => {
    const music = layer.current?.parentElement;
    if (!music || !isWanted) {
      setPlaces(undefined);
      return undefined;
    }
    const measure = () => {
      const width = music.clientWidth;
      const scale = width / row.geometry.width;
      setPlaces({
        boxes: eventBoxes(music, lane),
        bars,
        from: row.from,
        width,
        edges: row.geometry.bars.map(({ x, width: wide }) => ({ x: x * scale, width: wide * scale })),
      });
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(music);
    return () => observer.disconnect();
  }, [layer, row, lane, bars, isWanted]);
  return places;
}

/** What the caret stands on, for the status line and for those who hear the page. */
export function caretText(writing: Writing): string {
  const { bars, caret, stretch, state } = writing;
  const whole = { ...writing.tune, bars };
  if (stretch) {
    const count = eventsIn(bars, stretch).length;
    return `${count === 1 ? 'one note or rest' : `${count} notes and rests`} selected`;
  }
  const ahead = forecast(whole, caret, writing.length).text;
  const here = eventAt(bars, caret);
  return `${state.lane === 'second' ? 'second part: ' : ''}next ${ahead}${here ? '' : ', at the end'}`;
}
