import type { Phrase } from '../../analysis';
import { semitones } from '../../pitch';
import {
  type Articulation,
  type Bar,
  barNumbers,
  barSpans,
  type EventId,
  isNote,
  mapNotes,
  type Note,
  type SoundingNote,
  soundingNotes,
  type Tune,
} from '../../score';
import { beatsOf, isCompound, type Meter, middleOf, type Ticks } from '../../time';
import type { ArticulationStyle, Change } from '../../work';
import { isAdded } from '../embellish/events';
import type { Slur } from '../phrasing/lineView';
import { lastEvents, slursIn } from '../phrasing/ownSlurs';

/**
 * The line with slurs and dots in another articulation; each bar that reads otherwise is named. Accents and all else
 * stay.
 * Rule: slurs are music, not an aid: they do not fade.
 */
export function articulated(
  tune: Tune,
  phrases: readonly Phrase[],
  style: ArticulationStyle,
): { readonly tune: Tune; readonly changes: readonly Change[] } {
  if (style === 'as-written') return { tune, changes: [] };
  const notes = soundingNotes(tune);
  const written = slursIn(tune, notes);
  const ends = new Set(phrases.map(({ to }) => to - 1));
  const slurs = (
    style === 'each'
      ? []
      : style === 'tongued' || style === 'crisp'
        ? written.filter(([from, to]) => to - from === 1)
        : grouped(tune, notes, ends, style)
  ).filter(([from, to]) => to > from && !sharesPitch(notes, from, to));
  const dotted = new Set(style === 'crisp' || style === 'swung' ? shortNotes(tune, notes, slurs, style) : []);
  const starts = countsBy(slurs.map(([from]) => notes[from]?.first.id ?? ''));
  const lastOf = lastEvents(tune);
  const stops = countsBy(slurs.map(([, to]) => lastOf.get(notes[to]?.first.id ?? '') ?? ''));
  const struck = new Set(notes.map(({ first }) => first.id));
  const bars = mapNotes(tune.bars, (note) =>
    respoken(
      note,
      starts.get(note.id) ?? 0,
      stops.get(note.id) ?? 0,
      struck.has(note.id) ? dotted.has(note.id) : undefined,
    ),
  );
  const numbers = barNumbers(tune);
  const changes = bars.flatMap((bar, barIndex): readonly Change[] =>
    bar === tune.bars[barIndex]
      ? []
      : [{ bar: numbers[barIndex] ?? 0, barIndex, events: [], detail: { kind: 'articulation', style } }],
  );
  return { tune: { ...tune, bars }, changes };
}

const DOTS: ReadonlySet<Articulation> = new Set(['staccato', 'staccatissimo', 'tenuto']);

function respoken(note: Note, slurStarts: number, slurEnds: number, isDotted: boolean | undefined): Note {
  const { slurStarts: hadStarts = 0, slurEnds: hadEnds = 0, articulations = [], ...plain } = note;
  const kept =
    isDotted === undefined
      ? articulations
      : articulations.filter((one) => !DOTS.has(one) || (one === 'staccato' && isDotted));
  const now: readonly Articulation[] = isDotted && !kept.includes('staccato') ? ['staccato', ...kept] : kept;
  if (
    slurStarts === hadStarts &&
    slurEnds === hadEnds &&
    now.length === articulations.length &&
    now.every((one, k) => one === articulations[k])
  )
    return note;
  return {
    ...plain,
    ...(now.length > 0 && { articulations: now }),
    ...(slurStarts > 0 && { slurStarts }),
    ...(slurEnds > 0 && { slurEnds }),
  };
}

function countsBy(ids: readonly EventId[]): ReadonlyMap<EventId, number> {
  return ids.reduce((counts, id) => counts.set(id, (counts.get(id) ?? 0) + 1), new Map<EventId, number>());
}

function sharesPitch(notes: readonly SoundingNote[], from: number, to: number): boolean {
  return notes
    .slice(from, to)
    .some(({ pitch }, k) => semitones(pitch) === semitones(notes[from + k + 1]?.pitch ?? pitch));
}

/**
 * Groups of notes that follow one another without a rest, inside a bar and a phrase, as a style joins them.
 * Rule: a pickup is not slurred over the barline.
 */
function grouped(
  tune: Tune,
  notes: readonly SoundingNote[],
  ends: ReadonlySet<number>,
  style: 'smooth' | 'swung' | 'lilting',
): readonly Slur[] {
  const spans = barSpans(tune);
  const joins = (k: number) => {
    const [here, next] = [notes[k], notes[k + 1]];
    return (
      here !== undefined &&
      next?.bar === here.bar &&
      here.start + here.length === next.start &&
      !ends.has(k) &&
      semitones(here.pitch) !== semitones(next.pitch)
    );
  };
  const placeOf = (note: SoundingNote) => placeInBar(note, spans[note.bar]?.meter ?? tune.meter);
  const slurs: Slur[] = [];
  for (let k = 0; k < notes.length;) {
    let to = k;
    const isOneTuplet = (at: number) =>
      tupletOf(notes[at]) !== undefined && tupletOf(notes[at]) === tupletOf(notes[at + 1]);
    // A triplet is slurred whole or not at all.
    if (style === 'smooth')
      while (joins(to) && (isOneTuplet(to) || sameHalf(notes[to], notes[to + 1], placeOf))) to += 1;
    else if (tupletOf(notes[k]) !== undefined && tupletOf(notes[k]) !== tupletOf(notes[k - 1]))
      while (joins(to) && isOneTuplet(to)) to += 1;
    else if (
      tupletOf(notes[k + 1]) === undefined &&
      tupletOf(notes[k]) === undefined &&
      joins(k) &&
      isPair(style, notes[k], notes[k + 1], placeOf)
    )
      to = k + 1;
    if (to > k) slurs.push([k, to]);
    k = to + 1;
  }
  return slurs;
}

const tupletOf = (note: SoundingNote | undefined) => note?.first.tuplet?.id;

interface PlaceInBar {
  readonly meter: Meter;
  /** Which beat, from 0, how far into it, and how long it is. */
  readonly beat: number;
  readonly inBeat: Ticks;
  readonly beatLength: Ticks;
}

function placeInBar(note: SoundingNote, meter: Meter): PlaceInBar {
  const beats = beatsOf(meter);
  const beat = beats.findLastIndex(({ start }) => start <= note.inBar);
  return {
    meter,
    beat,
    inBeat: note.inBar - (beats[beat]?.start ?? 0),
    beatLength: beats[beat]?.length ?? 1,
  };
}

type PlaceOf = (note: SoundingNote) => PlaceInBar;

/** Both in one half of their bar; in meters of more than three beats without a middle, the first half is the longer. */
function sameHalf(a: SoundingNote | undefined, b: SoundingNote | undefined, placeOf: PlaceOf): boolean {
  if (!a || !b) return false;
  const { meter } = placeOf(a);
  const beats = beatsOf(meter);
  const middle =
    middleOf(meter) ?? (beats.length > 3 ? beats[Math.ceil(beats.length / 2)]?.start : undefined) ?? Infinity;
  return a.inBar < middle === b.inBar < middle;
}

/** Two notes that are slurred: swung, from an off-beat into the beat; lilting, on the beat and after it. */
function isPair(
  style: 'swung' | 'lilting',
  note: SoundingNote | undefined,
  next: SoundingNote | undefined,
  placeOf: PlaceOf,
): boolean {
  if (!note || !next) return false;
  const [here, there] = [placeOf(note), placeOf(next)];
  const { meter, beat, inBeat, beatLength } = here;
  if (note.length >= beatLength) return false;
  if (style === 'swung') return inBeat > 0 && there.inBeat === 0;
  // In simple meters every other beat, so that two are slurred and two are tongued.
  const isTurn = isCompound(meter) || beat % 2 === 0 || note.length <= beatLength / 4;
  return inBeat === 0 && there.beat === beat && isTurn;
}

/** What is played short: notes within a beat; when swung, only the last before a rest. */
function shortNotes(
  tune: Tune,
  notes: readonly SoundingNote[],
  slurs: readonly Slur[],
  style: 'crisp' | 'swung',
): readonly EventId[] {
  const spans = barSpans(tune);
  const slurred = new Set(slurs.flatMap(([from, to]) => Array.from({ length: to - from + 1 }, (_, k) => from + k)));
  return notes.flatMap((note, k) => {
    const beat = beatsOf(spans[note.bar]?.meter ?? tune.meter)[0]?.length ?? 0;
    const next = notes[k + 1];
    if (style === 'crisp') return note.length < beat && !slurred.has(k) ? [note.first.id] : [];
    return note.length <= beat / 2 && (!next || next.start > note.start + note.length) ? [note.first.id] : [];
  });
}

/**
 * Slurs for what was added: the note of the tune and what was added to it go under one bow, where no slur stands
 * already and no note is struck again. Common practice of bowing variations: the strokes stay those of the tune.
 */
export function slurredAdditions(tune: Tune): Tune {
  let open = 0;
  let touched = false;
  const bars = tune.bars.map((bar): Bar => {
    const slurs = new Map<EventId, 'starts' | 'ends'>();
    const { events } = bar;
    for (let k = 0; k < events.length; k += 1) {
      const event = events[k];
      if (!event || !isNote(event)) continue;
      const isInside = open > 0 || (event.slurStarts ?? 0) > 0;
      open += (event.slurStarts ?? 0) - (event.slurEnds ?? 0);
      if (isInside || event.tied || isAdded(event.id)) continue;
      let last: Note = event;
      while (k + 1 < events.length) {
        const next = events[k + 1];
        const isOwn = next && isNote(next) && isAdded(next.id) && next.id.startsWith(`${event.id}.`) && !next.tied;
        if (!isOwn || semitones(next.pitch) === semitones(last.pitch)) break;
        last = next;
        k += 1;
      }
      if (last === event) continue;
      slurs.set(event.id, 'starts');
      slurs.set(last.id, 'ends');
    }
    if (slurs.size === 0) return bar;
    touched = true;
    return {
      ...bar,
      events: events.map((event) => {
        const slur = isNote(event) ? slurs.get(event.id) : undefined;
        return slur === undefined ? event : { ...event, ...(slur === 'starts' ? { slurStarts: 1 } : { slurEnds: 1 }) };
      }),
    };
  });
  return touched ? { ...tune, bars } : tune;
}
