import type { Key } from '../../pitch';
import type { Meter, Ticks } from '../../time';

/** Where a fact about a MIDI file comes from: the file says it, it was worked out, or somebody set it. */
export type GuessSource = 'file' | 'guess' | 'set';

/** What had to be worked out or may be wrong, to be shown and changed before the tune is kept. */
export interface MidiGuesses {
  readonly meter: { readonly value: Meter; readonly source: GuessSource };
  readonly key: { readonly value: Key; readonly source: GuessSource; readonly others: readonly Key[] };
  /** Quarters a minute at the beginning. */
  readonly perMinute: { readonly value: number; readonly source: GuessSource };
  /** Long–short eighths written straight. */
  readonly swing: { readonly value: boolean; readonly source: GuessSource };
  /** Length of the incomplete first bar; 0 for none. */
  readonly pickup: { readonly value: Ticks; readonly source: GuessSource };
  /** Every note stood on a printable place already; otherwise it was played by hand and moved to the nearest. */
  readonly exact: boolean;
}

export interface MidiOptions {
  readonly meter?: Meter;
  readonly key?: Key;
  readonly perMinute?: number;
  readonly swing?: boolean;
  readonly pickup?: Ticks;
}
