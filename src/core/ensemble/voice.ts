import { chanceFrom } from '../chance';
import { derived } from '../derived';
import { outsideBy } from '../instruments';
import {
  byOctaves,
  chroma,
  type Pitch,
  type PitchClass,
  pitchOf,
  semitones,
  transpose,
  withoutDoubleAccidental,
} from '../pitch';
import type { PartRole, TogetherCell } from '../score';
import type { Ground, GroundChord, Slot } from './ground';
import { noteAt, notesIn, type VoiceLine } from './line';
import { type EnsemblePlayer, reachOf, soundingRange } from './player';

/** A part that is there already, as the next one hears it. */
export interface OtherVoice {
  readonly line: VoiceLine;
  readonly cellAt: (bar: number) => TogetherCell;
}

/** A pitch for each slot; none where the part rests. Slots in which the player leads have what the tune has there. */
export type Skeleton = readonly (Pitch | undefined)[];

/** What one part is chosen for. */
export interface VoiceRequest {
  readonly player: EnsemblePlayer;
  readonly cellAt: (bar: number) => TogetherCell;
  /** The line with which the player leads, where they do. */
  readonly lead: VoiceLine;
  readonly rules: RuleSet;
  /** The bass walks: on the later strong beats of a chord it is somewhere else than on the root. */
  readonly walks: boolean;
  /** Which of several good ways a bar takes; 0 is the best. */
  readonly seedAt: (bar: number) => number;
  /** Pitches that turned out to be wrong at a slot: `slot:height`. */
  readonly banned: ReadonlySet<string>;
  /** Slots at which the part may not rest to get out of a rule's way. */
  readonly mustSound: ReadonlySet<number>;
  /** How many play in all: the last chord needs its third where three do. */
  readonly size: number;
}

/**
 * What speaks against a pitch. The rules are those of any text on part writing (E. Aldwell and C. Schachter, Harmony
 * and Voice Leading, ch. 5–7; W. Piston, Orchestration, on spacing): no parallel fifths and octaves, no clash that the
 * chord does not have, leading notes not doubled, sevenths that fall, the bass lowest; the numbers are ours. What is
 * above `forbidden` is taken only where there is nothing else at all.
 */
const COST = {
  clash: 500,
  /** A semitone that the chord itself has. */
  chordClash: 3,
  /** A major seventh against a note that the chord does not have. */
  wideClash: 6,
  parallel: 120,
  underBass: 140,
  atBass: 60,
  notLowest: 260,
  notRoot: 80,
  lastNotRoot: 400,
  /** Over the tune, where an octave lower is to be had, and where it is not. */
  overLead: 40,
  overLeadOnly: 1,
  /** Over the tune's note at the beginning of the stretch, and over a later one. */
  overLeadAtFirst: 14,
  overLeadLater: 2,
  seventhDoubled: 4,
  thirdDoubled: 1,
  sameHeight: 3,
  /** What is still missing in the chord, taken off. */
  missing: { third: 2.4, seventh: 1.4, root: 0.8, lastThird: 30 },
  extension: 2.5,
  wideGap: 1.2,
  mud: 2,
  perHalfStepOff: 0.1,
  seventhFalls: -1,
  leadingRises: -1,
} as const;

/**
 * What textbooks of part writing forbid and players of dances and riffs do not mind: fifths reached by a leap, parallels
 * with a weak place, leading notes that are doubled or left, sevenths that stay. Parallels on strong beats and clashes
 * are the same for all.
 */
type RuleSet = 'textbook' | 'loose';
const BY_RULES: Readonly<
  Record<
    RuleSet,
    Readonly<Record<'hidden' | 'weakParallel' | 'leadingDoubled' | 'leadingLeft' | 'seventhStays', number>>
  >
> = {
  textbook: { hidden: 0.8, weakParallel: 8, leadingDoubled: 8, leadingLeft: 2, seventhStays: 4 },
  loose: { hidden: 0, weakParallel: 1, leadingDoubled: 2.5, leadingLeft: 0.5, seventhStays: 1 },
};

/** What a rest costs at a place that has a chord, by role: more than a rule of spacing, less than a parallel. */
const REST: Readonly<Record<PartRole, number>> = { tune: 0, second: 26, counter: 22, pad: 24, bass: 60, rhythm: 9 };

/** How far under the tune's top a part is looked for, in half steps. */
const UNDER: Readonly<Record<PartRole, number>> = { tune: 0, second: 5, counter: 10, pad: 9, bass: 26, rhythm: 12 };

/** The cheapest way through all slots (a shortest path: the cost of a pitch, and of going on from the one before). */
export function chooseSkeleton(ground: Ground, request: VoiceRequest, others: readonly OtherVoice[]): Skeleton {
  const heard = ground.slots.map((slot) => heardAt(slot, others));
  const choices: (readonly Choice[])[] = [];
  ground.slots.forEach((slot, index) => {
    const here = heard[index];
    if (!here) return;
    const found = candidatesAt(ground, slot, index, request, here);
    choices.push(request.cellAt(slot.bar) === 'pad' ? withRests(found, choices[index - 1]) : found);
  });
  let before: readonly number[] = [];
  /** The ways so far, cheapest first: most are too dear to be looked at. */
  let order: readonly number[] = [];
  const back: (readonly number[])[] = [];
  choices.forEach((here, index) => {
    const earlier = choices[index - 1];
    const step = stepAt(ground, index, heard, request);
    const costs: number[] = [];
    const from: number[] = [];
    for (const choice of here) {
      let best = order[0] ?? 0;
      let least = earlier ? Infinity : 0;
      for (const k of order) {
        const sofar = before[k] ?? 0;
        if (sofar >= least + MOST_GAINED) break;
        const prior = earlier?.[k];
        // In a pad a rest remembers the note before it, so that the part goes on from there.
        if (!prior || (choice.remembers && choice.last !== lastOf(prior))) continue;
        const cost = sofar + motion(step, prior, choice);
        if (cost < least) [least, best] = [cost, k];
      }
      costs.push(least + choice.cost);
      from.push(best);
    }
    before = costs;
    order = costs.map((_, k) => k).toSorted((x, y) => (costs[x] ?? 0) - (costs[y] ?? 0) || x - y);
    back.push(from);
  });
  let at = order[0] ?? 0;
  const path: (Pitch | undefined)[] = [];
  for (let index = choices.length - 1; index >= 0; index -= 1) {
    path[index] = choices[index]?.[at]?.pitch;
    at = back[index]?.[at] ?? 0;
  }
  return path;
}

/** A step gains no more than this: a way that is dearer by as much cannot become the cheapest with it. */
const MOST_GAINED = 12;

interface Choice {
  readonly pitch?: Pitch;
  readonly height: number;
  readonly cost: number;
  /** A rest that comes after the note of this height alone, or after none. */
  readonly remembers?: true;
  readonly last?: number;
  /** The tune's own, where the player leads. */
  readonly isLead?: true;
}

function lastOf({ height, last }: Choice): number | undefined {
  return height === SILENCE ? last : height;
}

/** A rest for each note that may come before it, and one for none. */
function withRests(here: readonly Choice[], before: readonly Choice[] | undefined): readonly Choice[] {
  if (!before) return here;
  return here.flatMap((choice) => {
    if (choice.height !== SILENCE || choice.isLead) return [choice];
    return [...new Set(before.map(lastOf))].map((last): Choice => ({
      ...choice,
      remembers: true,
      ...(last !== undefined && { last }),
    }));
  });
}

const SILENCE = -1;

/** What the other parts sound at the beginning of a slot. */
interface Heard {
  readonly heights: readonly number[];
  readonly cells: readonly TogetherCell[];
  /** The highest note with which somebody leads. */
  readonly top: number;
  /** The same of the note at the beginning. */
  readonly topNow: number;
  /** The lowest note with which somebody leads anywhere in the slot. */
  readonly leadLow: number;
  readonly bass: number;
  readonly bits: number;
}

function heardAt(slot: Slot, others: readonly OtherVoice[]): Heard {
  const cells = others.map(({ cellAt }) => cellAt(slot.bar));
  const heights = others.map(({ line }) => noteAt(line, slot.from)?.height ?? SILENCE);
  let [top, topNow, leadLow, bass, bits] = [SILENCE, SILENCE, Infinity, SILENCE, 0];
  others.forEach(({ line }, k) => {
    const height = heights[k] ?? SILENCE;
    if (height !== SILENCE) bits |= 1 << (height % 12);
    if (cells[k] === 'tune') {
      topNow = Math.max(topNow, height);
      const sounding = notesIn(line, slot.from, slot.to);
      for (const note of sounding) {
        top = Math.max(top, note.height);
        leadLow = Math.min(leadLow, note.height);
      }
    }
    if (cells[k] === 'bass') bass = height;
  });
  return { heights, cells, top, topNow, leadLow, bass, bits };
}

const OCTAVES = [0, 1, 2, 3, 4, 5, 6, 7, 8] as const;

function candidatesAt(
  ground: Ground,
  slot: Slot,
  index: number,
  request: VoiceRequest,
  heard: Heard,
): readonly Choice[] {
  const cell = request.cellAt(slot.bar);
  if (cell === 'tune') {
    const note = noteAt(request.lead, slot.from);
    return [{ ...(note && { pitch: note.pitch }), height: note?.height ?? SILENCE, cost: 0, isLead: true }];
  }
  const span = ground.spans[slot.bar];
  const isPickup = slot.bar === 0 && span !== undefined && span.offset > 0;
  if (cell === 'out' || isPickup || !slot.chord) return [{ height: SILENCE, cost: 0 }];
  const isPlayable = reachable(request.player);
  const { chord } = slot;
  const classes: readonly PitchClass[] =
    cell === 'bass' && chord.symbol.kind === 'chord' && chord.symbol.bass
      ? [chord.bass, ...chord.tones.map(({ pitchClass }) => pitchClass)]
      : chord.tones.map(({ pitchClass }) => pitchClass);
  const seen = new Set<number>();
  const seed = request.seedAt(slot.bar);
  const jitter = seed === 0 ? () => 0 : chanceFrom(`${seed}:${request.player.id}:${index}`);
  const choices: Choice[] = [];
  for (const { step, alter } of classes)
    for (const octave of OCTAVES) {
      const pitch = withoutDoubleAccidental(pitchOf(step, alter, octave));
      const height = semitones(pitch);
      if (seen.has(height) || !isPlayable(pitch) || request.banned.has(`${index}:${height}`)) continue;
      seen.add(height);
      const cost = placeCost(ground, slot, index, pitch, cell, chord, heard, request) + jitter() * 1.6;
      choices.push({ pitch, height, cost });
    }
  choices.sort((a, b) => a.cost - b.cost || a.height - b.height);
  const rest = request.mustSound.has(index) ? MUST_SOUND : REST[cell];
  return [...choices.slice(0, MAX_CHOICES), { height: SILENCE, cost: rest }];
}

/** More than a parallel: the bass has nine roots in ten, and what that costs is told. */
const MUST_SOUND = 320;

/** The dearest pitches of a place are never on the cheapest way. */
const MAX_CHOICES = 9;

/** Asked for by every part that is written again. */
const reachable = derived(reachOf);

function placeCost(
  ground: Ground,
  slot: Slot,
  index: number,
  pitch: Pitch,
  cell: PartRole,
  chord: GroundChord,
  heard: Heard,
  request: VoiceRequest,
): number {
  const height = semitones(pitch);
  const noteClass = height % 12;
  const isLast = index === ground.slots.length - 1 || chord === ground.slots.at(-1)?.chord;
  let cost = 0;
  let nearest = Infinity;
  heard.heights.forEach((other) => {
    if (other === SILENCE) return;
    const distance = Math.abs(height - other);
    nearest = Math.min(nearest, distance);
    const isOfChord = (chord.bits & (1 << (other % 12))) !== 0;
    if (distance % 12 === 1) cost += isOfChord ? COST.chordClash : COST.clash;
    else if (distance % 12 === 11 && !isOfChord) cost += COST.wideClash;
    if (distance === 0) cost += COST.sameHeight;
    if (distance > 0 && distance < 5 && Math.min(height, other) < LOW) cost += COST.mud;
  });
  if (cell === 'bass')
    cost += bassCost(slot, height, noteClass, chord, heard, isLast, request.walks, request.mustSound.has(index));
  else {
    cost += toneCost(noteClass, chord, heard, request.size >= 3 && isLast, BY_RULES[request.rules].leadingDoubled);
    if (heard.bass !== SILENCE && height <= heard.bass) cost += height === heard.bass ? COST.atBass : COST.underBass;
    if (heard.top !== SILENCE && height > heard.top)
      cost += hasLower(request.player, pitch)
        ? COST.overLead
        : COST.overLeadOnly * Math.min(12, height - heard.top) * 0.3;
    else if (heard.top !== SILENCE && height > heard.leadLow && hasLower(request.player, pitch))
      cost += height > heard.topNow ? COST.overLeadAtFirst : COST.overLeadLater;
    if (nearest > 12 && nearest !== Infinity) cost += COST.wideGap;
    if (cell === 'second') cost += secondCost(height, heard);
  }
  return cost + Math.abs(height - targetFor(cell, heard, request.player)) * COST.perHalfStepOff;
}

/** Whether the octave below lies in the player's range, among the notes that they know. */
export function hasLower({ instrument, level, known }: EnsemblePlayer, pitch: Pitch): boolean {
  const read = transpose(byOctaves(pitch, -1), instrument.transposition);
  return outsideBy(read, instrument.range[level]) === 0 && (!known || known.has(semitones(read)));
}

/** E3: below it close intervals are mud. */
const LOW = 40;

/** Where a part of a role likes to lie: so far under the tune, inside what the player has. */
function targetFor(cell: PartRole, heard: Heard, player: EnsemblePlayer): number {
  const [low, high] = soundingRange(player);
  if (cell === 'bass') return Math.min(low + 9, (low + high) / 2);
  const wanted = heard.top === SILENCE ? (low + high) / 2 : heard.top - UNDER[cell];
  return Math.max(low + 3, Math.min(high - 3, wanted));
}

function bassCost(
  slot: Slot,
  height: number,
  noteClass: number,
  chord: GroundChord,
  heard: Heard,
  isLast: boolean,
  walks: boolean,
  mustBeRoot: boolean,
): number {
  let cost = 0;
  const isBass = noteClass === chroma(chord.bass);
  if (!isBass) {
    cost += slot.isChordStart ? COST.notRoot : noteClass === chord.fifth ? 0.6 : noteClass === chord.third ? 1.2 : 4;
    if (isLast || mustBeRoot) cost += COST.lastNotRoot;
  } else if (walks && !slot.isChordStart) cost += 2.5;
  heard.heights.forEach((other) => {
    if (other === SILENCE) return;
    if (other < height) cost += COST.notLowest;
    else if (other === height) cost += COST.notLowest / 3;
  });
  if (heard.leadLow < height) cost += 4;
  return cost;
}

function toneCost(
  noteClass: number,
  chord: GroundChord,
  heard: Heard,
  wantsThird: boolean,
  leadingDoubled: number,
): number {
  const has = (one: number | undefined) => one !== undefined && (heard.bits & (1 << one)) !== 0;
  const { missing } = COST;
  if (noteClass === chord.third) {
    if (has(chord.third)) return chord.leads ? leadingDoubled : COST.thirdDoubled;
    return wantsThird ? -missing.lastThird : -missing.third;
  }
  if (noteClass === chord.seventh) return has(chord.seventh) ? COST.seventhDoubled : -missing.seventh;
  if (noteClass === chord.root) return has(chord.root) ? 0.4 : -missing.root;
  if (noteClass === chord.fifth) return has(chord.fifth) ? 0.7 : 0.3;
  // A sixth, a fourth that hangs, or what is stacked on the seventh.
  const isInTriad = chord.third === undefined || chord.seventh === undefined;
  return isInTriad ? 0.8 : COST.extension;
}

/** Thirds and sixths with the tune first, then fourths and fifths, octaves last. */
function secondCost(height: number, { top }: Heard): number {
  if (top === SILENCE) return 0;
  const distance = Math.abs(top - height);
  switch (distance % 12) {
    case 3:
    case 4:
    case 8:
    case 9:
      return distance > 16 ? -3 : -6;
    case 0:
      return 5;
    case 5:
    case 6:
    case 7:
      return 2.5;
    default:
      return 3.5;
  }
}

/** What has to be known of going from one slot to the next, whatever the pitches are. */
interface StepFrame {
  readonly slot: Slot | undefined;
  readonly before: Slot | undefined;
  readonly cell: TogetherCell;
  readonly isStrong: boolean;
  readonly rules: (typeof BY_RULES)[RuleSet];
  /** The other parts that move here. */
  readonly movers: readonly Mover[];
}

interface Mover {
  readonly from: number;
  readonly to: number;
  /** Both do the same here and before: they may double each other. */
  readonly isOneRole: boolean;
  readonly isTune: boolean;
}

function stepAt(ground: Ground, index: number, heard: readonly Heard[], request: VoiceRequest): StepFrame {
  const [slot, before] = [ground.slots[index], ground.slots[index - 1]];
  const [now, then] = [heard[index], heard[index - 1]];
  const cell = slot ? request.cellAt(slot.bar) : 'out';
  const cellBefore = before ? request.cellAt(before.bar) : 'out';
  const movers = (now?.heights ?? []).flatMap((to, k): readonly Mover[] => {
    const from = then?.heights[k] ?? SILENCE;
    if (to === SILENCE || from === SILENCE || to === from) return [];
    const isOneRole = now?.cells[k] === cell && then?.cells[k] === cellBefore;
    return [{ from, to, isOneRole, isTune: now?.cells[k] === 'tune' }];
  });
  return {
    slot,
    before,
    cell,
    isStrong: slot?.isStrong === true && before?.isStrong === true,
    rules: BY_RULES[request.rules],
    movers,
  };
}

function motion({ slot, before, cell, isStrong, rules, movers }: StepFrame, from: Choice, to: Choice): number {
  if (to.height === SILENCE) return 0;
  if (from.height === SILENCE)
    return from.last === undefined || to.isLead ? 0 : stepAfterRest(cell, to.height - from.last);
  const step = to.height - from.height;
  let cost = from.isLead || to.isLead || cell === 'tune' || cell === 'out' ? 0 : stepCost(cell, Math.abs(step));
  if (step !== 0)
    for (const mover of movers) {
      const isSameWay = mover.to > mover.from === step > 0;
      if (cell === 'second' && mover.isTune && !isSameWay) cost -= 2;
      if (!isSameWay || mover.isOneRole) continue;
      const interval = Math.abs(to.height - mover.to) % 12;
      if (interval !== 0 && interval !== 7) continue;
      if (Math.abs(from.height - mover.from) % 12 === interval) cost += isStrong ? COST.parallel : rules.weakParallel;
      else if (Math.abs(step) > 2) cost += rules.hidden;
    }
  return cost + tendencyCost(before?.chord, slot?.chord, from.height, to.height, rules);
}

/** After a rest a step is felt as less wide. */
function stepAfterRest(cell: TogetherCell, step: number): number {
  return cell === 'tune' || cell === 'out' ? 0 : stepCost(cell, Math.abs(step)) * (cell === 'pad' ? 1 : 0.4);
}

/** Sevenths fall, leading notes rise, where the chord changes. */
function tendencyCost(
  before: GroundChord | undefined,
  now: GroundChord | undefined,
  from: number,
  to: number,
  rules: StepFrame['rules'],
): number {
  if (!before || !now || before === now || before.symbol === now.symbol) return 0;
  const noteClass = from % 12;
  const step = to - from;
  if (noteClass === before.seventh) {
    if (step === -1 || step === -2) return COST.seventhFalls;
    return step === 0 ? 0 : rules.seventhStays;
  }
  const isCadence = (before.root - now.root + 12) % 12 === 7;
  if (before.leads && isCadence && noteClass === before.third)
    return step === 1 ? COST.leadingRises : step === 0 ? 0 : rules.leadingLeft;
  return 0;
}

/** Half steps from 0 to 12; wider ones cost the last. */
const STEP_COSTS: Readonly<Record<Exclude<PartRole, 'tune'>, readonly number[]>> = {
  second: [0.9, 0, 0, 0.6, 0.7, 1.4, 4, 2.6, 4, 4.5, 7, 8, 6, 10],
  counter: [1.4, 0, 0, 0.5, 0.6, 1, 4, 1.8, 3, 3.5, 7, 8, 5, 9],
  pad: [0, 0.5, 0.7, 1.6, 1.9, 2.4, 30, 30, 32, 32, 34, 34, 34, 36],
  bass: [0.5, 0.2, 0.2, 0.5, 0.6, 0.3, 3, 0.4, 1.6, 1.8, 4, 5, 1.2, 6],
  rhythm: [0, 3, 3, 3.2, 3.2, 3.2, 6, 4, 8, 8, 9, 9, 9, 12],
};

function stepCost(role: Exclude<PartRole, 'tune'>, step: number): number {
  const row = STEP_COSTS[role];
  return row[Math.min(step, row.length - 1)] ?? 0;
}
