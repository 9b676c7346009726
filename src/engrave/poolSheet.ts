import type { Head, StemlessColumn, StemlessNote, StemlessScore } from '../core/formats';
import { type Instrument, type Level, toSounding } from '../core/instruments';
import {
  type Interval,
  nameKey,
  namePitchClass,
  naturalAt,
  type Pitch,
  type PitchClass,
  sameKey,
  semitones,
  staffPosition,
  transpose,
} from '../core/pitch';
import type { Clef, Tune } from '../core/score';
import type { ChordPool, ChordPools, LevelPools, PoolKind, PoolNote, Role } from '../core/pools';

/** What of a pool is printed under the heads: everything, or nothing (for learning by heart). */
export type SheetWords = 'names' | 'covered';

/** Names of staves, where several stand under one another. */
const SHORT_NAMES: Readonly<Record<PoolKind, string>> = {
  whole: 'set',
  bent: 'bent',
  pentatonic: 'five',
  'chord-tones': 'tones',
  'guide-tones': 'guide',
  colour: 'colour',
  'chord-scale': 'scale',
};

/** Roles by shape and weight: what rests is filled, what leans is open, what rubs is small. */
export const HEAD_OF_ROLE: Readonly<Record<Role, Head>> = { home: 'filled', colour: 'open', rub: 'small' };

export interface PoolSheetRequest {
  readonly pools: LevelPools;
  readonly instrument: Instrument;
  readonly level: Level;
  /** The bars with their signs; the pools' places point into them. None for bare chords. */
  readonly bars?: Tune['bars'];
  readonly title: string;
  readonly words?: SheetWords;
  /** From written pitch to that in which the pools are given: none, or to what sounds. */
  readonly shift?: Interval;
}

/**
 * A level's pools as a score of heads: a staff for each pool, a column for each chord, in written pitch. A pool lies as
 * low as the player is comfortable, upwards from its first note; guide tones go on to the nearest.
 */
export function poolScore({
  pools,
  instrument,
  level,
  bars,
  title,
  words = 'names',
  shift,
}: PoolSheetRequest): StemlessScore {
  const low = floorOf(instrument, level, shift);
  const guides: (Pitch | undefined)[] = [];
  const columns = pools.chords.map((chord, index): StemlessColumn => {
    const place = pools.form.places[index];
    const next = pools.form.places[index + 1];
    const bar = place && bars?.[place.barIndex];
    const isFirstInBar = place?.barIndex !== pools.form.places[index - 1]?.barIndex;
    const isLastInBar = next?.barIndex !== place?.barIndex;
    return {
      id: `c${index}`,
      ...(isFirstInBar && place && { number: String(place.bar) }),
      symbol: chord.reading.chord.symbol,
      ...(chord.reading.numeral && { numeral: numeralHere(chord, pools.chords[index - 1]) }),
      ...(isFirstInBar && bar?.section && { section: bar.section }),
      ...(isFirstInBar && bar?.repeatStart && { repeatStart: true }),
      ...(isLastInBar && bar?.repeatEnd !== undefined && { repeatEnd: true }),
      line:
        index === pools.chords.length - 1
          ? 'final'
          : !isLastInBar
            ? 'none'
            : bar?.barline === 'double'
              ? 'double'
              : 'plain',
      staves: chord.pools.map((pool, staff) => headsOf(pool, chord, low, words, staff, guides)),
    };
  });
  return {
    title,
    staves: pools.kinds.map((kind, k) => ({
      id: `P${k + 1}`,
      name: pools.kinds.length > 1 ? SHORT_NAMES[kind] : '',
      clef: instrument.clef,
      key: pools.form.key,
      ...(instrument.transposition.chromatic !== 0 && { toSounding: toSounding(instrument) }),
    })),
    columns,
  };
}

/** The numeral; where the form goes into another key, with that key before it. */
function numeralHere({ reading }: ChordPools, before: ChordPools | undefined): string {
  const { key, numeral } = reading;
  const isNewKey = before && before.reading.numeral !== '' && !sameKey(key, before.reading.key);
  return isNewKey ? `${nameKey(key)}: ${numeral}` : numeral;
}

/**
 * The lowest note of the level's range, or one leger line under the staff, where the range goes on for an octave above
 * that.
 */
function floorOf(instrument: Instrument, level: Level, shift: Interval | undefined): Pitch {
  const { low, high } = instrument.range[level];
  const moved = (pitch: Pitch) => (shift ? transpose(pitch, shift) : pitch);
  const legible = naturalAt(BOTTOM_LINES[instrument.clef] - LEGER_STEPS);
  const isRoomy = semitones(moved(high)) - semitones(legible) >= 14;
  return isRoomy && semitones(legible) > semitones(moved(low)) ? legible : moved(low);
}

/** Staff position of the bottom line, by clef: E4 is 30. */
const BOTTOM_LINES: Readonly<Record<Clef, number>> = {
  treble: 30,
  'treble-8va': 37,
  'treble-8vb': 23,
  alto: 24,
  tenor: 22,
  bass: 18,
  'bass-8vb': 11,
};
const LEGER_STEPS = 2;

function headsOf(
  pool: ChordPool,
  chord: ChordPools,
  low: Pitch,
  words: SheetWords,
  staff: number,
  guides: (Pitch | undefined)[],
): readonly StemlessNote[] {
  const pitches = pool.kind === 'guide-tones' ? nearGuides(pool.notes, low, guides) : ascending(pool.notes, low);
  return pool.notes.flatMap((note, k): readonly StemlessNote[] => {
    const pitch = pitches[k];
    if (!pitch) return [];
    return [
      {
        id: `c${chord.index}n${staff}x${k}`,
        pitch,
        head: HEAD_OF_ROLE[note.role],
        words: words === 'covered' ? [] : [namePitchClass(note.note), note.degree],
      },
    ];
  });
}

/** Upwards from the lowest place of the first note that is in reach. */
function ascending(notes: readonly PoolNote[], low: Pitch): readonly Pitch[] {
  const pitches: Pitch[] = [];
  for (const { note } of notes) pitches.push(lowestAbove(note, pitches.at(-1) ?? low, pitches.length > 0));
  return pitches;
}

function lowestAbove({ step, alter }: PitchClass, floor: Pitch, isStrict: boolean): Pitch {
  for (let octave = floor.octave - 1; ; octave += 1) {
    const pitch = { step, alter, octave };
    const above = semitones(pitch) - semitones(floor);
    // Two names for one sound in a chord, as ♯9 over a minor third, still go upwards on the staff.
    if (above > 0 || (above === 0 && (!isStrict || staffPosition(pitch) > staffPosition(floor)))) return pitch;
  }
}

/** Each guide tone in the octave nearest to where its line was. */
function nearGuides(notes: readonly PoolNote[], low: Pitch, guides: (Pitch | undefined)[]): readonly Pitch[] {
  return notes.map(({ note: { step, alter } }, k) => {
    const before = guides[k];
    const start = { ...low, octave: low.octave };
    const candidates = Array.from({ length: 5 }, (_, up) => ({ step, alter, octave: low.octave - 1 + up })).filter(
      (pitch) => semitones(pitch) >= semitones(low),
    );
    const target = before ?? (guides[0] && k > 0 ? guides[0] : { ...start, octave: start.octave });
    const wanted = semitones(target) + (before ? 0 : 3);
    const best = candidates.reduce<Pitch | undefined>(
      (nearest, next) =>
        nearest === undefined || Math.abs(semitones(next) - wanted) < Math.abs(semitones(nearest) - wanted)
          ? next
          : nearest,
      undefined,
    );
    const pitch = best ?? { step, alter, octave: low.octave };
    guides[k] = pitch;
    return pitch;
  });
}

/** Heads that are as they were over the chord before, as STAFF:HEAD: the page shows them paler. */
export function quietHeads(pools: LevelPools): ReadonlySet<string> {
  return new Set(
    pools.chords.flatMap(({ index, pools: here }) =>
      index === 0
        ? []
        : here.flatMap(({ notes }, staff) =>
            notes.flatMap(({ isNew }, k) => (isNew ? [] : [`P${staff + 1}:c${index}n${staff}x${k}`])),
          ),
    ),
  );
}

/** Where a pool lies on the staff: upwards from the lowest comfortable place, as on the sheet. */
export function poolPitches(pool: ChordPool, instrument: Instrument, level: Level, shift?: Interval): readonly Pitch[] {
  return ascending(pool.notes, floorOf(instrument, level, shift));
}
