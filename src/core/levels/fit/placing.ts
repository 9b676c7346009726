import { outsideBy, type WrittenRange } from '../../instruments/instrument';
import { byOctaves, pitchClassOf, semitones, type Pitch, type PitchClass } from '../../pitch/pitch';

/** Written heights (semitones above C0) that a player knows. */
export type KnownNotes = ReadonlySet<number>;

/** Costs of a gesture in an octave, against those of moving it (`JOINS`). Open to argument; the order matters more than the figures. */
export const PLACING = {
  /** Some note of the gesture cannot be played there; and again for each such note. */
  bent: 30,
  eachOther: 8,
  /** A note beyond the level's usual range that the player has all the same; and for each semitone. */
  beyond: 3,
  eachSemitone: 1,
  /** For each octave away from where most of the tune lies. */
  octave: 1,
} as const;

/** Costs of what takes the place of a note that cannot be played, beside the semitones by which the line bends. */
const INSTEAD = {
  /** The same note in another octave. */
  octave: 3,
  /** A note that could stay and goes along to another octave, so that the line changes its octave where it leaps anyway. */
  along: 2,
  /** A tone of the chord is another note than the tune's; a step of the scale is one that the chord may not have. */
  chordTone: 4,
  scaleStep: 8,
  /** It repeats the note before, where the tune goes on. */
  stammer: 4,
  /** The line goes up where the tune goes down, or the reverse; a leap of a fourth or more that is turned to its complement costs less. */
  turned: 12,
  turnedLeap: 7,
  /** For each semitone of an interval beyond a fifth that the tune does not have. */
  wide: 2,
} as const;

const FIFTH = 7;
const FOURTH = 5;
const OCTAVE = 12;

/** What stands where a gesture is to lie, and what that costs. */
export interface PlacedGesture {
  readonly pitches: readonly Pitch[];
  readonly cost: number;
}

export interface PlacedNote {
  /** Written, in the octave of the gesture. */
  readonly pitch: Pitch;
  /** What the player may be given. */
  readonly limits: WrittenRange;
  /** Tones of the chord, written. */
  readonly tones: readonly PitchClass[];
  /** It keeps its pitch class: the first of the tune, the last of a phrase. */
  readonly isFixed: boolean;
  /** Another note for it has to be a tone of the chord: so a teacher wanted it. */
  readonly isOfChord: boolean;
  /** It lies where a teacher put it: it does not go along to another octave. */
  readonly isSet: boolean;
}

/**
 * A gesture as it can be played: notes inside the limits stay; the others become the nearest notes that keep the contour, by the least bend
 * over the gesture as a whole.
 * Rule, out of reach: … then the nearest note that keeps the contour. Never a single note flipped inside a gesture.
 * @param scale notes of the written key
 */
export function placeGesture(
  notes: readonly PlacedNote[],
  usual: WrittenRange,
  scale: readonly PitchClass[],
  known: KnownNotes | undefined,
): PlacedGesture {
  let [beyond, others] = [0, 0];
  const isPlayable = ({ pitch, limits }: PlacedNote) => outsideBy(pitch, limits) === 0 && isKnown(pitch, known);
  for (const note of notes) {
    if (!isPlayable(note)) others += 1;
    else {
      const outside = Math.abs(outsideBy(note.pitch, usual));
      if (outside > 0) beyond += PLACING.beyond + PLACING.eachSemitone * outside;
    }
  }
  if (others === 0) return { pitches: notes.map(({ pitch }) => pitch), cost: beyond };
  interface Path {
    readonly pitch: Pitch;
    readonly cost: number;
    readonly before: Path | undefined;
  }
  let paths: readonly Path[] = [];
  notes.forEach((note, index) => {
    const source = notes[index - 1]?.pitch;
    const candidates = isPlayable(note)
      ? [{ pitch: note.pitch, cost: 0 }, ...(note.isSet ? [] : along(note, usual, known))]
      : instead(note, usual, scale, known);
    paths = candidates.map(({ pitch, cost }): Path => {
      const best = paths.reduce<Path | undefined>((least, path) => {
        const sum = path.cost + (source ? bendCost(path.pitch, pitch, source, note.pitch) : 0);
        return !least || sum < least.cost - 1e-9 ? { ...path, cost: sum } : least;
      }, undefined);
      return { pitch, cost: cost + (best?.cost ?? 0), before: best };
    });
  });
  const end = paths.reduce<Path | undefined>(
    (least, path) => (!least || path.cost < least.cost - 1e-9 ? path : least),
    undefined,
  );
  const pitches: Pitch[] = [];
  for (let path = end; path; path = path.before) pitches.push(path.pitch);
  return { pitches: pitches.toReversed(), cost: PLACING.bent + PLACING.eachOther * others + (end?.cost ?? 0) + beyond };
}

function bendCost(before: Pitch, here: Pitch, sourceBefore: Pitch, source: Pitch): number {
  const wanted = semitones(source) - semitones(sourceBefore);
  const made = semitones(here) - semitones(before);
  if (made === wanted) return 0;
  const turns = made * wanted < 0;
  const isComplement =
    turns && Math.abs(made - wanted) === OCTAVE && Math.abs(wanted) >= FOURTH && Math.abs(made) >= FOURTH;
  const turned = !turns ? 0 : isComplement ? INSTEAD.turnedLeap : INSTEAD.turned;
  const stammers = made === 0 && wanted !== 0 ? INSTEAD.stammer : 0;
  const isWider = Math.abs(made) > Math.abs(wanted);
  return (
    (isComplement ? 0 : Math.min(OCTAVE, Math.abs(made - wanted))) +
    turned +
    stammers +
    (isWider ? INSTEAD.wide * Math.max(0, Math.abs(made) - FIFTH) : 0)
  );
}

/** A playable note in its other octaves, where they are in the usual range. */
function along(
  { pitch }: PlacedNote,
  usual: WrittenRange,
  known: KnownNotes | undefined,
): readonly { readonly pitch: Pitch; readonly cost: number }[] {
  return [1, -1]
    .map((by) => byOctaves(pitch, by))
    .filter((other) => outsideBy(other, usual) === 0 && isKnown(other, known))
    .map((other) => ({ pitch: other, cost: INSTEAD.along }));
}

/** What of the usual range may stand for a note that cannot be played; at the worst the note itself, where nothing is known that could. */
function instead(
  { pitch, tones, isFixed, isOfChord }: PlacedNote,
  usual: WrittenRange,
  scale: readonly PitchClass[],
  known: KnownNotes | undefined,
): readonly { readonly pitch: Pitch; readonly cost: number }[] {
  const isOwn = (other: PitchClass) => other.step === pitch.step && other.alter === pitch.alter;
  const inRange = (classes: readonly PitchClass[], cost: number) =>
    classes
      .flatMap((one) => octavesInside(one, usual))
      .filter((candidate) => isKnown(candidate, known))
      .map((candidate) => ({ pitch: candidate, cost }));
  const own = inRange([pitchClassOf(pitch)], INSTEAD.octave);
  if (isFixed && own.length > 0) return own;
  const isTone = (one: PitchClass) => tones.some(({ step, alter }) => step === one.step && alter === one.alter);
  const found = [
    ...own,
    ...inRange(
      tones.filter((tone) => !isOwn(tone)),
      INSTEAD.chordTone,
    ),
    ...inRange(isOfChord ? [] : scale.filter((one) => !isOwn(one) && !isTone(one)), INSTEAD.scaleStep),
  ];
  if (found.length > 0) return found;
  // Where neither the note nor its chord nor the scale is known in any octave, the nearest known note is better than none.
  const any = inRange(NATURALS_AND_KIN, INSTEAD.scaleStep);
  return any.length > 0 ? any : [{ pitch, cost: 0 }];
}

/** The usual spellings of the twelve notes. */
const NATURALS_AND_KIN: readonly PitchClass[] = (['C', 'D', 'E', 'F', 'G', 'A', 'B'] as const).flatMap((step) =>
  [0, ...('CFG'.includes(step) ? [1] : []), ...('EB'.includes(step) ? [-1] : [])].map((alter) => ({ step, alter })),
);

export function isKnown(pitch: Pitch, known: KnownNotes | undefined): boolean {
  return known === undefined || known.has(semitones(pitch));
}

/** A note's octaves within a range, kept with the range: lines ask for the same few again and again. */
const octavesKnown = new WeakMap<WrittenRange, Map<string, readonly Pitch[]>>();

function octavesInside({ step, alter }: PitchClass, limits: WrittenRange): readonly Pitch[] {
  const known = octavesKnown.get(limits) ?? new Map<string, readonly Pitch[]>();
  octavesKnown.set(limits, known);
  const name = `${step}${alter}`;
  const made =
    known.get(name) ??
    Array.from({ length: 10 }, (_, octave): Pitch => ({ step, alter, octave })).filter(
      (pitch) => outsideBy(pitch, limits) === 0,
    );
  known.set(name, made);
  return made;
}
