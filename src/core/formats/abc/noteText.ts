/** A note as it is written, in its parts; each is empty where it is left out, as most are. */
export interface NoteText {
  /** `^`, `^^`, `_`, `__` or `=`. */
  readonly accidental: string;
  /** `A` to `G`, or an octave higher `a` to `g`. */
  readonly letter: string;
  /** Octaves up and down by marks after the letter. */
  readonly octaves: number;
  /** Numbers and slashes of its length: `3/2` is over `3`, one slash, under `2`. */
  readonly over: string;
  readonly slashes: number;
  readonly under: string;
  /** Where it ends. */
  readonly end: number;
}

const [UP, DOWN, SHARP, FLAT, NATURAL, SLASH] = [39, 44, 94, 95, 61, 47] as const;
const isLetter = (code: number) => (code >= 65 && code <= 71) || (code >= 97 && code <= 103);
const isDigit = (code: number) => code >= 48 && code <= 57;

/**
 * The note that begins at a place of a text; `undefined` where none does. Source: ABC 2.1, sections 4.1 to 4.3. It is
 * written out by hand since most signs of a tune are notes, and a pattern that is tried at each of them takes most of
 * the time of reading.
 */
export function noteAt(text: string, at: number): NoteText | undefined {
  let place = at;
  let code = text.charCodeAt(place);
  if (code === SHARP || code === FLAT) {
    place += text.charCodeAt(place + 1) === code ? 2 : 1;
    code = text.charCodeAt(place);
  } else if (code === NATURAL) {
    place += 1;
    code = text.charCodeAt(place);
  }
  if (!isLetter(code)) return undefined;
  const accidental = place === at ? '' : text.slice(at, place);
  const letter = text.charAt(place);
  place += 1;
  let octaves = 0;
  for (code = text.charCodeAt(place); code === UP || code === DOWN; code = text.charCodeAt(place)) {
    octaves += code === UP ? 1 : -1;
    place += 1;
  }
  const over = digitsAt(text, place);
  place += over.length;
  let slashes = 0;
  while (text.charCodeAt(place) === SLASH) {
    slashes += 1;
    place += 1;
  }
  const under = digitsAt(text, place);
  return { accidental, letter, octaves, over, slashes, under, end: place + under.length };
}

function digitsAt(text: string, at: number): string {
  let end = at;
  while (isDigit(text.charCodeAt(end))) end += 1;
  return end === at ? '' : text.slice(at, end);
}
