import type { Phrase } from '../analysis';
import type { PartRole, TogetherCell, Tune } from '../score';
import type { Ground, Section } from './ground';
import type { VoiceLine } from './line';
import type { LeadSpan } from './move';
import type { EnsemblePlayer } from './player';
import type { EnsembleMeasures } from './rules';

/** What one player has. */
export interface EnsembleVoice {
  readonly player: EnsemblePlayer;
  /** What they do where they do not lead. */
  readonly role: PartRole;
  /** By section. */
  readonly cells: readonly TogetherCell[];
  readonly leads: readonly LeadSpan[];
  readonly line: VoiceLine;
  /** Their bars in concert pitch, with what they would pencil in. */
  readonly tune: Tune;
  readonly phrases: readonly Phrase[];
}

/** A tune for several players, once through. */
export interface Ensemble {
  /** The tune in the key of all, with chords. */
  readonly ground: Ground;
  readonly sections: readonly Section[];
  readonly voices: readonly EnsembleVoice[];
  readonly perMinute: number;
  readonly measures: EnsembleMeasures;
  /** The tune had no chords: these are proposals. */
  readonly hasProposedChords: boolean;
}
