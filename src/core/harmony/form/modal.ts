import { chroma, type Key, type Mode } from '../../pitch';
import { chordTones } from '../chordTones';
import { chromaBits, SCALE_OF_MODE, scaleOn } from '../scales';
import { heardChord } from './inKey';
import type { RootedChord, TimedChord } from './timedChord';

/** Modes in which a chord is heard as home, by its third and seventh; the first that holds all chords is taken. */
const MODES_BY_CLASS: Readonly<Record<'minor' | 'dominant' | 'major', readonly Mode[]>> = {
  minor: ['dorian', 'minor', 'phrygian'],
  dominant: ['mixolydian'],
  major: ['major', 'lydian', 'mixolydian'],
};

/** A chord that stays this many bars may be a home of its own. */
const LONG_STAY = 4;
/** More different chords than this make a progression, not a vamp. */
const MAX_CHORDS = 3;
const LEAST_BARS = 4;

/**
 * The keys of a form that stays: one to three chords, none of which resolves as a dominant does, in one mode or in
 * modes that change after a long stay. `undefined` for any other form. In the place of each chord stands its key.
 * Source: M. Levine, The Jazz Theory Book (1995), ch. 2, on modal tunes and vamps.
 */
export function modalKeys(chords: readonly TimedChord[]): readonly Key[] | undefined {
  const rooted = chords.flatMap(({ symbol }) => (symbol.kind === 'chord' ? [symbol] : []));
  const [first] = rooted;
  if (!first || rooted.length !== chords.length) return undefined;
  const names = new Set(rooted.map(chordName));
  const bars = chords.reduce((sum, { length, barLength }) => sum + length / barLength, 0);
  if (names.size > MAX_CHORDS || bars < LEAST_BARS || resolves(chords)) return undefined;
  // Two or three chords that each go by once are a short progression; a vamp comes round again, or stays.
  const stays = runsOf(chords).some(({ bars: long }) => long >= LONG_STAY);
  if (!stays && rooted.length < 2 * names.size) return undefined;
  const whole = modeOn(first, rooted);
  if (whole) return names.size === 3 && !stays && whole.mode === 'major' ? undefined : chords.map(() => whole);
  const keys: Key[] = [];
  let current: Key | undefined;
  for (const run of runsOf(chords)) {
    const isHeld = current && holds(current, run.chord);
    if (!isHeld && run.bars < LONG_STAY) return undefined;
    if (!isHeld) current = modeOn(run.chord, [run.chord]);
    if (!current) return undefined;
    for (let k = 0; k < run.count; k += 1) keys.push(current);
  }
  return keys;
}

function chordName({ root, quality }: RootedChord): string {
  return `${chroma(root)}/${quality.triad}/${quality.seventh ?? ''}`;
}

interface Run {
  readonly chord: RootedChord;
  bars: number;
  count: number;
}

/** Chords on one root, one after another. */
function runsOf(chords: readonly TimedChord[]): readonly Run[] {
  const runs: Run[] = [];
  for (const { symbol, length, barLength } of chords) {
    if (symbol.kind !== 'chord') continue;
    const last = runs.at(-1);
    if (last && chroma(last.chord.root) === chroma(symbol.root)) {
      last.bars += length / barLength;
      last.count += 1;
    } else runs.push({ chord: symbol, bars: length / barLength, count: 1 });
  }
  return runs;
}

/** Whether a dominant goes to a chord a fourth above that is not one itself, or a plain fifth to its tonic. */
function resolves(chords: readonly TimedChord[]): boolean {
  const heard = chords.map(heardChord);
  return heard.some((chord, index) => {
    const next = heard[index + 1] ?? heard[0];
    return (
      chord &&
      next &&
      heard.length > 1 &&
      (next.root - chord.root + 12) % 12 === 5 &&
      (chord.class === 'dominant' || (chord.class === 'major' && next.class !== 'dominant'))
    );
  });
}

function modeOn(home: RootedChord, all: readonly RootedChord[]): Key | undefined {
  const { triad, seventh } = home.quality;
  const family =
    triad === 'minor' ? 'minor' : seventh === 'minor' ? 'dominant' : triad === 'major' ? 'major' : undefined;
  if (!family) return undefined;
  return MODES_BY_CLASS[family]
    .map((mode): Key => ({ tonic: home.root, mode }))
    .find((key) => all.every((chord) => holds(key, chord)));
}

function holds(key: Key, chord: RootedChord): boolean {
  const scale = chromaBits(scaleOn(key.tonic, SCALE_OF_MODE[key.mode]).notes);
  const tones = chromaBits(chordTones(chord).map(({ pitchClass }) => pitchClass));
  return (tones & ~scale) === 0;
}
