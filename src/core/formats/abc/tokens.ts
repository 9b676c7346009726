import { spend } from '../effort';
import { noteAt, type NoteText } from './noteText';

/** One thing that stands in a line of music. Text is as it was written; what it means is decided where it is read. */
export type Token =
  /** Space, and all that is passed over in a voice that is not followed. */
  | { readonly kind: 'nothing' }
  | { readonly kind: 'note'; readonly note: NoteText }
  | { readonly kind: 'field'; readonly name: string; readonly value: string }
  /** A barline, with the endings that begin right after it. */
  | { readonly kind: 'barline'; readonly sign: string; readonly times?: string }
  | { readonly kind: 'ending'; readonly times: string }
  /** Notes in brackets, with the length after them; `isOpen` where the bracket is never closed. */
  | {
      readonly kind: 'stacked';
      readonly notes: string;
      readonly length: RegExpExecArray | null;
      readonly isOpen: boolean;
    }
  | { readonly kind: 'rest'; readonly match: RegExpExecArray }
  | { readonly kind: 'long rest'; readonly bars: number }
  | { readonly kind: 'quoted'; readonly text: string }
  | { readonly kind: 'tuplet'; readonly match: RegExpExecArray }
  | { readonly kind: 'graces'; readonly notes: string; readonly isSlashed: boolean }
  | { readonly kind: 'mark'; readonly name: string }
  /** A single sign, with how often it stands in a row. */
  | { readonly kind: 'sign'; readonly sign: string; readonly count: number };

/**
 * What of a line is read: all of it, fields alone (a voice that is not followed), or bars alone too (a second voice
 * inside a bar).
 */
export type Reading = 'all' | 'fields' | 'bars';

const SPACE = ' \t`y';
const REST = /[zx](\d*)(\/*)(\d*)/y;
const LONG_REST = /[ZX](\d*)/y;
/** Repeats of more than a few times are written with an ending; a run of colons is no barline. */
const BARLINE = /\.?(:{0,8}\|[\]|]*:*|\[\|[\]|]*:*|::)/y;
const ENDING = /\[?\s*(\d+(?:[,-]\d+)*)/y;
const TUPLET = /\((\d+)(?::(\d*))?(?::(\d*))?/y;
const GRACES = /\{(\/?)([^}]*)\}/y;
const QUOTED = /"([^"]*)"/y;
const NAMED = /!([^!|\s][^!]*)!|\+([a-zA-Z.<>()^]+)\+/y;
const INLINE_FIELD = /\[([A-Za-z]):([^\]]*)\]/y;
const LENGTH = /(\d*)(\/*)(\d*)/y;

export interface TokenRead {
  readonly token: Token;
  /** Where the next one begins; always farther on. */
  readonly end: number;
}

const NOTHING: Token = { kind: 'nothing' };

/** The token at a place of a line. */
export function tokenAt(text: string, at: number, reading: Reading): TokenRead {
  const character = text[at] ?? '';
  if (SPACE.includes(character) || (reading === 'fields' && character !== '[')) return { token: NOTHING, end: at + 1 };
  const note = reading === 'all' ? noteAt(text, at) : undefined;
  if (note) return { token: { kind: 'note', note }, end: note.end };
  const field = character === '[' && isClosed(text, at, ']') ? matchAt(INLINE_FIELD, text, at) : null;
  if (field)
    return {
      token: { kind: 'field', name: field[1] ?? '', value: (field[2] ?? '').trim() },
      end: at + field[0].length,
    };
  if (reading === 'fields') return { token: NOTHING, end: at + 1 };
  const barline = matchAt(BARLINE, text, at);
  if (barline) return barlineToken(text, at + barline[0].length, barline[1] ?? '');
  if (reading === 'bars') return { token: NOTHING, end: at + 1 };
  return character === '[' ? bracketToken(text, at) : otherToken(text, at, character);
}

/** A digit right after a barline begins an ending. */
function barlineToken(text: string, end: number, sign: string): TokenRead {
  const ending = /\d/.test(text[end] ?? '') ? matchAt(ENDING, text, end) : null;
  return ending
    ? { token: { kind: 'barline', sign, times: ending[1] ?? '1' }, end: end + ending[0].length }
    : { token: { kind: 'barline', sign }, end };
}

/** A bracket opens an ending or notes that stand together. */
function bracketToken(text: string, at: number): TokenRead {
  const ending = matchAt(ENDING, text, at);
  if (ending) return { token: { kind: 'ending', times: ending[1] ?? '1' }, end: at + ending[0].length };
  const close = text.indexOf(']', at);
  if (close < 0)
    return { token: { kind: 'stacked', notes: text.slice(at), length: null, isOpen: true }, end: text.length };
  const length = matchAt(LENGTH, text, close + 1);
  return {
    token: { kind: 'stacked', notes: text.slice(at, close + 1), length, isOpen: false },
    end: close + 1 + (length?.[0].length ?? 0),
  };
}

/** The kinds that are told apart by a pattern, in the order in which they are tried. */
const PATTERNS: readonly (readonly [RegExp, (match: RegExpExecArray) => Token])[] = [
  [REST, (match) => ({ kind: 'rest', match })],
  [LONG_REST, (match) => ({ kind: 'long rest', bars: Number(match[1] || 1) })],
  [QUOTED, (match) => ({ kind: 'quoted', text: match[1] ?? '' })],
  [TUPLET, (match) => ({ kind: 'tuplet', match })],
  [GRACES, (match) => ({ kind: 'graces', notes: match[2] ?? '', isSlashed: match[1] === '/' })],
  [NAMED, (match) => ({ kind: 'mark', name: match[1] ?? match[2] ?? '' })],
];

function otherToken(text: string, at: number, character: string): TokenRead {
  const closing = CLOSING[character];
  const patterns = closing !== undefined && !isClosed(text, at, closing) ? [] : PATTERNS;
  for (const [pattern, made] of patterns) {
    const match = matchAt(pattern, text, at);
    if (match) return { token: made(match), end: at + match[0].length };
  }
  let count = 1;
  // Broken rhythms are the one sign that means more when it stands more often.
  if (character === '<' || character === '>') while (text[at + count] === character) count += 1;
  return { token: { kind: 'sign', sign: character, count }, end: at + count };
}

/** Signs that begin what another sign ends. */
const CLOSING: Readonly<Record<string, string>> = { '{': '}', '"': '"' };

/**
 * Where each closing sign stands last in the line that is being read: without this every opening one would look to the
 * line's end.
 */
let searched = '';
const lastPlaces = new Map<string, number>();

function isClosed(text: string, at: number, sign: string): boolean {
  if (text !== searched) {
    searched = text;
    lastPlaces.clear();
  }
  let last = lastPlaces.get(sign);
  if (last === undefined) {
    spend(text.length);
    last = text.lastIndexOf(sign);
    lastPlaces.set(sign, last);
  }
  return last > at;
}

function matchAt(pattern: RegExp, text: string, at: number): RegExpExecArray | null {
  pattern.lastIndex = at;
  return pattern.exec(text);
}
