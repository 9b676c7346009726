import type { Pitch } from '../pitch';
import { barTicks, type Meter, spellNoteLength, TICKS_PER_QUARTER } from '../time';
import type { Bar, Note } from './tune';

export const QUARTERS_METER: Meter = { count: 4, unit: 4 };

/** A line of quarters in bars of four, the last note held to the end of its bar. */
export function quarterBars(line: readonly Pitch[]): readonly Bar[] {
  const full = barTicks(QUARTERS_METER);
  const perBar = full / TICKS_PER_QUARTER;
  const bars: Bar[] = [];
  let made = 0;
  for (let from = 0; from < line.length; from += perBar) {
    const here = line.slice(from, from + perBar);
    const isLast = from + perBar >= line.length;
    const events = here.flatMap((pitch, k): readonly Note[] => {
      const held = isLast && k === here.length - 1 ? full - k * TICKS_PER_QUARTER : TICKS_PER_QUARTER;
      const lengths = spellNoteLength(k * TICKS_PER_QUARTER, held, QUARTERS_METER);
      return lengths.map((length, piece): Note => ({
        kind: 'note',
        id: `n${(made += 1)}`,
        pitch,
        length,
        ...(piece < lengths.length - 1 && { tied: true as const }),
      }));
    });
    bars.push({ id: `b${bars.length + 1}`, events, chords: [], ...(isLast && { barline: 'final' as const }) });
  }
  return bars;
}
