import { derived } from '../derived';
import {
  chordTones,
  chromaBits,
  familyOfKey,
  scaleBeside,
  type Scale,
  SCALE_OF_MODE,
  type ScaleName,
  scaleOn,
} from '../harmony';
import { chroma, type PitchClass, transposeClass, TWELVE_ABOVE } from '../pitch';
import type { Style } from '../score';
import type { ImprovisingForm } from './form';
import { rolesOver } from './roles';

/** A set that serves the whole form, and how it sits on it. */
export interface WholeFormSet {
  readonly scale: Scale;
  /** The same notes by their other common name on another tonic, if they have one. */
  readonly alsoCalled?: Scale;
  /** 0–1: how well it sits, weighed by time. */
  readonly fit: number;
  /** Printed numbers of the bars in which none of its notes rubs. */
  readonly restsIn: readonly number[];
  /** Bars in which some do: which note, and where it goes. */
  readonly rubsIn: readonly { readonly bar: number; readonly note: PitchClass; readonly wayOut: PitchClass }[];
  readonly bars: number;
}

/** The sets that are ranked, with what speaks for each beforehand: few notes are sooner learned. */
const CANDIDATES: readonly (readonly [ScaleName, number])[] = [
  ['minor pentatonic', 0.06],
  ['major pentatonic', 0.06],
  ['blues scale', -0.04],
  ['major blues', -0.06],
  ['major', 0],
  ['natural minor', 0],
  ['dorian', 0],
  ['mixolydian', 0],
  ['lydian', -0.02],
  ['phrygian', -0.02],
  ['harmonic minor', -0.04],
];

/**
 * What a note is worth over a chord, and what speaks for a set besides. Set by trial on the demo tunes; argue with them
 * here.
 */
const WORTH = {
  home: 1,
  colour: 0.6,
  rub: -1,
  /** A blue note over a blues is meant to rub. */
  blueRub: -0.1,
  holdsThird: 0.35,
  holdsSeventh: 0.15,
  onHome: 0.22,
  onRelative: 0.12,
  ownScale: 0.12,
  styleSet: 0.6,
} as const;

/** Semitones above the tonic that are blue notes: lowered third, fifth and seventh. */
const BLUE_DEGREES = [3, 6, 10] as const;

const STYLE_SETS: Readonly<Partial<Record<Style, readonly ScaleName[]>>> = {
  blues: ['minor pentatonic', 'blues scale'],
  rock: ['minor pentatonic'],
};

/**
 * The few sets that serve a form best, best first: the best of five notes, the best of seven, a blues set where the
 * style has one, and another of five where it is as good. Rule: rank every pentatonic, blues, major, minor and modal
 * set by how it sits on each chord over time, and offer the few that serve. The ranking counts from the home note, so
 * it is the same in every key.
 */
export const wholeFormSets = derived(rankedSets);

function rankedSets(form: ImprovisingForm): readonly WholeFormSet[] {
  const { reading, style } = form;
  const home = reading.home.tonic;
  const isMinor = familyOfKey(reading.home) === 'minor';
  const relative = isMinor ? 3 : 9;
  const own = SCALE_OF_MODE[reading.home.mode];
  const blue = style === 'blues' ? blueBits(chroma(home)) : 0;
  const timed = reading.chords.flatMap(({ chord }) =>
    chord.symbol.kind === 'no chord'
      ? []
      : [
          {
            roles: rolesOver(chord.symbol),
            third: degreeBit(chord.symbol, 3),
            seventh: degreeBit(chord.symbol, 7),
            weight: chord.length / chord.barLength,
          },
        ],
  );
  const total = timed.reduce((sum, { weight }) => sum + weight, 0);
  const ranked = CANDIDATES.flatMap(([name, prior]) =>
    TWELVE_ABOVE.map((above) => {
      const relativeSemitones = above.chromatic;
      const bits = rotated(setBits(name), (chroma(home) + relativeSemitones) % 12);
      const size = popCount(bits);
      let sum = 0;
      for (const { roles, third, seventh, weight } of timed) {
        const rubs = bits & roles.rub;
        const worth =
          WORTH.home * popCount(bits & roles.home) +
          WORTH.colour * popCount(bits & roles.colour) +
          WORTH.rub * popCount(rubs & ~blue) +
          WORTH.blueRub * popCount(rubs & blue);
        sum +=
          weight * (worth / size + (bits & third ? WORTH.holdsThird : 0) + (bits & seventh ? WORTH.holdsSeventh : 0));
      }
      const isMinorSet = (setBits(name) & (1 << 4)) === 0;
      const onHome = relativeSemitones === 0 && (isMinorSet === isMinor || style === 'blues' || style === 'rock');
      const score =
        (total > 0 ? sum / total : 0) +
        prior +
        (onHome ? WORTH.onHome : relativeSemitones === relative && isMinorSet !== isMinor ? WORTH.onRelative : 0) +
        (relativeSemitones === 0 && name === own ? WORTH.ownScale : 0) +
        (relativeSemitones === 0 && STYLE_SETS[style]?.includes(name) ? WORTH.styleSet : 0);
      return { name, above, bits, score, fit: total > 0 ? sum / total : 0 };
    }),
  ).toSorted((a, b) => b.score - a.score);
  const best = (names: (name: ScaleName) => boolean) => ranked.find(({ name }) => names(name));
  const five = best(isPentatonic);
  const seven = best((name) => !isPentatonic(name) && !isBlues(name));
  const blues =
    style === 'blues' || style === 'rock' || (style === 'jazz' && five?.name === 'minor pentatonic')
      ? ranked.find(
          ({ name, above }) => isBlues(name) && (above.chromatic === 0 || above.chromatic === five?.above.chromatic),
        )
      : undefined;
  const other = ranked.find(
    ({ name, bits, score }) => isPentatonic(name) && bits !== five?.bits && five && score > five.score - NEARLY,
  );
  const offered = [five, blues, seven, other].flatMap((one) => (one ? [one] : []));
  return offered.map(({ name, above, bits, fit }) => {
    const scale = scaleBeside(transposeClass(home, above), name);
    const twin = twinOf(scale, bits);
    return {
      scale,
      ...(twin && { alsoCalled: twin }),
      fit: Math.max(0, Math.min(1, fit / (WORTH.home + WORTH.holdsThird))),
      ...coverageOf(form, scale, blue),
    };
  });
}

/** Another five-note set is offered too where it is nearly as good as the best. */
const NEARLY = 0.12;

const isPentatonic = (name: ScaleName) => name.endsWith('pentatonic');
const isBlues = (name: ScaleName) => name === 'blues scale' || name === 'major blues';

/** In which bars a set rests, and where it rubs. Blue notes over a blues are not counted. */
export function coverageOf(
  form: ImprovisingForm,
  { notes }: Pick<Scale, 'notes'>,
  blue = form.style === 'blues' ? blueBits(chroma(form.reading.home.tonic)) : 0,
): Pick<WholeFormSet, 'restsIn' | 'rubsIn' | 'bars'> {
  const rubsIn: { bar: number; note: PitchClass; wayOut: PitchClass }[] = [];
  const rubbing = new Set<number>();
  form.reading.chords.forEach(({ chord }, index) => {
    const { symbol } = chord;
    if (symbol.kind === 'no chord') return;
    const roles = rolesOver(symbol);
    const first = form.places[index]?.bar ?? 0;
    const long = Math.max(1, Math.ceil((chord.at + chord.length) / chord.barLength - 1e-9));
    for (const note of notes) {
      const bit = 1 << chroma(note);
      if (!(roles.rub & bit) || blue & bit) continue;
      const wayOut = roles.wayOut[chroma(note)];
      for (let k = 0; k < long; k += 1) {
        rubbing.add(first + k);
        if (wayOut) rubsIn.push({ bar: first + k, note, wayOut });
      }
    }
  });
  return { bars: form.bars.length, rubsIn, restsIn: form.bars.filter((bar) => !rubbing.has(bar)) };
}

function blueBits(tonic: number): number {
  return BLUE_DEGREES.reduce((bits, degree) => bits | (1 << ((tonic + degree) % 12)), 0);
}

function degreeBit(symbol: Parameters<typeof chordTones>[0], degree: number): number {
  const tone = chordTones(symbol).find((one) => one.degree === degree);
  return tone ? 1 << chroma(tone.pitchClass) : 0;
}

/** Semitones above the tonic, as bits. */
function setBits(name: ScaleName): number {
  return chromaBits(scaleOn({ step: 'C', alter: 0 }, name).notes);
}

function rotated(bits: number, by: number): number {
  return ((bits << by) | (bits >> (12 - by))) & 0xfff;
}

/** How many of twelve notes, by their bits. */
export function popCount(bits: number): number {
  return COUNTS[bits] ?? 0;
}

/** Asked for in every turn of the ranking: counted once. */
const COUNTS = Uint8Array.from({ length: 1 << 12 }, (_, bits) => {
  let count = 0;
  for (let rest = bits; rest > 0; rest &= rest - 1) count += 1;
  return count;
});

/** The relative name of a set: C major pentatonic is A minor pentatonic. */
function twinOf(scale: Scale, bits: number): Scale | undefined {
  for (const [name] of CANDIDATES)
    for (const tonic of scale.notes.slice(1))
      if (rotated(setBits(name), chroma(tonic)) === bits) return scaleBeside(tonic, name);
  return undefined;
}
