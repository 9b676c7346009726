import { derived } from '../../derived';
import { chordTonesUnder, type Phrase } from '../../analysis';
import { chroma, type Key, type PitchClass, semitones, stepIndex } from '../../pitch';
import { type BarSpan, barSpans, type SoundingNote, type Tune } from '../../score';
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
  /** The highest note of its phrase: that is what is remembered of the line. */
  peak: 0.5,
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
  const peaks = new Set(phrases.map((phrase) => peakOf(phrase, notes)));
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
      (peaks.has(index) ? WEIGHTS.peak : 0) +
      (note.first.lyrics ? WEIGHTS.syllable : 0) +
      (starts.has(index) ? WEIGHTS.phraseStart : 0) +
      (ends.has(index) ? WEIGHTS.phraseEnd : 0) +
      (before && Math.abs(height - semitones(before.pitch)) >= 5 ? WEIGHTS.targetOfLeap : 0)
    );
  });
}

/** The highest note of a phrase, the first of equals. */
function peakOf({ from, to }: Phrase, notes: readonly SoundingNote[]): number {
  let best = from;
  for (let k = from; k < to; k += 1) {
    const [here, top] = [notes[k], notes[best]];
    if (here && top && semitones(here.pitch) > semitones(top.pitch)) best = k;
  }
  return best;
}

/**
 * Notes that are shorter than a beat and only pass: no tone of the chord; where there is no chord, none of the tonic
 * triad and between two steps in one direction. And the first of two short notes that lead over the barline by step: the
 * second is the one that leads.
 */
export const passingNotes = derived(freshPassing);

function freshPassing(tune: Tune, notes: readonly SoundingNote[]): readonly boolean[] {
  const spans = barSpans(tune);
  const chords = chordTonesUnder(tune, notes);
  return notes.map((note, index) => {
    const beat = beatsOf(spans[note.bar]?.meter ?? tune.meter)[0]?.length ?? note.length;
    if (note.length >= beat) return false;
    if (index > 0 && leadsByPair(notes, index, spans)) return true;
    const tones = chords[index];
    if (tones && tones.length > 0) return !tones.some((tone) => chroma(tone) === chroma(note.pitch));
    const [before, after] = [notes[index - 1], notes[index + 1]];
    if (!before || !after || isOfTonic(note.pitch, tune.key)) return false;
    const [up, on] = [semitones(note.pitch) - semitones(before.pitch), semitones(after.pitch) - semitones(note.pitch)];
    return up * on > 0 && Math.abs(up) <= 2 && Math.abs(on) <= 2;
  });
}

/** A short note on the beat, after a longer one, whose neighbour goes on by step over the barline. */
function leadsByPair(notes: readonly SoundingNote[], index: number, spans: readonly BarSpan[]): boolean {
  const [before, note, next, after] = [notes[index - 1], notes[index], notes[index + 1], notes[index + 2]];
  if (!before || !note || !next || !after || next.bar !== note.bar || after.inBar !== 0) return false;
  const span = spans[note.bar];
  if (!span || next.length !== note.length || before.length < 2 * note.length || after.bar !== note.bar + 1)
    return false;
  const [one, two] = [semitones(next.pitch) - semitones(note.pitch), semitones(after.pitch) - semitones(next.pitch)];
  return one * two > 0 && Math.abs(one) <= 2 && Math.abs(two) <= 2;
}

function isOfTonic({ step }: PitchClass, { tonic }: Key): boolean {
  return [0, 2, 4].includes((stepIndex(step) - stepIndex(tonic.step) + 7) % 7);
}
