import { failure, type Result } from '../result';
import { type Pitch, staffPosition } from '../pitch';
import { type Bar, isNote, MAX_WARNINGS, type Tune } from '../score';
import type { RawBar } from './assemble';
import type { MidiGuesses, MidiOptions } from './midi/guesses';
import type { FormatProblem } from './problem';

/** A part, voice, track or hand of a file that could be taken as the melody. */
export interface LineFound {
  /** Counted from 1 in the file's order. */
  readonly number: number;
  readonly name: string;
  readonly notes: number;
  /** As it sounds. */
  readonly lowest?: Pitch;
  readonly highest?: Pitch;
}

/** What else the file offered, and what was taken of it. */
export interface Choices {
  /** The titles of a tune book, in order. */
  readonly tunes: readonly string[];
  readonly tune: number;
  readonly lines: readonly LineFound[];
  readonly line: number;
  /** The line taken as a second part. */
  readonly second?: number;
}

export interface ReadOptions {
  /** Which tune of a book, counted from 1. The first by default. */
  readonly tune?: number;
  /** Which line, as numbered by `LineFound`. By default the one that most likely has the melody. */
  readonly line?: number;
  /** A line to be taken as second part; `none` leaves it out even where the file names one. */
  readonly second?: number | 'none';
  readonly midi?: MidiOptions;
}

/** A tune with what was not understood on the way and what else there was. */
export interface ReadTune {
  readonly tune: Tune;
  readonly warnings: readonly FormatProblem[];
  readonly choices: Choices;
  readonly guesses?: MidiGuesses;
}

/** What was read, or everything that made it unreadable. */
export type ReadResult = Result<ReadTune, readonly FormatProblem[]>;

export function unreadable(...problems: readonly FormatProblem[]): ReadResult {
  return failure(problems);
}

/** What a file with one tune and one line offers. */
export function noChoices(tune: Tune): Choices {
  return {
    tunes: [tune.title],
    tune: 1,
    lines: [
      lineOf(
        1,
        'Melody',
        tune.bars.flatMap((bar: Bar) => bar.events.filter(isNote).map(({ pitch }) => pitch)),
      ),
    ],
    line: 1,
  };
}

export function lineOf(number: number, name: string, pitches: readonly Pitch[]): LineFound {
  let [lowest, highest] = [pitches[0], pitches[0]];
  let [least, most] = [Infinity, -Infinity];
  for (const pitch of pitches) {
    const height = staffPosition(pitch) * 10 + pitch.alter;
    if (height < least) [lowest, least] = [pitch, height];
    if (height > most) [highest, most] = [pitch, height];
  }
  return { number, name, notes: pitches.length, ...(lowest && { lowest }), ...(highest && { highest }) };
}

export function rawPitches(bars: readonly RawBar[]): readonly Pitch[] {
  const pitches: Pitch[] = [];
  for (const { events } of bars) for (const { pitch } of events) if (pitch) pitches.push(pitch);
  return pitches;
}

/** The first warnings; how many more there were is said, not hidden. */
export function fewWarnings(warnings: readonly FormatProblem[]): readonly FormatProblem[] {
  if (warnings.length <= MAX_WARNINGS) return warnings;
  const more = warnings.length - MAX_WARNINGS;
  return [
    ...warnings.slice(0, MAX_WARNINGS),
    { code: 'left-out', place: {}, found: `${more} more remarks`, right: 'the file has too many to list' },
  ];
}
