import { type ChordSymbol, chordTones } from '../harmony';
import {
  chroma,
  type Interval,
  intervalBetweenTonics,
  type PitchClass,
  transpose,
  withoutDoubleAccidental,
} from '../pitch';
import { formOf, type ImprovisingForm } from '../pools';
import { type Bar, isNote, type Tune, TUNE_SCHEMA } from '../score';
import { sameMeter, type Ticks, TICKS_PER_QUARTER } from '../time';
import { readSolo } from './readSolo';
import type { FormBar } from './rhythm';
import { formBarsOf } from './soloTune';
import type { GivenNote } from './wishes';

/** More bars than a lick has. */
export const MAX_LICK_BARS = 4;

/** The chords that matter to a lick: what kind they are, and how far their root lies from the first one's. */
type Family = 'major' | 'minor' | 'dominant' | 'half-diminished' | 'diminished' | 'other';

interface LickChord {
  readonly family: Family;
  readonly root: PitchClass;
  /** From the start of the first bar. */
  readonly at: Ticks;
  readonly length: Ticks;
}

/** A place in a form over which a lick can be played. */
export interface LickPlace {
  /** Index of its first bar, and of the bar after its last. */
  readonly from: number;
  readonly to: number;
  /** From the lick's key to the place's. */
  readonly interval: Interval;
  /** What its lengths are multiplied by: a half, one, two. */
  readonly stretch: 0.5 | 1 | 2;
}

/** What is said about a lick: its chords as functions, and what they are called. */
export interface LickFacts {
  /** `ii7 V7 Imaj7`. */
  readonly numerals: string;
  /** `over ii–V–I in major`. */
  readonly fits: string;
  readonly bars: number;
}

/**
 * Cuts bars out of a tune as a lick, bars from 0; in its key, with its chords. @throws RangeError for bars that are not
 * there or too many
 */
export function liftLick(tune: Tune, from: number, to: number, title: string): Tune {
  const bars = tune.bars.slice(from, to);
  const [first, ...rest] = bars;
  if (!first || to > tune.bars.length || to - from > MAX_LICK_BARS)
    throw new RangeError(`bars ${from + 1} to ${to} are no lick`);
  // A chord goes on until the next one: the first bar says which sounds as it begins.
  const before = tune.bars
    .slice(0, from)
    .findLast(({ chords }) => chords.length > 0)
    ?.chords.at(-1);
  const isOpen = !first.chords.some(({ at }) => at === 0);
  const chords = isOpen && before ? [{ at: 0, symbol: before.symbol }, ...first.chords] : first.chords;
  const plain = ({ section: _s, repeatStart: _r, repeatEnd: _e, ending: _v, barline: _b, ...bar }: Bar): Bar => bar;
  const all = [{ ...plain(first), chords }, ...rest.map(plain)];
  return {
    schema: TUNE_SCHEMA,
    title,
    ...(tune.title && { source: `From ${tune.title}` }),
    rights: tune.rights,
    key: tune.key,
    meter: tune.meter,
    tempo: tune.tempo,
    ...(tune.swing && { swing: tune.swing }),
    lick: {},
    bars: all.map((bar, k) => (k === all.length - 1 ? { ...bar, barline: 'final' as const } : bar)),
  };
}

/** What a lick fits, in words; `undefined` where it has no chords. */
export function lickFacts(lick: Tune): LickFacts | undefined {
  const { reading, bars } = formOf(lick);
  const numerals = reading.chords.map(({ numeral }) => numeral).filter(Boolean);
  if (numerals.length === 0) return undefined;
  return { numerals: numerals.join(' '), fits: fitsWords(lickChords(lick)), bars: bars.length };
}

/** What a run of chords is called where it has a name; by its kinds of chords elsewhere. */
function fitsWords(chords: readonly LickChord[]): string {
  const families = chords.map(({ family }) => family);
  const steps = chords.slice(1).map(({ root }, k) => (chroma(root) - chroma(chords[k]?.root ?? root) + 12) % 12);
  const isFourths = steps.every((step) => step === 5);
  const [first, second, third] = families;
  if (chords.length === 1) return `over ${ARTICLES[first ?? 'other']}`;
  if (isFourths && second === 'dominant' && (first === 'minor' || first === 'half-diminished')) {
    if (chords.length === 2) return first === 'minor' ? 'over ii–V' : 'over ii–V in minor';
    if (third === 'major' || third === 'other') return 'over ii–V–I in major';
    if (third === 'minor') return 'over ii–V–I in minor';
  }
  if (isFourths && chords.length === 2 && first === 'dominant')
    return second === 'minor'
      ? 'over V–I in minor'
      : second === 'dominant'
        ? 'over two dominants a fourth apart'
        : 'over V–I';
  if (chords.length === 4 && steps.join() === '9,5,5') return 'over a turnaround, I–vi–ii–V';
  return `over ${chords.length} chords: ${families.map((family) => FAMILY_WORDS[family]).join(', ')}`;
}

const FAMILY_WORDS: Readonly<Record<Family, string>> = {
  major: 'major',
  minor: 'minor',
  dominant: 'dominant',
  'half-diminished': 'half-diminished',
  diminished: 'diminished',
  other: 'other',
};
const ARTICLES: Readonly<Record<Family, string>> = {
  major: 'a major chord',
  minor: 'a minor chord',
  dominant: 'a dominant seventh',
  'half-diminished': 'a half-diminished chord',
  diminished: 'a diminished seventh',
  other: 'one chord',
};

function familyOf(symbol: ChordSymbol): Family {
  if (symbol.kind === 'no chord') return 'other';
  const has = (degree: number, ...sizes: readonly number[]) =>
    chordTones(symbol).some(
      (tone) => tone.degree === degree && sizes.includes((chroma(tone.pitchClass) - chroma(symbol.root) + 12) % 12),
    );
  if (has(3, 3)) return has(5, 6) ? (has(7, 10) ? 'half-diminished' : 'diminished') : 'minor';
  if (has(3, 4)) return has(7, 10) ? 'dominant' : 'major';
  return has(7, 10) ? 'dominant' : 'other';
}

function lickChords(tune: Tune): readonly LickChord[] {
  return chordsIn(formOf(tune), formBarsOf(tune));
}

function chordsIn(form: ImprovisingForm, bars: readonly FormBar[]): readonly LickChord[] {
  return form.reading.chords.flatMap(({ chord }): readonly LickChord[] => {
    const { symbol } = chord;
    if (symbol.kind === 'no chord') return [];
    return [
      {
        family: familyOf(symbol),
        root: symbol.root,
        at: (bars[chord.bar]?.start ?? 0) + chord.at,
        length: chord.length,
      },
    ];
  });
}

/**
 * Where in a form a lick can be played: the same kinds of chords at the same distances, each lasting as long as in the
 * lick, twice or half as long (the last at least so long), beginning with a bar.
 * @param form concert, with the bars of one chorus
 */
export function lickPlaces(lick: Tune, form: ImprovisingForm, bars: readonly FormBar[]): readonly LickPlace[] {
  const wanted = lickChords(lick);
  const there = chordsIn(form, bars);
  const [first] = wanted;
  const end = formBarsOf(lick).reduce((sum, { length }) => sum + length, 0);
  if (!first || first.at !== 0) return [];
  const found: LickPlace[] = [];
  there.forEach((chord, index) => {
    const from = bars.findIndex(({ start }) => start === chord.at);
    const bar = bars[from];
    // A line in four is no line in three.
    if (!bar || chord.family !== first.family || !sameMeter(bar.meter, lick.meter)) return;
    for (const stretch of [1, 0.5, 2] as const) {
      const fits = wanted.every((one, k) => {
        const other = there[index + k];
        if (!other || other.family !== one.family) return false;
        const isLast = k === wanted.length - 1;
        const long = isLast ? other.length >= one.length * stretch : other.length === one.length * stretch;
        const moved = (a: PitchClass, b: PitchClass) => (chroma(a) - chroma(b) + 12) % 12;
        return long && moved(other.root, chord.root) === moved(one.root, first.root);
      });
      const to = bars.findIndex(({ start, length }) => start + length >= chord.at + end * stretch) + 1;
      if (!fits || to <= from || !keepsWords(lick, stretch)) continue;
      found.push({ from, to, interval: intervalBetweenTonics(first.root, chord.root), stretch });
      return;
    }
  });
  return found;
}

/** Whether a lick's rhythm can be halved: nothing becomes shorter than a sixteenth, and no triplet is cut. */
function keepsWords({ bars }: Tune, stretch: LickPlace['stretch']): boolean {
  if (stretch === 1) return true;
  const notes = bars.flatMap(({ events }) => events.filter(isNote));
  return notes.every(({ length, tuplet }) => !tuplet && length * stretch >= TICKS_PER_QUARTER / 4);
}

/**
 * A lick at a place of a form: its notes from the start of the place, concert; what leans is said to belong to the
 * lick.
 */
export function lickAt(lick: Tune, { interval, stretch }: LickPlace): readonly GivenNote[] {
  const read = readSolo(lick);
  return (read?.notes ?? []).map(({ at, length, concert, device, role, isTriplet }): GivenNote => ({
    at: at * stretch,
    length: length * stretch,
    pitch: withoutDoubleAccidental(transpose(concert, interval)),
    ...(role !== 'home' && role !== 'colour' && { device: device ?? 'lick' }),
    ...(device === 'anticipation' && { device, isEarly: true as const }),
    ...(isTriplet && { isTriplet }),
  }));
}
