import { derived } from '../derived';
import { type ChordSymbol, type ChordTone, chordTones, classOfChord, type RootedChord } from '../harmony';
import { chroma, type PitchClass } from '../pitch';

/** What a note does over a chord: it rests, it leans without hurt, or it rubs and wants to go on. */
export type Role = 'home' | 'colour' | 'rub';

/** A chord as twelve bits for each role, and where a rub goes. */
export interface ChordRoles {
  readonly home: number;
  readonly colour: number;
  readonly rub: number;
  /**
   * The chord tone a rub resolves to, by semitone above C: a half step down where there is one, else up, else the
   * nearest.
   */
  readonly wayOut: readonly (PitchClass | undefined)[];
}

/**
 * Usual extensions of a chord beyond a whole step above its tones, in semitones above the root: the sixth and sevenths
 * of a plain triad, a dominant's raised ninth under an altered third, the minor tenth of a suspended chord. Source: M.
 * Levine, The Jazz Theory Book (1995), ch. 3.
 */
const EXTENSIONS = {
  major: [9, 11, 10],
  dominant: [],
  minor: [10, 11, 9],
  'half-diminished': [],
  diminished: [],
  augmented: [11],
  suspended: [3],
  power: [3, 4, 10, 11],
} as const;

/**
 * The roles of all twelve notes over a chord. Home: a tone that its symbol names. Rub: a half step above one of them,
 * or a half step below the third that is no whole step above another tone. Colour: a whole step above a tone, or a
 * usual extension, or the written bass. Rule: home (chord tone), colour (a whole step above a chord tone, or a usual
 * extension), rub (a semitone above a chord tone, or against the third); a rub is named with the way out.
 */
export function rolesOver(symbol: ChordSymbol): ChordRoles {
  if (symbol.kind === 'no chord') return NO_ROLES;
  return rolesAmong(symbol, chordTones(symbol), symbol.bass ? chroma(symbol.bass) : -1);
}

/** By the tones, which equal chords share, and the written bass. */
const rolesAmong = derived(workedOut, { by: (_symbol, tones, bass) => [tones, bass] });

const ALL = 0xfff;

const NO_ROLES: ChordRoles = { home: 0, colour: ALL, rub: 0, wayOut: [] };

function workedOut(symbol: RootedChord, tones: readonly ChordTone[], bass: number): ChordRoles {
  const home = tones.reduce((bits, { pitchClass }) => bits | (1 << chroma(pitchClass)), 0);
  const root = chroma(symbol.root);
  const third = tones.find(({ degree }) => degree === 3);
  const extensions: readonly number[] = EXTENSIONS[classOfChord(symbol.quality)];
  let colour = 0;
  let rub = 0;
  for (let note = 0; note < 12; note += 1) {
    const has = (semitones: number) => (home & (1 << ((note + semitones + 12) % 12))) !== 0;
    if (has(0)) continue;
    const belowThird = third !== undefined && (note + 1) % 12 === chroma(third.pitchClass);
    const isUsual = extensions.includes((note - root + 12) % 12);
    // A ninth lies a half step below a minor third and is at ease there; a lowered third under a major one is not.
    if (note === bass || (!has(-1) && (has(-2) || (isUsual && !belowThird)))) colour |= 1 << note;
    else rub |= 1 << note;
  }
  const wayOut = Array.from({ length: 12 }, (_, note) => {
    if (!(rub & (1 << note))) return undefined;
    const near = [-1, 1, -2, 2, -3, 3].map((step) => (note + step + 12) % 12).find((one) => home & (1 << one));
    return tones.find(({ pitchClass }) => chroma(pitchClass) === near)?.pitchClass;
  });
  return { home, colour, rub, wayOut };
}

export function roleOf(note: PitchClass, roles: ChordRoles): Role {
  const bit = 1 << chroma(note);
  if (roles.home & bit) return 'home';
  return roles.colour & bit ? 'colour' : 'rub';
}
