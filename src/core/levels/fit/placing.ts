import { derived } from '../../derived';
import { outsideBy, type WrittenRange } from '../../instruments';
import { byOctaves, type Pitch, type PitchClass, pitchOf, semitones } from '../../pitch';

/** Written heights (semitones above C0) that a player knows. */
export type KnownNotes = ReadonlySet<number>;

/**
 * Costs of a gesture in an octave, against those of moving it (`JOINS`). Open to argument; the order matters more than
 * the figures.
 */
export const PLACING = {
  /** Some note of the gesture cannot be played there; and again for each such note. */
  bent: 30,
  eachOther: 8,
  /** One that has to keep its pitch class, and so would turn its octave alone. */
  fixed: 10,
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
  /**
   * A note that could stay and goes along to another octave, so that the line changes its octave where it leaps anyway.
   */
  along: 2,
  /** A note that could stay and bends with its neighbours. */
  bent: 14,
  /** A tone of the chord is another note than the tune's; a step of the scale is one that the chord may not have. */
  chordTone: 4,
  scaleStep: 8,
  /** It repeats the note before, where the tune goes on. */
  stammer: 4,
  /**
   * The line goes up where the tune goes down, or the reverse; a leap of a fourth or more that is turned to its
   * complement costs less.
   */
  turned: 12,
  turnedLeap: 7,
  /**
   * The same inside a bar of a first-year part, where no interval changes its direction or its octave; and on a note
   * that is played again.
   */
  turnedInBar: 300,
  /** For each semitone of an interval beyond a fifth that the tune does not have. */
  wide: 2,
} as const;

const FIFTH = 7;
const FOURTH = 5;
const OCTAVE = 12;

export interface PlacedNote {
  /** Written, in the octave of the gesture. */
  readonly pitch: Pitch;
  /** What the player may be given. */
  readonly limits: WrittenRange;
  /** Tones of the chord, written; asked for where another note is looked for. */
  readonly tonesOf: () => readonly PitchClass[];
  /** It keeps its pitch class: the first of the tune, the last of a phrase. */
  readonly isFixed: boolean;
  /** Another note for it has to be a tone of the chord: so a teacher wanted it. */
  readonly isOfChord: boolean;
  /** It follows in the same bar, and the player is not to turn there. */
  readonly isInBar: boolean;
  /** It may become a neighbour of itself, where the line could not keep its way otherwise. */
  readonly bends: boolean;
  /** It lies where a teacher put it: it does not go along to another octave. */
  readonly isSet: boolean;
}

const isPlayable = ({ pitch, limits }: PlacedNote, known: KnownNotes | undefined) =>
  outsideBy(pitch, limits) === 0 && isKnown(pitch, known);

/** Heights, in semitones above C0: of the usual range, and of what may be played at all. */
export interface Bounds {
  readonly low: number;
  readonly high: number;
  readonly least: number;
  readonly most: number;
  readonly known: KnownNotes | undefined;
}

/**
 * What it costs that a gesture lies where it does; weighed before it is worked out what stands instead of its notes.
 */
export function costOfPlace(
  count: number,
  heightOf: (k: number) => number,
  isFixed: (k: number) => boolean,
  { low, high, least, most, known }: Bounds,
): number {
  let cost = 0;
  let isBent = false;
  for (let k = 0; k < count; k += 1) {
    const height = heightOf(k);
    const outside = height < low ? low - height : height > high ? height - high : 0;
    if (height >= least && height <= most && (!known || known.has(height)))
      cost += outside > 0 ? PLACING.beyond + PLACING.eachSemitone * outside : 0;
    else {
      isBent = true;
      cost += PLACING.eachOther + Math.min(OCTAVE, outside) + (isFixed(k) ? PLACING.fixed : 0);
    }
  }
  return cost + (isBent ? PLACING.bent : 0);
}

/** What may stand in one place: pitches, their heights in semitones above C0, and what each costs by itself. */
interface Row {
  readonly pitches: Pitch[];
  readonly heights: number[];
  readonly costs: number[];
}

function put({ pitches, heights, costs }: Row, pitch: Pitch, cost: number, known: KnownNotes | undefined): void {
  const height = semitones(pitch);
  if (known && !known.has(height)) return;
  pitches.push(pitch);
  heights.push(height);
  costs.push(cost);
}

/**
 * A gesture as it can be played: notes inside the limits stay; the others become the nearest notes that keep the
 * contour, by the least bend over the gesture as a whole. Rule, out of reach: … then the nearest note that keeps the
 * contour. Never a single note flipped inside a gesture.
 * @param scale notes of the written key
 */
export function placeGesture(
  notes: readonly PlacedNote[],
  usual: WrittenRange,
  scale: readonly PitchClass[],
  known: KnownNotes | undefined,
): readonly Pitch[] {
  if (notes.every((note) => isPlayable(note, known))) return notes.map(({ pitch }) => pitch);
  const rows = notes.map((note) => rowOf(note, usual, scale, known));
  // For each choice of each note: which choice of the note before it goes on from.
  const from: number[][] = [];
  let [before, costs]: [readonly number[], readonly number[]] = [[], []];
  rows.forEach((row, k) => {
    const { pitch, isInBar } = notes[k] as PlacedNote;
    const wanted = k === 0 ? 0 : semitones(pitch) - semitones(notes[k - 1]?.pitch ?? pitch);
    const back: number[] = [];
    const next: number[] = [];
    for (let c = 0; c < row.heights.length; c += 1) {
      const here = row.heights[c] ?? 0;
      let [least, best] = [k === 0 ? 0 : Infinity, 0];
      for (let b = 0; b < before.length; b += 1) {
        const sum = (costs[b] ?? 0) + bendCost(here - (before[b] ?? 0), wanted, isInBar);
        if (sum < least - 1e-9) {
          least = sum;
          best = b;
        }
      }
      back.push(best);
      next.push((row.costs[c] ?? 0) + least);
    }
    from.push(back);
    [before, costs] = [row.heights, next];
  });
  let at = costs.reduce((best, cost, c) => (cost < (costs[best] ?? Infinity) - 1e-9 ? c : best), 0);
  const pitches: Pitch[] = [];
  for (let k = notes.length - 1; k >= 0; k -= 1) {
    const chosen = rows[k]?.pitches[at];
    if (chosen) pitches.push(chosen);
    at = from[k]?.[at] ?? 0;
  }
  return pitches.toReversed();
}

function rowOf(
  note: PlacedNote,
  usual: WrittenRange,
  scale: readonly PitchClass[],
  known: KnownNotes | undefined,
): Row {
  const row: Row = { pitches: [], heights: [], costs: [] };
  if (!isPlayable(note, known)) {
    putInstead(row, note, usual, scale, known);
    return row;
  }
  put(row, note.pitch, 0, undefined);
  // A first-year line would rather bend beside what is out of reach than turn round there.
  if (note.bends && !note.isSet && !note.isFixed)
    for (const one of scale)
      for (const near of octavesInside(one, usual)) {
        const distance = Math.abs(semitones(near) - semitones(note.pitch));
        if (distance > 0 && distance < FOURTH) put(row, near, INSTEAD.bent, known);
      }
  // A playable note may go along to its other octaves, where they are in the usual range.
  if (!note.isSet)
    for (const by of [1, -1]) {
      const other = byOctaves(note.pitch, by);
      if (outsideBy(other, usual) === 0) put(row, other, INSTEAD.along, known);
    }
  return row;
}

/** Semitones that the line goes, and those that the tune goes. */
function bendCost(made: number, wanted: number, isInBar: boolean): number {
  if (made === wanted) return 0;
  if ((isInBar || wanted === 0) && (Math.sign(made) !== Math.sign(wanted) || Math.abs(made - wanted) >= OCTAVE))
    return INSTEAD.turnedInBar;
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

/**
 * What of the usual range may stand for a note that cannot be played; at the worst the note itself, where nothing is
 * known that could.
 */
function putInstead(
  row: Row,
  { pitch, tonesOf, isFixed, isOfChord }: PlacedNote,
  usual: WrittenRange,
  scale: readonly PitchClass[],
  known: KnownNotes | undefined,
): void {
  const isOwn = (other: PitchClass) => other.step === pitch.step && other.alter === pitch.alter;
  const inRange = (one: PitchClass, cost: number) => {
    for (const candidate of octavesInside(one, usual)) put(row, candidate, cost, known);
  };
  inRange(pitch, INSTEAD.octave);
  if (isFixed && row.pitches.length > 0) return;
  const tones = tonesOf();
  const isTone = (one: PitchClass) => tones.some(({ step, alter }) => step === one.step && alter === one.alter);
  for (const tone of tones) if (!isOwn(tone)) inRange(tone, INSTEAD.chordTone);
  if (!isOfChord) for (const one of scale) if (!isOwn(one) && !isTone(one)) inRange(one, INSTEAD.scaleStep);
  if (row.pitches.length > 0) return;
  // Where neither the note nor its chord nor the scale is known in any octave, the nearest known note is better than
  // none.
  for (const one of NATURALS_AND_KIN) inRange(one, INSTEAD.scaleStep);
  if (row.pitches.length === 0) put(row, pitch, 0, undefined);
}

/** The usual spellings of the twelve notes. */
const NATURALS_AND_KIN: readonly PitchClass[] = (['C', 'D', 'E', 'F', 'G', 'A', 'B'] as const).flatMap((step) =>
  [0, ...('CFG'.includes(step) ? [1] : []), ...('EB'.includes(step) ? [-1] : [])].map((alter) => ({ step, alter })),
);

export function isKnown(pitch: Pitch, known: KnownNotes | undefined): boolean {
  return known === undefined || known.has(semitones(pitch));
}

/** A note's octaves within a range: lines ask for the same few again and again. */
const octavesInside = derived(
  ({ step, alter }: PitchClass, limits: WrittenRange): readonly Pitch[] =>
    Array.from({ length: 10 }, (_, octave) => pitchOf(step, alter, octave)).filter(
      (pitch) => outsideBy(pitch, limits) === 0,
    ),
  { most: 49, by: ({ step, alter }, limits) => [limits, step, alter] },
);
