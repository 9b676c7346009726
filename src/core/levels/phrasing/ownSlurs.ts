import { type EventId, isNote, type SoundingNote, type Tune } from '../../score';
import type { Slur } from './lineView';

/** The event with which each struck note ends: itself, or the last that is tied to it. */
export function lastEvents(tune: Tune): ReadonlyMap<EventId, EventId> {
  const last = new Map<EventId, EventId>();
  let first: EventId | undefined;
  for (const event of tune.bars.flatMap(({ events }) => events)) {
    if (!isNote(event)) {
      first = undefined;
      continue;
    }
    first ??= event.id;
    last.set(first, event.id);
    if (!event.tied) first = undefined;
  }
  return last;
}

/** The slurs of a line, as they close. */
export function slursIn(tune: Tune, notes: readonly SoundingNote[]): readonly Slur[] {
  const index = new Map(notes.map(({ first }, k) => [first.id, k]));
  const open: number[] = [];
  const slurs: Slur[] = [];
  let current = -1;
  for (const event of tune.bars.flatMap(({ events }) => events)) {
    if (!isNote(event)) continue;
    current = index.get(event.id) ?? current;
    for (let k = 0; k < (event.slurEnds ?? 0); k += 1) {
      const from = open.pop();
      if (from !== undefined) slurs.push([from, current]);
    }
    for (let k = 0; k < (event.slurStarts ?? 0); k += 1) open.push(current);
  }
  return slurs;
}
