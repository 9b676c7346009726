import type { Tempo } from '../../score';
import { type Meter, parseMeter, type Ticks } from '../../time';
import { cutText } from '../../plainText';
import { parseAbcKey, parseAbcTempo, parseUnit, type AbcKey } from './header';

/** What a field between or inside the lines of music says. */
export type BodyField =
  | { readonly kind: 'voice'; readonly name: string }
  | { readonly kind: 'words'; readonly text: string }
  | { readonly kind: 'key'; readonly key: AbcKey }
  | { readonly kind: 'meter'; readonly meter: Meter }
  | { readonly kind: 'unit'; readonly unit: Ticks }
  | { readonly kind: 'section'; readonly label: string }
  | { readonly kind: 'tempo'; readonly tempo: Tempo }
  /** It cannot be read, with what would be right; music depends on it unless it is `slight`. */
  | { readonly kind: 'wrong'; readonly right: string; readonly isSlight?: true }
  | { readonly kind: 'other' };

/** Longest name of a section. */
const MAX_LABEL = 40;

/** @param unit in force, in which a tempo without a beat of its own is counted */
export function bodyField(name: string, value: string, unit: Ticks): BodyField {
  switch (name) {
    case 'V':
      return { kind: 'voice', name: value.split(/\s/)[0] ?? '' };
    case 'w':
      return { kind: 'words', text: value };
    case 'K': {
      const key = parseAbcKey(value);
      return key ? { kind: 'key', key } : { kind: 'wrong', right: 'a key is written like D, Bb, Em or A dorian' };
    }
    case 'M': {
      const meter = parseMeter(value);
      return meter ? { kind: 'meter', meter } : { kind: 'wrong', right: 'a meter is written like 4/4 or 6/8' };
    }
    case 'L': {
      const length = parseUnit(value);
      return length === undefined
        ? { kind: 'wrong', right: 'a unit length is written like 1/8' }
        : { kind: 'unit', unit: length };
    }
    case 'P':
      return { kind: 'section', label: cutText(value, MAX_LABEL) };
    case 'Q': {
      const tempo = parseAbcTempo(value, unit);
      return tempo ? { kind: 'tempo', tempo } : { kind: 'wrong', right: 'write a tempo like 1/4=96', isSlight: true };
    }
    default:
      return { kind: 'other' };
  }
}
