import { type Pitch, scaleStep, semitones, staffPosition } from '../pitch';
import type { PartRole, TogetherCell } from '../score';
import { beatsOf, isCompound, type Ticks, TICKS_PER_QUARTER } from '../time';
import type { PhrasingStyle } from '../work';
import type { Ground, Slot } from './ground';
import { lineNote, type LineNote, noteAt, notesIn, type VoiceLine } from './line';
import { type EnsemblePlayer, isFirstYear, reachOf } from './player';
import { barFinder } from './rules';
import type { Skeleton } from './voice';

/** A run of the tune that a player has. */
export interface LeadSpan {
  readonly from: Ticks;
  readonly to: Ticks;
}

/** What is needed to make a moving line of the pitches chosen for it. */
export interface MoveRequest {
  readonly ground: Ground;
  readonly player: EnsemblePlayer;
  readonly cellAt: (bar: number) => TogetherCell;
  readonly skeleton: Skeleton;
  readonly style: PhrasingStyle;
  /** Where the player has the tune, and the line with which they play it. */
  readonly leads: readonly LeadSpan[];
  readonly lead: VoiceLine;
  /** The line that is the tune for the others, wherever it is. */
  readonly tune: VoiceLine;
  readonly others: readonly VoiceLine[];
  /** Bars that were asked to be simpler: chosen pitches alone. */
  readonly isPlain: (bar: number) => boolean;
}

/** The line of a part: its chosen pitches joined as its role moves, and the tune where it leads. */
export function movedLine(request: MoveRequest): VoiceLine {
  const { ground, cellAt, leads } = request;
  const isPlayable = reachOf(request.player);
  const made: LineNote[] = [];
  ground.slots.forEach((slot, index) => {
    const cell = cellAt(slot.bar);
    if (cell === 'tune' || cell === 'out') return;
    for (const note of notesOfSlot(request, slot, index, cell, isPlayable)) {
      const last = made.at(-1);
      const joins =
        last !== undefined &&
        last.height === note.height &&
        last.to === note.from &&
        note.from === slot.from &&
        isHeldOn(request, slot, index, cell);
      if (joins) made[made.length - 1] = { ...last, to: note.to };
      else made.push(note);
    }
  });
  const least = shortestFor(request.player, ground);
  const own = longEnough(request, withoutShort(cut(made, leads), ground, least));
  const tune = leads.flatMap(({ from, to }) =>
    notesIn(request.lead, from, to)
      .filter((note) => note.from >= from)
      .map((note) => ({ ...note, to: Math.min(note.to, to) })),
  );
  return [...own, ...tune].toSorted((a, b) => a.from - b.from);
}

/** The shortest note of a level's accompanying part: a quarter in the first year (a third of a dotted beat), else an eighth. */
function shortestFor(player: Pick<EnsemblePlayer, 'level'>, { tune }: Ground): Ticks {
  return isFirstYear(player) && !isCompound(tune.meter) ? TICKS_PER_QUARTER : TICKS_PER_QUARTER / 2;
}

/** Long notes are no shorter than the tune's on average: where they would be, those that stay are tied. */
function longEnough({ ground, cellAt }: MoveRequest, notes: readonly LineNote[]): readonly LineNote[] {
  const isPad = (note: LineNote) => cellAt(barAt(note.from)) === 'pad';
  const barAt = barFinder(ground);
  if (!notes.some(isPad)) return notes;
  const mean = (list: readonly { readonly length: Ticks }[]) =>
    list.reduce((sum, { length }) => sum + length, 0) / Math.max(1, list.length);
  const wanted = mean(ground.notes);
  const pads = () => kept.filter(isPad).map(({ from, to }) => ({ length: to - from }));
  let kept = notes;
  if (mean(pads()) >= wanted) return kept;
  // What comes again is held, also over the barline.
  kept = joined(
    kept,
    (last, note) => isPad(note) && last.height === note.height && !ground.phraseStarts.has(note.from),
  );
  if (mean(pads()) >= wanted) return kept;
  kept = joined(kept, (last, note) => isPad(note) && last.height === note.height);
  if (mean(pads()) >= wanted) return kept;
  // A tone that the next chord has as well stays.
  return joined(kept, (last, note) => {
    const chords = ground.slots.filter(({ from, to }) => from < note.to && to > note.from);
    return (
      isPad(note) && chords.every(({ chord }) => chord !== undefined && (chord.bits & (1 << (last.height % 12))) !== 0)
    );
  });
}

function joined(notes: readonly LineNote[], joins: (last: LineNote, note: LineNote) => boolean): readonly LineNote[] {
  const after: LineNote[] = [];
  for (const note of notes) {
    const last = after.at(-1);
    if (last?.to === note.from && joins(last, note)) after[after.length - 1] = { ...last, to: note.to };
    else after.push(note);
  }
  return after;
}

/** Notes outside the stretches in which the player has the tune. */
function cut(notes: readonly LineNote[], leads: readonly LeadSpan[]): readonly LineNote[] {
  return notes.flatMap((note) => {
    const over = leads.find(({ from, to }) => note.from < to && note.to > from);
    if (!over) return [note];
    return note.from < over.from ? [{ ...note, to: over.from }] : [];
  });
}

/** Notes that are too short for the level are taken into the one before, or left out; strong beats stay. */
function withoutShort(notes: readonly LineNote[], ground: Ground, least: Ticks): readonly LineNote[] {
  const strong = new Set(ground.slots.flatMap(({ from, isStrong }) => (isStrong ? [from] : [])));
  const kept: LineNote[] = [];
  for (const note of notes) {
    const last = kept.at(-1);
    const lastIsShort = last !== undefined && last.to === note.from && last.to - last.from < least;
    if (lastIsShort && !strong.has(last.from)) {
      kept.pop();
      const before = kept.at(-1);
      if (before && before.to === last.from) kept[kept.length - 1] = { ...before, to: note.from };
    }
    const before = kept.at(-1);
    if (note.to - note.from < least && !strong.has(note.from) && before?.to === note.from)
      kept[kept.length - 1] = { ...before, to: note.to };
    else kept.push(note);
  }
  return kept;
}

/** Whether a pitch that stays is held from the slot before, and not struck again. */
function isHeldOn({ ground, player, style, tune }: MoveRequest, slot: Slot, index: number, cell: PartRole): boolean {
  const before = ground.slots[index - 1];
  if (!before || before.bar !== slot.bar) return false;
  if (slot.from > (tune.at(-1)?.from ?? Infinity)) return true;
  if (cell === 'pad') return true;
  if (cell === 'bass') return isFirstYear(player) ? before.chord === slot.chord : SLOW.has(style);
  if (cell === 'rhythm') return false;
  // Held while the tune is.
  const note = noteAt(tune, slot.from);
  return note === undefined || note.from < slot.from || cell === 'counter';
}

/** Styles in which an accompaniment is held rather than struck. */
const SLOW: ReadonlySet<PhrasingStyle> = new Set(['hymn', 'air', 'song']);

function notesOfSlot(
  request: MoveRequest,
  slot: Slot,
  index: number,
  cell: PartRole,
  isPlayable: (pitch: Pitch) => boolean,
): readonly LineNote[] {
  const pitch = request.skeleton[index];
  if (!pitch) return [];
  const held = [lineNote(slot.from, slot.to, pitch, 'chord')];
  // Under the tune's last note nothing moves any more.
  const isEnd = slot.to > (request.tune.at(-1)?.from ?? Infinity);
  if (request.isPlain(slot.bar) || isEnd) return held;
  const next =
    request.cellAt(request.ground.slots[index + 1]?.bar ?? -1) === cell ? request.skeleton[index + 1] : undefined;
  const place: Place = { ...request, slot, pitch, next, isPlayable };
  switch (cell) {
    case 'pad':
      return held;
    case 'second':
      return secondNotes(place) ?? held;
    case 'counter':
      return counterNotes(place) ?? held;
    case 'bass':
      return bassNotes(place) ?? held;
    case 'rhythm':
      return rhythmNotes(place) ?? held;
    default:
      return held;
  }
}

interface Place extends MoveRequest {
  readonly slot: Slot;
  readonly pitch: Pitch;
  readonly next: Pitch | undefined;
  readonly isPlayable: (pitch: Pitch) => boolean;
}

const beatOf = ({ ground, slot }: Place): Ticks => {
  const span = ground.spans[slot.bar];
  return span ? (beatsOf(span.meter)[0]?.length ?? TICKS_PER_QUARTER) : TICKS_PER_QUARTER;
};

/** Whether a note does not rub by a half step with what sounds where it is struck. */
function isClear({ others }: Place, height: number, at: Ticks): boolean {
  return others.every((line) => {
    const note = noteAt(line, at);
    return !note || Math.abs(note.height - height) % 12 !== 1;
  });
}

/** Whether a pitch is of the chord of its place. */
function isTone({ slot }: Place, pitch: Pitch): boolean {
  return slot.chord !== undefined && (slot.chord.bits & (1 << (semitones(pitch) % 12))) !== 0;
}

/** A note so many letters away, by the key and the chord of its place. */
function stepFrom({ ground, slot }: Place, from: Pitch, steps: number): Pitch {
  const key = ground.keys[slot.bar] ?? ground.tune.key;
  return scaleStep(
    from,
    steps,
    key,
    slot.chord?.tones.map(({ pitchClass }) => pitchClass),
  );
}

/** Along with the tune in thirds or sixths; walking where the tune holds. First-year players keep to their chord tones. */
function secondNotes(place: Place): readonly LineNote[] | undefined {
  const { slot, pitch, tune, player, isPlayable } = place;
  if (isFirstYear(player)) return undefined;
  const first = noteAt(tune, slot.from);
  const least = shortestFor(player, place.ground);
  const later = notesIn(tune, slot.from, slot.to).filter(({ from }) => from > slot.from);
  if (later.length === 0) return walk(place, 'passing');
  if (!first) return undefined;
  const apart = staffPosition(pitch) - staffPosition(first.pitch);
  const letters = ((apart % 7) + 7) % 7;
  // Only in thirds and sixths, each seen from above and below.
  if (letters !== 2 && letters !== 5) return undefined;
  const notes: LineNote[] = [lineNote(slot.from, slot.to, pitch, 'parallel')];
  for (const note of later) {
    const last = notes.at(-1);
    const other = stepFrom(place, note.pitch, apart);
    const to = Math.min(note.to, slot.to);
    if ((note.from - slot.from) % least !== 0) continue;
    const isOfScale = semitones(stepFrom(place, note.pitch, 0)) === note.height;
    const step = last ? Math.abs(semitones(other) - last.height) : 0;
    if (!last || !isOfScale || !isPlayable(other) || step > 7 || !isClear(place, semitones(other), note.from)) continue;
    const isLast = note === later.at(-1);
    if (isLast && place.next && Math.abs(semitones(place.next) - semitones(other)) > 9) continue;
    if (semitones(other) === last.height) continue;
    notes[notes.length - 1] = { ...last, to: note.from };
    notes.push(lineNote(note.from, to, other, 'parallel'));
  }
  return stretched(notes, slot.to);
}

/** The last note lasts to the end of its stretch. */
function stretched(notes: readonly LineNote[], to: Ticks): readonly LineNote[] {
  return notes.map((note, k) => ({ ...note, to: notes[k + 1]?.from ?? to }));
}

/** By step to the next pitch, in the last beats of a stretch; none where it is a step away, or too far. */
function walk(place: Place, kind: LineNote['kind']): readonly LineNote[] | undefined {
  const { slot, pitch, next, isPlayable, player, ground } = place;
  if (!next) return undefined;
  const beat = beatOf(place);
  const beats = Math.floor((slot.to - slot.from) / beat);
  const distance = staffPosition(next) - staffPosition(pitch);
  const between = Math.abs(distance) - 1;
  if (beats < 2 || between < 1 || between > 3) return undefined;
  const isQuick = between >= beats;
  const unit =
    isQuick && !isFirstYear(player) && !isCompound(ground.spans[slot.bar]?.meter ?? ground.tune.meter)
      ? beat / 2
      : beat;
  if (between * unit >= slot.to - slot.from) return undefined;
  const steps = Array.from({ length: between }, (_, k) => stepFrom(place, pitch, (k + 1) * Math.sign(distance)));
  const from = slot.to - between * unit;
  if (!steps.every((one, k) => isPlayable(one) && isClear(place, semitones(one), from + k * unit))) return undefined;
  return [
    lineNote(slot.from, from, pitch, 'chord'),
    ...steps.map((one, k) => lineNote(from + k * unit, from + (k + 1) * unit, one, kind)),
  ];
}

/** Moves where the tune rests or holds: with the tune's own last figure, else by step; elsewhere it is held. */
function counterNotes(place: Place): readonly LineNote[] | undefined {
  const { slot, tune, ground } = place;
  const beat = beatOf(place);
  const here = noteAt(tune, slot.from);
  const next = notesIn(tune, slot.from, ground.end).find(({ from }) => from > slot.from);
  // How long the tune is still from here: resting, or holding one note.
  const quietTo = Math.min(slot.to, here ? here.to : (next?.from ?? slot.to));
  const isHeld = here ? here.to - here.from >= 2 * beat : quietTo - slot.from >= beat;
  if (!isHeld || quietTo <= slot.from + beat) return undefined;
  return figure(place, quietTo) ?? beatByBeat(place, quietTo);
}

/** What speaks against a note of a counter-melody; figures ours. */
const PATH = { skip: 0.6, leftBySkip: 4, rub: 3, same: 1.5, far: 1.2, turnsBack: 0.3 } as const;

/** A note on every beat of a quiet stretch: the way by steps and chord tones that leads on best to the next pitch. */
function beatByBeat(place: Place, to: Ticks): readonly LineNote[] | undefined {
  const { slot, pitch, next, isPlayable } = place;
  const beat = beatOf(place);
  const starts: Ticks[] = [];
  for (let at = slot.from + beat; at < to && starts.length < 3; at += beat) starts.push(at);
  if (starts.length === 0) return undefined;
  interface Way {
    readonly notes: readonly Pitch[];
    readonly cost: number;
  }
  let ways: readonly Way[] = [{ notes: [pitch], cost: 0 }];
  for (const at of starts)
    ways = ways.flatMap(({ notes, cost }) => {
      const last = notes.at(-1) ?? pitch;
      return [-2, -1, 1, 2].flatMap((steps): readonly Way[] => {
        const one = stepFrom(place, last, steps);
        const skips = Math.abs(steps) === 2;
        if (!isPlayable(one) || !isClear(place, semitones(one), at) || (skips && !isTone(place, one))) return [];
        const leaves = skips && notes.length > 1 && !isTone(place, last) ? PATH.leftBySkip : 0;
        const before = notes.at(-2);
        const back = before && semitones(before) === semitones(one) ? PATH.turnsBack : 0;
        return [{ notes: [...notes, one], cost: cost + (skips ? PATH.skip : 0) + leaves + back }];
      });
    });
  const ends = ways.map((way) => {
    const last = way.notes.at(-1) ?? pitch;
    const away = next ? Math.abs(staffPosition(next) - staffPosition(last)) : 0;
    const end = away === 0 && next ? PATH.same : Math.max(0, away - 1) * PATH.far;
    const isLeft = next && !isTone(place, last) && away > 1 ? PATH.leftBySkip : 0;
    // A note that is held on while the tune moves again belongs to the chord.
    const isHeld = to < slot.to && !isTone(place, last) ? PATH.rub : 0;
    return { way, cost: way.cost + end + isLeft + isHeld };
  });
  const best = ends.reduce<(typeof ends)[number] | undefined>(
    (least, one) => (!least || one.cost < least.cost ? one : least),
    undefined,
  );
  if (!best) return undefined;
  return stretched(
    best.way.notes.map((one, k) =>
      lineNote(k === 0 ? slot.from : (starts[k - 1] ?? slot.from), slot.to, one, k === 0 ? 'chord' : 'passing'),
    ),
    slot.to,
  );
}

/** The tune's figure before its held note, moved to begin on the chosen pitch. */
function figure(place: Place, to: Ticks): readonly LineNote[] | undefined {
  const { slot, pitch, next, tune, isPlayable, player, ground } = place;
  const least = shortestFor(player, ground);
  const before = notesIn(tune, Math.max(0, slot.from - 2 * (slot.to - slot.from)), slot.from).filter(
    ({ to: end, from }) => end <= slot.from && end - from < 2 * beatOf(place) && end - from >= least,
  );
  const room = to - slot.from;
  for (let count = Math.min(4, before.length); count >= 3; count -= 1) {
    const model = before.slice(-count);
    const begin = model[0]?.from ?? 0;
    const length = (model.at(-1)?.to ?? 0) - begin;
    const isWhole = model.every(
      (note, k) => (note.to - note.from) % least === 0 && (k === 0 || note.from === model[k - 1]?.to),
    );
    if (!isWhole || length > room) continue;
    const first = model[0];
    if (!first) continue;
    const start = slot.from;
    const notes = model.map((note) =>
      lineNote(
        start + note.from - begin,
        start + note.to - begin,
        note === first ? pitch : stepFrom(place, pitch, staffPosition(note.pitch) - staffPosition(first.pitch)),
        'figure',
      ),
    );
    const last = notes.at(-1);
    const leads = !next || !last || Math.abs(semitones(next) - last.height) <= 5;
    const isMoving = notes.some(({ height }) => height !== notes[0]?.height);
    const fits = notes.every(
      (note, k) => k === 0 || (isPlayable(note.pitch) && isClear(place, note.height, note.from)),
    );
    if (leads && isMoving && fits) return stretched(notes, slot.to);
  }
  return undefined;
}

/** Roots that are held in a slow tune; struck by the beat in a march; walking in swing; a step into the next chord else. */
function bassNotes(place: Place): readonly LineNote[] | undefined {
  const { slot, pitch, next, style, player, isPlayable } = place;
  if (isFirstYear(player)) return undefined;
  const beat = beatOf(place);
  const beats = Math.floor((slot.to - slot.from) / beat);
  if (style === 'swing' && beats >= 2) return walkingBass(place, beats, beat);
  if (beats < 2 || !next) return undefined;
  const distance = staffPosition(next) - staffPosition(pitch);
  if (Math.abs(distance) === 2 || (beats >= 3 && Math.abs(distance) === 3)) return walk(place, 'passing');
  if (style !== 'march' && style !== 'dance') return undefined;
  // Struck twice, the second time as short.
  const middle = slot.from + Math.ceil(beats / 2) * beat;
  const fifth = slot.chord?.tones.find(({ degree }) => degree === 5)?.pitchClass;
  const down =
    fifth &&
    [pitch.octave - 1, pitch.octave]
      .map((octave) => ({ ...fifth, octave }))
      .find(
        (one) =>
          isPlayable(one) && Math.abs(semitones(one) - semitones(pitch)) <= 7 && isClear(place, semitones(one), middle),
      );
  return down && semitones(down) < semitones(pitch) && beats >= 3
    ? [lineNote(slot.from, middle, pitch, 'chord'), lineNote(middle, slot.to, down, 'chord')]
    : undefined;
}

/** A note on every beat: the chosen one, chord tones or steps, and the last next door to where it goes. */
function walkingBass(place: Place, beats: number, beat: Ticks): readonly LineNote[] {
  const { slot, pitch, next, isPlayable, others } = place;
  const goal = next ?? pitch;
  const notes: LineNote[] = [lineNote(slot.from, slot.from + beat, pitch, 'chord')];
  for (let k = 1; k < beats; k += 1) {
    const at = slot.from + k * beat;
    const last = notes.at(-1)?.pitch ?? pitch;
    const left = beats - k;
    const down = semitones(goal) < semitones(last) ? -1 : 1;
    // In between two of one kind: the chord's next tone; before another pitch: next door to it, from this side first.
    const steps =
      left > 1
        ? [2, 1, -2, -1].map((by) => stepFrom(place, last, by * down))
        : [-1, 1].map((by) => stepFrom(place, goal, by * down));
    const turns = [2, 4, -2].map((by) => stepFrom(place, pitch, by));
    // A tone of the chord that lies on the way.
    const between = stepFrom(place, last, 2 * down);
    const gap = Math.abs(semitones(goal) - semitones(between));
    const isOnWay = left === 1 && gap > 0 && gap <= 4 && isTone(place, between);
    const wanted =
      semitones(goal) === semitones(pitch) && left === 1
        ? [...turns, ...steps]
        : [...(isOnWay ? [between] : []), ...steps, ...turns];
    const lowest = Math.min(...others.flatMap((line) => noteAt(line, at)?.height ?? []));
    const before = notes.at(-2)?.height;
    const found = wanted.find(
      (one) =>
        isPlayable(one) &&
        semitones(one) !== semitones(last) &&
        semitones(one) !== before &&
        Math.abs(semitones(one) - semitones(last)) <= 7 &&
        semitones(one) < lowest &&
        isClear(place, semitones(one), at),
    );
    notes.push(lineNote(at, at + beat, found ?? last, found ? 'passing' : 'chord'));
  }
  return stretched(notes, slot.to);
}

/** The style's own rhythm on one note: after the beat in dances in three and in swing, on it elsewhere. */
function rhythmNotes(place: Place): readonly LineNote[] | undefined {
  const { slot, pitch, style } = place;
  const beat = beatOf(place);
  const beats = Math.floor((slot.to - slot.from) / beat);
  if (beats < 2) return undefined;
  const strikes = beats >= 3 ? [1, 2] : style === 'swing' ? [1] : SLOW.has(style) ? [0] : [0, 1];
  const length = SLOW.has(style) && beats === 2 ? 2 * beat : beat;
  return strikes.map((k) => lineNote(slot.from + k * beat, slot.from + k * beat + length, pitch, 'chord'));
}
