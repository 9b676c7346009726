import { chanceFrom } from '../chance';
import { type Level, toSounding, profileOf } from '../instruments';
import { readableInterval, semitones, transpose } from '../pitch';
import { type Ticks, TICKS_PER_QUARTER } from '../time';
import { degreeOver } from '../pools';
import { isBlueNote, nameDevice } from './devices';
import { groundAt, inBits, roleAt, spelled, type Ground, type Grounds } from './ground';
import { measuresOf, type SoloMeasures } from './measures';
import { isOn, phraseFor, spanOf } from './phrases';
import { planFrom, planOf } from './plan';
import type { FormBar } from './rhythm';
import { groundOf, roomFor, type Note, type Phrase, type Room, type SoloRequest } from './room';
import type { SoloDevice, SoloNote, SoloPhrase, SoloRole } from './soloNote';

import type { SoloTarget } from './wishes';

export type { SoloRequest } from './room';

/** An early note stands an eighth before its phrase. */
const EARLY: Ticks = TICKS_PER_QUARTER / 2;

export interface Solo {
  readonly notes: readonly SoloNote[];
  readonly phrases: readonly SoloPhrase[];
  /** Of all choruses. */
  readonly bars: readonly FormBar[];
  readonly measures: SoloMeasures;
  /** Targets that it does not land on. */
  readonly missed: readonly SoloTarget[];
}

/** Takes that are made, of which the best by its measures is given. */
const TAKES = 5;
/** Further takes where none of those keeps every rule. */
const MAX_TAKES = 60;

/**
 * Composes a solo over a form: a plan of phrases first, a rhythm for each, then the cheapest line through it; what is
 * said again is said in the same words. The same request gives the same solo. `undefined` where the form has no chords,
 * or the range no note for its end.
 */
export function composeSolo(request: SoloRequest): Solo | undefined {
  const room = roomFor(request);
  if (!room) return undefined;
  let best: { readonly solo: Solo; readonly worth: number } | undefined;
  let kept = 0;
  for (let take = 0; take < MAX_TAKES && kept < TAKES; take += 1) {
    const phrases = takeOf(room, take);
    const solo = finished(phrases, room);
    if (faultsIn(solo, room).length === 0) {
      kept += 1;
      const worth = worthOf(solo, phrases, request.level);
      if (!best || worth > best.worth + 1e-9) best = { solo, worth };
    }
    if (take >= TAKES * 2 && best) break;
  }
  return best?.solo;
}

/**
 * What a solo is chosen by among its takes: new phrases that say something, strong beats at home, ideas that come back,
 * few leaps, varied rhythms.
 */
function worthOf({ measures, notes, bars, missed }: Solo, phrases: readonly Phrase[], level: Level): number {
  const costs = phrases.flatMap(({ cost }) => (cost === undefined ? [] : [cost]));
  const said = costs.reduce((sum, cost) => sum + cost, 0) / Math.max(1, costs.length);
  const variety = Math.min(1, measures.distinctRhythms / Math.max(2, bars.length / 2));
  const spread = new Set(notes.map(({ pitch }) => semitones(pitch))).size / 12;
  return (
    2 * measures.strongBeatHome -
    0.5 * said +
    measures.repeatedIdeas -
    0.4 * measures.leapsOverSixth +
    profileOf(level).solo.variety * variety +
    0.4 * Math.min(1, spread) -
    0.8 * thirdsAlike(phrases) -
    3 * missed.length
  );
}

/** Phrases beyond the second of one rhythm. */
function thirdsAlike(phrases: readonly Phrase[]): number {
  const counts = new Map<string, number>();
  for (const { notes, start } of phrases) {
    const rhythm = notes.map(({ slot }) => `${slot.at - start}:${slot.length}`).join(' ');
    if (rhythm !== '') counts.set(rhythm, (counts.get(rhythm) ?? 0) + 1);
  }
  return [...counts.values()].reduce((sum, count) => sum + Math.max(0, count - 2), 0);
}

function takeOf(room: Room, take: number): readonly Phrase[] {
  const { request } = room;
  const chance = chanceFrom(`solo/${request.level}/${request.seed}/${take}`);
  const plan = request.plan
    ? planFrom(request.plan, room.bars.length, request.level)
    : planOf(room.bars, request.level, chance);
  const phrases: Phrase[] = [];
  // Past the place where it comes home nothing more is played.
  const last = plan.findLastIndex(
    (planned) => planned.kind !== 'rest' && spanOf(planned, room.bars).start < room.finalEnd,
  );
  for (const [index, planned] of plan.entries())
    phrases.push(
      index > last && !request.given?.has(index)
        ? { ...spanOf(planned, room.bars), kind: 'rest', notes: [] }
        : phraseFor(planned, index === last, phrases, room, chance),
    );
  return phrases;
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
    const pitch = note.pitch ?? spelled(own, height, next);
    const isEarly = slot.isEarly === true;
    const placed = isEarly ? 'home' : roleAt(here, height);
    const isPool = inBits(height, here.pool) || placed === 'home';
    const role: SoloRole = isPool ? placed : 'outside';
    const device = isEarly
      ? 'anticipation'
      : role === 'rub' || role === 'outside'
        ? note.pitch
          ? heldDevice(all, k, room, own, grounds)
          : deviceOf(all, k, here, grounds, room)
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
  const plan = phrases.map(({ start, end, kind, of, isGiven }): SoloPhrase => ({
    start,
    end,
    kind,
    ...(of !== undefined && { of }),
    ...(isGiven && { isGiven }),
  }));
  return { notes, phrases: plan, bars, measures: measuresOf(notes, plan, bars), missed: missedIn(all, room) };
}

/** Targets that nothing lands on; what lies after the last note is none. */
function missedIn(all: readonly Note[], { targets }: Room): readonly SoloTarget[] {
  return targets
    .filter(({ start, bits }) => !all.some(({ slot, height }) => isOn(slot, start) && inBits(height, bits)))
    .map(({ target }) => target);
}

/** What a given note does: as it says; else by its neighbours, where it goes on by step. */
function heldDevice(
  all: readonly Note[],
  k: number,
  room: Room,
  ground: Ground,
  grounds: Grounds,
): SoloDevice | undefined {
  const [here, next] = [all[k], all[k + 1]];
  if (!here || here.device) return here?.device;
  return next && room.isStep(here.height, next.height) ? deviceOf(all, k, ground, grounds, room) : undefined;
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
  const given = phrases.filter((phrase) => phrase.isGiven);
  const isGiven = (at: Ticks) => given.some((phrase) => at >= phrase.start - EARLY && at < phrase.end);
  notes.forEach((note, k) => {
    const height = heights[k] ?? 0;
    const after = heights[k + 1];
    const joined = notes[k + 1]?.at === note.at + note.length;
    run = heights[k - 1] === height ? run + 1 : 1;
    // What a teacher gave, and what leads into it, is the teacher's affair.
    if (isGiven(note.at) || (notes[k + 1] && isGiven(notes[k + 1]?.at ?? 0))) return;
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
  if (last && isGiven(last.at)) return faults;
  if (last?.role !== 'home' || lastHeight === undefined || !room.finals.includes(lastHeight))
    faults.push('does not come home');
  phrases.forEach((phrase, index) => {
    if (room.request.plan) return;
    if (phrase.kind === 'rest' && index < phrases.length - 1 && phrases[index + 1]?.kind === 'rest')
      faults.push('rests too long');
  });
  return faults;
}
