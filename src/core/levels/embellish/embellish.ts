import { chordTonesUnder } from '../../analysis/chordsUnder';
import type { Phrase } from '../../analysis/phrases';
import type { Key } from '../../pitch/key';
import { chroma, pitchClassOf, semitones, staffPosition, type Pitch, type PitchClass } from '../../pitch/pitch';
import { scaleStep } from '../../pitch/scaleSteps';
import { barSpans, soundingNotes, type BarSpan, type SoundingNote } from '../../score/sounding';
import {
  barNumbers,
  isNote,
  keysOf,
  type Bar,
  type EventId,
  type Note,
  type Rest,
  type ScoreEvent,
  type Tune,
} from '../../score/tune';
import { beatNumberAt, beatsOf, weightAt } from '../../time/meter';
import { valueOfTicks } from '../../time/noteValue';
import { spellNoteLength, spellRestLength } from '../../time/spellLength';
import { TICKS_PER_QUARTER, type Ticks } from '../../time/ticks';
import { chanceFrom, type Chance } from '../../chance';
import type { Change } from '../change';
import { beatsRead } from '../simplify/slots';
import { DEVICE_WEIGHTS, figuresOf, type Figure, type NoteDevice, type Piece, type Spot } from './devices';
import type { Device } from '../recipe/groups';

/** One time that a line is embellished. */
export interface Round {
  readonly devices: readonly Device[];
  /** Figures to a hundred beats: 10 is a place here and there, 100 every beat. */
  readonly density: number;
  /** A passage that comes again is embellished differently the second time; else alike. */
  readonly varies: boolean;
  /** The shortest notes that may be added, longest first. */
  readonly units: readonly Ticks[];
  /** Grace notes and ornaments may stand on short notes and on the ends of phrases, whose pitch and place stay all the same. */
  readonly isPressed: boolean;
}

export interface EmbellishWishes extends Round {
  /** Which time round this is, from 1: an embellished line can be embellished further, and what is added is named apart. */
  readonly round: number;
  /** Any number: another one, other places and figures. */
  readonly seed: number;
  /** Whether the player has a pitch, concert, as the line lies now. */
  readonly isFree: (pitch: Pitch) => boolean;
  /** Whether what is added may begin off a beat and last over the next. */
  readonly leans: boolean;
  /** Rests that a teacher wanted. */
  readonly silent: ReadonlySet<EventId>;
  /** Bars that are left alone. */
  readonly locked: ReadonlySet<number>;
  /** Bars embellished as much as they can bear, by a seed of their own, whatever the density. */
  readonly own: ReadonlyMap<number, number>;
}

export interface Embellished {
  readonly tune: Tune;
  readonly changes: readonly Change[];
  /** Struck notes that come an eighth early now. */
  readonly early: ReadonlySet<EventId>;
}

/** A figure at its place: what stands instead of some events, and how it is told. */
interface Placed {
  readonly instead: ReadonlyMap<EventId, readonly ScoreEvent[]>;
  readonly bars: readonly number[];
  readonly marked: readonly EventId[];
  readonly detail: Change['detail'];
  readonly early?: EventId;
}

const EIGHTH = TICKS_PER_QUARTER / 2;

/** The share of the density that a bar may take beyond its beats; more, and the tune is lost under it. */
const MOST_TO_A_BAR = 4;

/**
 * Adds to a line by the devices of `devices`. Its own notes stay where they are, or come an eighth early; the first of the tune
 * and the last of every phrase are not touched; nothing is added that the player does not have. What comes out
 * depends on the notes of the bar, the seed and the density alone, not on the key or on what happens in other bars: a denser
 * wish keeps what a sparser one has put in.
 * Rule (hard): the structure notes stay within one eighth of where they were; the phrase endings stay; range and
 * rhythm words of the level hold.
 */
export function embellish(tune: Tune, phrases: readonly Phrase[], wishes: EmbellishWishes): Embellished {
  const notes = soundingNotes(tune);
  const spans = barSpans(tune);
  const keys = keysOf(tune);
  const tones = chordTonesUnder(tune, notes);
  const ends = new Set(phrases.map(({ to }) => to - 1));
  const byEvent = new Map(notes.map((note, index) => [note.first.id, index]));
  const seen = new Map<string, number>();
  const used = new Set<EventId>();
  const chosen: Placed[] = [];
  tune.bars.forEach((bar, index) => {
    const span = spans[index];
    const key = keys[index] ?? tune.key;
    if (!span || bar.events.length === 0) return;
    const words = barWords(bar, tune.bars[index + 1], key);
    const times = (seen.get(words) ?? 0) + 1;
    seen.set(words, times);
    const own = wishes.own.get(index);
    if (wishes.locked.has(index) || (own === undefined && wishes.density <= 0)) return;
    const chance = chanceFrom(
      `${wishes.round}/${own ?? wishes.seed}/${wishes.varies && own === undefined ? times : 1}/${words}`,
    );
    const share = chance();
    const beats = Math.max(
      wishes.isPressed ? 1 : 0,
      beatsOf(span.meter).filter(({ start }) => start >= span.offset && start < span.offset + span.length).length,
    );
    const count =
      own === undefined ? Math.min(MOST_TO_A_BAR, Math.floor((wishes.density / 100) * beats + share)) : MOST_TO_A_BAR;
    if (count === 0) return;
    const found = candidatesIn({ tune, bar, index, span, spans, key, notes, tones, ends, byEvent, chance, wishes });
    let taken = 0;
    for (const { event, make } of found.toSorted((a, b) => b.score - a.score)) {
      if (taken >= count) break;
      const place = used.has(event) ? undefined : make();
      if (!place || [...place.instead.keys()].some((id) => used.has(id))) continue;
      if (place.bars.some((other) => wishes.locked.has(other))) continue;
      for (const id of place.instead.keys()) used.add(id);
      chosen.push(place);
      taken += 1;
    }
  });
  if (chosen.length === 0) return { tune, changes: [], early: new Set() };
  const instead = new Map(chosen.flatMap((place) => [...place.instead]));
  const numbers = barNumbers(tune);
  const bars = tune.bars.map((bar) =>
    bar.events.some(({ id }) => instead.has(id))
      ? { ...bar, events: bar.events.flatMap((event) => instead.get(event.id) ?? [event]) }
      : bar,
  );
  return {
    tune: { ...tune, bars },
    changes: chosen.flatMap(({ bars: touched, marked, detail }) =>
      touched.map((barIndex): Change => ({ bar: numbers[barIndex] ?? 0, barIndex, detail, events: marked })),
    ),
    early: new Set(chosen.flatMap(({ early }) => (early === undefined ? [] : [early]))),
  };
}

/** What a bar is made of, whatever its key and octave, with the note it leads to. */
function barWords(bar: Bar, next: Bar | undefined, { tonic }: Key): string {
  const home = staffPosition({ ...tonic, octave: 4 });
  let before: number | undefined;
  const words = [...bar.events, ...(next?.events.slice(0, 1) ?? [])].map((event) => {
    if (!isNote(event)) return `z${event.length}`;
    const height = staffPosition(event.pitch);
    const step = before === undefined ? (((height - home) % 7) + 7) % 7 : height - before;
    before = height;
    return `${step}:${(chroma(event.pitch) - chroma(tonic) + 12) % 12}:${event.length}${event.tied ? '~' : ''}`;
  });
  return words.join(' ');
}

interface BarPlace {
  readonly tune: Tune;
  readonly bar: Bar;
  readonly index: number;
  readonly span: BarSpan;
  readonly spans: readonly BarSpan[];
  readonly key: Key;
  readonly notes: readonly SoundingNote[];
  readonly tones: readonly (readonly PitchClass[] | undefined)[];
  readonly ends: ReadonlySet<number>;
  readonly byEvent: ReadonlyMap<EventId, number>;
  readonly chance: Chance;
  readonly wishes: EmbellishWishes;
}

/** A figure that may be made of an event; looked at only when its turn comes. */
interface Candidate {
  readonly event: EventId;
  readonly score: number;
  readonly make: () => Placed | undefined;
}

/** What might be done in a bar. */
function candidatesIn(place: BarPlace): readonly Candidate[] {
  const { bar, span, tune, index } = place;
  let start = span.offset;
  let continues = isTiedOn(tune.bars[index - 1]);
  return bar.events.flatMap((event, k): readonly Candidate[] => {
    const inBar = start;
    start += event.length;
    const isContinued = continues;
    continues = isNote(event) && event.tied === true;
    if ((event.tuplet && !place.wishes.isPressed) || event.optional || isContinued) return [];
    return isNote(event) ? figuresAt(place, event, inBar) : runIns(place, event, k, inBar);
  });
}

function isTiedOn(bar: Bar | undefined): boolean {
  const last = bar?.events.at(-1);
  return last !== undefined && isNote(last) && last.tied === true;
}

function figuresAt(place: BarPlace, event: Note, inBar: Ticks): readonly Candidate[] {
  const { notes, ends, byEvent, chance, wishes, span, key, tones } = place;
  const note = byEvent.get(event.id);
  const struck = note === undefined ? undefined : notes[note];
  // Of a note that is tied on, only the first piece is here; and the end of a phrase is where the ear rests: signs alone, if anything.
  const isWhole = !event.tied && !event.tuplet && note !== undefined && !ends.has(note);
  if (note === undefined || !struck || event.fermata || (!isWhole && !wishes.isPressed)) return [];
  const after = notes[note + 1];
  const home = beatsOf(span.meter).findLast((beat) => beat.start <= inBar);
  const spot: Spot = {
    event,
    next: after?.first,
    isJoined: after !== undefined && after.start === struck.start + struck.length,
    isOnBeat: weightAt(span.meter, inBar) >= 0.5,
    beat: home?.length ?? TICKS_PER_QUARTER,
    key,
    tones: tones[note] ?? [],
    units: wishes.units,
    isPressed: wishes.isPressed,
  };
  return wishes.devices.flatMap((device): readonly Candidate[] => {
    if (device === 'run-in' || (!isWhole && device !== 'grace' && device !== 'turn')) return [];
    const score = DEVICE_WEIGHTS[device] * (0.5 + chance());
    const pick = chance();
    return [
      {
        event: event.id,
        score,
        make: () =>
          device === 'anticipation' ? anticipation(place, note, spot) : figureAt(place, device, spot, inBar, pick),
      },
    ];
  });
}

/** One of the figures of a device that the player and the page can bear. */
function figureAt(
  { index, span, wishes }: BarPlace,
  device: NoteDevice,
  spot: Spot,
  inBar: Ticks,
  pick: number,
): Placed | undefined {
  const { event, next } = spot;
  const fitting = figuresOf(device, spot).filter((figure) => {
    const added = addedBy(figure);
    if (!added.every(wishes.isFree) || added.some(({ alter }) => Math.abs(alter) > 1)) return false;
    // A grace before the next note would come in the way of what leads to it.
    return figure.kind === 'signs' || (readWell(figure.pieces, inBar, span, wishes) && !next?.graces);
  });
  const figure = fitting[Math.floor(pick * fitting.length)];
  if (!figure) return undefined;
  const events = figure.kind === 'pieces' ? cut(event, figure.pieces, wishes.round) : [{ ...event, ...figure.signs }];
  const ornament = figure.kind === 'signs' ? figure.signs.ornaments?.[0] : undefined;
  return {
    bars: [index],
    instead: new Map([[event.id, events]]),
    marked: figure.kind === 'pieces' ? events.slice(1).map(({ id }) => id) : [event.id],
    detail: {
      kind: 'embellished',
      device,
      at: pitchClassOf(event.pitch),
      added: addedBy(figure).map(pitchClassOf),
      beat: beatNumberAt(span.meter, inBar),
      ...(next && { to: pitchClassOf(next.pitch) }),
      ...(ornament && { ornament }),
    },
  };
}

function addedBy(figure: Figure): readonly Pitch[] {
  return figure.kind === 'pieces'
    ? figure.pieces.slice(1).map(({ pitch }) => pitch)
    : (figure.signs.graces ?? []).slice(0, 1).map(({ pitch }) => pitch);
}

/** Whether every piece is one printed value at its place, so that the rhythm stays one that players know. */
function readWell(
  pieces: readonly Piece[],
  inBar: Ticks,
  { meter }: BarSpan,
  { leans }: Pick<EmbellishWishes, 'leans'>,
): boolean {
  let start = inBar;
  return pieces.every(({ length }) => {
    const beat = leans ? undefined : beatsRead(meter).findLast((one) => one.start <= start);
    const isOver = beat !== undefined && start > beat.start && start + length > beat.start + beat.length;
    const well = !isOver && valueOfTicks(length) !== undefined && spellNoteLength(start, length, meter).length === 1;
    start += length;
    return well;
  });
}

/**
 * What is added to an event is called after it and the round. The first four
 * rounds have a letter each, which hand edits in stored recipes refer to; from
 * the fifth on the round's number stands in the name.
 */
export const addedId = (id: EventId, round: number, k: number): EventId =>
  `${id}.${'dfgh'[round - 1] ?? `k${round}n`}${k}`;

function cut(event: Note, pieces: readonly Piece[], round: number): readonly ScoreEvent[] {
  return pieces.map(({ pitch, length }, k): Note =>
    k === 0 ? { ...event, length } : { kind: 'note', id: addedId(event.id, round, k), pitch, length },
  );
}

/** The next note struck an eighth early and held on. */
function anticipation(place: BarPlace, note: number, spot: Spot): Placed | undefined {
  const { notes, ends, tune, index, span } = place;
  const { event, next, isJoined } = spot;
  const [struck, after] = [notes[note], notes[note + 1]];
  if (
    !next ||
    !struck ||
    !after ||
    !isJoined ||
    event.length < 2 * EIGHTH ||
    ends.has(note + 1) ||
    next.graces ||
    next.ornaments ||
    next.tuplet ||
    next.tied ||
    next.optional ||
    next.length < EIGHTH
  )
    return undefined;
  const nextSpan = place.spans[after.bar];
  if (!nextSpan || weightAt(nextSpan.meter, after.inBar) < 0.5 || semitones(next.pitch) === semitones(event.pitch))
    return undefined;
  if (after.bar !== index && isSeam(tune.bars[index], tune.bars[after.bar])) return undefined;
  const inBar = struck.inBar;
  const pieces: readonly Piece[] = [
    { pitch: event.pitch, length: event.length - EIGHTH },
    { pitch: next.pitch, length: EIGHTH },
  ];
  if (!readWell(pieces, inBar, span, place.wishes)) return undefined;
  const { slurEnds, slurStarts, hairpinEnds, ...onset } = next;
  const held: Note = {
    kind: 'note',
    id: addedId(next.id, place.wishes.round, 0),
    pitch: next.pitch,
    length: next.length,
    ...(slurEnds && { slurEnds }),
    ...(slurStarts && { slurStarts }),
    ...(hairpinEnds && { hairpinEnds }),
  };
  return {
    bars: [...new Set([index, after.bar])],
    marked: [next.id],
    early: next.id,
    instead: new Map<EventId, readonly ScoreEvent[]>([
      [
        event.id,
        [
          { ...event, length: event.length - EIGHTH },
          { ...onset, length: EIGHTH, tied: true },
        ],
      ],
      [next.id, [held]],
    ]),
    detail: {
      kind: 'embellished',
      device: 'anticipation',
      at: pitchClassOf(next.pitch),
      added: [],
      beat: beatNumberAt(nextSpan.meter, after.inBar),
    },
  };
}

/** A repeat, an ending or a jump between two bars: what comes next may be another bar than the one that follows on paper. */
function isSeam(bar: Bar | undefined, next: Bar | undefined): boolean {
  return (
    bar?.repeatEnd !== undefined ||
    bar?.endingStops === true ||
    bar?.jumps !== undefined ||
    next?.repeatStart === true ||
    next?.ending !== undefined ||
    next?.jumps !== undefined
  );
}

/** The end of a rest walks into the note after it; enough of the rest is left to breathe. */
function runIns(place: BarPlace, event: Rest, k: number, inBar: Ticks): readonly Candidate[] {
  const { bar, span, key, wishes, index, chance, notes, byEvent, tones, tune } = place;
  const unit = wishes.units[0];
  if (!wishes.devices.includes('run-in') || !unit || event.fermata || event.tuplet || wishes.silent.has(event.id))
    return [];
  const next = bar.events[k + 1] ?? (isSeam(bar, tune.bars[index + 1]) ? undefined : tune.bars[index + 1]?.events[0]);
  if (!next || !isNote(next) || next.graces || next.tuplet) return [];
  const rest = event.length - 2 * unit;
  // A whole bar of rest is a player's own: it is left.
  if (rest < unit || (bar.events.length === 1 && event.length === span.length)) return [];
  const score = DEVICE_WEIGHTS['run-in'] * (0.5 + chance());
  const under = tones[byEvent.get(next.id) ?? -1] ?? tones[(byEvent.get(next.id) ?? notes.length) - 1] ?? [];
  const figures = [1, -1].map((side) => [2, 1].map((steps) => scaleStep(next.pitch, -side * steps, key, under)));
  const [from, to] = [inBar, inBar + rest];
  const pieces = figures
    .filter((pitches) => pitches.every((pitch) => wishes.isFree(pitch) && Math.abs(pitch.alter) <= 1))
    .map((pitches) => pitches.map((pitch) => ({ pitch, length: unit })));
  const choice = pieces[Math.floor(chance() * pieces.length)];
  if (!choice || !readWell(choice, to, span, wishes)) return [];
  const rests = spellRestLength(from, rest, span.meter).map((length, part): Rest => ({
    kind: 'rest',
    id: part === 0 ? event.id : addedId(event.id, wishes.round, part + 4),
    length,
  }));
  const added = choice.map(({ pitch, length }, part): Note => ({
    kind: 'note',
    id: addedId(event.id, wishes.round, part),
    pitch,
    length,
  }));
  const made: Placed = {
    bars: [index],
    marked: added.map(({ id }) => id),
    instead: new Map([[event.id, [...rests, ...added]]]),
    detail: {
      kind: 'embellished',
      device: 'run-in',
      at: pitchClassOf(next.pitch),
      added: choice.map(({ pitch }) => pitchClassOf(pitch)),
      beat: beatNumberAt(span.meter, to),
    },
  };
  return [{ event: event.id, score, make: () => made }];
}
