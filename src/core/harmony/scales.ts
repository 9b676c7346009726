import { derived } from '../derived';
import {
  alterOf,
  chroma,
  fifthsOf,
  type Interval,
  isStep,
  namePitchClass,
  nameWithoutDouble,
  type PitchClass,
  printPitchClass,
  TO_FLATTER_TWIN,
  TO_SHARPER_TWIN,
  transposeClass,
} from '../pitch';
import { failure, success, type Result } from '../result';
import { ALL_SCALE_NAMES, SCALE_DICTIONARY, type ScaleEntry, type ScaleName } from './scaleDictionary';

export type { ScaleName } from './scaleDictionary';

/** The sets that a melody is looked for in: what a tune may be said to be made of, smallest first. */
export const MELODY_SCALES = [
  'major pentachord',
  'minor pentachord',
  'major pentatonic',
  'minor pentatonic',
  'major hexachord',
  'minor hexachord',
  'blues scale',
  'major',
  'natural minor',
  'dorian',
  'mixolydian',
  'lydian',
  'phrygian',
  'harmonic minor',
  'melodic minor',
  'locrian',
  'whole-tone',
] as const satisfies readonly ScaleName[];

/** A named set of notes on a tonic. */
export interface Scale {
  readonly tonic: PitchClass;
  readonly name: ScaleName;
  /** From the tonic upwards. */
  readonly notes: readonly PitchClass[];
}

/** A degree of a set against the major scale: `b3` is { number: 3, alter: −1 }. */
export interface ScaleDegree {
  readonly number: number;
  readonly alter: number;
}

const MAJOR_SEMITONES = [0, 2, 4, 5, 7, 9, 11] as const;

const degreesIn = derived(
  (text: string): readonly ScaleDegree[] =>
    text.split(' ').map((word): ScaleDegree => {
      const signs = word.slice(0, -1);
      return { number: Number(word.slice(-1)), alter: alterOf(signs) };
    }),
  { most: 200 },
);

/** `b3`, `#4`, `5`. */
export function printDegree({ number, alter }: ScaleDegree): string {
  return (alter < 0 ? 'b'.repeat(-alter) : '#'.repeat(alter)) + number;
}

/** `♭3`, `♯4`, `5`. */
export function nameDegree(degree: ScaleDegree): string {
  return printDegree(degree).replaceAll('b', '♭').replaceAll('#', '♯');
}

export function scaleDegrees(name: ScaleName): readonly ScaleDegree[] {
  return degreesIn(SCALE_DICTIONARY[name].degrees);
}

function intervalOf({ number, alter }: ScaleDegree): Interval {
  return { diatonic: number - 1, chromatic: (MAJOR_SEMITONES[number - 1] ?? 0) + alter };
}

export function scaleIntervals(name: ScaleName): readonly Interval[] {
  return scaleDegrees(name).map(intervalOf);
}

/**
 * Rule: scales are spelled one letter a degree where they have seven notes.
 */
export const scaleOn = derived(spelledOn, {
  // Each scale on each tonic with up to two signs.
  most: ALL_SCALE_NAMES.length * 35,
  by: ({ step, alter }, name) => [step, alter, name],
});

function spelledOn({ step, alter }: PitchClass, name: ScaleName): Scale {
  const tonic = { step, alter };
  return { tonic, name, notes: scaleIntervals(name).map((interval) => transposeClass(tonic, interval)) };
}

/**
 * Above the tonic, as a set is spelled going up or coming down: the blue note is a raised fourth going up, a lowered
 * fifth coming down.
 */
export function intervalsGoing(name: ScaleName, direction: 'up' | 'down'): readonly Interval[] {
  const { degrees, rising, falling }: ScaleEntry = SCALE_DICTIONARY[name];
  return degreesIn(direction === 'up' ? (rising ?? degrees) : (falling ?? degrees)).map(intervalOf);
}

/**
 * Of the spellings of a set's tonic the one with the fewest accidentals among its notes; on a tie the one with the
 * fewest going up and coming down, then that of the smaller minor signature (flats where both have six), then the given
 * one. Where a set has not one letter a degree, a double accidental means nothing and is spelled plainly: the blue note
 * of E♭ is A.
 */
export const readableScale = derived(readablyOn, {
  most: ALL_SCALE_NAMES.length * 35,
  by: ({ step, alter }, name) => [step, alter, name],
});

function readablyOn({ step, alter }: PitchClass, name: ScaleName): Scale {
  const tonic = { step, alter };
  const given = plainlyOn(tonic, name);
  const twins = [TO_FLATTER_TWIN, TO_SHARPER_TWIN]
    .map((twin) => transposeClass(tonic, twin))
    .filter(({ alter }) => Math.abs(alter) <= 1)
    .map((twin) => plainlyOn(twin, name));
  return [given, ...twins].reduce((best, next) => (isPlainer(next, best) ? next : best));
}

function plainlyOn(tonic: PitchClass, name: ScaleName): Scale {
  const scale = scaleOn(tonic, name);
  return hasLetterForEach(name) ? scale : { ...scale, notes: scale.notes.map(nameWithoutDouble) };
}

/**
 * A set over a chord or in a key that is spelled already: on that very tonic, so that page, symbol and set are read
 * alike. A raised leading note is one also where it is doubly sharp; what would be doubly flat is written plainly, and
 * B♭ altered has a D.
 */
export const scaleBeside = derived(
  ({ step, alter }: PitchClass, name: ScaleName): Scale => {
    const scale = scaleOn({ step, alter }, name);
    const isMeant = ({ alter }: PitchClass) => alter === 2 && hasLetterForEach(name);
    return { ...scale, notes: scale.notes.map((note) => (isMeant(note) ? note : nameWithoutDouble(note))) };
  },
  { most: ALL_SCALE_NAMES.length * 35, by: ({ step, alter }, name) => [step, alter, name] },
);

function isPlainer(a: Scale, b: Scale): boolean {
  const [one, other] = [readingCosts(a), readingCosts(b)];
  const place = one.findIndex((cost, k) => cost !== other[k]);
  return (one[place] ?? 0) < (other[place] ?? 0);
}

/** What makes a spelling hard to read, the weightiest first. */
function readingCosts(scale: Scale): readonly number[] {
  const { tonic, name } = scale;
  const played = (['up', 'down'] as const).flatMap((direction) =>
    intervalsGoing(name, direction).map((interval) => nameWithoutDouble(transposeClass(tonic, interval))),
  );
  const signature = isMinorSet(name) ? fifthsOf(tonic) - 3 : 0;
  return [accidentalsOf(scale), accidentalsOf({ notes: played }), Math.abs(signature) - (signature < 0 ? 0.5 : 0)];
}

/** Sets of minor: those with a minor third and a perfect fifth that are no mode with a signature of its own. */
const MINOR_SETS: ReadonlySet<ScaleName> = new Set<ScaleName>([
  'natural minor',
  'harmonic minor',
  'melodic minor',
  'minor pentatonic',
  'blues scale',
  'minor pentachord',
  'minor hexachord',
  'bebop melodic minor',
]);

/** Whether a set belongs to minor, and stands under a minor signature. */
export function isMinorSet(name: ScaleName): boolean {
  return MINOR_SETS.has(name);
}

/** Whether a set has seven degrees, each with its own letter. */
export function hasLetterForEach(name: ScaleName): boolean {
  return new Set(scaleDegrees(name).map(({ number }) => number)).size === 7 && scaleDegrees(name).length === 7;
}

function accidentalsOf({ notes }: Pick<Scale, 'notes'>): number {
  return notes.reduce((sum, { alter }) => sum + Math.abs(alter), 0);
}

/** The scale that a mode is, for a key. */
export const SCALE_OF_MODE = {
  major: 'major',
  ionian: 'major',
  minor: 'natural minor',
  aeolian: 'natural minor',
  dorian: 'dorian',
  phrygian: 'phrygian',
  lydian: 'lydian',
  mixolydian: 'mixolydian',
  locrian: 'locrian',
} as const satisfies Readonly<Record<string, ScaleName>>;

/** Semitones above C in a scale, as bits 0–11. */
export const chromaBits = derived((notes: readonly PitchClass[]): number =>
  notes.reduce((sum, note) => sum | (1 << chroma(note)), 0),
);

/** `Eb melodic minor`, `G blues`: as it is also read. */
export function printScale({ tonic, name }: Pick<Scale, 'tonic' | 'name'>): string {
  return `${printPitchClass(tonic)} ${name.replace(/ scale$/, '')}`;
}

/** `E♭ melodic minor`, `G blues scale`, `E dorian ♭2`: for people. */
export function nameScale({ tonic, name }: Pick<Scale, 'tonic' | 'name'>): string {
  return `${namePitchClass(tonic)} ${nameOfSet(name)}`;
}

/** The name without a tonic, for people. */
export function nameOfSet(name: string): string {
  return name
    .replace(/flat (?=\d)/g, '♭')
    .replace(/sharp (?=\d)/g, '♯')
    .replace(/natural (?=\d)/g, '♮');
}

export interface ScaleProblem {
  readonly code: 'unknown-tonic' | 'unknown-set';
  readonly found: string;
}

const NAMES = new Map(
  ALL_SCALE_NAMES.flatMap((name) =>
    [name, ...(SCALE_DICTIONARY[name].also ?? [])].map((text): readonly [string, ScaleName] => [plainName(text), name]),
  ),
);

function plainName(text: string): string {
  return text
    .toLowerCase()
    .replace(/♭(?=\d)/g, 'flat ')
    .replace(/♯(?=\d)/g, 'sharp ')
    .replace(/♮(?=\d)/g, 'natural ')
    .replace(/\bb+(?=\d)/g, (signs) => 'flat '.repeat(signs.length))
    .replace(/#(?=\d)/g, 'sharp ')
    .replace(/[-–\s]+/g, ' ')
    .replace(/ (?:scale|mode)$/, '')
    .trim();
}

/** The set of a name without tonic: `melodic minor`, `Jazz minor`, `dorian ♭2`. */
export function parseScaleName(text: string): Result<ScaleName, ScaleProblem> {
  const name = NAMES.get(plainName(text));
  return name ? success(name) : failure({ code: 'unknown-set', found: text.trim() });
}

/** Reads `Eb melodic minor`, `A minor pentatonic`, `F♯ dorian`; capital letters do not matter after the tonic. */
export function parseScale(text: string): Result<Scale, ScaleProblem> {
  const [, letter, signs = '', name = ''] = /^\s*([A-Ga-g])([#♯]{1,2}|[b♭]{1,2})?\s+(\S.*)$/.exec(text) ?? [];
  const step = letter?.toUpperCase();
  if (!isStep(step)) return failure({ code: 'unknown-tonic', found: text.trim() });
  const parsed = parseScaleName(name);
  return parsed.ok ? success(scaleOn({ step, alter: alterOf(signs) }, parsed.value)) : parsed;
}

/** What is wrong with a set's name and what would be right, as the end of a sentence. */
export function scaleProblemText({ code, found }: ScaleProblem): string {
  if (code === 'unknown-tonic')
    return `"${found.slice(0, 60)}" does not begin with a tonic: write it like Eb melodic minor or G blues`;
  return `the set "${found.slice(0, 60)}" is unknown: use one of ${ALL_SCALE_NAMES.map((name) => name.replace(/ scale$/, '')).join(', ')}`;
}
