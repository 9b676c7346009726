import type { Pitch } from '../pitch';
import type { EventId } from './tune';

/** Where a fretted line is stopped. */
export interface Tablature {
  /** Open strings as they sound, lowest first. */
  readonly strings: readonly Pitch[];
  /** By event; the first string is the highest. */
  readonly places: ReadonlyMap<EventId, { readonly string: number; readonly fret: number }>;
}
