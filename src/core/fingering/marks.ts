import { markOf } from './fingering';
import type { FingeredLine } from './fingerLine';
import type { FingerNote } from './fingerLine';
import { printPitch } from '../pitch/pitch';

/** Schools of how much is written over the notes: every note, only where something changes, nothing. */
export const MARK_SCHOOLS = ['all', 'change', 'none'] as const;
export type MarkSchool = (typeof MARK_SCHOOLS)[number];

/**
 * The short text over each note that gets one.
 * `change` marks what a player would not take for granted: on strings the first note, a new position, and a string that is crossed to by
 * a stopped finger; elsewhere the first time a pitch comes and when it is fingered otherwise than the last time. Pins are always shown.
 */
export function fingerMarks(
  line: FingeredLine,
  notes: readonly FingerNote[],
  school: MarkSchool,
): ReadonlyMap<string, string> {
  const marks = new Map<string, string>();
  if (school === 'none') return marks;
  const lastByPitch = new Map<string, string>();
  let isFirst = true;
  line.notes.forEach((note, index) => {
    const { fingering } = note;
    const pitch = notes[index]?.pitch;
    if (!fingering || !pitch) return;
    const text = markOf(fingering);
    const name = printPitch(pitch);
    const isNew = lastByPitch.get(name) !== text;
    const onString = fingering.kind === 'bowed' || fingering.kind === 'fretted';
    const changes = onString
      ? isFirst ||
        note.shift ||
        (fingering.kind === 'bowed' && isNew && (note.crossing || lastByPitch.has(name))) ||
        (fingering.kind === 'fretted' && (note.crossing || isNew))
      : isNew;
    if (school === 'all' || changes || note.pinned) marks.set(note.id, text);
    lastByPitch.set(name, text);
    isFirst = false;
  });
  return marks;
}
