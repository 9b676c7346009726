import type { GuessSource, MidiGuesses } from '../core/formats/midi/guesses';
import { nameKey, printKey } from '../core/pitch/key';
import { printMeter } from '../core/time/meter';
import { TICKS_PER_QUARTER } from '../core/time/ticks';

/** What was worked out of a MIDI file, as the import sheet shows it. */
export interface ScreenGuesses {
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

export function guessesForScreen({ meter, key, perMinute, swing, pickup, exact }: MidiGuesses): ScreenGuesses {
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
