import { derived } from '../../derived';
import { chordTonesUnder, type Phrase } from '../../analysis';
import { chroma, type Key, type PitchClass, semitones, stepIndex } from '../../pitch';
import { barSpans, type SoundingNote, type Tune } from '../../score';
import { beatsOf, weightAt } from '../../time';

/**
 * What makes a note one that carries the tune. Metre, length, harmony and contour are the usual criteria of melodic
 * reduction (e.g. F. Lerdahl and R. Jackendoff, A Generative Theory of Tonal Music, 1983, time-span preference rules
 * 1–7); the figures are ours and open to argument.
 */
const WEIGHTS = {
  /** Times the metric weight (1 on the downbeat, 0.1 between the halves of a beat). */
  metre: 1,
  /** A beat of length, counted up to two beats. */
  lengthOfABeat: 0.4,
  chordTone: 0.35,
  topOrBottom: 0.3,
  phraseStart: 0.8,
  phraseEnd: 1.5,
  /** Has a syllable of its own to sing. */
  syllable: 0.4,
  /** Reached by a leap of a fourth or more. */
  targetOfLeap: 0.2,
} as const;

/** The weight of each sounding note, above zero; no upper bound, 1 to 3 for those that matter. */
export const noteWeights = derived(freshWeights);

function freshWeights(tune: Tune, notes: readonly SoundingNote[], phrases: readonly Phrase[]): readonly number[] {
  const spans = barSpans(tune);
  const chords = chordTonesUnder(tune, notes);
  const starts = new Set(phrases.map(({ from }) => from));
  const ends = new Set(phrases.map(({ to }) => to - 1));
  return notes.map((note, index) => {
    const meter = spans[note.bar]?.meter ?? tune.meter;
    const beat = beatsOf(meter)[0]?.length ?? note.length;
    const height = semitones(note.pitch);
    const before = notes[index - 1];
    const after = notes[index + 1];
    const tones = chords[index]?.map(chroma) ?? [];
    const isTop = before && after && height > semitones(before.pitch) && height > semitones(after.pitch);
    const isBottom = before && after && height < semitones(before.pitch) && height < semitones(after.pitch);
    return (
      WEIGHTS.metre * weightAt(meter, note.inBar) +
      WEIGHTS.lengthOfABeat * Math.min(2, note.length / beat) +
      (tones.includes(chroma(note.pitch)) ? WEIGHTS.chordTone : 0) +
      (isTop || isBottom ? WEIGHTS.topOrBottom : 0) +
      (note.first.lyrics ? WEIGHTS.syllable : 0) +
      (starts.has(index) ? WEIGHTS.phraseStart : 0) +
      (ends.has(index) ? WEIGHTS.phraseEnd : 0) +
      (before && Math.abs(height - semitones(before.pitch)) >= 5 ? WEIGHTS.targetOfLeap : 0)
    );
  });
}

/**
 * Notes that are shorter than a beat and only pass: no tone of the chord; where there is no chord, none of the tonic
 * triad and between two steps in one direction.
 */
export const passingNotes = derived(freshPassing);

function freshPassing(tune: Tune, notes: readonly SoundingNote[]): readonly boolean[] {
  const spans = barSpans(tune);
  const chords = chordTonesUnder(tune, notes);
  return notes.map((note, index) => {
    const beat = beatsOf(spans[note.bar]?.meter ?? tune.meter)[0]?.length ?? note.length;
    if (note.length >= beat) return false;
    const tones = chords[index];
    if (tones && tones.length > 0) return !tones.some((tone) => chroma(tone) === chroma(note.pitch));
    const [before, after] = [notes[index - 1], notes[index + 1]];
    if (!before || !after || isOfTonic(note.pitch, tune.key)) return false;
    const [up, on] = [semitones(note.pitch) - semitones(before.pitch), semitones(after.pitch) - semitones(note.pitch)];
    return up * on > 0 && Math.abs(up) <= 2 && Math.abs(on) <= 2;
  });
}

function isOfTonic({ step }: PitchClass, { tonic }: Key): boolean {
  return [0, 2, 4].includes((stepIndex(step) - stepIndex(tonic.step) + 7) % 7);
}
