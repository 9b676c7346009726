import type { Ticks } from '../time';
import { isNote, type Note, type ScoreEvent } from './tune';

/**
 * An event as several in a row, notes tied. The first keeps the id and what belongs to the beginning; what belongs to
 * the end (a tie onwards, the end of a slur or hairpin, a fermata) goes to the last. Tuplets are left off.
 * @param lengths sum up to what the event shall last now
 */
export function asPieces(event: ScoreEvent, lengths: readonly Ticks[], freshId: () => string): readonly ScoreEvent[] {
  return lengths.map((length, k): ScoreEvent => {
    const [isFirst, isLast] = [k === 0, k === lengths.length - 1];
    const id = isFirst ? event.id : freshId();
    const optional = event.optional && { optional: event.optional };
    if (!isNote(event))
      return { kind: 'rest', id, length, ...optional, ...(isLast && event.fermata && { fermata: event.fermata }) };
    const { tied, slurEnds, fermata, hairpinEnds, tuplet: _, ...onset } = event;
    const head: Note = isFirst
      ? { ...onset, id, length }
      : { kind: 'note', id, length, pitch: event.pitch, ...optional };
    return {
      ...head,
      ...((tied || !isLast) && { tied: true as const }),
      ...(isLast && slurEnds && { slurEnds }),
      ...(isLast && fermata && { fermata }),
      ...(isLast && hairpinEnds && { hairpinEnds }),
    };
  });
}
