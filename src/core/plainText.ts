/** Half of a character that takes two code units, or NUL: neither can be stored as UTF-8 text. */
const BROKEN = /[\p{Surrogate}\0]/gu;

/** Whether a text can be stored and sent: every character whole, no NUL. */
export function isPlainText(text: string): boolean {
  return text.search(BROKEN) < 0;
}

/** The text without what cannot be stored. */
export function plainText(text: string): string {
  return text.replace(BROKEN, '');
}

/**
 * The first characters of a text, never half of one.
 * @param most UTF-16 code units that the result may have
 */
export function cutText(text: string, most: number): string {
  return text.length <= most ? text : plainText(text.slice(0, most));
}

/** A text as the beginning of a sentence. */
export function capitalised(text: string): string {
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
}

/** `a` or `an`, as a noun asks for. */
export function articleOf(noun: string): string {
  return /^[aeiou]/i.test(noun) ? 'an' : 'a';
}

/** A text that begins with a small letter, as after a colon. */
export function uncapitalised(text: string): string {
  return text.charAt(0).toLowerCase() + text.slice(1);
}
