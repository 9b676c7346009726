import { type ScoreProblem, scoreProblemText } from '../score';

/** Where in a file or score something stands. Lines and columns count from 1, bars as printed, beats from 1. */
export interface Place {
  readonly line?: number;
  readonly column?: number;
  readonly bar?: number;
  readonly beat?: number;
}

/** What a reader or writer found: either it stops the work (a problem) or is told in passing (a warning). */
export interface FormatProblem {
  readonly code: FormatCode;
  readonly place: Place;
  /** What was found, quoted. */
  readonly found?: string;
  /** What would be right, or what was done. */
  readonly right?: string;
}

/** The sentence for each code, without its place. `F` stands for what was found, `R` for what would be right. */
const SENTENCES = {
  'empty-file': 'The file holds no music; R',
  'too-large': 'The file is too large (F); R',
  'unknown-format': 'This is no format that can be read (F); R',
  'not-utf8': 'The text is not in a known encoding; R',
  'no-tune': 'There is no tune here (F); R',
  'no-such-tune': 'There is no tune number F here; R',
  'other-tunes': 'The file holds F; R',
  'unreadable-field': 'The field "F" cannot be read; R',
  'missing-field': 'The field F is missing; R',
  'unreadable-character': '"F" means nothing here; R',
  'unreadable-chord': 'The chord symbol "F" cannot be read; R',
  'unreadable-length': 'The note length "F" cannot be read; R',
  'bar-too-long': 'The bar holds F; R',
  'bar-too-short': 'The bar holds only F; R',
  'bar-without-meter': 'There is no meter; R',
  'tuplet-unfinished': 'The tuplet "F" has too few notes; R',
  'tie-dropped': 'A tie leads to another pitch; R',
  'slur-dropped': 'A slur has no other end; R',
  'odd-tempo': 'The tempo F is not one that can be played; R',
  'hairpin-dropped': 'A hairpin has no other end; R',
  'chord-of-notes': 'Several notes stand together (F); R',
  'other-voices': 'The file has more than one voice (F); R',
  'left-out': 'Left out: F; R',
  'bad-xml': 'The XML is broken: F; R',
  'entities-refused': 'The file declares XML entities; R',
  'not-musicxml': 'This XML is no MusicXML (F); R',
  'unreadable-element': 'The element F cannot be read; R',
  'too-many-notes': 'The file holds F; R',
  'mxl-astray': 'The archive says that the score is in F, which is not there; R',
  'bad-zip': 'The compressed file cannot be opened: F; R',
  'bad-midi': 'This MIDI file is broken: F; R',
  'bad-json': 'The JSON is broken: F; R',
  'bad-document': 'The document is not a tune: F; R',
  'cannot-hold': 'The format cannot hold F; R',
} as const;
type FormatCode = keyof typeof SENTENCES;

function placeText({ line, column, bar, beat }: Place): string {
  const parts = [
    line !== undefined ? `line ${line}` : '',
    column !== undefined ? `column ${column}` : '',
    bar !== undefined ? `bar ${bar}` : '',
    beat !== undefined ? `beat ${beat}` : '',
  ].filter((part) => part !== '');
  return parts.join(', ');
}

/** One line: place, what is wrong, what would be right. Quoted input is cut at 60 characters and kept on one line. */
export function formatProblemText(problem: FormatProblem): string {
  const found = clipped(problem.found ?? '');
  const right = problem.right ?? '';
  const sentence = SENTENCES[problem.code]
    .replace(/\bF\b/, () => found)
    .replace(/;? R$/, () => (right ? `; ${right}` : ''));
  const place = placeText(problem.place);
  return place ? `${place}: ${sentence}` : sentence;
}

function clipped(text: string): string {
  const oneLine = text.replace(/\p{Cc}+/gu, ' ');
  return oneLine.length > 60 ? `${oneLine.slice(0, 59)}…` : oneLine;
}

/** A fault in the document itself, in the words of this room. */
export function fromScoreProblem(problem: ScoreProblem): FormatProblem {
  return { code: 'bad-document', place: {}, found: scoreProblemText(problem) };
}
