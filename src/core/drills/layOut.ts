import type { Pitch } from '../pitch';
import type { Bar, DrillArticulation, DrillRhythm, Note, Rest, ScoreEvent } from '../score';
import {
  barTicks,
  beatsOf,
  type Meter,
  spellNoteLength,
  spellRestLength,
  type Ticks,
  TICKS_PER_QUARTER as QUARTER,
  type Tuplet,
} from '../time';

/** A place for a note, or a rest, in a rhythm that comes round again. */
interface Slot {
  readonly length: Ticks;
  readonly isRest?: true;
  /** One of three in the time of two. */
  readonly isTriplet?: true;
}

const RHYTHMS: Readonly<Record<Exclude<DrillRhythm, 'borrowed'>, readonly Slot[]>> = {
  half: [{ length: 2 * QUARTER }],
  quarter: [{ length: QUARTER }],
  eighth: [{ length: QUARTER / 2 }],
  swing: [{ length: QUARTER / 2 }],
  triplet: [{ length: QUARTER / 3, isTriplet: true }],
  sixteenth: [{ length: QUARTER / 4 }],
  offbeat: [{ length: QUARTER / 2, isRest: true }, { length: QUARTER / 2 }],
  dotted: [{ length: (3 * QUARTER) / 4 }, { length: QUARTER / 4 }],
};

/** The slots of a rhythm; a borrowed one as it is given, rests negative. */
export function slotsOf(rhythm: DrillRhythm, borrowed: readonly Ticks[] = []): readonly Slot[] {
  if (rhythm !== 'borrowed') return RHYTHMS[rhythm];
  const slots = borrowed.map((length): Slot => (length < 0 ? { length: -length, isRest: true } : { length }));
  return slots.some(({ isRest }) => !isRest) ? slots : RHYTHMS.quarter;
}

/** A note or rest with its place, from the start of the first bar. */
interface Placed {
  readonly start: Ticks;
  readonly length: Ticks;
  readonly pitch?: Pitch;
  readonly isTriplet?: true;
  /** Begins a group of the pattern; counted within its section. */
  readonly index: number;
}

/**
 * Places a line in a rhythm so that its last note falls on a beat and is held to the end of its bar: in an even rhythm
 * the first note is as much longer as that takes, as scales in sixteenths are commonly written; in others the last but
 * one is.
 */
function placed(line: readonly Pitch[], slots: readonly Slot[], meter: Meter): readonly Placed[] {
  const full = barTicks(meter);
  const beats = beatsOf(meter);
  const isOnBeat = (at: Ticks) => beats.some(({ start }) => start === at % full);
  const [even] = slots;
  const found: Placed[] = [];
  let at = 0;
  if (slots.length === 1 && even && !even.isRest) {
    const { length: unit, isTriplet } = even;
    const toBeat = () => {
      for (let more = 0; more < 12; more += 1) if (isOnBeat((line.length - 1 + more) * unit)) return more;
      return 0;
    };
    const longer = line.length > 1 ? toBeat() : 0;
    line.forEach((pitch, index) => {
      const length = index === 0 ? unit * (1 + longer) : unit;
      const isWhole = length % QUARTER === 0;
      found.push({ start: at, length, pitch, index, ...(isTriplet && !isWhole && { isTriplet }) });
      at += length;
    });
  } else {
    let slot = 0;
    line.forEach((pitch, index) => {
      const isLast = index === line.length - 1;
      for (let here = slots[slot % slots.length]; here?.isRest && !isLast; here = slots[slot % slots.length]) {
        found.push({ start: at, length: here.length, index: -1 });
        at += here.length;
        slot += 1;
      }
      if (isLast && index > 0) {
        const before = found.pop();
        let end = at;
        while (!isOnBeat(end)) end += (beats.find(({ start }) => start > end % full)?.start ?? full) - (end % full);
        if (before) found.push({ ...before, length: before.length + end - at });
        at = end;
      }
      const length = slots[slot % slots.length]?.length ?? QUARTER;
      found.push({ start: at, length, pitch, index });
      at += length;
      slot += 1;
    });
  }
  const last = found.at(-1);
  if (!last) return found;
  const { isTriplet: _, ...plain } = last;
  return [...found.slice(0, -1), { ...plain, length: full - (last.start % full) }];
}

/**
 * A section's line in bars.
 * @param names gives ids to bars and events, unique in the drill
 * @param ending whether the last note is held to the end of its bar, or rests follow it
 */
export function sectionBars(
  line: readonly Pitch[],
  slots: readonly Slot[],
  meter: Meter,
  names: Names,
  ending: 'held' | 'rests' = 'held',
): readonly Bar[] {
  const hasTriplets = slots.some(({ isTriplet }) => isTriplet);
  return barsOf(
    ending === 'rests' && !hasTriplets ? inTime(line, slots, meter) : placed(line, slots, meter),
    meter,
    names,
  );
}

/** A line in its rhythm as it comes; what is left of its last bar rests. */
function inTime(line: readonly Pitch[], slots: readonly Slot[], meter: Meter): readonly Placed[] {
  const full = barTicks(meter);
  const found: Placed[] = [];
  let at = 0;
  let next = 0;
  for (let k = 0; next < line.length; k += 1) {
    const slot = slots[k % slots.length];
    if (!slot) break;
    const pitch = slot.isRest ? undefined : line[next];
    if (pitch) next += 1;
    found.push({ start: at, length: slot.length, ...(pitch && { pitch }), index: pitch ? next - 1 : -1 });
    at += slot.length;
  }
  const over = at % full;
  return over === 0 ? found : [...found, { start: at, length: full - over, index: -1 }];
}

/** Ids for bars and events, counted through a whole drill. */
export class Names {
  private bars = 0;
  private events = 0;
  private tuplets = 0;
  bar(): string {
    return `b${(this.bars += 1)}`;
  }
  event(): string {
    return `n${(this.events += 1)}`;
  }
  tuplet(): string {
    return `t${(this.tuplets += 1)}`;
  }
}

function barsOf(line: readonly Placed[], meter: Meter, names: Names): readonly Bar[] {
  const full = barTicks(meter);
  const last = line.at(-1);
  const count = last ? Math.ceil((last.start + last.length) / full) : 0;
  const events: ScoreEvent[][] = Array.from({ length: count }, () => []);
  let tuplet: { readonly beat: number; readonly value: Tuplet } | undefined;
  for (const { start, length, pitch, isTriplet } of line) {
    if (isTriplet) {
      const beat = Math.floor(start / QUARTER);
      if (tuplet?.beat !== beat) tuplet = { beat, value: { id: names.tuplet(), actual: 3, normal: 2 } };
      if (pitch)
        events[Math.floor(start / full)]?.push({
          kind: 'note',
          id: names.event(),
          pitch,
          length,
          tuplet: tuplet.value,
        });
      continue;
    }
    // Over a barline a note is tied.
    let at = start;
    const end = start + length;
    const pieces: { readonly bar: number; readonly length: Ticks }[] = [];
    while (at < end) {
      const bar = Math.floor(at / full);
      const until = Math.min(end, (bar + 1) * full);
      const spell = pitch ? spellNoteLength : spellRestLength;
      for (const piece of spell(at - bar * full, until - at, meter)) pieces.push({ bar, length: piece });
      at = until;
    }
    pieces.forEach((piece, k) => {
      const isTied = k < pieces.length - 1;
      events[piece.bar]?.push(
        pitch
          ? ({
              kind: 'note',
              id: names.event(),
              pitch,
              length: piece.length,
              ...(isTied && { tied: true }),
            } satisfies Note)
          : ({ kind: 'rest', id: names.event(), length: piece.length } satisfies Rest),
      );
    });
  }
  return events.map((inBar): Bar => ({ id: names.bar(), events: inBar, chords: [] }));
}

/**
 * How a section is spoken: slurs, dots and accents over its notes. The last note stands alone. @param group notes in a
 * group of the pattern
 */
export function articulated(bars: readonly Bar[], articulation: DrillArticulation, group: number): readonly Bar[] {
  if (articulation === 'plain') return bars;
  const struck = bars
    .flatMap(({ events }) => events)
    .filter((event, k, all): event is Note => {
      const before = all[k - 1];
      return event.kind === 'note' && !(before?.kind === 'note' && before.tied === true);
    });
  const marks = new Map<string, Partial<Note>>();
  const count = struck.length - 1;
  const slur = (from: number, to: number) => {
    const [first, last] = [struck[from], struck[to]];
    if (!first || !last || from === to) return;
    marks.set(first.id, { ...marks.get(first.id), slurStarts: 1 });
    marks.set(last.id, { ...marks.get(last.id), slurEnds: 1 });
  };
  const each = (mark: (index: number) => Partial<Note> | undefined) => {
    struck.forEach((note, index) => {
      const made = mark(index);
      if (made) marks.set(note.id, { ...marks.get(note.id), ...made });
    });
  };
  switch (articulation) {
    case 'slurred-2':
    case 'slurred-4':
    case 'slurred-8': {
      const size = Number(articulation.slice(-1));
      for (let from = 0; from + 1 < count; from += size) slur(from, Math.min(from + size, count) - 1);
      break;
    }
    case 'one-slurred-one':
      // Two slurred, two tongued.
      for (let from = 0; from + 1 < count; from += 4) slur(from, from + 1);
      break;
    case 'hooked':
      for (let from = 0; from + 1 < count; from += 2) slur(from, from + 1);
      each((index) => (index < count ? { articulations: ['staccato'] } : undefined));
      break;
    case 'detached':
      each((index) => (index < count ? { articulations: ['staccato'] } : undefined));
      break;
    case 'groups-accented':
      each((index) => (group > 1 && index < count && index % group === 0 ? { articulations: ['accent'] } : undefined));
      break;
    case 'threes-accented':
      each((index) => (index < count && index % 3 === 0 ? { articulations: ['accent'] } : undefined));
      break;
    case 'picked':
      each((index) => ({ articulations: [index % 2 === 0 ? 'down-bow' : 'up-bow'] }));
      break;
  }
  return bars.map((bar) => ({
    ...bar,
    events: bar.events.map((event) => (event.kind === 'note' ? { ...event, ...marks.get(event.id) } : event)),
  }));
}

/**
 * Where the notes of a rhythm fall in a form: for each stretch (in ticks, one after the other) how many notes it has
 * room for.
 */
export function roomIn(
  stretches: readonly { readonly start: Ticks; readonly length: Ticks }[],
  slots: readonly Slot[],
): readonly number[] {
  return stretches.map(({ start, length }) => slotsWithin(start, length, slots).filter(({ isRest }) => !isRest).length);
}

/**
 * The slots of a stretch; each stretch begins its rhythm anew, and what is left at its end belongs to the last slot.
 */
function slotsWithin(
  start: Ticks,
  length: Ticks,
  slots: readonly Slot[],
): readonly (Slot & { readonly start: Ticks })[] {
  const found: (Slot & { readonly start: Ticks })[] = [];
  let at = 0;
  for (let k = 0; at < length; k += 1) {
    const slot = slots[k % slots.length];
    if (!slot) break;
    const here = Math.min(slot.length, length - at);
    // A third of a beat that is cut off is no third any more.
    const isCut = here < slot.length;
    const last = found.at(-1);
    if (isCut && slot.isTriplet && last) found[found.length - 1] = { ...last, length: last.length + here };
    else
      found.push({
        start: start + at,
        length: here,
        ...(slot.isRest && { isRest: true as const }),
        ...(slot.isTriplet && !isCut && { isTriplet: true as const }),
      });
    at += slot.length;
  }
  return found;
}

/** A line over the stretches of a form, in bars; stretches without notes rest. */
export function formBars(
  stretches: readonly { readonly start: Ticks; readonly length: Ticks; readonly notes: readonly Pitch[] }[],
  slots: readonly Slot[],
  meter: Meter,
  names: Names,
): readonly Bar[] {
  const line = stretches.flatMap(({ start, length, notes }): readonly Placed[] => {
    if (notes.length === 0) return [{ start, length, index: -1 }];
    let used = 0;
    return slotsWithin(start, length, slots).map((slot): Placed => {
      const pitch = slot.isRest ? undefined : notes[(used += 1) - 1];
      return {
        start: slot.start,
        length: slot.length,
        index: 0,
        ...(pitch && { pitch }),
        ...(slot.isTriplet && { isTriplet: slot.isTriplet }),
      };
    });
  });
  return barsOf(line, meter, names);
}
