import { type Pitch, pitchClassOf, semitones } from '../../pitch';
import type { Bar, BarSpan, EventId, Note, ScoreEvent, SoundingNote, Tune } from '../../score';
import { beatNumberAt, readsWell, type Ticks, TICKS_PER_QUARTER, weightAt } from '../../time';
import type { Change } from '../../work';
import { beatsRead } from '../simplify/slots';
import { type Figure, type NoteDevice, type Piece, type Spot } from './devices';

const EIGHTH = TICKS_PER_QUARTER / 2;

/** Where an event stands in its line, for what is made of it. */
export interface EventPlace {
  readonly tune: Tune;
  /** Of its bar. */
  readonly index: number;
  readonly span: BarSpan;
  readonly spans: readonly BarSpan[];
  readonly notes: readonly SoundingNote[];
  /** Indices of the last notes of phrases. */
  readonly ends: ReadonlySet<number>;
  readonly wishes: EventWishes;
}

/** Which round it is, and whether notes may lean over the beat. */
export interface EventWishes {
  readonly round: number;
  readonly leans: boolean;
}

/** A figure at its place: what stands instead of some events, and how it is told. */
export interface Placed {
  readonly instead: ReadonlyMap<EventId, readonly ScoreEvent[]>;
  readonly bars: readonly number[];
  readonly marked: readonly EventId[];
  readonly detail: Change['detail'];
}

/** A figure at its note, as events and in words. */
export function figureAt(
  { index, span, wishes }: EventPlace,
  device: NoteDevice,
  figure: Figure,
  { event, next }: Spot,
  inBar: Ticks,
): Placed {
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

export function addedBy(figure: Figure): readonly Pitch[] {
  return figure.kind === 'pieces'
    ? figure.pieces.slice(1).map(({ pitch }) => pitch)
    : (figure.signs.graces ?? []).slice(0, 1).map(({ pitch }) => pitch);
}

/** Whether every piece is one printed value at its place, so that the rhythm stays one that players know. */
export function readWell(
  pieces: readonly Piece[],
  inBar: Ticks,
  { meter }: BarSpan,
  { leans }: Pick<EventWishes, 'leans'>,
): boolean {
  let start = inBar;
  for (const { length, isThird } of pieces) {
    const at = start;
    if (isThird) {
      // The three of a beat stand in it by themselves.
      start += length;
      continue;
    }
    const beat = leans ? undefined : beatsRead(meter).findLast((one) => one.start <= at);
    if (beat && at > beat.start && at + length > beat.start + beat.length) return false;
    if (!readsWell(at, length, meter)) return false;
    start += length;
  }
  return true;
}

/**
 * What is added to an event is called after it and the round. The first four
 * rounds have a letter each, which hand edits in stored recipes refer to; from
 * the fifth on the round's number stands in the name.
 */
export const addedId = (id: EventId, round: number, k: number): EventId =>
  `${id}.${'dfgh'[round - 1] ?? `k${round}n`}${k}`;

/** Whether an event was added by an earlier round. */
export const isAdded = (id: EventId): boolean => /\.(?:[dfgh]|k\d+n)\d+$/.test(id);

function cut(event: Note, pieces: readonly Piece[], round: number): readonly ScoreEvent[] {
  const group = { tuplet: { id: addedId(event.id, round, 0), actual: 3, normal: 2 } };
  return pieces.map(({ pitch, length, isThird }, k): Note =>
    k === 0
      ? { ...event, length, ...(isThird && group) }
      : { kind: 'note', id: addedId(event.id, round, k), pitch, length, ...(isThird && group) },
  );
}

/** The next note struck an eighth early and held on. */
export function anticipation(place: EventPlace, note: number, spot: Spot): Placed | undefined {
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

/**
 * A repeat, an ending or a jump between two bars: what comes next may be another bar than the one that follows on
 * paper.
 */
export function isSeam(bar: Bar | undefined, next: Bar | undefined): boolean {
  return (
    bar?.repeatEnd !== undefined ||
    bar?.endingStops === true ||
    bar?.jumps !== undefined ||
    next?.repeatStart === true ||
    next?.ending !== undefined ||
    next?.jumps !== undefined
  );
}
