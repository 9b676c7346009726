import { fingeringStrings, type MarkStyle, styledMark } from './stringMarks';
import type { Instrument } from '../instruments';
import { type Pitch, printPitch, semitones } from '../pitch';
import type { FingeredLine, FingeredNote, FingerNote } from './fingerLine';

/**
 * Schools of how much is written over the notes: every note, only where something changes, only fingerings other than
 * the usual one and what lies across the break, nothing.
 */
export const MARK_SCHOOLS = ['all', 'change', 'unusual', 'none'] as const;
export type MarkSchool = (typeof MARK_SCHOOLS)[number];

/**
 * The short text over each note that gets one. `change` marks what a player would not take for granted: on strings the
 * first note, a new position, and a string that is crossed to by a stopped finger; elsewhere the first time a pitch
 * comes and when it is fingered otherwise than the last time. `unusual` marks fingerings that are not the main one of
 * the chart, and the note after a break that is crossed; on strings a new position. Pins are always shown.
 * @param breaks of the instrument, as written: the notes on both sides
 * @param names how marks on strings are written, and the names of the strings, lowest first; the string alone stands
 *   where it changes
 */
export function fingerMarks(
  line: FingeredLine,
  notes: readonly FingerNote[],
  school: MarkSchool,
  breaks: Instrument['breaks'] = [],
  { style, strings }: { readonly style: MarkStyle; readonly strings: readonly string[] } = PLAIN,
): ReadonlyMap<string, string> {
  const marks = new Map<string, string>();
  if (school === 'none') return marks;
  const lastByPitch = new Map<string, string>();
  let isFirst = true;
  let lastString = '';
  line.notes.forEach((note, index) => {
    const { fingering } = note;
    const pitch = notes[index]?.pitch;
    if (!fingering || !pitch) return;
    const text = styledMark(fingering, style, strings);
    const string = fingeringStrings(fingering, strings);
    const isSameString = style === 'string' && string === lastString;
    lastString = string;
    const name = printPitch(pitch);
    const isNew = lastByPitch.get(name) !== text;
    const onString = fingering.kind === 'bowed' || fingering.kind === 'fretted';
    const changes = onString
      ? isFirst ||
        note.shift ||
        (fingering.kind === 'bowed' && isNew && (note.crossing || lastByPitch.has(name))) ||
        (fingering.kind === 'fretted' && (note.crossing || isNew))
      : isNew;
    const wanted =
      (school === 'all' && style !== 'string') ||
      note.pinned ||
      (style === 'string' && string !== '' && !isSameString) ||
      (school === 'change' ? changes : isUnusual(note, pitch, notes[index - 1]?.pitch, breaks));
    if (wanted && !isSameString) marks.set(note.id, text);
    lastByPitch.set(name, text);
    isFirst = false;
  });
  return marks;
}

const PLAIN = { style: 'finger', strings: [] } as const;

/**
 * Whether a player would do otherwise unless told: a fingering beside the main one, a new position, a break that is
 * crossed.
 */
function isUnusual(
  { fingering, shift }: FingeredNote,
  pitch: Pitch,
  before: Pitch | undefined,
  breaks: Instrument['breaks'],
): boolean {
  if (fingering?.kind === 'bowed' || fingering?.kind === 'fretted') return shift;
  const isBeside = fingering?.kind === 'holes' && fingering.when !== undefined;
  return isBeside || (before !== undefined && isAcross(before, pitch, breaks));
}

/** Whether two notes lie on different sides of a break. */
function isAcross(a: Pitch, b: Pitch, breaks: Instrument['breaks']): boolean {
  return breaks.some(([under]) => semitones(a) <= semitones(under) !== semitones(b) <= semitones(under));
}
