import { chordTones, SCALE_OF_MODE, scaleIntervals } from '../harmony';
import { chroma, fifthsOf, type Key, keyWithSignature, type Mode, signatureOf } from '../pitch';
import { barSpans, type SoundingNote, soundingNotes, type Tune } from '../score';
import { TICKS_PER_QUARTER, weightAt } from '../time';

/** The key that a tune's notes and chords speak for. */
export interface KeyFinding {
  readonly key: Key;
  /** 0.5 where two keys are as likely, towards 1 where none comes near. */
  readonly confidence: number;
  readonly runnersUp: readonly { readonly key: Key; readonly confidence: number }[];
}

/** For a place where the method is told to people. */
export const KEY_METHOD = 'Krumhansl and Kessler’s key profiles (1982), with the chords and the last note weighed in';

/**
 * How well each degree of the chromatic scale fits a key, from listeners' judgements. Source: C. Krumhansl and E.
 * Kessler, Psychological Review 89 (1982), as printed in C. Krumhansl, Cognitive Foundations of Musical Pitch (1990),
 * table 2.1.
 */
const MAJOR_PROFILE = [6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88];
const MINOR_PROFILE = [6.33, 2.68, 3.52, 5.38, 2.6, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17];

/** The other modes have no published profile of their own: the nearer one, with the degree that differs exchanged. */
const PROFILES: Readonly<Record<FoundMode, readonly number[]>> = {
  major: MAJOR_PROFILE,
  minor: MINOR_PROFILE,
  mixolydian: exchanged(MAJOR_PROFILE, 10, 11),
  lydian: exchanged(MAJOR_PROFILE, 5, 6),
  dorian: exchanged(MINOR_PROFILE, 8, 9),
  phrygian: exchanged(MINOR_PROFILE, 1, 2),
};
const FOUND_MODES = ['major', 'minor', 'dorian', 'mixolydian', 'lydian', 'phrygian'] as const satisfies readonly Mode[];
type FoundMode = (typeof FOUND_MODES)[number];

/** What is added to a profile's correlation (−1 to 1). Set by trial on tunes of known key; argue with them here. */
const WEIGHTS = {
  /** The last note is the home note; its third or fifth counts less. */
  lastIsTonic: 0.3,
  lastIsFifthOrThird: 0.05,
  firstIsTonic: 0.06,
  lastChordIsTonic: 0.3,
  firstChordIsTonic: 0.12,
  /** For the share of chord time whose tones lie in the scale. */
  chordsInScale: 0.5,
  /** For the share of note time that lies in the scale; the raised seventh counts as within minor. */
  notesInScale: 1.6,
  /** Major and minor are far more usual than the other modes. */
  rareMode: -0.06,
  rarestMode: -0.14,
} as const;

/** How fast confidence grows with the distance between two keys' sums. */
const STEEPNESS = 9;

/** Judges all twelve tonics in six modes; the signature has no say. A tune without notes is taken as it says itself. */
export function findKey(tune: Tune): KeyFinding {
  const notes = soundingNotes(tune);
  if (notes.length === 0) return { key: tune.key, confidence: 0.5, runnersUp: [] };
  const heard = noteWeights(notes, tune);
  const total = heard.reduce((sum, weight) => sum + weight, 0);
  const chords = placedChords(tune);
  const chordTime = chords.reduce((sum, { length }) => sum + length, 0);
  const last = chroma(notes.at(-1)?.pitch ?? tune.key.tonic);
  const first = chroma(firstStrong(notes).pitch);
  const sums = Array.from({ length: 12 }, (_, tonic) =>
    FOUND_MODES.map((mode) => {
      const inScale = scaleChromas(tonic, mode);
      const within = heard.reduce((sum, weight, pitch) => sum + (inScale.has(pitch) ? weight : 0), 0) / total;
      let sum = correlation(heard, PROFILES[mode], tonic) + WEIGHTS.notesInScale * within;
      const lastDegree = (last - tonic + 12) % 12;
      if (lastDegree === 0) sum += WEIGHTS.lastIsTonic;
      else if (lastDegree === 7 || lastDegree === (isMinorLike(mode) ? 3 : 4)) sum += WEIGHTS.lastIsFifthOrThird;
      if (first === tonic) sum += WEIGHTS.firstIsTonic;
      if (chordTime > 0) {
        sum +=
          WEIGHTS.chordsInScale *
          (chords.reduce((all, { tones, length }) => all + (tones.every((tone) => inScale.has(tone)) ? length : 0), 0) /
            chordTime);
        if (isTonicChord(chords.at(-1)?.tones, tonic, mode)) sum += WEIGHTS.lastChordIsTonic;
        if (isTonicChord(chords[0]?.tones, tonic, mode)) sum += WEIGHTS.firstChordIsTonic;
      }
      if (mode === 'dorian' || mode === 'mixolydian') sum += WEIGHTS.rareMode;
      if (mode === 'lydian' || mode === 'phrygian') sum += WEIGHTS.rarestMode;
      return { tonic, mode, sum };
    }),
  )
    .flat()
    .toSorted((a, b) => b.sum - a.sum);
  const best = sums[0];
  if (!best) return { key: tune.key, confidence: 0.5, runnersUp: [] };
  const centre = notes.reduce((sum, { pitch }) => sum + fifthsOf(pitch), 0) / notes.length;
  const against = (one: number, other: number) => Math.round(100 / (1 + Math.exp(STEEPNESS * (other - one)))) / 100;
  return {
    key: spelledKey(best.tonic, best.mode, centre),
    confidence: against(best.sum, sums[1]?.sum ?? -1),
    runnersUp: sums
      .slice(1, 4)
      .map(({ tonic, mode, sum }) => ({ key: spelledKey(tonic, mode, centre), confidence: against(sum, best.sum) })),
  };
}

function exchanged(profile: readonly number[], a: number, b: number): readonly number[] {
  return profile.map((weight, degree) =>
    degree === a ? (profile[b] ?? weight) : degree === b ? (profile[a] ?? weight) : weight,
  );
}

function isMinorLike(mode: FoundMode): boolean {
  return mode === 'minor' || mode === 'dorian' || mode === 'phrygian';
}

function scaleChromas(tonic: number, mode: FoundMode): ReadonlySet<number> {
  const chromas = new Set(scaleIntervals(SCALE_OF_MODE[mode]).map(({ chromatic }) => (tonic + chromatic) % 12));
  if (mode === 'minor') chromas.add((tonic + 11) % 12);
  return chromas;
}

/** Time that each of the twelve notes sounds, in quarters, more where it stands on a strong beat. */
function noteWeights(notes: readonly SoundingNote[], tune: Tune): readonly number[] {
  const spans = barSpans(tune);
  const weights = Array<number>(12).fill(0);
  for (const { pitch, length, bar, inBar } of notes) {
    const meter = spans[bar]?.meter ?? tune.meter;
    const at = chroma(pitch);
    weights[at] = (weights[at] ?? 0) + (length / TICKS_PER_QUARTER) * (0.75 + 0.5 * weightAt(meter, inBar));
  }
  return weights;
}

function firstStrong(notes: readonly SoundingNote[]): SoundingNote {
  const strong = notes.find(({ inBar }) => inBar === 0) ?? notes[0];
  if (!strong) throw new RangeError('a tune without notes has no first one');
  return strong;
}

interface TimedChord {
  readonly tones: readonly number[];
  readonly length: number;
}

function placedChords(tune: Tune): readonly TimedChord[] {
  const spans = barSpans(tune);
  const end = spans.reduce((sum, { length }) => sum + length, 0);
  const placed = tune.bars.flatMap((bar, index) =>
    bar.chords.map(({ at, symbol }) => ({ at: (spans[index]?.start ?? 0) + at, symbol })),
  );
  return placed.flatMap(({ at, symbol }, index) => {
    const length = (placed[index + 1]?.at ?? end) - at;
    const tones = chordTones(symbol)
      .filter(({ degree }) => degree <= 7)
      .map(({ pitchClass }) => chroma(pitchClass));
    return tones.length > 0 && length > 0 ? [{ tones, length }] : [];
  });
}

/**
 * A triad (or sixth or major seventh) on the tonic with the mode's own third; a dominant seventh only in mixolydian.
 */
function isTonicChord(tones: readonly number[] | undefined, tonic: number, mode: FoundMode): boolean {
  if (!tones || tones[0] !== tonic) return false;
  const third = (tonic + (isMinorLike(mode) ? 3 : 4)) % 12;
  const seventh = (tonic + 10) % 12;
  return tones.includes(third) && (isMinorLike(mode) || mode === 'mixolydian' || !tones.includes(seventh));
}

/** Pearson's correlation of what is heard with a profile turned to a tonic. */
function correlation(heard: readonly number[], profile: readonly number[], tonic: number): number {
  const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
  const [a, b] = [mean(heard), mean(profile)];
  let both = 0;
  let own = 0;
  let other = 0;
  for (let degree = 0; degree < 12; degree += 1) {
    const x = (heard[(tonic + degree) % 12] ?? 0) - a;
    const y = (profile[degree] ?? 0) - b;
    both += x * y;
    own += x * x;
    other += y * y;
  }
  return own === 0 ? 0 : both / Math.sqrt(own * other);
}

/** Of the enharmonic twins the one with at most six accidentals that lies nearer to how the notes are spelled. */
function spelledKey(tonic: number, mode: Mode, centre: number): Key {
  const candidates = Array.from({ length: 13 }, (_, k) => keyWithSignature(k - 6, mode)).filter(
    (key) => chroma(key.tonic) === tonic,
  );
  return candidates.reduce((best, next) =>
    Math.abs(signatureOf(next) + 2 - centre) < Math.abs(signatureOf(best) + 2 - centre) ? next : best,
  );
}
