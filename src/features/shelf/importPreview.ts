import {
  type Choices,
  formatProblemText,
  type GuessSource,
  type MidiGuesses,
  readOptionsOf,
  readTune,
  type ReadTune,
} from '../../core/formats';
import { nameKey, printKey, printPitch } from '../../core/pitch';
import { failure, success, type Result } from '../../core/result';
import { countedBars, type Tune } from '../../core/score';
import { printMeter, TICKS_PER_QUARTER } from '../../core/time';

/** What was chosen of what a file offers, by name. */
export type Chosen = Readonly<Record<string, string>>;

/** What a file offers besides what was taken. */
export interface FileChoices extends Omit<Choices, 'lines'> {
  readonly lines: readonly {
    readonly number: number;
    readonly name: string;
    readonly notes: number;
    readonly range: string;
  }[];
}

/** What had to be worked out of a MIDI file, as the sheet shows it. */
export interface FileGuesses {
  readonly meter: { readonly value: string; readonly source: GuessSource };
  readonly key: {
    readonly value: string;
    readonly name: string;
    readonly source: GuessSource;
    readonly others: readonly { readonly value: string; readonly name: string }[];
  };
  readonly tempo: { readonly value: number; readonly source: GuessSource };
  readonly swing: { readonly value: boolean; readonly source: GuessSource };
  /** In quarters. */
  readonly pickup: { readonly value: number; readonly source: GuessSource };
  readonly exact: boolean;
}

/** What was understood of a file, before anything is saved. */
export interface Preview {
  readonly title: string;
  readonly composer: string;
  readonly keyName: string;
  readonly meter: string;
  readonly bars: number;
  readonly warnings: readonly string[];
  readonly choices: FileChoices;
  readonly guesses?: FileGuesses;
}

/** Reads a file as it will be read when it is saved; what cannot be read is told in sentences. */
export function previewOf(
  bytes: Uint8Array,
  name: string,
  chosen: Chosen,
): Result<{ readonly tune: Tune; readonly preview: Preview }, readonly string[]> {
  const options = readOptionsOf(chosen);
  if (!options.ok) return options;
  const read = readTune(bytes, name, options.value);
  if (!read.ok) return failure(read.problem.map(formatProblemText));
  return success({ tune: read.value.tune, preview: told(read.value) });
}

function told({ tune, warnings, choices, guesses }: ReadTune): Preview {
  return {
    title: tune.title,
    composer: tune.composer ?? '',
    keyName: nameKey(tune.key),
    meter: printMeter(tune.meter),
    bars: countedBars(tune),
    warnings: warnings.map(formatProblemText),
    choices: {
      ...choices,
      lines: choices.lines.map(({ number, name, notes, lowest, highest }) => ({
        number,
        name,
        notes,
        range: lowest && highest ? `${printPitch(lowest)} to ${printPitch(highest)}` : '',
      })),
    },
    ...(guesses && { guesses: guessesForScreen(guesses) }),
  };
}

function guessesForScreen({ meter, key, perMinute, swing, pickup, exact }: MidiGuesses): FileGuesses {
  return {
    meter: { value: printMeter(meter.value), source: meter.source },
    key: {
      value: printKey(key.value),
      name: nameKey(key.value),
      source: key.source,
      others: key.others.map((one) => ({ value: printKey(one), name: nameKey(one) })),
    },
    tempo: perMinute,
    swing,
    pickup: { value: pickup.value / TICKS_PER_QUARTER, source: pickup.source },
    exact,
  };
}
