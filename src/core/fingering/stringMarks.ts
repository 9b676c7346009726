import { type Fingering, markOf } from './fingering';

/** How a fingering on strings is written: by its finger or fret alone, with the name of its string, or by that alone. */
export const MARK_STYLES = ['finger', 'string-finger', 'string'] as const;
export type MarkStyle = (typeof MARK_STYLES)[number];

/** The name of the string of a fingering; empty where it has none. @param strings lowest first */
export function fingeringStrings(fingering: Fingering, strings: readonly string[]): string {
  if (fingering.kind !== 'bowed' && fingering.kind !== 'fretted') return '';
  return strings[strings.length - fingering.string] ?? '';
}

/** A mark in a style: `D1`, `A L2` and `G3` with the string, `D` with it alone; others as they are. */
export function styledMark(fingering: Fingering, style: MarkStyle, strings: readonly string[]): string {
  const name = fingeringStrings(fingering, strings);
  if (style === 'finger' || name === '') return markOf(fingering);
  if (style === 'string') return name;
  const own = fingering.kind === 'fretted' ? String(fingering.fret) : markOf(fingering);
  return /^\d/.test(own) ? `${name}${own}` : `${name} ${own}`;
}
