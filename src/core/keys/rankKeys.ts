import {
  type Causes,
  fixedCauses,
  type FixedCauses,
  lineCause,
  type LineMeasure,
  lineShape,
  measureBreath,
  measureLine,
  measurePlayer,
  signatureCause,
  totalOf,
} from '../analysis';
import { fingeringsFor } from '../fingering';
import { type Instrument, type Level, profileOf } from '../instruments';
import { meanHeight, octaveOfLine, readableKey } from '../levels';
import { levelTempo } from '../work';
import {
  addIntervals,
  chroma,
  intervalBetweenTonics,
  type Key,
  octaves,
  type Pitch,
  printKey,
  readableInterval,
  sameKey,
  semitones,
  signatureOf,
  transposeKey,
  transposeReadably,
} from '../pitch';
import { type Tune, withoutSecondPart } from '../score';
import type { KeyPlayer } from './player';

/** What is added to a player's difficulty (0–10). Ours; one table, to be argued with. */
const COSTS = {
  /** The tune does not fit the player's range in one octave: some phrase or note has to move. More than any signature. */
  doesNotFit: 3,
  /** For all notes outside; a share of them costs its share. */
  allOutside: 12,
  /** For all notes inside that the player does not know yet; a share of them costs its share. */
  allUnknown: 8,
  /** Off for a beginner in a key that first pupils start in: it opens many other tunes. */
  homeKey: 0.45,
  /** For all notes that the instrument does not have: they need another octave or another note. */
  allMissing: 20,
  /** Somebody cannot play at all: such a key comes after all others. */
  cannotPlay: 100,
} as const;

/** Beyond this share of notes that an instrument does not have there is no mending: the player cannot play. */
const MAX_MISSING = 0.2;

/** What one concert key means for one player, for the whole tune as it stands. */
export interface KeyForPlayer {
  readonly player: KeyPlayer;
  readonly writtenKey: Key;
  /** Sharps (positive) or flats of the written signature. */
  readonly signature: number;
  /** Octaves by which the whole tune moves, apart from the instrument's own. */
  readonly octave: number;
  /** Written; none for a tune without notes. */
  readonly lowest?: Pitch;
  readonly highest?: Pitch;
  /** Notes below and above the level's range in that octave. */
  readonly below: number;
  readonly above: number;
  /** Notes within the range that the player does not know yet. */
  readonly unknown: number;
  readonly fits: boolean;
  /** Notes that the instrument itself does not have. */
  readonly missing: readonly Pitch[];
  /** False where they are so many that the tune cannot be played. */
  readonly canPlay: boolean;
  readonly crossings: number;
  readonly isHomeKey: boolean;
  readonly difficulty: number;
  readonly causes: Causes;
  readonly cost: number;
}

export interface RankedKey {
  /** Concert. */
  readonly key: Key;
  /** The players' costs, weighed by level; on the scale of difficulty unless somebody cannot play. */
  readonly cost: number;
  readonly players: readonly KeyForPlayer[];
  readonly isOriginal: boolean;
  readonly matchesRecording: boolean;
}

/**
 * The twelve keys of the tune's mode for some players, best first.
 * Rule: rank by the group's total with beginners weighing most; a key in which somebody cannot play at all comes last
 * and says who and which notes.
 * @param options `recording`: its concert key, in any mode: only the tonic is compared; `perMinute` for all, else each
 *   level's own tempo
 */
export function rankKeys(
  tune: Tune,
  players: readonly KeyPlayer[],
  options: { readonly recording?: Key; readonly perMinute?: number } = {},
): readonly RankedKey[] {
  const line: Tune = { ...tune, bars: withoutSecondPart(tune.bars) };
  const measures = new Map<number, LineMeasure>();
  const shape = lineShape(line);
  const measureFor = (level: Level) => {
    const tempo = levelTempo(tune, level, options.perMinute);
    const known = measures.get(tempo.perMinute);
    if (known) return known;
    const measure = measureLine({ ...line, tempo }, shape);
    measures.set(tempo.perMinute, measure);
    return measure;
  };
  const prepared = players.map((player) => {
    const measure = measureFor(player.level);
    return {
      player,
      measure,
      fixed: fixedCauses(measure),
      breath: lineCause(measureBreath(measure, player.instrument)),
      extremes: extremesOf(measure),
    };
  });
  const weight = players.reduce((sum, { level }) => sum + profileOf(level).weight, 0) || 1;
  return twelveKeys(tune.key)
    .map((key): RankedKey => {
      const judged = prepared.map((one) => judge(one, tune.key, key));
      return {
        key,
        players: judged,
        cost: judged.reduce((sum, { cost, player }) => sum + cost * profileOf(player.level).weight, 0) / weight,
        isOriginal: sameKey(key, readableKey(tune.key)),
        matchesRecording: options.recording !== undefined && chroma(options.recording.tonic) === chroma(key.tonic),
      };
    })
    .toSorted(
      (a, b) =>
        a.cost - b.cost ||
        Number(b.isOriginal) - Number(a.isOriginal) ||
        printKey(a.key).localeCompare(printKey(b.key)),
    );
}

/**
 * The tune's mode on each of the twelve tonics, in fifths from the flats to the sharps, each with the fewest
 * accidentals.
 */
export function twelveKeys(key: Key): readonly Key[] {
  const keys = Array.from({ length: 12 }, (_, k) =>
    readableKey(transposeKey(key, { diatonic: [0, 1, 1, 2, 2, 3, 3, 4, 5, 5, 6, 6][k] ?? 0, chromatic: k })),
  );
  return keys.toSorted((a, b) => signatureOf(a) - signatureOf(b));
}

interface Prepared {
  readonly player: KeyPlayer;
  readonly measure: LineMeasure;
  readonly fixed: FixedCauses;
  readonly breath: number;
  readonly extremes: Extremes | undefined;
}

interface Extremes {
  readonly lowest: Pitch;
  readonly highest: Pitch;
  /** Heights that occur, each once, and how often. */
  readonly heights: readonly number[];
  readonly counts: readonly number[];
  /** The same for choosing an octave: a note that comes ever again decides no more than `MAX_OF_ONE` would. */
  readonly weighted: ReadonlyMap<number, number>;
}

const MAX_OF_ONE = 8;

function extremesOf({ notes, heights }: LineMeasure): Extremes | undefined {
  const counts = new Map<number, number>();
  let [lowest, highest] = [notes[0]?.pitch, notes[0]?.pitch];
  notes.forEach(({ pitch }, k) => {
    const height = heights[k] ?? 0;
    counts.set(height, (counts.get(height) ?? 0) + 1);
    if (lowest && height < semitones(lowest)) lowest = pitch;
    if (highest && height > semitones(highest)) highest = pitch;
  });
  if (!lowest || !highest) return undefined;
  return {
    lowest,
    highest,
    heights: [...counts.keys()],
    counts: [...counts.values()],
    weighted: new Map([...counts].map(([height, count]) => [height, Math.min(MAX_OF_ONE, count)])),
  };
}

function judge({ player, measure, fixed, breath, extremes }: Prepared, from: Key, key: Key): KeyForPlayer {
  const { instrument, level } = player;
  const interval = readableInterval(
    from,
    addIntervals(intervalBetweenTonics(from.tonic, key.tonic), instrument.transposition),
  );
  const writtenKey = transposeKey(from, interval);
  const range = instrument.range[level];
  const line = { heights: extremes?.weighted ?? new Map<number, number>(), mean: meanHeight(measure.notes) };
  const octave = octaveOfLine(line, interval.chromatic, instrument, level);
  const shift = interval.chromatic + 12 * octave;
  const [low, high] = [semitones(range.low), semitones(range.high)];
  let [below, above, unknown, all] = [0, 0, 0, 0];
  extremes?.heights.forEach((height, k) => {
    const count = extremes.counts[k] ?? 0;
    all += count;
    if (height + shift < low) below += count;
    else if (height + shift > high) above += count;
    else if (player.known && !player.known.has(height + shift)) unknown += count;
  });
  const place = addIntervals(interval, octaves(octave));
  const missing = extremes ? missingNotes(measure, instrument, extremes, shift, place) : [];
  const missingHeights = new Set(missing.map(semitones));
  const lost = extremes
    ? extremes.heights.reduce(
        (sum, height, k) => sum + (missingHeights.has(height + shift) ? (extremes.counts[k] ?? 0) : 0),
        0,
      )
    : 0;
  const canPlay = lost <= MAX_MISSING * all;
  const played = measurePlayer(measure, instrument, shift);
  const causes: Causes = {
    ...fixed,
    breath,
    range: lineCause(played.range),
    signature: signatureCause(signatureOf(writtenKey), instrument),
    break: lineCause(played.break),
    travel: lineCause(played.travel),
  };
  const difficulty = totalOf(causes);
  const isHomeKey =
    instrument.homeKeys.includes(printKey({ ...writtenKey, mode: 'major' })) &&
    (writtenKey.mode === 'major' || writtenKey.mode === 'ionian');
  const fits = below + above + unknown + lost === 0;
  return {
    player,
    writtenKey,
    signature: signatureOf(writtenKey),
    octave,
    ...(extremes && {
      lowest: transposeReadably(extremes.lowest, place),
      highest: transposeReadably(extremes.highest, place),
    }),
    below,
    above,
    unknown,
    fits,
    missing,
    canPlay,
    crossings: played.crossings,
    isHomeKey,
    difficulty,
    causes,
    cost:
      difficulty +
      (fits ? 0 : COSTS.doesNotFit) +
      (all > 0
        ? (COSTS.allOutside * (below + above) + COSTS.allUnknown * unknown + COSTS.allMissing * lost) / all
        : 0) -
      (isHomeKey && profileOf(level).prefersHomeKey ? COSTS.homeKey : 0) +
      (canPlay ? 0 : COSTS.cannotPlay),
  };
}

/** Notes beyond the instrument's full range, or that a diatonic one does not have; each once. */
function missingNotes(
  { notes }: LineMeasure,
  instrument: Instrument,
  { heights }: Extremes,
  shift: number,
  place: ReturnType<typeof octaves>,
): readonly Pitch[] {
  const [low, high] = [semitones(instrument.range.full.low), semitones(instrument.range.full.high)];
  const isDiatonic = instrument.mechanism.kind === 'harmonica';
  if (!isDiatonic && heights.every((height) => height + shift >= low && height + shift <= high)) return [];
  const seen = new Map<number, Pitch>();
  for (const { pitch } of notes) {
    const height = semitones(pitch) + shift;
    if (seen.has(height)) continue;
    const here = transposeReadably(pitch, place);
    if (height < low || height > high || (isDiatonic && fingeringsFor(instrument, here).length === 0))
      seen.set(height, here);
  }
  return [...seen].toSorted(([a], [b]) => a - b).map(([, pitch]) => pitch);
}
