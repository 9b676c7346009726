import type { AccidentalTable } from '../../score';
import { type Ticks, TICKS_PER_QUARTER } from '../../time';
import type { Target } from './target';
import type { Staff } from './scoreFile';

/** What each bar of a part needs to know of the whole. */
export interface PartContext {
  readonly staff: Staff;
  readonly divisions: number;
  readonly accidentals: AccidentalTable;
  /** Notes whose syllable carries on a word begun before. */
  readonly carriesWord: ReadonlySet<string>;
  /** Numbers of the hairpins open at the place written now. */
  readonly openHairpins: Set<number>;
  /** How many slurs are open at the place written now. */
  readonly slurs: { open: number };
  readonly target: Target;
  /** Index of the first bar that is written, and of the last. */
  readonly firstBar: number;
  readonly lastBar: number;
}

/** In divisions of the part. */
export function duration(context: PartContext, ticks: Ticks): number {
  return (ticks * context.divisions) / TICKS_PER_QUARTER;
}
