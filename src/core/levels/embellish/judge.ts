import { alterInKey, chroma, type Key, type Pitch, type PitchClass, semitones, staffPosition } from '../../pitch';
import type { SoundingNote, Style } from '../../score';
import { isCompound, type Meter, type Ticks, weightAt } from '../../time';
import type { Device } from '../../work';
import { DEVICE_WEIGHTS, type Figure, type NoteDevice, type Piece, type Spot } from './devices';

/**
 * What the judge of added notes goes by. What is added is scored; dice only break ties. The order is common practice of
 * writing variations (a note on the beat belongs to the chord or resolves by step; the line goes where the next note of
 * the tune is); the figures are ours and open to argument.
 */
const LIKES = {
  /** An added note on a beat that is a tone of its chord. */
  chordToneOnBeat: 0.2,
  /** One that is none but goes on by step; one that does not is not written at all. */
  leaningOnBeat: -0.25,
  /** The last added note goes into the tune's next note by step, stays on it, or leaps by more than a third. */
  arrivesByStep: 0.3,
  staysOnNext: -0.5,
  leapsToNext: -0.5,
  /** Nothing follows without a rest. */
  goesNowhere: -0.4,
  /** The first of two halves of a leap inside the figure of more than a third, unless both are chord tones. */
  leapInside: -0.4,
  /** It repeats the note it was added to, or the one before. */
  stammer: -1.2,
  /** The note is short. */
  shortNote: -0.35,
  /** The tune comes home: its last bar is left as it is. */
  lastBar: -1,
  /** Notes shorter than the tune's own short ones, where there is time for them; else they are not written. */
  veryShort: -0.3,
  /** A half step into a chord tone on a strong beat, where the style has them. */
  halfStep: 0.1,
  /** The same, where the style has them rarely. */
  rareHalfStep: -0.45,
  /** Ornaments in a style of its own grace notes. */
  ornament: -0.2,
} as const;

/** Below this nothing is written unasked. */
export const THRESHOLD = 0.55;

/** From this share of notes with graces on a tune has its own. */
const GRACED = 0.04;
/** A tune of so few different notes has no others. */
const FEW_NOTES = 5;
/** Values that are shorter than all but this share of the notes are exceptions. */
const USUAL = 0.06;

/** How half steps from outside are taken: not at all, rarely, or as a matter of course. */
type HalfSteps = 'never' | 'rarely' | 'freely';

const HALF_STEPS: Readonly<Record<Style, HalfSteps>> = {
  modal: 'never',
  hymn: 'never',
  dance: 'never',
  song: 'rarely',
  rock: 'rarely',
  blues: 'freely',
  jazz: 'freely',
};

/** Styles in which a strong note may come early. Nobody sings it so elsewhere. */
const PUSHES: ReadonlySet<Style> = new Set(['rock', 'blues', 'jazz']);

/** What is at home in a style, and what is not: added to the weights of devices. A figure of another country is none. */
const DIALECT: Readonly<Record<Style, Partial<Record<Device, number>>>> = {
  song: { neighbour: 0.15, grace: -0.35, triplet: -0.6, 'double-time': -0.6, enclosure: -0.2, turn: -0.2 },
  hymn: { passing: 0.2, triplet: -2, 'double-time': -2, 'run-in': -0.4, turn: -2, grace: -2 },
  modal: { passing: 0.1, neighbour: 0.1, grace: -0.2, triplet: -0.6, 'double-time': -0.4 },
  dance: { turn: 0.45, grace: 0.25, triplet: 0.3, 'double-time': -0.3, fill: -0.1, 'run-in': -0.4 },
  rock: { 'chord-tone': 0.1, triplet: -0.6, turn: -0.6, grace: -0.2 },
  blues: { approach: 0.35, 'run-in': 0.3, anticipation: 0.1, turn: -1, triplet: -0.3, passing: -0.1 },
  jazz: { approach: 0.35, enclosure: 0.15, 'run-in': 0.3, anticipation: 0.1, turn: -0.6, passing: -0.1 },
};

/** What a device is worth in a style. */
const deviceWorth = (device: Device, style: Style): number => DEVICE_WEIGHTS[device] + (DIALECT[style][device] ?? 0);

/** How a tune behaves, for the judge. */
export interface Manners {
  readonly style: Style;
  readonly halfSteps: HalfSteps;
  /** The shortest value that the tune uses as a matter of course. */
  readonly shortest: Ticks;
  /** It has grace notes or ornaments of its own. */
  readonly isGraced: boolean;
  /** The only notes it has, where these are few, as semitones above C. */
  readonly only: ReadonlySet<number> | undefined;
  /** It has an augmented second of its own. */
  readonly hasAugmented: boolean;
}

export function mannersOf(style: Style, notes: readonly SoundingNote[]): Manners {
  const classes = new Set(notes.map(({ pitch }) => chroma(pitch)));
  const graced = notes.filter(({ first }) => first.graces ?? first.ornaments).length;
  return {
    style,
    halfSteps: HALF_STEPS[style],
    shortest: notes.map(({ length }) => length).toSorted((a, b) => a - b)[Math.floor(notes.length * USUAL)] ?? 0,
    isGraced: graced > GRACED * notes.length,
    only: classes.size <= FEW_NOTES && classes.size > 2 ? classes : undefined,
    hasAugmented: notes.some(({ pitch }, k) => {
      const before = notes[k - 1];
      return before !== undefined && isAugmentedSecond(before.pitch, pitch);
    }),
  };
}

/** A struck note of the line with what the judge asks of its place. */
export interface FigurePlace {
  readonly spot: Spot;
  readonly inBar: Ticks;
  readonly meter: Meter;
  /** The chord that sounds at a place of the bar; none where there is none. */
  readonly tonesAt: (inBar: Ticks) => readonly PitchClass[];
  /** The chord under the next note, and how strong its place is. */
  readonly nextTones: readonly PitchClass[];
  readonly nextWeight: number;
  /** What the place itself speaks for or against, whatever the figure: see `wants`. */
  readonly wanted: number;
  readonly isAsked: boolean;
  readonly isPressed: boolean;
  readonly manners: Manners;
  /** Notes as long as this are not quick at the tempo. */
  readonly unhurried: Ticks;
}

export interface Judged {
  readonly score: number;
  readonly isForeign: boolean;
}

/**
 * What a figure is worth at its place; `undefined` where it must not be written. Rule: is the note on the beat a tone
 * of the sounding chord, or does it lean and resolve by step; does the line go where the next structure note is; does
 * the style allow half steps; does the place want something, or is it full already. A note struck again is no
 * embellishment: it is written where it was asked for, or where there would be nothing else.
 */
export function judgeFigure(device: NoteDevice, figure: Figure, place: FigurePlace): Judged | undefined {
  return figure.kind === 'signs' ? judgeSigns(device, place) : judgePieces(device, figure.pieces, place);
}

function judgeSigns(device: NoteDevice, place: FigurePlace): Judged | undefined {
  const { manners, isPressed, isAsked } = place;
  if (!isAsked && !isPressed && (manners.style === 'hymn' || (manners.isGraced && manners.style !== 'dance')))
    return undefined;
  return { score: deviceWorth(device, manners.style) + place.wanted + LIKES.ornament, isForeign: false };
}

function judgePieces(device: NoteDevice, pieces: readonly Piece[], place: FigurePlace): Judged | undefined {
  const { inBar, isAsked, isPressed, manners } = place;
  const isFree = isAsked || isPressed;
  if (!isFree && (device === 'again' || isHurried(device, pieces, place))) return undefined;
  let score = deviceWorth(device, manners.style) + place.wanted + arrivalOf(device, pieces, place);
  let at = inBar + (pieces[0]?.length ?? 0);
  for (let k = 1; k < pieces.length; k += 1) {
    const liked = judgePiece(device, pieces, k, at, place);
    if (liked === undefined) return undefined;
    score += liked;
    at += pieces[k]?.length ?? 0;
  }
  const foreign = foreignIn(pieces, place);
  const isForeign = foreign.length > 0;
  if (!isAsked && (foreign.some(isHardToRead) || !isInTune(pieces, place))) return undefined;
  if (!isForeign && device !== 'approach' && device !== 'enclosure') return { score, isForeign };
  const halfStep = judgeHalfStep(place);
  if (halfStep === undefined) return isForeign ? undefined : { score, isForeign };
  return { score: score + halfStep, isForeign };
}

/** Quick notes from nowhere are a clot: only a slow tune has room for what is shorter than its own. */
function isHurried(device: NoteDevice, pieces: readonly Piece[], { manners, unhurried }: FigurePlace): boolean {
  const isOne = device === 'double-time' || pieces.some(({ isThird }) => isThird);
  return !isOne && isShort(pieces, manners) && (pieces.at(-1)?.length ?? 0) < unhurried;
}

/** What is added and belongs neither to the key nor to the chord. */
function foreignIn(pieces: readonly Piece[], { spot }: FigurePlace): readonly Pitch[] {
  const found: Pitch[] = [];
  for (let k = 1; k < pieces.length; k += 1) {
    const { pitch } = pieces[k] as Piece;
    if (!isTone(pitch, spot) && !isOfKey(pitch, spot.key)) found.push(pitch);
  }
  return found;
}

/**
 * Whether what is added sounds as the tune does: none but its own notes, where it has few; no chromatic twin of a tone
 * that sounds; no augmented second that the tune does not have. Rule: asked against the chord that sounds under it, and
 * against the alterations in use nearby.
 */
function isInTune(pieces: readonly Piece[], { spot, manners, tonesAt, inBar }: FigurePlace): boolean {
  let at = inBar + (pieces[0]?.length ?? 0);
  for (let k = 1; k < pieces.length; k += 1) {
    const [before, piece] = [pieces[k - 1], pieces[k]];
    if (!before || !piece) continue;
    const { pitch } = piece;
    if (manners.only && !manners.only.has(chroma(pitch))) return false;
    if (tonesAt(at).some(({ step, alter }) => step === pitch.step && alter !== pitch.alter)) return false;
    const after = pieces[k + 1]?.pitch ?? (spot.isJoined ? spot.next?.pitch : undefined);
    if (!manners.hasAugmented && isAugmentedSecond(before.pitch, pitch)) return false;
    if (!manners.hasAugmented && after && isAugmentedSecond(pitch, after)) return false;
    at += piece.length;
  }
  return true;
}

function isAugmentedSecond(a: Pitch, b: Pitch): boolean {
  return Math.abs(staffPosition(a) - staffPosition(b)) === 1 && Math.abs(semitones(a) - semitones(b)) === 3;
}

/**
 * One added note: on a beat it belongs to the chord or leans; inside the figure it neither stammers nor leaps without
 * reason.
 */
function judgePiece(
  device: NoteDevice,
  pieces: readonly Piece[],
  k: number,
  at: Ticks,
  { spot, meter, isAsked, tonesAt }: FigurePlace,
): number | undefined {
  const [before, piece] = [pieces[k - 1], pieces[k]];
  if (!piece || !before) return undefined;
  const { pitch } = piece;
  let score = 0;
  if (weightAt(meter, at) >= 0.5) {
    const after = pieces[k + 1]?.pitch ?? (spot.isJoined ? spot.next?.pitch : undefined);
    const leans = after !== undefined && isStep(pitch, after);
    const tones = tonesAt(at);
    if (tones.length > 0 ? isTone(pitch, { tones }) : isOfKey(pitch, spot.key)) score += LIKES.chordToneOnBeat;
    else if (leans || isAsked) score += LIKES.leaningOnBeat;
    else return undefined;
  }
  const isWide = Math.abs(staffPosition(pitch) - staffPosition(before.pitch)) > 2;
  if (isWide && !(isTone(pitch, spot) && isTone(before.pitch, spot))) score += LIKES.leapInside;
  if (device !== 'again' && semitones(pitch) === semitones(before.pitch)) score += LIKES.stammer;
  return score;
}

/** Whether what is added is shorter than the tune's own short notes. */
function isShort(pieces: readonly Piece[], { shortest }: Manners): boolean {
  return (pieces.at(-1)?.length ?? 0) < shortest;
}

/** How the last added note goes into the tune's next one. */
function arrivalOf(device: NoteDevice, pieces: readonly Piece[], { spot, manners }: FigurePlace): number {
  const { event, next, isJoined } = spot;
  const last = pieces.at(-1);
  const pitch = last?.pitch ?? event.pitch;
  const short = isShort(pieces, manners) ? LIKES.veryShort : 0;
  if (!next || !isJoined) return short + LIKES.goesNowhere;
  if (semitones(next.pitch) === semitones(pitch)) return short + (device === 'again' ? 0 : LIKES.staysOnNext);
  if (isStep(pitch, next.pitch)) return short + LIKES.arrivesByStep;
  return short + (Math.abs(staffPosition(pitch) - staffPosition(next.pitch)) > 2 ? LIKES.leapsToNext : 0);
}

/** Half steps from outside lead into a tone of the chord on a strong beat, in styles that have them. */
function judgeHalfStep({ spot, nextTones, nextWeight, manners, isAsked }: FigurePlace): number | undefined {
  if (isAsked) return 0;
  const { next } = spot;
  if (manners.halfSteps === 'never' || !next || nextWeight < 0.5) return undefined;
  const arrives = nextTones.length === 0 || nextTones.some((tone) => chroma(tone) === chroma(next.pitch));
  if (!arrives) return undefined;
  return manners.halfSteps === 'rarely' ? LIKES.rareHalfStep : LIKES.halfStep;
}

/** Where a note stands in its bar. */
export interface Whereabouts {
  readonly spot: Spot;
  readonly meter: Meter;
  /** It is in the last bar of the tune. */
  readonly isLast: boolean;
}

/** What the note itself speaks for or against; what its phrase does is the business of the variation as a whole. */
export function wants({ spot, meter, isLast }: Whereabouts): number {
  const { event, beat } = spot;
  const short = isCompound(meter) ? (beat * 2) / 3 : beat;
  return (isLast ? LIKES.lastBar : 0) + (event.length < short ? LIKES.shortNote : 0);
}

/** A strong note that comes an eighth early. */
export function judgeAnticipation(place: FigurePlace): number | undefined {
  const { manners, isAsked } = place;
  if (!isAsked && !PUSHES.has(manners.style)) return undefined;
  return deviceWorth('anticipation', manners.style) + place.wanted;
}

/** The way out of a rest into the note after it. */
export function judgeRunIn(
  pieces: readonly Piece[],
  at: Ticks,
  { meter, style }: { readonly meter: Meter; readonly style: Style },
  tones: readonly PitchClass[],
): number {
  let [start, score] = [at, deviceWorth('run-in', style)];
  for (const { pitch, length } of pieces) {
    if (weightAt(meter, start) >= 0.5)
      score += tones.some((tone) => chroma(tone) === chroma(pitch)) ? LIKES.chordToneOnBeat : LIKES.leaningOnBeat;
    start += length;
  }
  return score;
}

function isTone(pitch: PitchClass, { tones }: Pick<Spot, 'tones'>): boolean {
  return tones.some((tone) => chroma(tone) === chroma(pitch));
}

function isStep(a: Pitch, b: Pitch): boolean {
  const distance = Math.abs(semitones(a) - semitones(b));
  return distance === 1 || distance === 2;
}

/** B♯, E♯, C♭ and F♭, where the key does not have them. */
function isHardToRead({ step, alter }: PitchClass): boolean {
  return (alter > 0 && (step === 'B' || step === 'E')) || (alter < 0 && (step === 'C' || step === 'F'));
}

function isOfKey(pitch: PitchClass, key: Key): boolean {
  return alterInKey(pitch.step, key) === pitch.alter;
}
