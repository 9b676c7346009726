import { failure, success, type Result } from '../result';

/** The seven letters, in the order in which the octave number counts them (from C). */
export const LETTERS = ['C', 'D', 'E', 'F', 'G', 'A', 'B'] as const;
export type Letter = (typeof LETTERS)[number];

/** A note name without its octave. `alter` counts semitones: −1 is flat, +1 sharp. */
export interface PitchClass {
  readonly step: Letter;
  readonly alter: number;
}

/** A spelled pitch. E♯4 and F4 are two pitches. Octave 4 begins at middle C. */
export interface Pitch extends PitchClass {
  readonly octave: number;
}

export interface PitchProblem {
  readonly code: 'unreadable-pitch';
  readonly found: string;
}

const FIRST_LETTER = 'A'.charCodeAt(0);
/**
 * Semitones of the natural letters above C, and their places above it: from A to G, by the letter's number. Looked up
 * at every note of every line.
 */
const NATURAL_SEMITONES = [9, 11, 0, 2, 4, 5, 7] as const;
const STEP_INDICES = [5, 6, 0, 1, 2, 3, 4] as const;

/** A letter's place above C, 0–6. */
export function stepIndex(step: Letter): number {
  return STEP_INDICES[step.charCodeAt(0) - FIRST_LETTER] as number;
}

/** Letters counted upwards from C0, alterations left out: C4 is 28. What a staff line stands for. */
export function staffPosition(pitch: Pitch): number {
  return pitch.octave * 7 + stepIndex(pitch.step);
}

/**
 * Octaves and alterations of the pitches that are one object each: lines hold the same few dozen thousands of times.
 */
const SHARED = { lowest: -2, octaves: 14, most: 3 } as const;
const shared = new Map<number, Pitch>();

/** A pitch by its letter, alteration and octave; the same object for each, within what is ever played. */
export function pitchOf(step: Letter, alter: number, octave: number): Pitch {
  const row = octave - SHARED.lowest;
  if (!(row >= 0 && row < SHARED.octaves && Math.abs(alter) <= SHARED.most)) return { step, alter, octave };
  const name = (row * 7 + stepIndex(step)) * (2 * SHARED.most + 1) + alter + SHARED.most;
  let pitch = shared.get(name);
  if (!pitch) shared.set(name, (pitch = Object.freeze({ step, alter, octave })));
  return pitch;
}

/** The unaltered pitch at a staff position (the inverse of `staffPosition` for naturals). */
export function naturalAt(position: number): Pitch {
  const octave = Math.floor(position / 7);
  const step = LETTERS[position - octave * 7];
  if (step === undefined) throw new RangeError(`staff position ${position} is not an integer`);
  return pitchOf(step, 0, octave);
}

/** Semitones from the C of its octave up to a natural letter. */
export function naturalSemitones(step: Letter): number {
  return NATURAL_SEMITONES[step.charCodeAt(0) - FIRST_LETTER] as number;
}

/** Semitones above C0. Enharmonic twins share the number. */
export function semitones(pitch: Pitch): number {
  return pitch.octave * 12 + naturalSemitones(pitch.step) + pitch.alter;
}

/** The MIDI key number (middle C is 60). May fall outside 0–127 for absurd octaves. */
export function midiNumber(pitch: Pitch): number {
  return semitones(pitch) + 12;
}

/** Semitones above C, 0–11. */
export function chroma(pitchClass: PitchClass): number {
  return (((naturalSemitones(pitchClass.step) + pitchClass.alter) % 12) + 12) % 12;
}

export function samePitch(a: Pitch, b: Pitch): boolean {
  return a.step === b.step && a.alter === b.alter && a.octave === b.octave;
}

export function pitchClassOf({ step, alter }: PitchClass): PitchClass {
  return { step, alter };
}

/** Moves by whole octaves; the spelling stays. */
export function byOctaves(pitch: Pitch, octaves: number): Pitch {
  return octaves === 0 ? pitch : pitchOf(pitch.step, pitch.alter, pitch.octave + octaves);
}

function accidentalText(alter: number, sharp: string, flat: string): string {
  return alter >= 0 ? sharp.repeat(alter) : flat.repeat(-alter);
}

/** `Bb`, `F#`, `C##`: for files and the command line. */
export function printPitchClass({ step, alter }: PitchClass): string {
  return step + accidentalText(alter, '#', 'b');
}

/** `Bb3`, `F#5`; `C4` is middle C. */
export function printPitch(pitch: Pitch): string {
  return printPitchClass(pitch) + pitch.octave;
}

/** `B♭`, `F♯`, `C𝄪`: for people. */
export function namePitchClass({ step, alter }: PitchClass): string {
  if (alter === 2) return `${step}𝄪`;
  if (alter === -2) return `${step}𝄫`;
  return step + accidentalText(alter, '♯', '♭');
}

/** Reads `Bb3`, `F#5`, `C##4`, also with ♭ and ♯. The octave is −1 to 9. */
export function parsePitch(text: string): Result<Pitch, PitchProblem> {
  const match = /^([A-Ga-g])(#{1,3}|b{1,3}|♯{1,3}|♭{1,3})?(-1|\d)$/.exec(text);
  const step = match?.[1]?.toUpperCase();
  if (!match || !isStep(step)) return failure({ code: 'unreadable-pitch', found: text });
  return success({ step, alter: alterOf(match[2] ?? ''), octave: Number(match[3]) });
}

export function isStep(text: string | undefined): text is Letter {
  return text !== undefined && text.length === 1 && 'CDEFGAB'.includes(text);
}

/** Semitones meant by a run of accidental signs of one kind. */
export function alterOf(signs: string): number {
  return /^[#♯]/.test(signs) ? signs.length : 0 - signs.length;
}
