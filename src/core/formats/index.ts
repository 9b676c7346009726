// What may be used of this room from outside; all else is its own business.

// A tune read from edited text, joined with the one that the text was made of.
export { mergedWithText } from './abc/mergeText';
// The voice of our own files that is the second part, by its name.
export { readAbc } from './abc/readAbc';
// Writes a tune in ABC 2.1, unit an eighth.
export { writeAbc } from './abc/writeAbc';
// The players as a table for a spreadsheet.
export { playersFromCsv, playersToCsv } from './csv/groupCsv';
// A file name from a title.
export { fileSlug } from './fileSlug';
// A line of music as a reader found it, and what stands at the head of its tune.
export { tuneSizeProblems } from './finish';
// More than may be inflated.
export { inflateZip } from './inflateZip';
// A group at the boundary.
export { groupSchema } from './json/groupSchema';
// A date of the calendar.
export { dateSchema } from './json/planSchema';
// What a pack holds, at the boundary.
export { packSchema } from './json/packSchema';
// The deepest document of ours (a grace note's pitch inside a tune inside a group's archive) has a dozen levels.
export { parseJson } from './json/parseJson';
// What marks a `.reed.json` file as ours.
export { readTuneDocument, readTuneFile, writeJson } from './json/readJson';
// What the import sheet may choose, by name.
export { readOptionsOf } from './json/readOptions';
// Where a fact about a MIDI file comes from.
export { type GuessSource, type MidiGuesses } from './midi/guesses';
// A note of a track.
export { parseMidi } from './midi/midiFile';
// Reads a line of a Standard MIDI file as a tune.
export { readMidi } from './midi/readMidi';
// Writes a tune as a Standard MIDI file of type 1 as it sounds.
export { writeMidi } from './midi/writeMidi';
// Text as it stands in an XML document.
export { escapeXml } from './musicxml/escapeXml';
// How much a compressed score may hold when opened.
export { writeMxl } from './musicxml/mxl';
// Reads a line of a MusicXML score (3.0 to 4.0, partwise or timewise) as a tune in concert pitch.
export { readMusicXml } from './musicxml/readMusicXml';
// One staff of a score.
export { type ScoreFile, type Staff, tuneStaff } from './musicxml/scoreFile';
// For whom a score is written.
export { FOR_ENGRAVER } from './musicxml/target';
// Which part of a score is written, and for whom.
export { writeMusicXml } from './musicxml/writeMusicXml';
// How a note of a pool looks.
export {
  type Head,
  type StemlessColumn,
  type StemlessNote,
  type StemlessScore,
  writeStemless,
} from './musicxml/writeStemless';
// An element with what stands in it.
export { readXml, type XmlElement } from './musicxml/xmlTree';
// Where in a file or score something stands.
export { type FormatProblem, formatProblemText } from './problem';
// A part, voice, track or hand of a file that could be taken as the melody.
export { type Choices, type ReadTune } from './readResult';
// The format of a file by what is in it.
export { readTune } from './readTune';
// The log and the plan as tables for a spreadsheet.
export { LOG_LIMITS, logFromCsv, logToCsv, pinsFromCsv, planToCsv } from './csv/logCsv';
// The file that a plan on the command line is made of.
export { type PlanFile, planFileProblem, planFileSchema, type PlanFileWork } from './json/planSchema';
// A pupil at the boundary, and entries of the log as they are sent.
export {
  MAX_SENT_ENTRIES,
  type PupilFile,
  pupilFileSchema,
  pupilSchema,
  type SentEntry,
  sentEntriesSchema,
} from './json/pupilSchema';
