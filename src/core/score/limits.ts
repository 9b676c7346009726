/**
 * What a file may hold at most. A long suite has a few thousand notes; these leave room, and the whole of it is still
 * drawn in time.
 */
export const MAX_BYTES = 4 * 1024 * 1024;
export const MAX_BARS = 2_000;
export const MAX_NOTES = 12_000;
/** What was stored while more was taken can still be opened. */
export const MAX_STORED_BARS = 4_000;
/** Lines of one score: voices of all its parts. */
export const MAX_LINES = 256;
/** Notes and rests of one bar, and grace notes of one bar; what is within them is drawn in a second or two. */
export const MAX_EVENTS_IN_BAR = 256;
export const MAX_GRACES_IN_BAR = 64;
export const MAX_CHORDS_IN_BAR = 64;
export const MAX_XML_DEPTH = 40;
/** After so many problems a file is not read on: nobody reads more of them. */
export const MAX_PROBLEMS = 100;
/** Warnings kept of one file; the rest is counted in the last of them. */
export const MAX_WARNINGS = 200;
/** Titles and the like are cut here, and said to be. */
export const MAX_TEXT = 500;
export const MAX_VERSES = 12;
