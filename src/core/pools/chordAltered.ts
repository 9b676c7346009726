import { derived } from '../derived';
import { type ChordSymbol, type ChordTone, chordTones, classOfChord, type Scale, scaleBeside } from '../harmony';
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
  /** The set on the chord's own root that is nearer than what bending would leave. */
  readonly neighbour?: Scale;
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

/**
 * A set bent for a chord; where more than half of its notes would still rub, the pentatonic on the chord's own root in
 * its place, if fewer of its notes rub. That is for a chord from outside the key: over F♯m7 in A minor
 * pentatonic the whole hand moves to F♯. The notes that move are told as bends where each goes by a half step.
 */
export function bentOrNeighbour(
  scale: Scale | undefined,
  notes: readonly PitchClass[],
  symbol: ChordSymbol,
): ChordAlteredScale {
  const bent = alteredForChord(notes, symbol);
  if (!scale || symbol.kind === 'no chord' || notes.length < 5 || notes.length > 6) return bent;
  const roles = rolesOver(symbol);
  const rubs = (some: readonly PitchClass[]) => some.filter((note) => roles.rub & (1 << chroma(note))).length;
  if (2 * rubs(bent.notes) <= notes.length) return bent;
  const neighbour = pentatonicOf(symbol);
  if (!neighbour) return bent;
  const there = alteredForChord(neighbour.notes, symbol);
  if (rubs(there.notes) >= rubs(bent.notes)) return bent;
  return { notes: there.notes, bends: movesBetween(notes, there.notes), neighbour };
}

/** The pentatonic on a chord's own root: minor over minor chords, else major. */
export function pentatonicOf(symbol: ChordSymbol): Scale | undefined {
  if (symbol.kind === 'no chord') return undefined;
  const isMinor = ['minor', 'half-diminished', 'diminished'].includes(classOfChord(symbol.quality));
  return scaleBeside(symbol.root, isMinor ? 'minor pentatonic' : 'major pentatonic');
}

/** Which notes go to which by half steps; none where one has farther to go. */
function movesBetween(from: readonly PitchClass[], to: readonly PitchClass[]): readonly Bend[] {
  const lost = from.filter((note) => !to.some((one) => chroma(one) === chroma(note)));
  const gained = to.filter((note) => !from.some((one) => chroma(one) === chroma(note)));
  const paired = (left: readonly PitchClass[], open: readonly PitchClass[]): readonly Bend[] | undefined => {
    const [note, ...rest] = left;
    if (!note) return [];
    for (const target of open) {
      const away = (chroma(target) - chroma(note) + 12) % 12;
      if (away !== 1 && away !== 11) continue;
      const others = paired(
        rest,
        open.filter((one) => one !== target),
      );
      if (others) return [{ from: note, to: target }, ...others];
    }
    return undefined;
  };
  return paired(lost, gained) ?? [];
}
