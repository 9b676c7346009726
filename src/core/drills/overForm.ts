import { type ChordSymbol, chordTones } from '../harmony';
import type { WrittenRange } from '../instruments';
import { chroma, namePitchClass, naturalAt, type Pitch, type PitchClass, semitones, staffPosition } from '../pitch';
import type { DrillDirection } from '../score';
import { rungsOfChord, rungsWithin, type Rungs } from './rungs';
import { nameSpan, type Message } from './message';

/** A chord's stretch of a form: how many notes it has room for. */
export interface Stretch {
  readonly symbol: ChordSymbol;
  /** As printed in the part, for what is said of it. */
  readonly name: string;
  readonly room: number;
}

/**
 * Tones 1 3 5 7 of a chord as they are gone through; a sixth or a suspension stands where its third or seventh would.
 */
function fourTones(symbol: ChordSymbol): readonly PitchClass[] {
  return chordTones(symbol)
    .filter(({ degree }) => degree <= 7)
    .map(({ pitchClass }) => pitchClass)
    .slice(0, 4);
}

/** Third and seventh, or what stands for them: the tones that tell a chord. */
function guides(symbol: ChordSymbol): readonly PitchClass[] {
  const tones = chordTones(symbol);
  const third = tones.find(({ degree }) => degree === 3) ?? tones.find(({ degree }) => degree === 4 || degree === 2);
  const seventh =
    tones.find(({ degree }) => degree === 7) ??
    tones.find(({ degree }) => degree === 6) ??
    tones.find(({ degree }) => degree === 5);
  return [third, seventh].flatMap((tone) => (tone ? [tone.pitchClass] : []));
}

export interface OverLine {
  /** Notes of each stretch, as many as it has room for; none where no chord sounds. */
  readonly notes: readonly (readonly Pitch[])[];
  readonly messages: readonly (Message & { readonly stretch: number })[];
}

/**
 * The tones of each chord over its own stretch: upwards from the root and back, downwards from the top, in turn, or
 * from whichever tone lies nearest. The octave is the one that keeps the stretch inside the range and near the note
 * before; where not all of it fits, the line turns at the edge of the range, and it is said. The last note of the form
 * is its tonic where that is a tone of the last chord.
 * @param range written, as all pitches here
 */
export function lineOverForm(
  stretches: readonly Stretch[],
  kind: 'chords' | 'guide-tones',
  direction: DrillDirection,
  range: WrittenRange,
  tonic: PitchClass,
): OverLine {
  const messages: (Message & { readonly stretch: number })[] = [];
  let last: Pitch | undefined;
  const notes = stretches.map(({ symbol, room, name }, stretch): readonly Pitch[] => {
    const tones = kind === 'chords' ? fourTones(symbol) : guides(symbol);
    const [root] = tones;
    if (!root || room === 0) return [];
    const rungs = rungsOfChord(root, tones);
    const within = rungsWithin(rungs, range);
    if (!within) return [];
    const isNearest = kind === 'guide-tones' || direction === 'nearest';
    const goesUp =
      direction === 'down'
        ? false
        : direction === 'up' || isNearest
          ? !isNearest || nearerUp(last, range)
          : stretch % 2 === 0
            ? direction !== 'down-up'
            : direction === 'down-up';
    const { start, kept } = startOf(rungs, within, {
      isNearest,
      goesUp,
      room,
      last: last ?? (isNearest ? middleOf(range) : undefined),
    });
    const from = rungs.up[start];
    if (kept !== 'whole' && from)
      messages.push({
        stretch,
        what: kept === 'inverted' ? `${name} begins on ${namePitchClass(from)}` : `${name} turns at the edge`,
        why: `from its ${goesUp ? 'root' : 'top'} it would go beyond ${nameSpan(range)}`,
      });
    // Guide tones turn to the neighbour of the first, so that nothing leaps.
    const reach = kind === 'guide-tones' ? 1 : rungs.perOctave;
    const line = zigzag(start, room, goesUp, within, reach)
      .map((rung) => rungs.up[rung])
      .filter((pitch) => pitch !== undefined);
    last = line.at(-1);
    return line;
  });
  return { notes: withHome(notes, stretches, range, tonic), messages };
}

function middleOf({ low, high }: WrittenRange): Pitch {
  return naturalAt(Math.round((staffPosition(low) + staffPosition(high)) / 2));
}

/** A line in the lower half of the range goes on upwards. */
function nearerUp(last: Pitch | undefined, range: WrittenRange): boolean {
  return !last || semitones(last) < (semitones(range.low) + semitones(range.high)) / 2;
}

interface Within {
  readonly from: number;
  readonly to: number;
}

function startOf(
  rungs: Rungs,
  within: Within,
  wishes: {
    readonly isNearest: boolean;
    readonly goesUp: boolean;
    readonly room: number;
    readonly last: Pitch | undefined;
  },
): { readonly start: number; readonly kept: 'whole' | 'inverted' | 'turned' } {
  const { isNearest, goesUp, room, last } = wishes;
  const { perOctave } = rungs;
  // One way as far as the octave of the first tone, then back.
  const reach = Math.min(room - 1, perOctave);
  const all = Array.from({ length: within.to - within.from + 1 }, (_, k) => within.from + k);
  const first = goesUp ? 0 : perOctave - 1;
  const places = isNearest ? all : all.filter((rung) => rung % perOctave === first);
  const away = (rung: number) =>
    Math.abs(semitones(rungs.up[rung] ?? ZERO) - semitones(last ?? rungs.up[within.from] ?? ZERO));
  const fits = (rung: number) => (goesUp ? rung + reach <= within.to : rung - reach >= within.from);
  // Where one way from the root does not fit, an inversion does rather than a line that turns after two notes.
  const fitting = [places.filter(fits), all.filter(fits)].find((some) => some.length > 0);
  const usable = fitting ?? (places.length > 0 ? places : all);
  const start = usable.reduce((best, next) => (away(next) < away(best) ? next : best), usable[0] ?? within.from);
  const isRoot = places.includes(start);
  return { start, kept: fitting ? (isRoot ? 'whole' : 'inverted') : 'turned' };
}

const ZERO: Pitch = { step: 'C', alter: 0, octave: 0 };

/** Rungs one way as far as they reach (an octave, or the next guide tone), then back; turned early at the edges. */
function zigzag(start: number, room: number, goesUp: boolean, { from, to }: Within, reach: number): readonly number[] {
  const found = [start];
  const [low, high] = goesUp
    ? [Math.max(from, start), Math.min(to, start + reach)]
    : [Math.max(from, start - reach), Math.min(to, start)];
  let step = goesUp ? 1 : -1;
  while (found.length < room) {
    const at = found.at(-1) ?? start;
    if (at + step > high || at + step < low) step = -step;
    const next = at + step;
    found.push(next > high || next < low ? at : next);
  }
  return found;
}

function withHome(
  notes: readonly (readonly Pitch[])[],
  stretches: readonly Stretch[],
  range: WrittenRange,
  tonic: PitchClass,
): readonly (readonly Pitch[])[] {
  const place = notes.findLastIndex((line) => line.length > 0);
  const line = notes[place];
  const symbol = stretches[place]?.symbol;
  const last = line?.at(-1);
  if (!line || !symbol || !last || chroma(last) === chroma(tonic)) return notes;
  const own = chordTones(symbol).find(({ pitchClass }) => chroma(pitchClass) === chroma(tonic))?.pitchClass;
  if (!own) return notes;
  const homes = [-1, 0, 1]
    .map((octaves): Pitch => ({ ...own, octave: last.octave + octaves }))
    .filter((pitch) => semitones(pitch) >= semitones(range.low) && semitones(pitch) <= semitones(range.high));
  const [first] = homes;
  if (!first) return notes;
  const away = (pitch: Pitch) => Math.abs(semitones(pitch) - semitones(last));
  const home = homes.reduce((best, next) => (away(next) < away(best) ? next : best), first);
  return notes.map((one, k) => (k === place ? [...one.slice(0, -1), home] : one));
}
