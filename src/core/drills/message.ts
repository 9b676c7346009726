import type { WrittenRange } from '../instruments';
import { namePitchClass, type Pitch } from '../pitch';

/** What a drill does not do as its idea says, and why; in written pitch. */
export interface Message {
  readonly what: string;
  readonly why: string;
}

/** `B♭3` for people. */
export function namePitch(pitch: Pitch): string {
  return `${namePitchClass(pitch)}${pitch.octave}`;
}

/** `C4 and A5`. */
export function nameSpan({ low, high }: WrittenRange): string {
  return `${namePitch(low)} and ${namePitch(high)}`;
}
