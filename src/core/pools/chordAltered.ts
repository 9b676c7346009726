import { derived } from '../derived';
import { type ChordSymbol, type ChordTone, chordTones } from '../harmony';
import { chroma, nameWithoutDouble, type PitchClass } from '../pitch';
import { rolesOver, type ChordRoles } from './roles';

export interface Bend {
  readonly from: PitchClass;
  readonly to: PitchClass;
}

export interface ChordAlteredScale {
  /** In the order of the set, the bent notes in their place. */
  readonly notes: readonly PitchClass[];
  readonly bends: readonly Bend[];
}

/** The tones by which a chord is known: its third (or what is suspended for it) and its seventh (or sixth). */
export function guideTonesOf(symbol: ChordSymbol): readonly ChordTone[] {
  return guideTonesAmong(chordTones(symbol));
}

const guideTonesAmong = derived((tones: readonly ChordTone[]): readonly ChordTone[] => {
  const first = (degrees: readonly number[]) =>
    degrees.flatMap((degree) => tones.filter((tone) => tone.degree === degree)).slice(0, 1);
  return [...first([3, 4, 2]), ...first([7, 6])];
});

/**
 * A set with the fewest of its notes moved by a half step so that it holds the chord's third and seventh. Of two notes
 * that could go, one that rubs goes before one that leans, that before a chord tone, and up before down. Rule: the same
 * set with the fewest notes moved by a semitone so that it holds the chord's third and seventh.
 */
export function alteredForChord(notes: readonly PitchClass[], symbol: ChordSymbol): ChordAlteredScale {
  return altered(notes, symbol, rolesOver(symbol));
}

/** By the roles over a chord, which equal chords share, and the set that is altered for it. */
const altered = derived(freshlyAltered, { by: (notes, _symbol, roles) => [notes, roles] });

function freshlyAltered(notes: readonly PitchClass[], symbol: ChordSymbol, roles: ChordRoles): ChordAlteredScale {
  let bent = notes;
  const bends: Bend[] = [];
  for (const { pitchClass } of guideTonesOf(symbol)) {
    const target = chroma(pitchClass);
    if (bent.some((note) => chroma(note) === target)) continue;
    const taken = new Set(bends.map(({ to }) => chroma(to)));
    const neighbours = [target + 11, target + 1]
      .map((one) => one % 12)
      .flatMap((one) => bent.filter((note) => chroma(note) === one && !taken.has(one)));
    const cost = (note: PitchClass) => {
      const bit = 1 << chroma(note);
      return roles.rub & bit ? 0 : roles.colour & bit ? 1 : 2;
    };
    const going = neighbours.reduce<PitchClass | undefined>(
      (best, next) => (best === undefined || cost(next) < cost(best) ? next : best),
      undefined,
    );
    if (!going) continue;
    // In a set a double accidental means nothing: it is spelled plainly.
    const to = nameWithoutDouble(pitchClass);
    bends.push({ from: going, to });
    bent = bent.map((note) => (note === going ? to : note));
  }
  return { notes: bent, bends };
}
