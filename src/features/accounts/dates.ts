/**
 * `2 Mar 2027, 16:05`: by the reader's own clock, or by UTC, and then it says so: the same words on the server and in the
 * browser, which may be in other time zones.
 */
export function dayAndTime(iso: string, where: 'here' | 'UTC' = 'UTC'): string {
  const zone = where === 'UTC' ? ({ timeZone: 'UTC' } as const) : {};
  const date = new Date(iso);
  const day = date.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric', ...zone });
  const time = date.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', ...zone });
  return `${day}, ${time}${where === 'UTC' ? ' UTC' : ''}`;
}

/** `2 Mar 2027`. */
export function dayOf(iso: string): string {
  return dayAndTime(iso).split(',', 1)[0] ?? '';
}
