import { familyOfKey, type FormReading, scaleBeside, type Scale, SCALE_OF_MODE } from '../harmony';
import type { PitchClass } from '../pitch';
import type { Style } from '../score';
import type { WholeFormSet } from './wholeForm';

/** One stage of a set that is opened over weeks. */
export interface GrowingStage {
  readonly words: string;
  readonly notes: readonly PitchClass[];
}

/**
 * A set opened note by note: three notes, five, five with the blue note, seven. The three are neighbours around the
 * set's tonic, so that a pupil can sing them; each stage holds the one before. Common practice of teaching
 * improvisation from few notes.
 */
export function growingStages(set: WholeFormSet, { home }: FormReading, style: Style): readonly GrowingStage[] {
  const { scale } = set;
  const isMinorSet = scale.name === 'minor pentatonic' || scale.name === 'blues scale';
  const five = isMinorSet ? scaleBeside(scale.tonic, 'minor pentatonic') : scaleBeside(scale.tonic, 'major pentatonic');
  const blue = scaleBeside(scale.tonic, isMinorSet ? 'blues scale' : 'major blues');
  const holdsFive = (other: Scale) =>
    five.notes.every((note) => other.notes.some((one) => one.step === note.step && one.alter === note.alter));
  const seven = [
    scaleBeside(home.tonic, SCALE_OF_MODE[home.mode]),
    scaleBeside(scale.tonic, familyOfKey(home) === 'minor' || isMinorSet ? 'dorian' : 'mixolydian'),
    scaleBeside(scale.tonic, isMinorSet ? 'natural minor' : 'major'),
  ].find(holdsFive);
  const hasBlue = style === 'blues' || style === 'jazz' || style === 'rock' || style === 'song';
  return [
    { words: 'three notes', notes: five.notes.slice(0, 3) },
    { words: 'five notes', notes: five.notes },
    ...(hasBlue ? [{ words: 'five and the blue note', notes: blue.notes }] : []),
    ...(seven ? [{ words: 'seven notes', notes: seven.notes }] : []),
  ];
}
