/** `2 Mar 2027, 16:05 UTC`: the same words on the server and in the browser, which may be in other time zones. */
export function dayAndTime(iso: string): string {
  const date = new Date(iso);
  const day = date.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' });
  return `${day}, ${date.toISOString().slice(11, 16)} UTC`;
}

/** `2 Mar 2027`. */
export function dayOf(iso: string): string {
  return dayAndTime(iso).split(',', 1)[0] ?? '';
}
