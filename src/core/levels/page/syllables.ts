import { barSpans, type EventId, type SoundingNote, type Tune } from '../../score';
import { beatsOf, isCompound, type Ticks, TICKS_PER_QUARTER } from '../../time';
import type { SyllableSchool } from '../../work';

/**
 * Syllables for each struck note, from the rhythm alone. The tables stand below, one a school.
 * Rule: syllable schools: counting, ta-type, sung; each from the rhythm alone, by a documented table, in simple and
 * compound meters.
 */
export function syllablesOf(
  school: SyllableSchool,
  notes: readonly SoundingNote[],
  line: Pick<Tune, 'bars' | 'meter'>,
): ReadonlyMap<EventId, string> {
  const spans = barSpans(line);
  return new Map(
    notes.map((note, index) => {
      const meter = spans[note.bar]?.meter ?? line.meter;
      const beats = beatsOf(meter);
      const number = Math.max(
        0,
        beats.findLastIndex(({ start }) => start <= note.inBar),
      );
      const beat = beats[number] ?? { start: 0, length: TICKS_PER_QUARTER };
      const next = notes[index + 1];
      const place: Place = {
        number: number + 1,
        offset: note.inBar - beat.start,
        beat: beat.length,
        isCompound: isCompound(meter),
        length: note.length,
        isTriplet: note.first.tuplet?.actual === 3,
        isBeforeRest: !next || next.start > note.start + note.length,
      };
      return [note.first.id, SAY[school](place)];
    }),
  );
}

interface Place {
  /** Of the beat, from 1. */
  readonly number: number;
  readonly offset: Ticks;
  readonly beat: Ticks;
  readonly isCompound: boolean;
  readonly length: Ticks;
  readonly isTriplet: boolean;
  readonly isBeforeRest: boolean;
}

const SAY: Readonly<Record<SyllableSchool, (place: Place) => string>> = { counting, ta, sung };

/**
 * Counting: the beat's number, `&` for its half, `e` and `a` for the quarters; thirds of a beat `la` and `li`. Common
 * in schools and bands; what lies between is `ta`.
 */
function counting({ number, offset, beat, isCompound: inThrees, isTriplet }: Place): string {
  if (offset === 0) return String(number);
  const thirds = (3 * offset) / beat;
  if (inThrees || isTriplet) return thirds === 1 ? 'la' : thirds === 2 ? 'li' : 'ta';
  const quarters = (4 * offset) / beat;
  return quarters === 1 ? 'e' : quarters === 2 ? '&' : quarters === 3 ? 'a' : 'ta';
}

/**
 * Ta-type: by length, in the tradition of French time names as schools use them: quarter `ta`, eighth `ti`, sixteenth
 * `ri` between beats and `ti` on them, half `ta-a`, dotted quarter `tam`, triplets `tri-o-la`.
 */
function ta({ offset, beat, length, isTriplet }: Place): string {
  if (isTriplet) return ['tri', 'o', 'la'][Math.round((3 * offset) / beat)] ?? 'la';
  const quarters = length / TICKS_PER_QUARTER;
  if (quarters < 0.5) return offset % (TICKS_PER_QUARTER / 2) === 0 ? 'ti' : 'ri';
  if (quarters < 0.75) return 'ti';
  if (quarters < 1) return 'tim';
  if (quarters === 1.5) return 'tam';
  return `ta${'-a'.repeat(Math.max(0, Math.ceil(quarters) - 1))}`;
}

/**
 * Sung, for swing: `doo` on the beat, `ba` between, `daah` for what lasts, `dat` for a short note before a rest. A
 * table of ours in the manner of big-band rehearsals.
 */
function sung({ offset, beat, length, isBeforeRest, isTriplet }: Place): string {
  if (isTriplet) return ['doo', 'dle', 'da'][Math.round((3 * offset) / beat)] ?? 'da';
  if (length >= 1.5 * beat) return 'daah';
  if (isBeforeRest && length <= beat) return 'dat';
  return offset === 0 ? 'doo' : 'ba';
}
