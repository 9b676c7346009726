import {
  dateOfDay,
  knownDay,
  type LogEntry,
  mondayOf,
  planOf,
  type PlanItem,
  type Pupil,
  requestFor,
} from '../core/planning';
import type { SentEntry } from '../core/formats';

/** A day of the week as the pupil sees it at home. */
interface OwnDay {
  readonly date: string;
  readonly items: readonly OwnItem[];
  /** Minutes in the log. */
  readonly practised: number;
  readonly hasLesson: boolean;
  readonly isOff: boolean;
}

interface OwnItem {
  readonly item: PlanItem;
  readonly title: string;
  /** There is music of it to put on the stand. */
  readonly onStand: boolean;
}

/** A pupil's week as their link shows it: the first name, and what is set; no notes of lessons, nobody else. */
export interface OwnWeek {
  readonly name: string;
  readonly today: string;
  readonly days: readonly OwnDay[];
}

/** The week that holds today. */
export function ownWeek(pupil: Pupil, log: readonly LogEntry[], today: string): OwnWeek {
  const request = requestFor(pupil, log, today);
  const plan = request && planOf(request);
  const monday = mondayOf(knownDay(today));
  return {
    name: pupil.name,
    today,
    days: Array.from({ length: 7 }, (_, k): OwnDay => {
      const date = dateOfDay(monday + k);
      const planned = plan?.days.find((day) => day.date === date);
      return {
        date,
        items: (planned?.items ?? []).map((item) => {
          const work = pupil.work.find(({ id }) => id === item.work);
          return { item, title: work?.title ?? '', onStand: work?.tune !== undefined && item.kind !== 'warm-up' };
        }),
        practised: log.reduce((sum, entry) => sum + (entry.date === date ? entry.minutes : 0), 0),
        hasLesson: planned?.lesson ?? false,
        isOff: pupil.off.some(({ from, to }) => date >= from && date <= to),
      };
    }),
  };
}

/** So many entries come up at once by a link, and so old may they be: what waited offline over the holidays. */
const MOST_ENTRIES = 60;
const OLDEST_DAYS = 60;

/**
 * Why entries that a link sends are not taken; nothing where they are. Whoever holds the link can log practice of what is
 * set, and nothing else.
 */
export function refusedEntries(pupil: Pupil, entries: readonly SentEntry[], today: string): string | undefined {
  if (entries.length > MOST_ENTRIES) return `At most ${MOST_ENTRIES} entries are taken at once.`;
  const now = knownDay(today);
  for (const { date, work, by } of entries) {
    if (by === 'teacher') return 'An entry of a teacher does not come by a pupil’s link.';
    if (!pupil.work.some(({ id }) => id === work)) return 'This is not set for you any more.';
    const day = knownDay(date);
    if (day > now + 1 || day < now - OLDEST_DAYS) return `Entries are taken for the last ${OLDEST_DAYS} days.`;
  }
  return undefined;
}
