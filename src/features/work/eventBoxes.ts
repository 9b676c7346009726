import type { Caret } from '../../core/score/edit';
import type { Bar, EventId } from '../../core/score';
import type { Ticks } from '../../core/time';

/** Where an event is drawn, in CSS pixels from the row's left and top. */
export interface EventBox {
  readonly id: EventId;
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

/** The boxes of a lane's events in a row of music, as the page shows it now. */
export function eventBoxes(row: HTMLElement, lane: string): ReadonlyMap<EventId, EventBox> {
  const frame = row.getBoundingClientRect();
  const boxes = new Map<EventId, EventBox>();
  for (const element of row.querySelectorAll(
    `g.note[id^="${lane}:"], g.rest[id^="${lane}:"], g.mRest[id^="${lane}:"]`,
  )) {
    // A note's own box takes its stem and flags in; where it stands is told by its head.
    const { left, right, top, bottom } = (element.querySelector('.notehead') ?? element).getBoundingClientRect();
    const id = element.id.slice(lane.length + 1);
    boxes.set(id, {
      id,
      left: left - frame.left,
      right: right - frame.left,
      top: top - frame.top,
      bottom: bottom - frame.top,
    });
  }
  return boxes;
}

export interface RowPlaces {
  readonly boxes: ReadonlyMap<EventId, EventBox>;
  readonly bars: readonly Bar[];
  readonly from: number;
  /** Left edge and width of each bar of the row, CSS pixels. */
  readonly edges: readonly { readonly x: number; readonly width: number }[];
}

/** The x of a place in a bar of this row: on an event's head, or in between by its share of the time. */
export function xAt({ boxes, bars, from, edges }: RowPlaces, { bar, at }: Caret): number | undefined {
  const edge = edges[bar - from];
  if (!edge) return undefined;
  let start: Ticks = 0;
  let before: { readonly x: number; readonly at: Ticks } | undefined;
  for (const event of bars[bar]?.events ?? []) {
    const box = boxes.get(event.id);
    // A whole bar's rest is drawn in the middle; its time begins with the bar.
    const isAlone = event.kind === 'rest' && bars[bar]?.events.length === 1;
    const x = box && !isAlone ? box.left : edge.x + edge.width * 0.18;
    if (at === start) return x;
    if (before && at < start) return before.x + ((x - before.x) * (at - before.at)) / (start - before.at);
    before = { x, at: start };
    start += event.length;
  }
  const end = edge.x + edge.width - 4;
  if (!before || at >= start) return end;
  return before.x + ((end - before.x) * (at - before.at)) / (start - before.at);
}
