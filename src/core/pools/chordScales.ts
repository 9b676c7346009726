import { derived } from '../derived';
import {
  ALL_SCALE_NAMES,
  type ChordReading,
  chordTones,
  chromaBits,
  classOfChord,
  familyOfKey,
  scaleBeside,
  type RootedChord,
  type Scale,
  SCALE_OF_MODE,
  type ScaleName,
  scaleOn,
} from '../harmony';
import { chroma } from '../pitch';
import type { Style } from '../score';

/** A scale over one chord, and what it adds to or changes about the first choice. */
export interface ChordScale {
  readonly scale: Scale;
  /** For a pupil: `the plain choice`, `♯11 in place of the 4 that rubs`. */
  readonly adds: string;
}

type Choice = readonly [ScaleName, string];

/**
 * Scales by what a chord is and does, first choice first. Sources: M. Levine, The Jazz Theory Book (1995), ch. 3 and 4;
 * D. Terefenko, Jazz Theory (2014), ch. 11; for plain styles the mode of the key on each degree (S. Kostka and D.
 * Payne, Tonal Harmony, ch. 28).
 */
const CHOICES = {
  tonicMajor: [
    ['major', 'the plain choice'],
    ['lydian', '♯4 in place of the 4 that rubs against the third'],
    ['major pentatonic', 'five notes, none of which rubs'],
    ['bebop major', '♯5 between 5 and 6, so that chord tones fall on the beat'],
  ],
  subdominantMajor: [
    ['lydian', 'the key’s own notes; its ♯4 does not rub'],
    ['major', 'the plain 4, which rubs against the third'],
    ['major pentatonic', 'five notes, none of which rubs'],
  ],
  predominantMinor: [
    ['dorian', 'the plain choice'],
    ['minor pentatonic', 'five notes that are easy to hold'],
    ['bebop minor', 'the major third in passing, so that chord tones fall on the beat'],
    ['melodic minor', 'a major 7 that leans'],
  ],
  mediantMinor: [
    ['phrygian', 'the key’s own notes; ♭2 and ♭6 rub'],
    ['dorian', 'no note that rubs'],
    ['minor pentatonic', 'five notes, none of which rubs'],
  ],
  submediantMinor: [
    ['natural minor', 'the key’s own notes; ♭6 rubs'],
    ['dorian', '6 in place of the ♭6 that rubs'],
    ['minor pentatonic', 'five notes, none of which rubs'],
  ],
  tonicMinor: [
    ['natural minor', 'the key’s own notes; ♭6 rubs'],
    ['dorian', '6 in place of the ♭6 that rubs'],
    ['melodic minor', 'a major 6 and 7, the sound of a resting minor chord'],
    ['minor pentatonic', 'five notes, none of which rubs'],
    ['blues scale', 'the blue ♭5'],
  ],
  tonicMinorJazz: [
    ['dorian', 'no note that rubs'],
    ['melodic minor', 'a major 7, the sound of a resting minor chord'],
    ['natural minor', 'the ♭6 of the key, which rubs'],
    ['minor pentatonic', 'five notes, none of which rubs'],
    ['blues scale', 'the blue ♭5'],
  ],
  restingMinor: [
    ['melodic minor', 'holds the chord’s 6 and 7'],
    ['dorian', '♭7 in place of 7'],
    ['harmonic minor', 'the key’s ♭6, with the wide step to 7'],
  ],
  borrowedMinor: [
    ['dorian', 'no note that rubs'],
    ['melodic minor', 'a major 7 that leans'],
    ['natural minor', '♭6, which rubs'],
  ],
  dominant: [
    ['mixolydian', 'the plain choice; the 4 rubs'],
    ['bebop dominant', '7 in passing, so that chord tones fall on the beat'],
    ['lydian dominant', '♯4 in place of the 4 that rubs'],
    ['half-whole diminished', '♭9, ♯9 and ♯11 with the plain 13: tension that resolves'],
    ['altered', 'every tension: ♭9, ♯9, ♯11 and ♭13'],
    ['whole-tone', '♯4 and ♯5, floating'],
  ],
  dominantToMinor: [
    ['phrygian dominant', '♭9 and ♭13 of the minor key'],
    ['altered', 'every tension: ♭9, ♯9, ♯11 and ♭13'],
    ['half-whole diminished', '♭9, ♯9 and ♯11 with the plain 13'],
    ['mixolydian flat 6', '♭13 with the plain 9'],
    ['mixolydian', 'the plain choice: 9 and 13, brighter than the key'],
  ],
  substitute: [
    ['lydian dominant', '♯4, which is the root of the chord it stands for'],
    ['mixolydian', 'the plain 4, which rubs'],
    ['half-whole diminished', '♭9 and ♯9'],
  ],
  bluesDominant: [
    ['mixolydian', 'the plain choice'],
    ['blues scale', 'the blue ♭3 and ♭5'],
    ['major blues', 'the ♭3 that leans on the third'],
    ['lydian dominant', '♯4 in place of the 4 that rubs'],
    ['bebop dominant', '7 in passing, so that chord tones fall on the beat'],
  ],
  alteredDominant: [
    ['altered', 'every tension: ♭9, ♯9, ♯11 and ♭13'],
    ['whole-tone', '♯4 and ♯5, floating'],
    ['half-whole diminished', '♭9, ♯9 and ♯11 with the plain 13'],
    ['phrygian dominant', '♭9 and ♭13 of the minor key'],
  ],
  suspended: [
    ['mixolydian', 'the plain choice; the 3 waits for its turn'],
    ['major pentatonic', 'five notes, none of which rubs'],
    ['dorian', '♭3 as colour'],
    ['dorian flat 2', '♭9, for a darker suspension'],
  ],
  plainSuspended: [
    ['major', 'the plain choice; the 3 waits for its turn'],
    ['mixolydian', '♭7 as colour'],
    ['major pentatonic', 'five notes, none of which rubs'],
  ],
  halfDiminished: [
    ['locrian', 'the key’s own notes; ♭2 rubs'],
    ['locrian natural 2', '9 in place of the ♭2 that rubs'],
    ['locrian natural 6', '6 from the harmonic minor of the key'],
  ],
  diminished: [
    ['diminished', 'whole and half steps: each added note a whole step above a chord tone'],
    ['locrian natural 6', 'the harmonic minor of the key'],
    ['altered diminished', 'the harmonic minor of the key, from its raised 7'],
  ],
  augmented: [
    ['lydian augmented', 'holds the raised 5'],
    ['whole-tone', 'whole steps only, floating'],
    ['ionian augmented', 'from the harmonic minor a third below'],
  ],
  power: [
    ['major pentatonic', 'five bright notes'],
    ['minor pentatonic', 'five darker notes'],
    ['mixolydian', 'seven notes with ♭7'],
  ],
} as const satisfies Readonly<Record<string, readonly Choice[]>>;
type ChoiceName = keyof typeof CHOICES;

const MAX_CHOICES = 4;

/**
 * The scales that go with a chord where it stands, first choice by function, then the usual alternatives. The first
 * holds every tone that the symbol names; where no usual one does, the dictionary is searched, and at the end the chord
 * tones stand alone (an empty list).
 */
export const chordScalesFor = derived(scalesFor);

function scalesFor(reading: ChordReading, style: Style): readonly ChordScale[] {
  const { symbol } = reading.chord;
  if (symbol.kind === 'no chord') return [];
  const tones = chromaBits(chordTones(symbol).map(({ pitchClass }) => pitchClass));
  const holds = (name: ScaleName) => (tones & ~chromaBits(scaleOn(symbol.root, name).notes)) === 0;
  const modal = modeOver(reading, symbol);
  const named: readonly Choice[] = CHOICES[choiceOf(reading, symbol, style)];
  const choices: readonly Choice[] = modal
    ? [[modal, 'the mode itself'], ...named.filter(([name]) => name !== modal)]
    : named;
  // A dominant's fifth is what tensions replace: alternatives may lack it, the first choice may not.
  const fifth = chordTones(symbol).find(({ degree }) => degree === 5)?.pitchClass;
  const bare = fifth && classOfChord(symbol.quality) === 'dominant' ? tones & ~(1 << chroma(fifth)) : tones;
  const mayReplace = (name: ScaleName) => (bare & ~chromaBits(scaleOn(symbol.root, name).notes)) === 0;
  const first = choices.find(([name]) => holds(name));
  const fitting = first ? [first, ...choices.filter((choice) => choice !== first && mayReplace(choice[0]))] : [];
  const found: readonly Choice[] =
    fitting.length > 0
      ? fitting
      : SEARCHED.filter(holds).map((name): Choice => [name, 'holds every tone of the chord']);
  return found.slice(0, MAX_CHOICES).map(([name, adds]) => ({ scale: scaleBeside(symbol.root, name), adds }));
}

/** Where no usual scale holds a chord: sets of seven or eight notes in the dictionary's order. */
const SEARCHED = ALL_SCALE_NAMES.filter((name) => {
  const size = scaleOn({ step: 'C', alter: 0 }, name).notes.length;
  return size === 7 || size === 8;
});

/** Over a vamp the mode goes on, counted from the chord's root. */
function modeOver({ key, function: does }: ChordReading, symbol: RootedChord): ScaleName | undefined {
  if (does !== 'modal' && !(does === 'tonic' && key.mode !== 'major' && key.mode !== 'minor')) return undefined;
  const own = chromaBits(scaleOn(key.tonic, SCALE_OF_MODE[key.mode]).notes);
  return (['major', 'dorian', 'phrygian', 'lydian', 'mixolydian', 'natural minor', 'locrian'] as const).find(
    (name) => chromaBits(scaleOn(symbol.root, name).notes) === own,
  );
}

function choiceOf(reading: ChordReading, symbol: RootedChord, style: Style): ChoiceName {
  const { key, function: does } = reading;
  const degree = (chroma(symbol.root) - chroma(key.tonic) + 12) % 12;
  const isMinorKey = familyOfKey(key) === 'minor';
  const { quality } = symbol;
  switch (classOfChord(quality)) {
    case 'major':
      if (does === 'tonic' && (degree === 0 || (isMinorKey && degree === 3))) return 'tonicMajor';
      return does === 'dominant' || does === 'secondary dominant'
        ? dominantChoice(reading, style, degree)
        : 'subdominantMajor';
    case 'dominant':
      if (
        quality.altered ||
        quality.alterations.some(({ degree: at, alter }) => (at === 5 && alter > 0) || (at === 9 && alter > 0))
      )
        return 'alteredDominant';
      return leansToMinor(quality) ? 'dominantToMinor' : dominantChoice(reading, style, degree);
    case 'minor':
      return minorChoice(reading, symbol, style, degree, isMinorKey);
    case 'half-diminished':
      return 'halfDiminished';
    case 'diminished':
      return 'diminished';
    case 'augmented':
      return 'augmented';
    case 'suspended':
      return quality.seventh === 'minor' || degree === 7 ? 'suspended' : 'plainSuspended';
    case 'power':
      return 'power';
  }
}

/** A lowered ninth or thirteenth belongs to a minor key, unless the plain thirteenth stands beside it. */
function leansToMinor({ alterations, extension }: RootedChord['quality']): boolean {
  return extension !== 13 && alterations.some(({ degree, alter }) => (degree === 9 || degree === 13) && alter < 0);
}

function dominantChoice(
  { function: does, targetIsMinor, key }: ChordReading,
  style: Style,
  degree: number,
): ChoiceName {
  if (style === 'blues' && (does === 'tonic' || does === 'predominant')) return 'bluesDominant';
  if (does === 'tritone substitute' || does === 'backdoor' || does === 'borrowed') return 'substitute';
  if (does === 'secondary dominant') return targetIsMinor ? 'dominantToMinor' : 'dominant';
  if (does === 'dominant' && degree === 7 && familyOfKey(key) === 'minor') return 'dominantToMinor';
  return 'dominant';
}

function minorChoice(
  { function: does, target, targetIsMinor }: ChordReading,
  { quality }: RootedChord,
  style: Style,
  degree: number,
  isMinorKey: boolean,
): ChoiceName {
  if (quality.seventh === 'major' || quality.sixth) return 'restingMinor';
  if (does === 'borrowed') return 'borrowedMinor';
  if (does === 'related ii') return target !== undefined && targetIsMinor ? 'borrowedMinor' : 'predominantMinor';
  if (degree === 0) return style === 'jazz' || style === 'blues' || style === 'modal' ? 'tonicMinorJazz' : 'tonicMinor';
  if (!isMinorKey && degree === 4) return 'mediantMinor';
  if (!isMinorKey && degree === 9) return 'submediantMinor';
  return isMinorKey && degree === 7 ? 'mediantMinor' : 'predominantMinor';
}
