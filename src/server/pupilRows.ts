import {
  dateOfDay,
  dateWords,
  instrumentOfPlaying,
  knownDay,
  type LogEntry,
  planOf,
  type PlanWork,
  type Pupil,
  requestFor,
  WEEKDAYS,
  weekdayOf,
} from '../core/planning';
import type { Level } from '../core/instruments';
import { lastEntries, minutesSince } from '../db/practiceLogRepository';
import type { StudioDatabase } from '../db/studioDatabase';
import { logForPlan, type OpenedPupil } from './pupils';

/** A pupil as the lists of pupils and of the day's lessons show them. */
export interface PupilRow {
  readonly id: string;
  readonly name: string;
  readonly plays: readonly { readonly instrument: string; readonly level: Level }[];
  /** The next lesson, today's too. */
  readonly lesson?: { readonly date: string; readonly time: string; readonly minutes: number };
  /** Titles of what is on the stand. */
  readonly work: readonly string[];
  /** Minutes practised on each of the last 28 days, the oldest first. */
  readonly minutes: readonly number[];
  /** Minutes a week that are set. */
  readonly weekly: number;
  /** What needs a look, the weightiest first. */
  readonly attention: readonly string[];
}

const ROW_DAYS = 28;
/** So long without an entry is told. */
const QUIET_DAYS = 7;
/** Pupils whose plan is worked out for a list: each takes a few milliseconds. */
const MAX_PLANNED = 120;

/** The rows of pupils. */
export async function pupilRows(
  studio: StudioDatabase,
  pupils: readonly OpenedPupil[],
  today: string,
): Promise<readonly PupilRow[]> {
  const first = knownDay(today) - ROW_DAYS + 1;
  const [minutes, last] = await Promise.all([minutesSince(studio, dateOfDay(first)), lastEntries(studio)]);
  const byPupil = new Map<string, number[]>();
  for (const entry of minutes) {
    const days = byPupil.get(entry.pupil) ?? Array.from({ length: ROW_DAYS }, () => 0);
    const at = knownDay(entry.date) - first;
    if (at < ROW_DAYS) days[at] = (days[at] ?? 0) + entry.minutes;
    byPupil.set(entry.pupil, days);
  }
  const rows: PupilRow[] = [];
  for (const [index, opened] of pupils.entries()) {
    const { id, pupil } = opened;
    const lesson = nextLesson(pupil, today);
    rows.push({
      id,
      name: pupil.name,
      plays: pupil.playing.map((playing) => ({
        instrument: instrumentOfPlaying(playing)?.shortName ?? playing.instrument,
        level: playing.level,
      })),
      ...(lesson && { lesson }),
      work: pupil.work.filter(({ state }) => state === 'going').map(({ title }) => title),
      minutes: byPupil.get(id) ?? Array.from({ length: ROW_DAYS }, () => 0),
      weekly: WEEKDAYS.reduce((sum, day) => sum + (pupil.practice[day] ?? 0), 0),
      attention: [
        ...quietWords(pupil, last.get(id), today),
        ...(index < MAX_PLANNED ? await plannedWords(studio, opened, today) : []),
      ],
    });
  }
  return rows;
}

function nextLesson({ lesson }: Pupil, today: string): PupilRow['lesson'] {
  if (!lesson) return undefined;
  const now = knownDay(today);
  const ahead = (WEEKDAYS.indexOf(lesson.weekday) - WEEKDAYS.indexOf(weekdayOf(now)) + 7) % 7;
  return { date: dateOfDay(now + ahead), time: lesson.time, minutes: lesson.minutes };
}

function quietWords(pupil: Pupil, last: string | undefined, today: string): readonly string[] {
  if (pupil.work.every(({ state }) => state !== 'going')) return ['nothing on the stand'];
  if (Object.values(pupil.practice).every((minutes) => minutes === 0)) return ['no practice days are set'];
  if (last === undefined) return [];
  const days = knownDay(today) - knownDay(last);
  return days > QUIET_DAYS ? [`nothing for ${days} days`] : [];
}

async function plannedWords(
  studio: StudioDatabase,
  { id, pupil }: OpenedPupil,
  today: string,
): Promise<readonly string[]> {
  if (pupil.work.every(({ state }) => state !== 'going')) return [];
  const log = await logForPlan(studio, id, today);
  const request = requestFor(pupil, log, today);
  if (!request) return [];
  const { work } = planOf(request);
  return [
    ...work.flatMap(({ title, by, ready }) =>
      by !== undefined && (ready === null || ready > by)
        ? [`${title} will not be ready by ${dateWords(knownDay(by))}`]
        : [],
    ),
    // Keys of a drill come round again: that is no being stuck.
    ...work
      .filter(({ id: one }) => pupil.work.some((entry) => entry.id === one && entry.kind !== 'drill'))
      .flatMap((one) => stuckWords(one, log, today)),
  ];
}

/** So many days on one step, and more rounds again than good in it, is being stuck. */
const STUCK_DAYS = 18;

function stuckWords({ id, title, steps }: PlanWork, log: readonly LogEntry[], today: string): readonly string[] {
  return steps.flatMap(({ step, state, tempo }) => {
    if (state !== 'open' || tempo === undefined) return [];
    const entries = log.filter((entry) => entry.work === id && entry.step === step);
    const [first] = entries;
    const [good, again] = [sumOf(entries, 'good'), sumOf(entries, 'again')];
    const days = first ? knownDay(today) - knownDay(first.date) : 0;
    return days >= STUCK_DAYS && again > good
      ? [`${title}: stuck before ${tempo} for ${Math.round(days / 7)} weeks`]
      : [];
  });
}

const sumOf = (entries: readonly LogEntry[], field: 'good' | 'again') =>
  entries.reduce((sum, entry) => sum + entry[field], 0);
