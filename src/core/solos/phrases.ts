import { profileOf } from '../instruments';
import type { Chance } from '../chance';
import { semitones } from '../pitch';
import { type Ticks, TICKS_PER_QUARTER as QUARTER } from '../time';
import { ideaCost, usualNotes } from './ideaWorth';
import { groundAt, inBits, lastAt, roleAt } from './ground';
import { findLine, type Candidate, type SlotWish } from './line';
import type { PlannedPhrase } from './plan';
import type { PhraseKind } from './soloNote';
import { borrowedSlots, phraseRhythm, withEarlyNotes, withSlotsAt, type FormBar, type Slot } from './rhythm';
import { groundOf, heightsOf, type HeldNote, type Note, type Phrase, type Room } from './room';
import { isStrongAt } from './strong';
import { decorated } from './approachNotes';
import { timesOf, USUAL, type Amount } from './wishes';

function shifted(note: Note, by: Ticks): Note {
  return { ...note, slot: { ...note.slot, at: note.slot.at + by } };
}

export function spanOf(
  { from, to }: PlannedPhrase,
  bars: readonly FormBar[],
): { readonly start: Ticks; readonly end: Ticks } {
  const [first, last] = [bars[from], bars[to - 1]];
  return { start: first?.start ?? 0, end: (last?.start ?? 0) + (last?.length ?? 0) };
}

/**
 * A phrase as planned, or as near to it as the chords allow: the same, else with another ending, else moved, else an
 * answer.
 */
export function phraseFor(
  planned: PlannedPhrase,
  isLast: boolean,
  before: readonly Phrase[],
  room: Room,
  chance: Chance,
): Phrase {
  const span = spanOf(planned, room.bars);
  const given = room.request.given?.get(before.length);
  if (given) {
    const notes = given.map((note) => heldNote(note, span.start));
    return { ...span, ...relationOf(notes, planned, span, before), isGiven: true, notes };
  }
  if (planned.kind === 'rest' && !isLast) return { ...span, kind: 'rest', notes: [] };
  const model = planned.of === undefined ? undefined : before[planned.of];
  const orders: readonly PhraseKind[] =
    planned.kind === 'same'
      ? ['same', 'varied', 'moved']
      : planned.kind === 'moved'
        ? ['moved', 'varied']
        : planned.kind === 'varied'
          ? ['varied', 'moved']
          : [];
  if (model && model.notes.length > 0 && model.end - model.start === span.end - span.start) {
    for (const kind of orders) {
      const notes =
        kind === 'same'
          ? sameNotes(model, span, room, isLast)
          : kind === 'varied'
            ? variedNotes(model, span, planned, isLast, before, room, chance)
            : movedNotes(model, span, planned, isLast, before, room, chance);
      if (!notes || !hitsTargets(notes, span, room)) continue;
      const isSame = kind !== 'same' && told(notes, span.start) === told(model.notes, model.start);
      return { ...span, kind: isSame ? 'same' : kind, of: planned.of ?? 0, notes };
    }
  }
  const kind = planned.kind === 'idea' || before.length === 0 ? 'idea' : 'answer';
  const made = freshNotes(span, planned, isLast, before, room, chance);
  return made && made.notes.length > 0 ? { ...span, kind, ...made } : { ...span, kind: 'rest', notes: [] };
}

/**
 * What given notes do: what the plan says of them where that is true, else what is; a plan that calls another ending the
 * same again is not believed.
 */
function relationOf(
  notes: readonly Note[],
  { kind, of }: PlannedPhrase,
  { start, end }: { readonly start: Ticks; readonly end: Ticks },
  before: readonly Phrase[],
): { readonly kind: PhraseKind; readonly of?: number } {
  const model = of === undefined ? undefined : before[of];
  if (!model || of === undefined || !GOES_BACK.includes(kind)) return { kind };
  const half = (end - start) / 2;
  const shape = (line: readonly Note[], from: Ticks) =>
    line
      .map(
        ({ slot, height }, k) =>
          `${slot.at - from}/${slot.length}/${Math.sign(height - (line[k - 1]?.height ?? height))}`,
      )
      .join(' ');
  const holds: Readonly<Partial<Record<PhraseKind, boolean>>> = {
    same: told(notes, start) === told(model.notes, model.start),
    varied: told(notes, start, half) === told(model.notes, model.start, half),
    moved: shape(notes, start) === shape(model.notes, model.start),
  };
  const found = [kind, ...GOES_BACK].find((one) => holds[one]);
  return found ? { kind: found, of } : { kind: 'answer' };
}

/** Notes in their places from a moment on, up to another. */
function told(line: readonly Note[], from: Ticks, until = Infinity): string {
  return line
    .filter(({ slot }) => slot.at - from < until)
    .map(({ slot, height }) => `${slot.at - from}/${slot.length}/${height}`)
    .join(' ');
}

const GOES_BACK: readonly PhraseKind[] = ['same', 'varied', 'moved'];

/** A note that is given, where its phrase lies. */
function heldNote({ pitch, device, isTriplet, isEarly, length, at }: HeldNote, start: Ticks): Note {
  return {
    slot: { at: start + at, length, ...(isTriplet && { isTriplet }), ...(isEarly && { isEarly }) },
    height: semitones(pitch),
    pitch,
    ...(device && { device }),
  };
}

/** Whether a note is struck on a moment, or an eighth before it for its chord. */
export function isOn({ at, isEarly }: Slot, moment: Ticks): boolean {
  return at === moment || (isEarly === true && at + QUARTER / 2 === moment);
}

/** Whether the bars that shall begin on a degree do, as far as the level has it. */
function hitsTargets(
  notes: readonly Note[],
  { start, end }: { readonly start: Ticks; readonly end: Ticks },
  { targets }: Room,
): boolean {
  return targets
    .filter((target) => target.start >= start && target.start < end && target.bits !== 0)
    .every((target) => notes.some(({ slot, height }) => isOn(slot, target.start) && inBits(height, target.bits)));
}

function barsIn(
  { start, end }: { readonly start: Ticks; readonly end: Ticks },
  bars: readonly FormBar[],
): readonly FormBar[] {
  return bars.slice(lastAt(bars, start - 1) + 1, lastAt(bars, end - 1) + 1);
}

function rhythmFor(
  span: { readonly start: Ticks; readonly end: Ticks },
  { density, rhythm }: PlannedPhrase,
  isLast: boolean,
  { bars, request, finalAt, finalEnd, changes, grounds, targets }: Room,
  chance: Chance,
): readonly Slot[] {
  const { level, tools } = request;
  const inside = barsIn(span, bars);
  const wanted = targets.flatMap(({ start, bits }) =>
    bits !== 0 && start >= span.start && start < span.end ? [start] : [],
  );
  const until = isLast ? homeTime({ finalAt, finalEnd }, inside) : undefined;
  const made = rhythm
    ? borrowedSlots(rhythm, inside, level, until)
    : phraseRhythm(inside, level, density, chance, until, tools, request.shortest);
  const slots = withSlotsAt(made, wanted);
  const sounding = slots.filter(({ at }) => groundAt(grounds.grounds, at)?.symbol.kind === 'chord');
  // A borrowed rhythm is kept to the note.
  const share = rhythm ? 0 : Math.min(0.9, profileOf(level).solo.window.early * timesOf(tools, 'early'));
  return withEarlyNotes(sounding, changes, chance, share, (tools?.early ?? USUAL) > USUAL);
}

/**
 * Where the last note is struck: on the first beat of the phrase's last bar if its chord sounds there, else with its
 * chord.
 */
function homeTime({ finalAt, finalEnd }: Pick<Room, 'finalAt' | 'finalEnd'>, bars: readonly FormBar[]): Ticks {
  const last = bars.at(-1);
  return last && last.start < finalEnd ? Math.max(finalAt, last.start) : finalAt;
}

/**
 * How many rhythms a new phrase is tried in, and how many of them, those with the right number of notes, get a line;
 * the best is taken.
 */
const TRIES = { rhythms: 8, lines: 4 } as const;

function freshNotes(
  span: { readonly start: Ticks; readonly end: Ticks },
  planned: PlannedPhrase,
  isLast: boolean,
  before: readonly Phrase[],
  room: Room,
  chance: Chance,
): { readonly notes: readonly Note[]; readonly cost: number } | undefined {
  const { level, tools } = room.request;
  // Where quick notes are wanted, more of them are no fault.
  const quick = [tools?.['double-time'], tools?.triplets].filter((amount) => (amount ?? USUAL) > USUAL).length;
  const fullness = 0.85 + 0.3 * planned.height + 0.3 * quick + MORE_NOTES[tools?.space ?? USUAL];
  const usual = usualNotes(barsIn(span, room.bars), level, fullness);
  const rhythms = Array.from({ length: TRIES.rhythms }, () => rhythmFor(span, planned, isLast, room, chance))
    .filter(({ length }) => length > 0)
    .toSorted((a, b) => Math.abs(a.length - usual) - Math.abs(b.length - usual));
  let best: { readonly notes: readonly Note[]; readonly cost: number } | undefined;
  let lines = 0;
  for (const slots of rhythms) {
    if (lines === TRIES.lines) break;
    const directions = directionsInFours(slots, chance);
    const shape = shapeOf(slots.length, planned, room, chance);
    const line = solve(slots, shape, isLast, before, room, chance, directions && { directions });
    if (!line) continue;
    lines += 1;
    const notes = slots.map((slot, k): Note => ({ slot, height: line[k]?.height ?? 0 }));
    const cost = ideaCost(notes, level, usual);
    if (!best || cost < best.cost) best = { notes, cost };
  }
  return best && { ...best, notes: decorated(best.notes, room, chance) };
}

/** Triplets in groups of four: three moves one way and one back, round and round. */
function directionsInFours(slots: readonly Slot[], chance: Chance): readonly (number | undefined)[] | undefined {
  if (!slots.some(({ inFours }) => inFours !== undefined)) return undefined;
  const way = chance() < 0.5 ? 1 : -1;
  return slots.map(({ inFours }) => (inFours ? (inFours % 4 === 0 ? -way : way) : undefined));
}

/** How much fuller a new phrase is where less air is wanted, and how much emptier where more is. */
const MORE_NOTES: Readonly<Record<Amount, number>> = { 0: 0.35, 1: 0.15, 2: 0, 3: -0.3 };

/**
 * The heights that a phrase wants, note by note: an arch, a fall, a rise or a bowl about its place in the chorus's
 * curve.
 */
function shapeOf(
  count: number,
  { height }: PlannedPhrase,
  { low, high, request }: Room,
  chance: Chance,
): readonly number[] {
  const { width, middle } = profileOf(request.level).solo.window;
  const reach = Math.min(width, high - low);
  const center = low + (high - low) * middle + (height - 0.5) * Math.min(5, (high - low - reach) / 2 + 2);
  const swing = reach * 0.3;
  const shape = Math.floor(chance() * 4);
  return Array.from({ length: count }, (_, k) => {
    const x = count === 1 ? 0.5 : k / (count - 1);
    const arch = Math.sin(Math.PI * x) - 0.5;
    const y = shape === 0 ? arch : shape === 1 ? 0.5 - x : shape === 2 ? x - 0.5 : -arch;
    return center + y * 2 * swing;
  });
}

/** The slots of a phrase with what may stand there, and the cheapest line. */
function solve(
  slots: readonly Slot[],
  wanted: readonly number[],
  isLast: boolean,
  before: readonly Phrase[],
  room: Room,
  chance: Chance,
  fixed: {
    readonly heights?: readonly (number | undefined)[];
    readonly directions?: readonly (number | undefined)[];
  } = {},
): readonly Candidate[] | undefined {
  const { low, high, grounds, bars, finals, isStep, request } = room;
  const { width } = profileOf(request.level).solo.window;
  const center = wanted.reduce((sum, height) => sum + height, 0) / Math.max(1, wanted.length);
  const from = Math.max(low, Math.min(Math.round(center - width / 2), high - width));
  const to = Math.min(high, from + width);
  const wishes = slots.map((slot, k): SlotWish => {
    const ground = groundOf(slot, grounds.grounds);
    const isEnd = k === slots.length - 1;
    const next = slots[k + 1];
    const isOpen = isEnd || (next !== undefined && next.at > slot.at + slot.length);
    const height = fixed.heights?.[k];
    const direction = fixed.directions?.[k];
    const bits = slot.isEarly
      ? ground.home & (profileOf(request.level).solo.notes === 'all' ? 0xfff : ground.pool | ground.home)
      : ground.pool;
    const heights = height !== undefined ? [height] : isEnd && isLast ? finals : heightsOf(bits, from, to);
    const all = heights.map((one): Candidate => ({
      height: one,
      role: roleAt(ground, one),
      isGuide: inBits(one, ground.guide),
    }));
    const target = room.targets.find(({ start, bits: meant }) => meant !== 0 && isOn(slot, start));
    const hits = target && height === undefined ? all.filter((one) => inBits(one.height, target.bits)) : [];
    const homes = all.filter(({ role }) => role === 'home');
    // A phrase comes to rest on a tone of its chord where the level has one there.
    const rests = isEnd && homes.length > 0 && height === undefined ? homes : all;
    return {
      slot,
      candidates: hits.length > 0 ? hits : rests,
      isStrong: isStrongAt(slot.at, bars),
      isChange: k > 0 && groundOf(slots[k - 1] ?? slot, grounds.grounds) !== ground,
      wanted: wanted[k] ?? center,
      isOpen,
      ...(isEnd && isLast && { isHome: true as const }),
      ...(direction !== undefined && { direction }),
    };
  });
  const last = before.findLast(({ notes }) => notes.length > 0)?.notes ?? [];
  const [lastNote, previous] = [last.at(-1), last.at(-2)];
  const then = lastNote && { height: lastNote.height, times: previous?.height === lastNote.height ? 2 : 1 };
  return findLine(wishes, then, isStep, chance);
}

/** The model's very notes, where they can stand over these chords. */
function sameNotes(
  model: Phrase,
  span: { readonly start: Ticks },
  room: Room,
  isLast: boolean,
): readonly Note[] | undefined {
  const notes = model.notes.map((note) => shifted(note, span.start - model.start));
  const last = notes.at(-1);
  if (isLast && (!last || !room.finals.includes(last.height) || !isHomeTime(last.slot.at, room))) return undefined;
  return standsHere(notes, room) ? notes : undefined;
}

function isHomeTime(at: Ticks, { finalAt, finalEnd }: Room): boolean {
  return at >= finalAt && at < finalEnd;
}

/** Whether notes keep the rules over the chords that they now fall on. */
function standsHere(notes: readonly Note[], { grounds, bars, isStep, changes, request }: Room): boolean {
  return notes.every((note, k) => {
    const { slot, height, device } = note;
    if (slot.isEarly && !changes.has(slot.at + QUARTER / 2)) return false;
    const ground = groundOf(slot, grounds.grounds);
    if (groundAt(grounds.grounds, slot.at)?.symbol.kind !== 'chord') return false;
    const role = roleAt(ground, height);
    const next = notes[k + 1];
    const isOpen = !next || next.slot.at > slot.at + slot.length;
    if (slot.isEarly && role !== 'home') return false;
    if (isOpen && (role !== 'home' || (!next && !inBits(height, ground.pool)))) return false;
    const { notes: allowed } = profileOf(request.level).solo;
    const isIn = inBits(height, ground.pool) || (allowed !== 'scale' && role === 'home');
    if (!isIn && (allowed !== 'all' || device === undefined)) return false;
    if ((role === 'rub' || !isIn) && device !== 'enclosure' && !(next && isStep(height, next.height))) return false;
    return !(role !== 'home' && isStrongAt(slot.at, bars) && slot.length > QUARTER);
  });
}

/** The slots from a moment on; three in the time of two come whole or not at all. */
function slotsFrom(slots: readonly Slot[], from: Ticks): readonly Slot[] {
  let inRun = 0;
  let first = 0;
  return slots.filter((slot) => {
    if (!slot.isTriplet) inRun = 0;
    else if (inRun % 3 === 0) first = slot.at;
    const at = slot.isTriplet ? first : slot.at;
    if (slot.isTriplet) inRun += 1;
    return at >= from;
  });
}

/** The model's first half and another ending. */
function variedNotes(
  model: Phrase,
  span: { readonly start: Ticks; readonly end: Ticks },
  planned: PlannedPhrase,
  isLast: boolean,
  before: readonly Phrase[],
  room: Room,
  chance: Chance,
): readonly Note[] | undefined {
  const half = (span.end - span.start) / 2;
  const moved = model.notes.map((note) => shifted(note, span.start - model.start));
  const kept = moved.filter(({ slot }) => slot.at - span.start < half);
  const lastKept = kept.at(-1);
  if (!lastKept || kept.some(({ slot }) => slot.isEarly && !room.changes.has(slot.at + QUARTER / 2))) return undefined;
  const free = lastKept.slot.at + lastKept.slot.length;
  const fresh = slotsFrom(rhythmFor(span, planned, isLast, room, chance), Math.max(span.start + half, free));
  if (fresh.length === 0 && !isLast) return standsHere(kept, room) ? kept : undefined;
  if (fresh.length === 0) return undefined;
  const slots = [...kept.map(({ slot }) => slot), ...fresh];
  const shape = shapeOf(fresh.length, planned, room, chance);
  const heights = kept.map(({ height }) => height);
  const line = solve(slots, [...heights, ...shape], isLast, before, room, chance, {
    heights: [...heights, ...fresh.map(() => undefined)],
  });
  if (!line) return undefined;
  const notes = slots.map((slot, k): Note => {
    const own = kept[k];
    return own ?? { slot, height: line[k]?.height ?? 0 };
  });
  return standsHere(notes, room) ? notes : undefined;
}

/** The model's rhythm and shape on notes of these chords. */
function movedNotes(
  model: Phrase,
  span: { readonly start: Ticks; readonly end: Ticks },
  planned: PlannedPhrase,
  isLast: boolean,
  before: readonly Phrase[],
  room: Room,
  chance: Chance,
): readonly Note[] | undefined {
  const slots = model.notes.map((note) => {
    const { isEarly, ...slot } = shifted(note, span.start - model.start).slot;
    return isEarly && room.changes.has(slot.at + QUARTER / 2) ? { ...slot, isEarly } : slot;
  });
  const last = slots.at(-1);
  if (!last || slots.some(({ at }) => groundAt(room.grounds.grounds, at)?.symbol.kind !== 'chord')) return undefined;
  if (isLast && !isHomeTime(last.at, room)) return undefined;
  const directions = model.notes.map((note, k) =>
    k === 0 ? undefined : Math.sign(note.height - (model.notes[k - 1]?.height ?? 0)),
  );
  const shift = (planned.height - 0.5) * 4;
  const wanted = model.notes.map(({ height }) => height + shift);
  const line = solve(slots, wanted, isLast, before, room, chance, { directions });
  return line && slots.map((slot, k): Note => ({ slot, height: line[k]?.height ?? 0 }));
}
