import { chanceFrom, type Chance } from '../chance';
import type { Instrument, Level } from '../instruments/instrument';
import { toSounding } from '../instruments/instrument';
import { semitones } from '../pitch/pitch';
import { readableInterval } from '../pitch/respell';
import { transpose } from '../pitch/transpose';
import { degreeOver } from '../pools/poolsOf';
import { formIn, type ImprovisingForm } from '../pools/form';
import { TICKS_PER_QUARTER as QUARTER, type Ticks } from '../time/ticks';
import { groundAt, groundsOf, roleAt, spelled, type Ground, type Grounds } from './ground';
import { findLine, type Candidate, type SlotWish } from './line';
import { measuresOf, type SoloMeasures } from './measures';
import { planOf, type PhraseKind, type PlannedPhrase } from './plan';
import type { SoloDevice, SoloNote, SoloPhrase, SoloRole } from './soloNote';
import { isBlueNote, nameDevice } from './devices';
import { isStrongAt } from './strong';
import { phraseRhythm, withEarlyNotes, type FormBar, type Slot } from './rhythm';

export interface SoloRequest {
  /** Concert. */
  readonly form: ImprovisingForm;
  /** Of one chorus. */
  readonly bars: readonly FormBar[];
  readonly level: Level;
  /** Its range is the player's already. */
  readonly instrument: Instrument;
  readonly seed: number;
  readonly choruses?: number;
}

export interface Solo {
  readonly notes: readonly SoloNote[];
  readonly phrases: readonly SoloPhrase[];
  /** Of all choruses. */
  readonly bars: readonly FormBar[];
  readonly measures: SoloMeasures;
}

/** Takes that are made, of which the best by its measures is given. */
const TAKES = 5;
/** Further takes where none of those keeps every rule. */
const MOST_TAKES = 60;

/** How wide a phrase lies, in half steps, and where its middle lies in the range, 0 to 1. Eighteen are an octave and a half: no run is longer. */
const WINDOWS: Readonly<Record<Level, { readonly width: number; readonly middle: number; readonly early: number }>> = {
  beginner: { width: 12, middle: 0.45, early: 0 },
  intermediate: { width: 16, middle: 0.5, early: 0.35 },
  advanced: { width: 18, middle: 0.55, early: 0.4 },
};

/** Styles whose lines take half steps from outside. */
const HALF_STEPS = new Set(['blues', 'jazz', 'rock', 'song']);

/**
 * Composes a solo over a form: a plan of phrases first, a rhythm for each, then the cheapest line through it; what is said again is said in the
 * same words. The same request gives the same solo. `undefined` where the form has no chords, or the range no note for its end.
 */
export function composeSolo(request: SoloRequest): Solo | undefined {
  const room = roomFor(request);
  if (!room) return undefined;
  const takes: Solo[] = [];
  for (let take = 0; take < MOST_TAKES && takes.length < TAKES; take += 1) {
    const made = takeOf(room, take);
    if (faultsIn(made, room).length === 0) takes.push(made);
    if (take >= TAKES * 2 && takes.length > 0) break;
  }
  const [first] = takes;
  return (
    first &&
    takes.reduce((best, next) => (worth(next, request.level) > worth(best, request.level) + 1e-9 ? next : best), first)
  );
}

/** What a solo is chosen by among its takes: strong beats at home, ideas that come back, few leaps, varied rhythms. */
function worth({ measures, notes, bars }: Solo, level: Level): number {
  const variety = Math.min(1, measures.distinctRhythms / Math.max(2, bars.length / 2));
  const spread = new Set(notes.map(({ pitch }) => semitones(pitch))).size / 12;
  return (
    2 * measures.strongBeatHome +
    measures.repeatedIdeas -
    0.4 * measures.leapsOverSixth +
    (level === 'beginner' ? 0.3 : 0.6) * variety +
    0.4 * Math.min(1, spread)
  );
}

interface Note {
  readonly slot: Slot;
  readonly height: number;
  readonly device?: SoloDevice;
}

interface Phrase extends SoloPhrase {
  readonly notes: readonly Note[];
}

interface Room {
  readonly request: SoloRequest;
  readonly grounds: Grounds;
  readonly bars: readonly FormBar[];
  readonly low: number;
  readonly high: number;
  readonly isStep: (from: number, to: number) => boolean;
  readonly changes: ReadonlySet<Ticks>;
  /** The chord over which it comes home, and the heights that do. */
  readonly finalAt: Ticks;
  readonly finalEnd: Ticks;
  readonly finals: readonly number[];
}

function roomFor(request: SoloRequest): Room | undefined {
  const { form, level, instrument, choruses = 1, bars } = request;
  const written = formIn(form, readableInterval(form.key, instrument.transposition));
  const one = groundsOf(written, level, bars);
  const chorus = bars.reduce((sum, { length }) => sum + length, 0);
  const grounds = Array.from({ length: choruses }, (_, k) =>
    one.grounds.map((ground) => ({ ...ground, start: ground.start + k * chorus, end: ground.end + k * chorus })),
  ).flat();
  const all = Array.from({ length: choruses }, (_, k) =>
    bars.map((bar) => ({ ...bar, start: bar.start + k * chorus })),
  ).flat();
  if (grounds.length === 0 || all.length === 0) return undefined;
  const { low, high } = instrument.range[level];
  const [from, to] = [semitones(low), semitones(high)];
  const isSmall = level !== 'advanced' && one.setSize <= 6;
  const inSet = (height: number) => (one.set & (1 << (((height % 12) + 12) % 12))) !== 0;
  const isStep = (a: number, b: number) => {
    const size = Math.abs(a - b);
    if (size === 1 || size === 2) return true;
    if (size !== 3 || !isSmall || !inSet(a) || !inSet(b)) return false;
    const base = Math.min(a, b);
    return !inSet(base + 1) && !inSet(base + 2);
  };
  const final = finalPlace(grounds, one, from, to);
  if (!final) return undefined;
  return {
    request,
    grounds: { ...one, grounds },
    bars: all,
    low: from,
    high: to,
    isStep,
    changes: new Set(grounds.map(({ start }) => start)),
    ...final,
  };
}

/** The last chord over which the solo can come home: a tone of it and of the tonic chord, in the level's notes and range. */
function finalPlace(
  grounds: readonly Ground[],
  { tonic }: Grounds,
  low: number,
  high: number,
): Pick<Room, 'finalAt' | 'finalEnd' | 'finals'> | undefined {
  for (const ground of grounds.toReversed()) {
    const finals = heightsOf(ground.home & tonic & ground.pool, low, high);
    if (finals.length > 0) return { finalAt: ground.start, finalEnd: ground.end, finals };
  }
  return undefined;
}

function inBits(height: number, bits: number): boolean {
  return (bits & (1 << (((height % 12) + 12) % 12))) !== 0;
}

function heightsOf(bits: number, low: number, high: number): readonly number[] {
  return Array.from({ length: Math.max(0, high - low + 1) }, (_, k) => low + k).filter((height) =>
    inBits(height, bits),
  );
}

function takeOf(room: Room, take: number): Solo {
  const { request } = room;
  const chance = chanceFrom(`solo/${request.level}/${request.seed}/${take}`);
  const plan = planOf(room.bars.length, request.level, chance);
  const phrases: Phrase[] = [];
  // Past the place where it comes home nothing more is played.
  const last = plan.findLastIndex((planned) => spanOf(planned, room.bars).start < room.finalEnd);
  for (const [index, planned] of plan.entries())
    phrases.push(
      index > last
        ? { ...spanOf(planned, room.bars), kind: 'rest', notes: [] }
        : phraseFor(planned, index === last, phrases, room, chance),
    );
  return finished(phrases, room);
}

function spanOf({ from, to }: PlannedPhrase, bars: readonly FormBar[]): { readonly start: Ticks; readonly end: Ticks } {
  const [first, last] = [bars[from], bars[to - 1]];
  return { start: first?.start ?? 0, end: (last?.start ?? 0) + (last?.length ?? 0) };
}

/** A phrase as planned, or as near to it as the chords allow: the same, else with another ending, else moved, else an answer. */
function phraseFor(
  planned: PlannedPhrase,
  isLast: boolean,
  before: readonly Phrase[],
  room: Room,
  chance: Chance,
): Phrase {
  const span = spanOf(planned, room.bars);
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
      if (notes) return { ...span, kind, of: planned.of ?? 0, notes };
    }
  }
  const kind = planned.kind === 'idea' || before.length === 0 ? 'idea' : 'answer';
  const notes = freshNotes(span, planned, isLast, before, room, chance);
  return notes && notes.length > 0 ? { ...span, kind, notes } : { ...span, kind: 'rest', notes: [] };
}

function barsIn(
  { start, end }: { readonly start: Ticks; readonly end: Ticks },
  bars: readonly FormBar[],
): readonly FormBar[] {
  return bars.filter((bar) => bar.start >= start && bar.start < end);
}

function rhythmFor(
  span: { readonly start: Ticks; readonly end: Ticks },
  { density }: PlannedPhrase,
  isLast: boolean,
  { bars, request, finalAt, finalEnd, changes, grounds }: Room,
  chance: Chance,
): readonly Slot[] {
  const { level } = request;
  const inside = barsIn(span, bars);
  const until = isLast ? homeTime({ finalAt, finalEnd }, inside) : undefined;
  const slots = phraseRhythm(inside, level, density, chance, until);
  const sounding = slots.filter(({ at }) => groundAt(grounds.grounds, at)?.symbol.kind === 'chord');
  return withEarlyNotes(sounding, changes, chance, WINDOWS[level].early);
}

/** Where the last note is struck: on the first beat of the phrase's last bar if its chord sounds there, else with its chord. */
function homeTime({ finalAt, finalEnd }: Pick<Room, 'finalAt' | 'finalEnd'>, bars: readonly FormBar[]): Ticks {
  const last = bars.at(-1);
  return last && last.start < finalEnd ? Math.max(finalAt, last.start) : finalAt;
}

function freshNotes(
  span: { readonly start: Ticks; readonly end: Ticks },
  planned: PlannedPhrase,
  isLast: boolean,
  before: readonly Phrase[],
  room: Room,
  chance: Chance,
): readonly Note[] | undefined {
  const slots = rhythmFor(span, planned, isLast, room, chance);
  if (slots.length === 0) return undefined;
  const line = solve(slots, shapeOf(slots.length, planned, room, chance), isLast, before, room, chance);
  const notes = line && slots.map((slot, k): Note => ({ slot, height: line[k]?.height ?? 0 }));
  return notes && decorated(notes, room, chance);
}

/** The heights that a phrase wants, note by note: an arch, a fall, a rise or a bowl about its place in the chorus's curve. */
function shapeOf(
  count: number,
  { height }: PlannedPhrase,
  { low, high, request }: Room,
  chance: Chance,
): readonly number[] {
  const { width, middle } = WINDOWS[request.level];
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
  const { width } = WINDOWS[request.level];
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
      ? ground.home & (request.level === 'advanced' ? 0xfff : ground.pool | ground.home)
      : ground.pool;
    const heights = height !== undefined ? [height] : isEnd && isLast ? finals : heightsOf(bits, from, to);
    const all = heights.map((one): Candidate => ({
      height: one,
      role: roleAt(ground, one),
      isGuide: (ground.guide & (1 << (((one % 12) + 12) % 12))) !== 0,
    }));
    const homes = all.filter(({ role }) => role === 'home');
    // A phrase comes to rest on a tone of its chord where the level has one there.
    const candidates = isEnd && homes.length > 0 && height === undefined ? homes : all;
    return {
      slot,
      candidates,
      isStrong: isStrongAt(slot.at, bars),
      isChange: k > 0 && groundOf(slots[k - 1] ?? slot, grounds.grounds) !== ground,
      wanted: wanted[k] ?? center,
      isOpen,
      ...(direction !== undefined && { direction }),
    };
  });
  const last = before.findLast(({ notes }) => notes.length > 0)?.notes ?? [];
  const [lastNote, previous] = [last.at(-1), last.at(-2)];
  const then = lastNote && { height: lastNote.height, times: previous?.height === lastNote.height ? 2 : 1 };
  return findLine(wishes, then, isStep, chance);
}

/** The chord that a slot belongs to: an early note to the one that comes. */
function groundOf(slot: Slot, grounds: readonly Ground[]): Ground {
  const found = groundAt(grounds, slot.isEarly ? slot.at + QUARTER / 2 : slot.at) ?? grounds[0];
  if (!found) throw new Error('a form without chords');
  return found;
}

function shifted(note: Note, by: Ticks): Note {
  return { ...note, slot: { ...note.slot, at: note.slot.at + by } };
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
    const note12 = 1 << (((height % 12) + 12) % 12);
    const role = roleAt(ground, height);
    const next = notes[k + 1];
    const isOpen = !next || next.slot.at > slot.at + slot.length;
    if (slot.isEarly && role !== 'home') return false;
    if (isOpen && (role !== 'home' || (!next && !(ground.pool & note12)))) return false;
    const isIn = (ground.pool & note12) !== 0 || (request.level !== 'beginner' && role === 'home');
    if (!isIn && (request.level !== 'advanced' || device === undefined)) return false;
    if ((role === 'rub' || !isIn) && device !== 'enclosure' && !(next && isStep(height, next.height))) return false;
    return !(role !== 'home' && isStrongAt(slot.at, bars) && slot.length > QUARTER);
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
  const fresh = rhythmFor(span, planned, isLast, room, chance).filter(
    ({ at }) => at - span.start >= half && at >= free,
  );
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

/** Ways into strong chord tones for those who have them: a half step below, or from above and below. */
function decorated(notes: readonly Note[], room: Room, chance: Chance): readonly Note[] {
  const { request, grounds, bars } = room;
  if (request.level !== 'advanced' || !HALF_STEPS.has(request.form.style)) return notes;
  const made = [...notes];
  let used = -4;
  for (let k = 2; k < made.length; k += 1) {
    const [target, before, earlier] = [made[k], made[k - 1], made[k - 2]];
    if (!target || !before || !earlier || k - used < 4) continue;
    const ground = groundOf(target.slot, grounds.grounds);
    const isGoal =
      roleAt(ground, target.height) === 'home' && (isStrongAt(target.slot.at, bars) || target.slot.isEarly === true);
    const joins = (a: Note, b: Note) =>
      a.slot.at + a.slot.length === b.slot.at && a.slot.length <= QUARTER / 2 && !a.slot.isEarly && !a.slot.isTriplet;
    if (!isGoal || !joins(before, target) || isStrongAt(before.slot.at, bars)) continue;
    const dice = chance();
    const below = target.height - 1;
    if (below < room.low) continue;
    const first = made[k - 3];
    const above = [1, 2]
      .map((up) => target.height + up)
      .find((height) => (ground.pool & (1 << (((height % 12) + 12) % 12))) !== 0);
    const canEnclose =
      above !== undefined &&
      above <= room.high &&
      first &&
      joins(earlier, before) &&
      !isStrongAt(earlier.slot.at, bars) &&
      isAtRest(first, above, grounds);
    if (dice < 0.35 && canEnclose) {
      made[k - 2] = { ...earlier, height: above, device: 'enclosure' };
      made[k - 1] = { ...before, height: below, device: 'enclosure' };
      used = k;
    } else if (dice < 0.75 && isAtRest(earlier, below, grounds)) {
      made[k - 1] = { ...before, height: below, device: 'approach' };
      used = k;
    }
  }
  return made;
}

/** Whether a note may go on to another height by other than a step, and does not repeat it. */
function isAtRest({ slot, height, device }: Note, to: number, { grounds }: Grounds): boolean {
  const ground = groundOf(slot, grounds);
  const isPool = (ground.pool & (1 << (((height % 12) + 12) % 12))) !== 0;
  return (
    device === undefined && isPool && roleAt(ground, height) !== 'rub' && height !== to && Math.abs(height - to) <= 7
  );
}

function finished(phrases: readonly Phrase[], room: Room): Solo {
  const { grounds, bars, request } = room;
  const all = phrases.flatMap(({ notes }) => notes);
  const sounding = toSounding(request.instrument);
  const back = readableBack(request, sounding);
  const notes = all.map((note, k): SoloNote => {
    const { slot, height } = note;
    const here = groundAt(grounds.grounds, slot.at) ?? grounds.grounds[0];
    const own = groundOf(slot, grounds.grounds);
    if (!here) throw new Error('a form without chords');
    const next = all[k + 1]?.height;
    const pitch = spelled(own, height, next);
    const bitOf = 1 << (((height % 12) + 12) % 12);
    const isEarly = slot.isEarly === true;
    const placed = isEarly ? 'home' : roleAt(here, height);
    const isPool = (here.pool & bitOf) !== 0 || placed === 'home';
    const role: SoloRole = isPool ? placed : 'outside';
    const device = isEarly
      ? 'anticipation'
      : role === 'rub' || role === 'outside'
        ? deviceOf(all, k, here, grounds, room)
        : undefined;
    return {
      at: slot.at,
      length: slot.length,
      pitch,
      concert: transpose(pitch, back),
      chord: here.chord,
      degree: degreeOver(pitch, here.symbol),
      role,
      ...(device && { device }),
      ...(slot.isTriplet && { isTriplet: slot.isTriplet }),
    };
  });
  const plan = phrases.map(({ start, end, kind, of }): SoloPhrase => ({
    start,
    end,
    kind,
    ...(of !== undefined && { of }),
  }));
  return { notes, phrases: plan, bars, measures: measuresOf(notes, plan, bars) };
}

/** From written pitch to what sounds, in the spelling of the form's own key. */
function readableBack({ form, instrument }: SoloRequest, sounding: ReturnType<typeof toSounding>) {
  const there = readableInterval(form.key, instrument.transposition);
  return { diatonic: -there.diatonic, chromatic: sounding.chromatic };
}

function deviceOf(
  all: readonly Note[],
  k: number,
  ground: Ground,
  grounds: Grounds,
  { request, isStep }: Room,
): SoloDevice {
  const here = all[k];
  if (here?.device) return here.device;
  const heights = { before: all[k - 1]?.height, here: here?.height ?? 0, after: all[k + 1]?.height };
  return nameDevice(
    heights,
    isStep,
    isBlueNote(heights.here, ground.key, request.form.style) && inBits(heights.here, grounds.set),
  );
}

/** What a take does that no solo may; none where it can be handed out. */
export function faultsOf(solo: Pick<Solo, 'notes' | 'bars' | 'phrases'>, request: SoloRequest): readonly string[] {
  const room = roomFor(request);
  return room ? faultsIn(solo, room) : ['no chords'];
}

function faultsIn({ notes, bars, phrases }: Pick<Solo, 'notes' | 'bars' | 'phrases'>, room: Room): readonly string[] {
  const faults: string[] = [];
  if (notes.length < Math.max(1, bars.length / 3)) faults.push('hardly a note');
  const heights = notes.map(({ pitch }) => semitones(pitch));
  let run = 0;
  let risen = 0;
  notes.forEach((note, k) => {
    const height = heights[k] ?? 0;
    const after = heights[k + 1];
    const joined = notes[k + 1]?.at === note.at + note.length;
    run = heights[k - 1] === height ? run + 1 : 1;
    if (run > 3) faults.push(`a note ${run} times at ${note.at}`);
    if (height < room.low || height > room.high) faults.push(`out of range at ${note.at}`);
    const step = k === 0 ? 0 : height - (heights[k - 1] ?? height);
    risen = Math.sign(step) === Math.sign(risen) ? risen + step : step;
    if (Math.abs(risen) > 18) faults.push(`a run of ${risen} at ${note.at}`);
    const leans = note.role === 'outside' || note.role === 'rub';
    if (!leans) return;
    const arrives = note.device === 'enclosure' && notes[k + 2] !== undefined;
    if (!note.device) faults.push(`unexplained at ${note.at}`);
    if (!(after !== undefined && joined && room.isStep(height, after)) && !arrives)
      faults.push(`unresolved at ${note.at}`);
  });
  const last = notes.at(-1);
  const lastHeight = heights.at(-1);
  if (last?.role !== 'home' || lastHeight === undefined || !room.finals.includes(lastHeight))
    faults.push('does not come home');
  phrases.forEach((phrase, index) => {
    if (phrase.kind === 'rest' && index < phrases.length - 1 && phrases[index + 1]?.kind === 'rest')
      faults.push('rests too long');
  });
  return faults;
}
