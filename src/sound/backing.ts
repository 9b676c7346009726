import { type ChordSymbol, chordTones } from '../core/harmony';
import { chroma, type PitchClass, semitones } from '../core/pitch';
import { barSpans, keysOf, type Tune } from '../core/score';
import { type Beat, beatsOf, isCompound, type Meter, type Ticks } from '../core/time';
import type { Sounded } from './perform';
import type { TimeMap } from './timeMap';

/**
 * How bass and chords go: each chord held; bass and chord by turns on the beats; or a bass that walks in step with the
 * beat and chords that answer off it; or a drone through every bar, whatever the chords: the home note with its fifth,
 * or the fifth alone.
 */
export const FEELS = ['held', 'beats', 'walking', 'drone', 'fifth-drone'] as const;
export type Feel = (typeof FEELS)[number];

/** A swung tune walks, anything else goes by its beats. */
export function usualFeel({ swing, meter }: Pick<Tune, 'swing' | 'meter'>): Feel {
  return swing && !isCompound(meter) && meter.unit === 4 ? 'walking' : 'beats';
}

export interface Backing {
  readonly bass: readonly Sounded[];
  readonly chords: readonly Sounded[];
}

/**
 * Bass notes lie from low E to the B flat above, where a plucked bass is clear; chords about middle C, under most
 * tunes. MIDI key numbers.
 */
const BASS_LOW = 28;
const CHORD_MIDDLE = 58;
const BASS_LOUD = 84;
const CHORD_LOUD = 58;
/** How much of a struck chord's time it sounds. */
const SHORT = 0.55;

/**
 * Home note and fifth of the key in force, or the fifth alone, struck anew with each bar so that a loop may begin
 * anywhere; without a key nothing.
 */
function droneFor(line: Pick<Tune, 'bars'> & Partial<Pick<Tune, 'key'>>, map: TimeMap, isFifth: boolean): Backing {
  if (!line.key) return { bass: [], chords: [] };
  const keys = keysOf({ key: line.key, bars: line.bars });
  const strikes = map.bars.map(({ bar }, place) => {
    const tonic = keys[bar]?.tonic ?? { step: 'C' as const, alter: 0 };
    const low = nearestBass((chroma(tonic) + (isFifth ? 7 : 0)) % 12, BASS_LOW + 12);
    return { start: map.at(place, 0), end: map.at(place + 1, 0), low };
  });
  return {
    bass: strikes.map(({ start, end, low }) => ({ start, end, key: low, velocity: BASS_LOUD - 12 })),
    chords: strikes.flatMap(({ start, end, low }) =>
      [low + 12, ...(isFifth ? [] : [low + 19])].map((key) => ({ start, end, key, velocity: CHORD_LOUD - 6 })),
    ),
  };
}

/** One chord's stretch of a played bar. */
interface Stretch {
  readonly symbol: ChordSymbol;
  readonly from: Ticks;
  readonly to: Ticks;
}

/** Bass and chords for a line's symbols, which go on until the next one; silent before the first and at N.C. */
export function backingFor(
  line: Pick<Tune, 'bars' | 'meter'> & Partial<Pick<Tune, 'key'>>,
  map: TimeMap,
  feel: Feel,
): Backing {
  if (feel === 'drone' || feel === 'fifth-drone') return droneFor(line, map, feel === 'fifth-drone');
  const spans = barSpans(line);
  const bass: Sounded[] = [];
  const chords: Sounded[] = [];
  // What sounded before the first bar that is played goes on there.
  let current = line.bars
    .slice(0, map.bars[0]?.bar ?? 0)
    .findLast(({ chords: before }) => before.length > 0)
    ?.chords.at(-1)?.symbol;
  let voicing: readonly number[] = [];
  let lastBass = BASS_LOW + 8;
  const places = map.bars.map(({ bar }) => {
    const span = spans[bar];
    const stretches: Stretch[] = [];
    const placed = line.bars[bar]?.chords ?? [];
    const edges = [{ at: 0, symbol: current }, ...placed];
    edges.forEach(({ at, symbol }, index) => {
      const to = edges[index + 1]?.at ?? span?.length ?? 0;
      if (symbol && symbol.kind === 'chord' && to > at) stretches.push({ symbol, from: at, to });
    });
    current = placed.at(-1)?.symbol ?? current;
    return stretches;
  });
  places.forEach((stretches, place) => {
    const span = spans[map.bars[place]?.bar ?? -1];
    if (!span) return;
    stretches.forEach((stretch, index) => {
      const next = stretches[index + 1] ?? places[place + 1]?.[0];
      const tones = tonesOf(stretch.symbol);
      voicing = nearestVoicing(tones.upper, voicing);
      const sound = (
        list: Sounded[],
        keys: readonly number[],
        from: Ticks,
        to: Ticks,
        velocity: number,
        share = 0.95,
      ) => {
        const start = map.at(place, from);
        const end = to >= span.length ? map.at(place + 1, 0) : map.at(place, to);
        for (const key of keys) list.push({ start, end: start + (end - start) * share, key, velocity });
      };
      const root = nearestBass(tones.bass, lastBass);
      if (feel === 'held') {
        sound(bass, [root], stretch.from, stretch.to, BASS_LOUD - 8);
        sound(chords, voicing, stretch.from, stretch.to, CHORD_LOUD - 4);
        lastBass = root;
        return;
      }
      const beats = beatsIn(span.meter, span.offset, stretch);
      beats.forEach((beat, k) => {
        const end = beats[k + 1]?.start ?? stretch.to;
        if (feel === 'walking') {
          const isFirst = k === 0;
          const isLast = k === beats.length - 1;
          // A step or half step into the next root, chord tones on the way (common practice of bass teaching).
          const target = isLast && !isFirst && next ? nearestBass(tonesOf(next.symbol).bass, lastBass) : undefined;
          const key = isFirst
            ? root
            : target !== undefined
              ? approach(target, lastBass)
              : nearestBass(tones.walk[k % tones.walk.length] ?? tones.bass, lastBass);
          sound(bass, [key], beat.start, end, BASS_LOUD - (k % 2) * 4, 0.9);
          lastBass = key;
          if (k % 2 === 1 && beat.start + beat.length / 2 < end)
            sound(chords, voicing, beat.start + beat.length / 2, end, CHORD_LOUD - 2, SHORT);
          else if (isFirst)
            sound(chords, voicing, beat.start, Math.min(end, beat.start + beat.length), CHORD_LOUD, SHORT);
          return;
        }
        const role = roleOf(span.meter, span.offset + beat.start);
        if (k === 0 || role === 'bass') {
          // The fifth answers the root, the root comes back with each chord.
          const key = k === 0 ? root : nearestBass(tones.fifth, root);
          sound(bass, [key], beat.start, end, BASS_LOUD, 0.85);
          if (k === 0) lastBass = key;
          if (isCompound(span.meter) && end - beat.start === beat.length)
            sound(chords, voicing, beat.start + (beat.length * 2) / 3, end, CHORD_LOUD, 0.7);
          // One chord a bar or less often: a bar of one beat still has a chord in it.
          else if (beats.length === 1) sound(chords, voicing, beat.start, end, CHORD_LOUD - 4, 0.9);
        } else sound(chords, voicing, beat.start, end, CHORD_LOUD, SHORT);
      });
    });
  });
  return { bass, chords };
}

/** The beats of a full bar that fall in a stretch, counted from the start of the (perhaps short) bar. */
function beatsIn(meter: Meter, offset: Ticks, { from, to }: Stretch): readonly Beat[] {
  const inside = beatsOf(meter)
    .map(({ start, length }) => ({ start: start - offset, length }))
    .filter(({ start }) => start >= from && start < to);
  const [first] = inside;
  // A chord that comes off the beat has its bass note where it comes.
  return first && first.start === from ? inside : [{ start: from, length: (first?.start ?? to) - from }, ...inside];
}

/**
 * Bass on the strong beats, chords on the others: 1 and 3 of four, 1 of three, each group's first of fives and sevens.
 */
function roleOf(meter: Meter, at: Ticks): 'bass' | 'chord' {
  const beats = beatsOf(meter);
  const index = beats.findIndex(({ start }) => start === at);
  if (isCompound(meter)) return 'bass';
  if (beats.length === 5) return index === 0 || index === 3 ? 'bass' : 'chord';
  return beats.length % 2 === 0 ? (index % 2 === 0 ? 'bass' : 'chord') : index === 0 ? 'bass' : 'chord';
}

interface Tones {
  /** Pitch classes as semitones above C, 0–11. */
  readonly bass: number;
  readonly fifth: number;
  readonly upper: readonly number[];
  readonly walk: readonly number[];
}

function tonesOf(symbol: ChordSymbol): Tones {
  if (symbol.kind === 'no chord') return { bass: 0, fifth: 0, upper: [], walk: [0] };
  const tones = chordTones(symbol).map(({ degree, pitchClass }) => ({ degree, height: heightOf(pitchClass) }));
  const root = heightOf(symbol.root);
  const fifth = tones.find(({ degree }) => degree === 5)?.height ?? root;
  // Four notes say a chord: with more, the root is left to the bass and the plain fifth goes next.
  const wanted =
    tones.length <= 4
      ? tones
      : tones.filter(({ degree }) => degree !== 1).filter(({ degree }, _, all) => degree !== 5 || all.length <= 4);
  const bass = symbol.bass ? heightOf(symbol.bass) : root;
  const walk = tones
    .filter(({ degree }) => degree === 3 || degree === 5 || degree === 7 || degree === 6)
    .map(({ height }) => height);
  return {
    bass,
    fifth,
    upper: wanted.slice(0, 4).map(({ height }) => height),
    walk: [bass, ...(walk.length > 0 ? walk : [fifth])],
  };
}

function heightOf(pitchClass: PitchClass): number {
  return ((semitones({ ...pitchClass, octave: 0 }) % 12) + 12) % 12;
}

/** In the bass's range, the octave nearest to the note before. */
function nearestBass(height: number, before: number): number {
  const low = BASS_LOW + ((((height - BASS_LOW) % 12) + 12) % 12);
  return Math.abs(low + 12 - before) < Math.abs(low - before) && low + 12 <= BASS_LOW + 20 ? low + 12 : low;
}

/** Into the next root by the nearer step: a half step from below, or a whole step from above. */
function approach(target: number, before: number): number {
  return before > target ? target + 2 : Math.max(BASS_LOW, target - 1);
}

/** The inversion that moves least from the chord before; the first lies about the middle. */
function nearestVoicing(heights: readonly number[], before: readonly number[]): readonly number[] {
  if (heights.length === 0) return [];
  const middle = before.length > 0 ? before.reduce((sum, key) => sum + key, 0) / before.length : CHORD_MIDDLE + 3;
  const options = heights.map((_, turn) => {
    const turned = [...heights.slice(turn), ...heights.slice(0, turn)];
    let last = -Infinity;
    return turned.map((height) => {
      let key = CHORD_MIDDLE - 7 + ((((height - (CHORD_MIDDLE - 7)) % 12) + 12) % 12);
      while (key <= last) key += 12;
      last = key;
      return key;
    });
  });
  const cost = (keys: readonly number[]) =>
    Math.abs(keys.reduce((sum, key) => sum + key, 0) / keys.length - (middle + CHORD_MIDDLE + 3) / 2) +
    Math.max(0, (keys.at(-1) ?? 0) - 76);
  return options.reduce((best, keys) => (cost(keys) < cost(best) ? keys : best));
}
