/**
 * A date of the calendar as `2027-03-20`: no hour, no zone. Days are counted from 1 January 1970, by the proleptic
 * Gregorian calendar of ISO 8601; counting them in UTC alone means that no summer time is in the way.
 */
export type CalendarDate = string;

/** Days since 1 January 1970. */
export type DayNumber = number;

export const WEEKDAYS = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'] as const;
export type Weekday = (typeof WEEKDAYS)[number];

const MS_A_DAY = 86_400_000;
/** 1 January 1970 was a Thursday. */
const FIRST_WEEKDAY = 3;

/** The number of a date, or `undefined` where the calendar has no such day. Years 1970 to 2199. */
export function dayNumber(date: CalendarDate): DayNumber | undefined {
  const [, year = '', month = '', day = ''] = /^(19[7-9]\d|2[01]\d\d)-(\d\d)-(\d\d)$/.exec(date) ?? [];
  if (year === '') return undefined;
  const number = Date.UTC(Number(year), Number(month) - 1, Number(day)) / MS_A_DAY;
  return dateOfDay(number) === date ? number : undefined;
}

/** @throws RangeError where the calendar has no such day: for dates that were checked before */
export function knownDay(date: CalendarDate): DayNumber {
  const number = dayNumber(date);
  if (number === undefined) throw new RangeError(`"${date}" is not a date`);
  return number;
}

export function dateOfDay(day: DayNumber): CalendarDate {
  return new Date(day * MS_A_DAY).toISOString().slice(0, 10);
}

/** The date of a moment by the clock of where the program runs: minutes before midnight it is still today. */
export function dateAt(moment: Date): CalendarDate {
  const two = (number: number) => String(number).padStart(2, '0');
  return `${moment.getFullYear()}-${two(moment.getMonth() + 1)}-${two(moment.getDate())}`;
}

export function weekdayOf(day: DayNumber): Weekday {
  return WEEKDAYS[(((day + FIRST_WEEKDAY) % 7) + 7) % 7] ?? 'monday';
}

/** The Monday of a day's week. */
export function mondayOf(day: DayNumber): DayNumber {
  return day - WEEKDAYS.indexOf(weekdayOf(day));
}

const MONTHS = 'January February March April May June July August September October November December'.split(' ');

/** `20 March`. */
export function dateWords(day: DayNumber): string {
  const date = new Date(day * MS_A_DAY);
  return `${date.getUTCDate()} ${MONTHS[date.getUTCMonth()] ?? ''}`;
}

/** `Thursday`. */
export function weekdayWords(day: DayNumber): string {
  const name = weekdayOf(day);
  return name.charAt(0).toUpperCase() + name.slice(1);
}
