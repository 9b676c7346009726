import type { Scale } from '../harmony';
import type { Instrument, WrittenRange } from '../instruments';
import { byOctaves, chroma, type Pitch, semitones } from '../pitch';
import { rungsOfChord } from './rungs';
import { tonicChord } from './section';
import type { SectionLine } from './sectionLine';

/**
 * Semitones of the partials of a tube above its fundamental; the seventh is flat and is left out (acoustics of brass,
 * any text).
 */
const PARTIALS = [12, 19, 24, 28, 31, 36, 38, 40, 43] as const;
/** Half steps by which valves or slide lengthen the tube at most. */
const LONGEST = 6;

/**
 * The partials of one length of tube, up and down: the notes of the key's chord that a brass player slurs with the lips
 * alone. `undefined` on other instruments, and where no length has the tonic as its fundamental.
 */
export function partialsOn({ mechanism }: Instrument, scale: Scale, range: WrittenRange): SectionLine | undefined {
  if (mechanism.kind !== 'valves' && mechanism.kind !== 'slide') return undefined;
  const { open } = mechanism;
  const lowered = (chroma(open) - chroma(scale.tonic) + 12) % 12;
  if (lowered > LONGEST) return undefined;
  const fundamental = semitones(open) - lowered;
  const [root, , fifth] = tonicChord(scale);
  if (!root || !fifth) return undefined;
  const spelled = rungsOfChord(scale.tonic, scale.notes).up;
  const named = (height: number): Pitch | undefined => {
    const found = spelled.find((pitch) => semitones(pitch) === height);
    return found && byOctaves(found, 0);
  };
  const notes = PARTIALS.map((partial) => fundamental + partial)
    .filter((height) => height >= semitones(range.low) && height <= semitones(range.high))
    .flatMap((height) => named(height) ?? []);
  const home = notes.findIndex((pitch) => chroma(pitch) === chroma(scale.tonic));
  const usable = home < 0 ? [] : notes.slice(home);
  if (usable.length < 2) return undefined;
  return { notes: [...usable, ...usable.toReversed().slice(1)], group: 1, messages: [] };
}
