import { derived } from '../derived';
import { barDifficulties, feltSigns, homeSignatures, lineDifficulty } from '../analysis';
import { type Instrument, type Level, type WrittenRange, profileOf } from '../instruments';
import { readableScale, type ScaleName } from '../harmony';
import { type PitchClass, signatureOf, transposeClass } from '../pitch';
import { keyForSet } from '../pools';
import { type DrillExtent, type DrillRhythm, quarterBars, QUARTERS_METER } from '../score';
import { ALL_TONICS } from './keyOrder';
import { groupSize, type Pattern } from './pattern';
import { sectionOf } from './section';

/** What a teacher decides for one level of a drill; absent means as the level goes. */
export interface DrillWishes {
  readonly extent?: DrillExtent | WrittenRange;
  readonly rhythm?: DrillRhythm;
  /**
   * Where the hand stays on strings: a position, or the fret of the first finger; together with the range that lies
   * under it.
   */
  readonly hand?: number;
  /** How many of the keys are gone through, from the first. */
  readonly keys?: number;
}

/** How far a level goes when nobody says otherwise. */
export interface DrillDefaults {
  readonly extent: DrillExtent;
  readonly keys: number;
  /** Beats a minute. */
  readonly perMinute: number;
}

/**
 * First an octave in two or three keys, slowly enough to be said aloud; then two octaves and six keys; then all of the
 * instrument in all keys. Common practice of method books; tempos are ours.
 */
export const DRILL_DEFAULTS: Readonly<Record<Level, DrillDefaults>> = {
  beginner: { extent: 'octave', keys: 3, perMinute: 60 },
  intermediate: { extent: 'two', keys: 6, perMinute: 72 },
  advanced: { extent: 'full', keys: 12, perMinute: 84 },
};

/**
 * The rhythm of a level: quarters; eighths, or triplets where groups are of three; sixteenths, but wide intervals in
 * eighths.
 */
export function usualRhythm(level: Level, pattern: Pattern): DrillRhythm {
  if (pattern.kind === 'guide-tones') return 'half';
  const { shortest } = profileOf(level).drill;
  if (shortest === 'quarter') return 'quarter';
  // A group a key leaves time to think of the next one.
  if (pattern.kind === 'group') return groupSize(pattern) === 3 ? 'triplet' : 'eighth';
  if (pattern.kind === 'chords') return 'eighth';
  if (groupSize(pattern) === 3) return 'triplet';
  const isWide = pattern.kind === 'interval' && pattern.letters > 3;
  return isWide ? 'eighth' : shortest;
}

/**
 * A key in which nothing of the pattern fits comes last; one group that does not fit costs this much, and eight of them
 * all that such groups may.
 */
const DOES_NOT_FIT = { nothing: 20, group: 0.8, most: 8 } as const;
/** A signature counts this much for each sign that the hand feels of it: pupils name keys by it. */
const SIGN = 0.15;
/** What speaks for the keys of the instrument's own methods, in their order: they come before what is merely easy. */
const FIRST_KEY = { bonus: 5, place: 0.4 } as const;

/**
 * The twelve concert tonics for an instrument and level, the easiest first: the keys of the instrument's methods in
 * their order, as far as the pattern fits there, then by the scale's difficulty and signature.
 */
export const easiestKeys = derived(
  (instrument: Instrument, level: Level, set: ScaleName, pattern: Pattern): readonly PitchClass[] =>
    ALL_TONICS.map((tonic, place) => ({ tonic, place, cost: keyCost(instrument, level, set, tonic, pattern) }))
      .toSorted((a, b) => a.cost - b.cost || a.place - b.place)
      .map(({ tonic }) => tonic),
  {
    most: 64,
    by: (instrument, level, set, pattern) => [instrument, level, set, JSON.stringify(pattern)],
  },
);

function keyCost(instrument: Instrument, level: Level, set: ScaleName, tonic: PitchClass, pattern: Pattern): number {
  const scale = readableScale(transposeClass(tonic, instrument.transposition), set);
  const asked = { scale, range: instrument.range[level], direction: 'up-down', extent: 'octave' } as const;
  const section = sectionOf({ ...asked, pattern: SCALE });
  const wanted = sectionOf({ ...asked, pattern }) ?? (isOfKeys(pattern) ? undefined : section);
  if (!section || !wanted) return DOES_NOT_FIT.nothing;
  const key = keyForSet(scale);
  const tempo = { beat: { type: 'quarter' as const, dots: 0 as const }, perMinute: DRILL_DEFAULTS.beginner.perMinute };
  const { total } = lineDifficulty(
    barDifficulties({ bars: quarterBars(section.notes), key, meter: QUARTERS_METER, tempo }, instrument),
  );
  // A set belongs to the first keys by its signature: A minor to C, the chord on F to F.
  const place = homeSignatures(instrument.homeKeys).indexOf(signatureOf(key));
  const home = place < 0 ? 0 : FIRST_KEY.bonus - FIRST_KEY.place * place;
  const left = Math.min(DOES_NOT_FIT.most, DOES_NOT_FIT.group * (wanted.left ?? 0));
  return total + SIGN * feltSigns(signatureOf(key), instrument) + left - home;
}

/** Whether a pattern is laid over a set, and not over a form or a tube. */
function isOfKeys({ kind }: Pattern): boolean {
  return kind !== 'chords' && kind !== 'guide-tones' && kind !== 'lip-slurs';
}

const SCALE: Pattern = { kind: 'cell', name: 'scale', offsets: [0] };
