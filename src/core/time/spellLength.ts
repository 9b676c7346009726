import { beatsOf, isCompound, middleOf, type Meter } from './meter';
import { NOTE_TYPES, typeTicks, valueOfTicks } from './noteValue';
import type { Ticks } from './ticks';

/**
 * Cuts a sounding length into printed values, to be tied, so that the beats can be seen.
 * Conventions as in E. Gould, Behind Bars (2011), "Rhythm": a value starting on a beat may cover following beats
 * when it does not hide the middle of the bar; off-beat starts reach to the next beat, but for the plain
 * syncopation short–long–short inside one half of the bar.
 * @param start position in the bar; for a pickup count from where it would stand in a full bar
 * @returns lengths in order; their sum is `length`
 */
export function spellNoteLength(start: Ticks, length: Ticks, meter: Meter): readonly Ticks[] {
  if (length <= 0) return [];
  if (readsWell(start, length, meter)) return [length];
  return splitAt(start, length, meter, spellNoteLength);
}

/**
 * As `spellNoteLength`, for rests: those never run across a beat unless they fill several whole ones from a strong
 * place.
 */
export function spellRestLength(start: Ticks, length: Ticks, meter: Meter): readonly Ticks[] {
  if (length <= 0) return [];
  if (restReadsWell(start, length, meter)) return [length];
  return splitAt(start, length, meter, spellRestLength);
}

type Speller = (start: Ticks, length: Ticks, meter: Meter) => readonly Ticks[];

function splitAt(start: Ticks, length: Ticks, meter: Meter, spell: Speller): readonly Ticks[] {
  const cut = bestCut(start, start + length, meter);
  if (cut !== undefined) return [...spell(start, cut - start, meter), ...spell(cut, start + length - cut, meter)];
  return largestValues(start, length, meter);
}

/** The strongest place strictly inside a span: the middle of the bar, else the first beat, else half a beat. */
function bestCut(start: Ticks, end: Ticks, meter: Meter): Ticks | undefined {
  const middle = middleOf(meter);
  if (middle !== undefined && middle > start && middle < end) return middle;
  const beats = beatsOf(meter);
  const onBeat = beats.some((beat) => beat.start === start);
  const inside = beats.filter((beat) => beat.start > start && beat.start < end);
  // From a beat, keep the long value first (half + eighth); from between beats, reach the next beat first.
  const beat = onBeat ? inside.at(-1) : inside[0];
  if (beat) return beat.start;
  const home = beats.findLast((candidate) => candidate.start <= start);
  if (!home) return undefined;
  const parts = isCompound(meter) ? 3 : 2;
  for (let k = 1; k < parts; k += 1) {
    const place = home.start + (home.length * k) / parts;
    if (place > start && place < end) return place;
  }
  return undefined;
}

/** Last resort inside a sub-beat: the largest value that fits, again and again, down to a 128th. */
function largestValues(start: Ticks, length: Ticks, meter: Meter): readonly Ticks[] {
  const largest = NOTE_TYPES.map(typeTicks).find((ticks) => ticks <= length);
  if (largest === undefined) throw new RangeError(`a length of ${length} ticks cannot be written without a tuplet`);
  return largest === length ? [length] : [largest, ...spellNoteLength(start + largest, length - largest, meter)];
}

/** Whether a length is one printed value where it stands. */
export function readsWell(start: Ticks, length: Ticks, meter: Meter): boolean {
  const value = valueOfTicks(length);
  if (!value) return false;
  const end = start + length;
  const beats = beatsOf(meter);
  const home = beats.findLast((beat) => beat.start <= start);
  if (!home) return true;
  const homeEnd = home.start + home.length;
  if (end <= homeEnd) return insideBeat(start - home.start, length, home.length, meter);
  const middle = middleOf(meter);
  const hidesMiddle = middle !== undefined && start > 0 && start < middle && end > middle;
  const startsOnBeat = start === home.start;
  const endsOnBeat = end === lastEnd(beats) || beats.some((beat) => beat.start === end);
  // Half on beat 2, and dotted half from 2 to the end, are words every beginner meets.
  if (startsOnBeat && endsOnBeat) return !hidesMiddle || value.dots === 0 || end === lastEnd(beats);
  if (hidesMiddle) return false;
  if (isCompound(meter)) return false;
  // Dotted quarter from a beat; or the syncopation ♪ ♩ ♪ over two beats.
  if (startsOnBeat) return value.dots === 1 && length === (home.length * 3) / 2;
  return value.dots === 0 && length === home.length && start - home.start === home.length / 2;
}

function insideBeat(offset: Ticks, length: Ticks, beat: Ticks, meter: Meter): boolean {
  if (!isCompound(meter)) return true;
  const third = beat / 3;
  // In a compound beat, quarter + eighth and eighth + quarter are words; a span across thirds from between is not.
  return offset % third === 0 || Math.floor(offset / third) === Math.floor((offset + length - 1) / third);
}

function restReadsWell(start: Ticks, length: Ticks, meter: Meter): boolean {
  const value = valueOfTicks(length);
  if (!value) return false;
  const end = start + length;
  const beats = beatsOf(meter);
  const home = beats.findLast((beat) => beat.start <= start);
  if (!home) return true;
  if (end <= home.start + home.length) {
    if (value.dots > 0 && length < home.length && !isCompound(meter)) return start === home.start;
    if (isCompound(meter) && length < home.length) return length <= home.length / 3 || start === home.start;
    return true;
  }
  if (start !== home.start || (value.dots > 0 && !isCompound(meter))) return false;
  if (start === 0 && end === lastEnd(beats)) return true;
  const middle = middleOf(meter);
  if (middle === undefined) return isCompound(meter) && start === 0;
  return (start === 0 && end === middle) || (start === middle && end === lastEnd(beats));
}

function lastEnd(beats: ReturnType<typeof beatsOf>): Ticks {
  const last = beats.at(-1);
  return last ? last.start + last.length : 0;
}

/**
 * A printed length as single values, the largest first, whatever the meter: inside tuplets, where beats do not lie on
 * it.
 */
export function plainValues(length: Ticks): readonly Ticks[] {
  if (length <= 0) return [];
  if (valueOfTicks(length)) return [length];
  const largest = NOTE_TYPES.map(typeTicks).find((ticks) => ticks <= length);
  if (largest === undefined) throw new RangeError(`a length of ${length} ticks cannot be written`);
  return [largest, ...plainValues(length - largest)];
}
