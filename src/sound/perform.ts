import { type Key, midiNumber, type Pitch, scaleStep } from '../core/pitch';
import {
  type Articulation,
  type Bar,
  barSpans,
  type EventId,
  isNote,
  keysOf,
  loudnessOf,
  type Note,
  type Ornament,
  type ScoreEvent,
  type Tune,
  USUAL_LOUDNESS,
} from '../core/score';
import { weightAt } from '../core/time';
import type { TimeMap } from './timeMap';

/** A note to be sounded. Times in seconds from the beginning. */
export interface Sounded {
  readonly start: number;
  readonly end: number;
  /** MIDI key number, 0–127. */
  readonly key: number;
  /** 1–127. */
  readonly velocity: number;
}

/** When an event of the page is being played; tied notes are lit one after another. */
interface Mark {
  readonly id: EventId;
  readonly start: number;
  readonly end: number;
}

export interface Performed {
  readonly notes: readonly Sounded[];
  readonly marks: readonly Mark[];
}

/**
 * How much of its length a note sounds, where it is neither slurred nor marked: tongued, with a small gap (common
 * teaching of wind tutors).
 */
const TONGUED = 0.92;
/** The gap is never longer than this, seconds. */
const MAX_GAP = 0.07;
const GATES: Readonly<Partial<Record<Articulation, number>>> = { staccato: 0.5, staccatissimo: 0.3, tenuto: 1 };
/** A breath is taken out of the end of the note before it, seconds. */
const BREATH = 0.2;
const ACCENTS: Readonly<Partial<Record<Articulation, number>>> = { accent: 16, 'strong-accent': 26 };
/** Seconds of a grace note, and of each note of a trill: about as quick as they are played. */
const GRACE = 0.08;
const SHAKE = 0.085;
/** A slurred note reaches into the next, seconds. */
const OVERLAP = 0.015;

/** The part of a note taken up by what is played before or in it, and the notes above or below it. */
type Figure = readonly number[];
/**
 * Steps from the written note. Turn, mordents: standard notation. Roll: as played on pipes and whistles, the note cut
 * and tapped.
 */
const FIGURES: Readonly<Record<Exclude<Ornament, 'trill'>, Figure>> = {
  turn: [1, 0, -1, 0],
  mordent: [0, -1, 0],
  'inverted-mordent': [0, 1, 0],
  roll: [0, 1, 0, -1, 0],
};

/** One note as it is struck, with what is tied to it. */
interface Struck {
  readonly note: Note;
  readonly key: Key;
  readonly start: number;
  end: number;
  readonly weight: number;
  /** A slur goes on from the last of the tied notes. */
  goesOn: boolean;
}

/** Plays a line over a time map: concert pitch, bars as many and as long as the map's. */
export function perform(line: Pick<Tune, 'bars' | 'meter' | 'key'>, map: TimeMap): Performed {
  const spans = barSpans(line);
  const keys = keysOf(line);
  const loudness = loudnessOf(line.bars);
  const marks: Mark[] = [];
  const struck: Struck[] = [];
  let open = 0;
  map.bars.forEach(({ bar: index }, place) => {
    const bar = line.bars[index];
    const span = spans[index];
    if (!bar || !span) return;
    // A slur that the page cannot close, because a repeat leads elsewhere, ends where playing jumps.
    if (place > 0 && map.bars[place - 1]?.bar !== index - 1) open = 0;
    let at = 0;
    bar.events.forEach((event, k) => {
      const isStraight = event.tuplet !== undefined;
      const start = map.at(place, at, isStraight);
      at += event.length;
      const isLast = k === bar.events.length - 1;
      const end = isLast ? map.at(place + 1, 0) : map.at(place, at, bar.events[k + 1]?.tuplet !== undefined);
      marks.push({ id: event.id, start, end });
      if (!isNote(event) || event.cue) return;
      const slurs = open + (event.slurStarts ?? 0) - (event.slurEnds ?? 0);
      const last = struck.at(-1);
      if (last && isHeldFrom(line.bars, map, place, k, event)) {
        last.end = end;
        last.goesOn = slurs > 0;
      } else
        struck.push({
          note: event,
          key: keys[index] ?? line.key,
          start,
          end,
          weight: weightAt(span.meter, span.offset + at - event.length),
          goesOn: slurs > 0,
        });
      open = Math.max(0, slurs);
    });
  });
  return {
    notes: struck.flatMap((one, index) =>
      sounded(one, struck[index - 1], struck[index + 1], loudness.get(one.note.id) ?? USUAL_LOUDNESS),
    ),
    marks,
  };
}

/** Whether the event played just before is tied to this one. */
function isHeldFrom(bars: readonly Bar[], map: TimeMap, place: number, k: number, note: Note): boolean {
  const before: ScoreEvent | undefined =
    k > 0 ? bars[map.bars[place]?.bar ?? -1]?.events[k - 1] : bars[map.bars[place - 1]?.bar ?? -1]?.events.at(-1);
  return (
    before !== undefined &&
    isNote(before) &&
    before.tied === true &&
    midiNumber(before.pitch) === midiNumber(note.pitch)
  );
}

function sounded(
  { note, key, start, end, weight, goesOn }: Struck,
  before: Struck | undefined,
  after: Struck | undefined,
  loudness: number,
): readonly Sounded[] {
  const length = end - start;
  const articulations = note.articulations ?? [];
  const given = articulations.map((one) => GATES[one]).find((gate) => gate !== undefined);
  const isJoined = goesOn && given === undefined && after !== undefined && after.start <= end + 1e-6;
  const gap = given === undefined ? Math.min(MAX_GAP, length * (1 - TONGUED)) : length * (1 - given);
  const stop = isJoined
    ? end + OVERLAP
    : end - Math.max(gap, articulations.includes('breath') ? Math.min(BREATH, length / 2) : 0);
  const louder = articulations.reduce((sum, one) => sum + (ACCENTS[one] ?? 0), 0);
  const velocity = clamped(loudness + louder + Math.round(weight * 8) - 4);
  const graces = note.graces ?? [];
  // Stroked graces come before the beat, out of the time of what was before; others on it, out of the note's own.
  const isBefore = graces.every(({ slashed }) => slashed === true);
  const room = isBefore ? (before ? Math.min(start - before.start, 1) : start) : length;
  const each = graces.length === 0 ? 0 : Math.min(GRACE, room / 2 / graces.length);
  const first = isBefore ? start - each * graces.length : start;
  const small = graces.map((grace, index): Sounded => ({
    start: first + index * each,
    end: first + (index + 1) * each,
    key: midi(grace.pitch),
    velocity: clamped(velocity - 8),
  }));
  const begin = isBefore ? start : start + each * graces.length;
  const until = Math.max(begin + 0.02, stop);
  const together = (note.chord ?? []).map((pitch): Sounded => ({
    start: begin,
    end: until,
    key: midi(pitch),
    velocity,
  }));
  return [...small, ...ornamented(note, key, begin, until, velocity), ...together];
}

function ornamented(note: Note, key: Key, start: number, end: number, velocity: number): readonly Sounded[] {
  const [ornament] = note.ornaments ?? [];
  const steps = ornament === undefined ? [0] : ornament === 'trill' ? trill(end - start) : FIGURES[ornament];
  const each = Math.min(SHAKE, (end - start) / (steps.length + 1));
  return steps.map((step, index) => ({
    start: start + index * each,
    end: index === steps.length - 1 ? end : start + (index + 1) * each,
    key: midi(step === 0 ? note.pitch : scaleStep(note.pitch, step, key)),
    velocity: index === 0 ? velocity : clamped(velocity - 6),
  }));
}

/** Note and upper neighbour by turns; it ends on the note. */
function trill(seconds: number): Figure {
  const pairs = Math.max(1, Math.floor(seconds / SHAKE / 2));
  return [...Array.from({ length: pairs * 2 }, (_, index) => index % 2), 0];
}

function midi(pitch: Pitch): number {
  return Math.max(0, Math.min(127, midiNumber(pitch)));
}

function clamped(velocity: number): number {
  return Math.max(1, Math.min(127, Math.round(velocity)));
}
