import type { Instrument, Level } from '../instruments';

/** How much longer than a beginner somebody plays before a rest is due. */
const STRETCH: Readonly<Record<Level, number>> = { beginner: 1, intermediate: 1.5, advanced: 2 };

/**
 * Minutes of playing after which a rest is due: those of a first-year player on the instrument, longer with the years. A
 * rule of thumb for healthy players; teachers and clinicians decide.
 */
export function restMinutes({ beginnerMinutes }: Pick<Instrument, 'beginnerMinutes'>, level: Level): number {
  return Math.round(beginnerMinutes * STRETCH[level]);
}
