import { createEvents, type DateArray, type EventAttributes } from 'ics';
import { dateOfDay, knownDay, type PlanDay } from '../../planning';

/** A lesson's hour and length, where they are known; local time, as a calendar on the wall has it. */
interface LessonTime {
  readonly hour: number;
  readonly minute: number;
  /** Minutes. */
  readonly length: number;
}

/**
 * Practice and lessons as iCalendar (RFC 5545), by the package `ics`: all-day events on each day with something to
 * practise, and the lessons. Times are floating: dates are those of the calendar on the wall. The stamp comes from the
 * plan's first day, so that the same plan is the same file.
 * @param pupil tells events of several pupils apart
 * @throws Error where the package refuses what we give it, which is a defect
 */
export function planCalendar(
  days: readonly PlanDay[],
  pupil: { readonly name: string; readonly from: string },
  lesson?: LessonTime,
): string {
  const stamp = Date.parse(`${pupil.from}T00:00:00Z`);
  const who = pupil.name === '' ? '' : `${pupil.name}: `;
  const tag = [...pupil.name].map((letter) => (letter.codePointAt(0) ?? 0).toString(36)).join('');
  const events = days.flatMap((day): EventAttributes[] => [
    ...(day.items.length > 0
      ? [
          {
            ...common(stamp, `practice-${day.date}-${tag}`),
            ...allDay(day.date),
            title: `${who}practise ${minutesOf(day)} minutes`,
            description: day.items.map(({ what, minutes }) => `${minutes} min  ${what}`).join('\n'),
          },
        ]
      : []),
    ...(day.lesson
      ? [
          {
            ...common(stamp, `lesson-${day.date}-${tag}`),
            ...(lesson
              ? {
                  start: [...partsOf(day.date), lesson.hour, lesson.minute] as DateArray,
                  startInputType: 'local' as const,
                  startOutputType: 'local' as const,
                  duration: { hours: Math.floor(lesson.length / 60), minutes: lesson.length % 60 },
                }
              : allDay(day.date)),
            title: `${who}lesson`,
          } as EventAttributes,
        ]
      : []),
  ]);
  if (events.length === 0) return EMPTY;
  const { error, value } = createEvents(events, {
    productId: 'reed-hook',
    calName: `Practice${pupil.name === '' ? '' : ` of ${pupil.name}`}`,
  });
  if (typeof value !== 'string') throw new Error(`the calendar could not be written: ${error?.message ?? ''}`);
  return value;
}

/** A calendar without events, which the package does not write. */
const EMPTY = ['BEGIN:VCALENDAR', 'VERSION:2.0', 'CALSCALE:GREGORIAN', 'PRODID:reed-hook', 'END:VCALENDAR', ''].join(
  '\r\n',
);

function common(stamp: number, id: string) {
  return { timestamp: stamp, uid: `${id}@reed-hook`, productId: 'reed-hook' };
}

/** From a day to the next: the end of an all-day event is the day after it. */
function allDay(date: string): { readonly start: DateArray; readonly end: DateArray } {
  return { start: partsOf(date), end: partsOf(dateOfDay(knownDay(date) + 1)) };
}

function partsOf(date: string): [number, number, number] {
  const [year = 0, month = 0, day = 0] = date.split('-').map(Number);
  return [year, month, day];
}

function minutesOf({ items }: PlanDay): number {
  return items.reduce((sum, { minutes }) => sum + minutes, 0);
}
