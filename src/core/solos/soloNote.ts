import type { Pitch } from '../pitch';
import type { Ticks } from '../time';

/**
 * What a phrase does: says an idea, says it again, with another second half, on other notes in the same rhythm and
 * shape, answers it, or rests.
 */
export const PHRASE_KINDS = ['idea', 'same', 'varied', 'moved', 'answer', 'rest'] as const;
export type PhraseKind = (typeof PHRASE_KINDS)[number];

export const DEVICES = ['passing', 'neighbour', 'approach', 'enclosure', 'anticipation', 'lick', 'blue'] as const;
/** What a note does that is no tone of its chord, or comes early. */
export type SoloDevice = (typeof DEVICES)[number];
export type SoloRole = 'home' | 'colour' | 'rub' | 'outside';

export interface SoloNote {
  /** From the start of the solo. */
  readonly at: Ticks;
  readonly length: Ticks;
  /** Written. */
  readonly pitch: Pitch;
  readonly concert: Pitch;
  /** Index of the sounding chord in the form. */
  readonly chord: number;
  /** Of that chord: `1`, `♭3`, `♯11`. */
  readonly degree: string;
  readonly role: SoloRole;
  readonly device?: SoloDevice;
  readonly isTriplet?: true;
}

export interface SoloPhrase {
  readonly start: Ticks;
  readonly end: Ticks;
  readonly kind: PhraseKind;
  /** Index of the phrase that it goes back to. */
  readonly of?: number;
  /** Kept as it was given. */
  readonly isGiven?: true;
}
