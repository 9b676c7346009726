import type { KeyDates } from '../score';

const DAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'] as const;
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'] as const;
const DAY = 86_400_000;

/** When a key is to be practised, counted from 0: `Mon 30 Nov`, `week of 30 Nov`. */
export function dateOfKey({ every, from }: KeyDates, index: number): string {
  const at = new Date(Date.parse(`${from}T00:00:00Z`) + index * DAY * (every === 'week' ? 7 : 1));
  const day = `${at.getUTCDate()} ${MONTHS[at.getUTCMonth()] ?? ''}`;
  return every === 'week' ? `week of ${day}` : `${DAYS[at.getUTCDay()] ?? ''} ${day}`;
}
