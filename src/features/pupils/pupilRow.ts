import { dateWords, knownDay, weekdayWords } from '../../core/planning';
import type { Level } from '../../core/instruments';

/** A pupil as lists show them. */
export interface PupilRow {
  readonly id: string;
  readonly name: string;
  readonly plays: readonly { readonly instrument: string; readonly level: Level }[];
  readonly lesson?: { readonly date: string; readonly time: string; readonly minutes: number };
  readonly work: readonly string[];
  /** Minutes on each of the last 28 days, the oldest first. */
  readonly minutes: readonly number[];
  readonly weekly: number;
  readonly attention: readonly string[];
}

/** `today`, `tomorrow`, `Thursday 20 March`. */
export function dayWords(date: string, today: string): string {
  const day = knownDay(date);
  const ahead = day - knownDay(today);
  if (ahead === 0) return 'today';
  if (ahead === 1) return 'tomorrow';
  return `${weekdayWords(day)} ${dateWords(day)}`;
}

/** `Thu`. */
export function shortWeekday(date: string): string {
  return weekdayWords(knownDay(date)).slice(0, 3);
}
