import { fingeringsFor, isUnderHand, movableShape } from '../fingering';
import type { Scale } from '../harmony';
import type { Instrument, WrittenRange } from '../instruments';
import { chroma, type Pitch, semitones, spellInKey } from '../pitch';

/** A place of the hand on strings: the position of a bow's player, the fret of a first finger. */
export interface Hand {
  readonly hand: number;
  /** Without open strings, so that it can be moved. */
  readonly isStopped: boolean;
  /** What lies under it, written. */
  readonly range: WrittenRange;
}

/** MIDI key numbers count from an octave below the lowest pitch that is named. */
const MIDI_ABOVE = 12;
const PLAIN_KEY = { tonic: { step: 'C', alter: 0 }, mode: 'major' } as const;

/** Whether a written pitch lies under a hand that stays where it is. */
export function canReach(
  instrument: Pick<Instrument, 'mechanism'>,
  pitch: Pitch,
  { hand, isStopped }: Pick<Hand, 'hand' | 'isStopped'>,
): boolean {
  return fingeringsFor(instrument, pitch).some(({ fingering }) => isUnderHand(fingering, hand, isStopped));
}

/**
 * What of a range lies under a hand without stretching; none where nothing does, and on instruments without strings.
 * Open strings count in the lowest place alone, for above it they lie apart.
 */
export function handAt(
  instrument: Pick<Instrument, 'mechanism'>,
  { low, high }: WrittenRange,
  hand: number,
  isStopped: boolean,
): Hand | undefined {
  const reached: Pitch[] = [];
  for (let height = semitones(low); height <= semitones(high); height += 1) {
    const pitch = spellInKey(height + MIDI_ABOVE, PLAIN_KEY);
    const isUnder = fingeringsFor(instrument, pitch).some(
      ({ fingering }) =>
        isUnderHand(fingering, hand, isStopped || hand > 1) &&
        !(fingering.kind === 'bowed' && fingering.placement === 'stretched'),
    );
    if (isUnder) reached.push(pitch);
  }
  const [first, last] = [reached[0], reached.at(-1)];
  return first && last && semitones(first) < semitones(last)
    ? { hand, isStopped, range: { low: first, high: last } }
    : undefined;
}

/**
 * The hand for each of several scales of one kind, so that all are played with one shape: found for the first, moved by
 * frets for the others, each as low on the neck as it goes. None at all where the instrument has no frets or no shape
 * holds an octave.
 */
export function shapeThrough(
  instrument: Instrument,
  range: WrittenRange,
  scales: readonly Scale[],
): readonly (Hand | undefined)[] {
  const { mechanism } = instrument;
  const [first] = scales;
  if (mechanism.kind !== 'fretted' || !first) return [];
  const shape = movableShape(mechanism, first);
  if (!shape) return [];
  const lowest = shape.hand;
  return scales.map((scale) => {
    const up = (chroma(scale.tonic) - chroma(first.tonic) + 12) % 12;
    const hands = [lowest + up - 12, lowest + up, lowest + up + 12].filter(
      (hand) => hand >= 1 && hand + 3 <= mechanism.frets,
    );
    return hands.map((hand) => handAt(instrument, range, hand, true)).find((found) => found !== undefined);
  });
}
