import { type Key, signatureOf } from '../../pitch';
import { type Bar, type Hairpin, isNote, type ScoreEvent } from '../../score';
import { greatestCommonDivisor, TICKS_PER_QUARTER } from '../../time';
import type { HarmonyDegree } from './chordKinds';
import { OPTIONAL_NOTATION, PHRASE_NOTATIONS } from './marks';

/**
 * For whom a score is written: what a file that is read back needs, and what the engraver wants, differ in these points
 * alone.
 */
export interface Target {
  /** An `id` attribute for a bar or event (MusicXML 3.1), or nothing. */
  readonly id: (staff: string, name: string) => string;
  /** Divisions of a quarter. */
  readonly divisions: (bars: readonly Bar[]) => number;
  readonly isKeyShown: (bar: Bar, key: Key, before: Key | undefined) => boolean;
  /** The words of a tempo, before its figure. */
  readonly tempoWords: (words: string) => string;
  /** What is said of a chord beyond its printed text. */
  readonly degrees: (degrees: readonly HarmonyDegree[]) => readonly HarmonyDegree[];
  /** Finger marks over one note, in the order in which they are written. */
  readonly fingers: (lines: readonly string[]) => readonly string[];
  readonly lyric: (text: string) => string;
  /** Words for what MusicXML has no element for. */
  readonly ownWords: (event: ScoreEvent) => readonly string[];
  /** A bar whose rests are spelled in any usual way is one rest. */
  readonly joinsRests: boolean;
  /** The hairpin that is open where writing begins, when only some bars are written. */
  readonly hairpinAt: (bars: readonly Bar[], from: number) => Hairpin | undefined;
  /** What is said of a small staff at its head, and where it appears or goes. */
  readonly smallStaff: (isShown: boolean, isHead: boolean) => string;
  /** Rows are drawn one by one: hairpins and ties have no other end there, and optional passages get their bracket. */
  readonly isRow: boolean;
}

/** A file, complete and read back as it was. */
export const FOR_FILE: Target = {
  id: () => '',
  divisions: smallestDivisions,
  isKeyShown: (bar) => bar.key !== undefined,
  tempoWords: (words) => words,
  degrees: (degrees) => degrees,
  fingers: (lines) => lines,
  lyric: (text) => text,
  ownWords: (event) => [
    ...(isNote(event) && event.phrase ? [PHRASE_NOTATIONS[event.phrase]] : []),
    ...(event.optional ? [OPTIONAL_NOTATION] : []),
  ],
  joinsRests: false,
  hairpinAt: () => undefined,
  smallStaff: (isShown) =>
    `<staff-details print-object="${isShown ? 'yes' : 'no'}"><staff-type>ossia</staff-type></staff-details>`,
  isRow: false,
};

/** The engraver: names by which notes are found again, and the page alone. */
export const FOR_ENGRAVER: Target = {
  id: (staff, name) => ` id="${staff}:${name}"`,
  divisions: () => TICKS_PER_QUARTER,
  // On the page a change of mode alone leaves the signature as it is.
  isKeyShown: (bar, key, before) => bar.key !== undefined && (!before || signatureOf(key) !== signatureOf(before)),
  // It sets the figure close after the words.
  tempoWords: (words) => `${words}\u2002`,
  // It would print the degrees again, after the text that names them.
  degrees: () => [],
  fingers: (lines) => lines.toReversed(),
  lyric: afterHead,
  ownWords: () => [],
  joinsRests: true,
  hairpinAt: hairpinOpenBefore,
  // A staff that it is told not to print would be gone from the whole row.
  smallStaff: (_, isHead) => (isHead ? '<staff-details><staff-size>72</staff-size></staff-details>' : ''),
  isRow: true,
};

/** The smallest number of divisions a quarter in which all lengths and chord places are whole. */
function smallestDivisions(bars: readonly Bar[]): number {
  let common = TICKS_PER_QUARTER;
  for (const bar of bars) {
    for (const event of bar.events) common = greatestCommonDivisor(common, event.length);
    for (const { at } of [...bar.chords, ...(bar.tempos ?? []), ...(bar.counts ?? [])])
      common = greatestCommonDivisor(common, at);
  }
  return TICKS_PER_QUARTER / common;
}

function hairpinOpenBefore(bars: readonly Bar[], from: number): Hairpin | undefined {
  let open: Hairpin | undefined;
  for (const bar of bars.slice(0, from)) {
    for (const event of bar.events) {
      if (!isNote(event)) continue;
      if (event.hairpin) open = event.hairpin;
      if (event.hairpinEnds) open = undefined;
    }
  }
  return open;
}

/**
 * The engraver sets a text under its note, and takes a figure with a plain space after it for a verse number; counts of
 * the beats that go by belong after the note.
 */
function afterHead(text: string): string {
  return /^\d+( \d+)*$/.test(text) ? `\u2003${text.replaceAll(' ', '\u2002')}` : text;
}
