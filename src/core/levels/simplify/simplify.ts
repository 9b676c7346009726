import { derived } from '../../derived';
import { type Phrase, phrasesOf } from '../../analysis';
import { pitchClassOf } from '../../pitch';
import {
  type Bar,
  barNumbers,
  type BarSpan,
  barSpans,
  isNote,
  type Lyric,
  type Note,
  type ScoreEvent,
  type SoundingNote,
  soundingNotes,
  type Tune,
} from '../../score';
import { beatNumberAt, spellNoteLength, spellRestLength, type Ticks } from '../../time';
import type { Change } from '../../work';
import { chooseNotes, type SlotChoice } from './chooseNotes';
import { noteWeights, passingNotes } from './noteWeight';
import { FIRST_WORDS, shortestIn, shortestWord, slotsOf, type RhythmWords, type Slot } from './slots';
import { chosenAlike } from './alike';

export interface Simplified {
  readonly tune: Tune;
  /** The phrases of the source, as runs of the notes that were retained. */
  readonly phrases: readonly Phrase[];
  readonly changes: readonly Change[];
}

/** A note or rest of the simplified melody before it is cut at barlines; `note` is an index into the sounding notes. */
interface Run {
  readonly note: number | undefined;
  readonly start: Ticks;
  readonly length: Ticks;
}

/**
 * The melody in fewer rhythm words, those of a beginner by default: nothing shorter than a quarter (in compound meters
 * an eighth, as the tail of a beat), no tuplets, no grace notes or ornaments. The first note and the last of every
 * phrase stay. Bars in which nothing had to change come back as they were. Rule (hard): bars add up; every bar uses
 * allowed rhythm words only; pitches inside the range and, if given, the known notes; chord symbols unchanged; the
 * first note of the tune and the last note of each phrase keep their pitch class unless the known notes forbid it, and
 * then it is reported.
 * @param outOfReach events whose pitch the player does not have; others are chosen in their place where the tune allows
 *   it
 */
export function simplify(
  tune: Tune,
  phrases: readonly Phrase[] = phrasesOf(tune),
  outOfReach: ReadonlySet<string> = new Set(),
  words: RhythmWords = FIRST_WORDS,
): Simplified {
  const notes = soundingNotes(tune);
  const weights = noteWeights(tune, notes, phrases);
  const passing = passingNotes(tune, notes);
  const slots = slotsOf(tune, words);
  const mustKeep = new Set([0, ...phrases.map(({ to }) => to - 1)]);
  const choices =
    notes.length === 0
      ? slots.map((): SlotChoice => 'rest')
      : chosenAlike(tune, notes, phrases, slots, mustKeep, (set) =>
          chooseNotes(notes, worthOf(notes, weights, outOfReach), slots, mustKeep, passing, words, set),
        );
  const runs = runsOf(choices, slots);
  const spans = barSpans(tune);
  const numbers = barNumbers(tune);
  const retained = new Map<number, Run>();
  for (const run of runs) if (run.note !== undefined) retained.set(run.note, run);
  const marks: MovedMarks = { ...slursThatHold(notes, retained), lyrics: joinedLyrics(notes, retained) };
  const slotStarts = new Set(slots.map(({ start }) => start));
  const runsByBar = byBar(runs, spans);
  const notesByBar = notes.reduce(
    (lists, note, index) => (lists[note.bar]?.push(index), lists),
    spans.map((): number[] => []),
  );
  const made = tune.bars.map((bar, index): SimplifiedBar => {
    const span = spans[index];
    if (!span) return { bar, changes: [] };
    const here = runsByBar[index] ?? [];
    const indices = notesByBar[index] ?? [];
    const name = `${index}:${nameOfRuns(here, notes, marks)}/${indices.filter((note) => !retained.has(note)).join(' ')}`;
    return simplifiedBar(tune, slots, name, () => {
      const events = barEvents(bar, span, here, notes, marks);
      const isSame =
        !indices.some((note) => marks.lyrics.has(notes[note]?.first.id ?? '')) &&
        isInWords(bar.events, span, slotStarts) &&
        isTiedInto(tune.bars[index - 1]) === runsInto(here, span) &&
        sameMusic(bar.events, events);
      const after = isSame ? bar : { ...bar, events };
      const place = {
        before: bar,
        after,
        barIndex: index,
        number: numbers[index] ?? 0,
        span,
        runs: here,
        indices,
        words,
      };
      return { bar: after, changes: barChanges(place, notes, retained) };
    });
  });
  const bars = made.map(({ bar }) => bar);
  const changes = made.flatMap((one) => one.changes);
  return {
    tune: { ...tune, bars },
    phrases: retainedPhrases(phrases, retained),
    changes,
  };
}

interface SimplifiedBar {
  readonly bar: Bar;
  readonly changes: readonly Change[];
}

/**
 * A bar made of a tune, by its place and what stands there, which `name` says. Players who have other notes out of
 * reach share most bars, and what is worked out of a bar later holds for all of them.
 */
const simplifiedBar = derived(
  (_tune: Tune, _slots: readonly Slot[], _name: string, make: () => SimplifiedBar): SimplifiedBar => make(),
  { most: 4_096, by: (tune, slots, name) => [tune, slots, name] },
);

/** All of the runs of a bar that its events are made of. */
function nameOfRuns(
  runs: readonly Run[],
  notes: readonly SoundingNote[],
  { starts, ends, lyrics }: MovedMarks,
): string {
  let name = '';
  for (const { note, start, length } of runs) {
    const id = note === undefined ? '' : (notes[note]?.first.id ?? '');
    name += ` ${note ?? 'z'},${start},${length}`;
    const words = lyrics.get(id);
    if (words) name += `"${words.map(({ text }) => text).join('"')}"`;
    if (starts.size > 0) name += `(${starts.get(id) ?? 0})${ends.get(id) ?? 0}`;
  }
  return name;
}

function retainedPhrases(phrases: readonly Phrase[], retained: ReadonlyMap<number, Run>): readonly Phrase[] {
  const last = phrases.at(-1)?.to ?? 0;
  const counts = [0];
  for (let note = 0; note < last; note += 1) counts.push((counts[note] ?? 0) + (retained.has(note) ? 1 : 0));
  const countBelow = (index: number) => counts[index] ?? 0;
  return phrases
    .map(({ from, to }) => ({ from: countBelow(from), to: countBelow(to) }))
    .filter(({ from, to }) => to > from);
}

function isTiedInto(before: Bar | undefined): boolean {
  const last = before?.events.at(-1);
  return last !== undefined && isNote(last) && last.tied === true;
}

function runsInto(runs: readonly Run[], { start }: BarSpan): boolean {
  return runs.some((run) => run.note !== undefined && run.start < start && run.start + run.length > start);
}

/**
 * Whether a bar is written in the words of the level already: all begins where a word may, without tuplets, graces,
 * ornaments.
 */
function isInWords(events: readonly ScoreEvent[], span: BarSpan, slotStarts: ReadonlySet<Ticks>): boolean {
  let at = span.start;
  return events.every((event) => {
    const isOnSlot = slotStarts.has(at);
    at += event.length;
    return isOnSlot && !event.tuplet && !(isNote(event) && (event.graces || event.ornaments));
  });
}

/** A note out of reach is worth little: it would have to be swapped for another. */
function worthOf(
  notes: readonly SoundingNote[],
  weights: readonly number[],
  outOfReach: ReadonlySet<string>,
): readonly number[] {
  return outOfReach.size === 0
    ? weights
    : weights.map((weight, index) => (outOfReach.has(notes[index]?.first.id ?? '') ? weight - 1.2 : weight));
}

function runsOf(choices: readonly SlotChoice[], slots: readonly Slot[]): readonly Run[] {
  const runs: { note: number | undefined; start: Ticks; length: Ticks }[] = [];
  choices.forEach((choice, k) => {
    const slot = slots[k];
    const last = runs.at(-1);
    if (!slot) return;
    if (last && (choice === 'hold' || (choice === 'rest' && last.note === undefined))) last.length += slot.length;
    else runs.push({ note: typeof choice === 'number' ? choice : undefined, start: slot.start, length: slot.length });
  });
  return runs;
}

/** The runs that sound or rest in each bar; one that is held over a barline stands in both. */
function byBar(runs: readonly Run[], spans: readonly BarSpan[]): readonly (readonly Run[])[] {
  const lists = spans.map((): Run[] => []);
  let first = 0;
  for (const run of runs) {
    while (first < spans.length - 1 && (spans[first + 1]?.start ?? Infinity) <= run.start) first += 1;
    for (let bar = first; bar < spans.length && (spans[bar]?.start ?? 0) < run.start + run.length; bar += 1)
      lists[bar]?.push(run);
  }
  return lists;
}

/** The part of each run that falls into a bar, spelled as notes and ties. */
function barEvents(
  bar: Bar,
  span: BarSpan,
  runs: readonly Run[],
  notes: readonly SoundingNote[],
  marks: MovedMarks,
): readonly ScoreEvent[] {
  const end = span.start + span.length;
  let fresh = 0;
  const freshId = () => `${bar.id}.${(fresh += 1)}`;
  return runs.flatMap((run): readonly ScoreEvent[] => {
    const from = Math.max(run.start, span.start);
    const to = Math.min(run.start + run.length, end);
    const inBar = span.offset + from - span.start;
    const source = run.note === undefined ? undefined : notes[run.note];
    if (!source)
      return spellRestLength(inBar, to - from, span.meter).map((length) => ({ kind: 'rest', id: freshId(), length }));
    const pieces = spellNoteLength(inBar, to - from, span.meter);
    const goesOn = run.start + run.length > end;
    return pieces.map((length, k): Note => {
      const isFirst = from === run.start && k === 0;
      const isLast = k === pieces.length - 1 && !goesOn;
      const note: Note = {
        kind: 'note',
        id: isFirst ? source.first.id : freshId(),
        pitch: source.pitch,
        length,
        ...(!isLast && { tied: true as const }),
      };
      return { ...note, ...(isFirst && onsetMarks(source.first, marks)), ...(isLast && endMarks(source.first, marks)) };
    });
  });
}

/** What stays on the note where it is struck. Grace notes and ornaments do not: they wait. */
function onsetMarks(note: Note, marks: MovedMarks): Partial<Note> {
  const starts = marks.starts.get(note.id);
  const lyrics = marks.lyrics.get(note.id) ?? note.lyrics;
  return {
    ...(note.articulations && { articulations: note.articulations }),
    ...(note.dynamic && { dynamic: note.dynamic }),
    ...(lyrics && { lyrics }),
    ...(note.phrase && { phrase: note.phrase }),
    ...(starts && { slurStarts: starts }),
  };
}

function endMarks(note: Note, marks: MovedMarks): Partial<Note> {
  const ends = marks.ends.get(note.id);
  return { ...(ends && { slurEnds: ends }), ...(note.fermata && { fermata: note.fermata }) };
}

interface SlurEnds {
  readonly starts: ReadonlyMap<string, number>;
  readonly ends: ReadonlyMap<string, number>;
}

/** What is on other notes than in the tune, since those that had it are gone; by the names of notes. */
interface MovedMarks extends SlurEnds {
  readonly lyrics: ReadonlyMap<string, readonly Lyric[]>;
}

/**
 * The words of notes that are left out, sung on the note that is held in their place (before the first one on that), so
 * that a song keeps every syllable: `the` and `wind` on one note, `sing` and `ing` as one word.
 */
function joinedLyrics(
  notes: readonly SoundingNote[],
  retained: ReadonlyMap<number, Run>,
): ReadonlyMap<string, readonly Lyric[]> {
  const found = new Map<string, readonly Lyric[]>();
  if (notes.every(({ first }) => !first.lyrics)) return found;
  const [firstKept] = [...retained.keys()].toSorted((a, b) => a - b);
  let holder = firstKept === undefined ? undefined : notes[firstKept]?.first;
  notes.forEach(({ first }, index) => {
    if (retained.has(index)) holder = first;
    else if (holder && first.lyrics) {
      const isBefore = index < (firstKept ?? 0);
      const own = found.get(holder.id) ?? (isBefore ? [] : (holder.lyrics ?? []));
      found.set(holder.id, first.lyrics.reduce(joined, own));
    }
    if (index === firstKept) {
      const early = found.get(first.id);
      if (early && first.lyrics) found.set(first.id, first.lyrics.reduce(joined, early));
    }
  });
  return found;
}

/** The words of a note with one syllable more, in its verse. */
function joined(words: readonly Lyric[], next: Lyric): readonly Lyric[] {
  const before = words.find(({ verse }) => verse === next.verse);
  if (!before) return [...words, next].toSorted((a, b) => a.verse - b.verse);
  const text = `${before.text}${before.hyphen ? '' : ' '}${next.text}`;
  return words.map((one) => (one === before ? { ...next, text } : one));
}

/** Slurs move to the nearest notes retained inside them; one that would join a note to itself goes. */
function slursThatHold(notes: readonly SoundingNote[], retained: ReadonlyMap<number, Run>): SlurEnds {
  const starts = new Map<string, number>();
  const ends = new Map<string, number>();
  const open: number[] = [];
  notes.forEach((note, index) => {
    for (let k = 0; k < (note.first.slurEnds ?? 0); k += 1) {
      const from = open.pop();
      if (from === undefined) continue;
      const inside = Array.from({ length: index - from + 1 }, (_, offset) => from + offset).filter((n) =>
        retained.has(n),
      );
      const first = notes[inside[0] ?? -1];
      const last = notes[inside.at(-1) ?? -1];
      if (!first || !last || first === last) continue;
      starts.set(first.first.id, (starts.get(first.first.id) ?? 0) + 1);
      ends.set(last.first.id, (ends.get(last.first.id) ?? 0) + 1);
    }
    for (let k = 0; k < (note.first.slurStarts ?? 0); k += 1) open.push(index);
  });
  return { starts, ends };
}

/** Whether a bar sounds and reads the same: then its own events stay, spelling of ties and rests included. */
function sameMusic(before: readonly ScoreEvent[], after: readonly ScoreEvent[]): boolean {
  const strip = (events: readonly ScoreEvent[]) => {
    const heard: { pitch: string; length: Ticks; open: boolean; slurStarts: number; slurEnds: number }[] = [];
    let continues = false;
    for (const event of events) {
      const last = heard.at(-1);
      const slurEnds = isNote(event) ? (event.slurEnds ?? 0) : 0;
      const pitch = isNote(event) ? `${event.pitch.step}${event.pitch.alter}/${event.pitch.octave}` : '';
      if (last && ((continues && last.pitch === pitch) || (pitch === '' && last.pitch === ''))) {
        last.length += event.length;
        last.open = isNote(event) && event.tied === true;
        last.slurEnds += slurEnds;
      } else
        heard.push({
          pitch,
          length: event.length,
          open: isNote(event) && event.tied === true,
          slurStarts: isNote(event) ? (event.slurStarts ?? 0) : 0,
          slurEnds,
        });
      continues = isNote(event) && event.tied === true;
    }
    return JSON.stringify(heard);
  };
  return strip(before) === strip(after);
}

interface ChangedBar {
  readonly before: Bar;
  readonly after: Bar;
  readonly barIndex: number;
  readonly number: number;
  readonly span: BarSpan;
  readonly runs: readonly Run[];
  /** The sounding notes that the tune strikes in this bar. */
  readonly indices: readonly number[];
  readonly words: RhythmWords;
}

function barChanges(
  { before, after, barIndex, number, span, runs, indices, words }: ChangedBar,
  notes: readonly SoundingNote[],
  retained: ReadonlyMap<number, Run>,
): readonly Change[] {
  if (before === after) return [];
  const here: { readonly note: SoundingNote; readonly index: number }[] = [];
  for (const index of indices) {
    const note = notes[index];
    if (note) here.push({ note, index });
  }
  const struck: { readonly note: SoundingNote; readonly run: Run }[] = [];
  for (const run of runs) {
    const note = run.note === undefined ? undefined : notes[run.note];
    if (note && run.start >= span.start) struck.push({ note, run });
  }
  // Only what sounds otherwise than in the tune is marked; a note that merely stands in a changed bar is not.
  const events = struck
    .filter(
      ({ note, run }) =>
        run.start !== note.start || run.length !== note.length || note.first.graces || note.first.ornaments,
    )
    .map(({ note }) => note.first.id);
  const make = (detail: Change['detail'], marked: readonly string[] = events): Change => ({
    bar: number,
    barIndex,
    detail,
    events: marked,
  });
  const changes: Change[] = [];
  const needed = shortestIn(span.meter, words);
  const shortest = shortestWord(span.meter, needed);
  // The eighth of a first book in a compound meter is only ever the tail of a beat.
  const isTail = needed === 'quarter' && shortest.type === 'eighth';
  const lost = here.filter(({ index }) => !retained.has(index));
  if (lost.length > 0) {
    changes.push(
      make({
        kind: 'simplified',
        shortest,
        isTail,
        before: here.map(({ note }) => pitchClassOf(note.pitch)),
        after: struck.map(({ note }) => pitchClassOf(note.pitch)),
        syllablesJoined: lost.some(({ note }) => note.first.lyrics !== undefined),
      }),
    );
  }
  const moved = struck.filter(({ note, run }) => run.start !== note.start);
  if (moved.length > 0) {
    changes.push(
      make(
        {
          kind: 'moved',
          notes: moved.map(({ note, run }) => ({
            pitch: pitchClassOf(note.pitch),
            beat: beatNumberAt(span.meter, span.offset + run.start - span.start),
          })),
        },
        moved.map(({ note }) => note.first.id),
      ),
    );
  }
  const graces = here.reduce((sum, { note }) => sum + (note.first.graces?.length ?? 0), 0);
  if (graces > 0) changes.push(make({ kind: 'graces', count: graces }));
  const ornaments = here.flatMap(({ note }) => note.first.ornaments ?? []);
  if (ornaments.length > 0)
    changes.push(make({ kind: 'ornaments', names: ornaments.map((name) => name.replace('-', ' ')) }));
  return changes.length > 0 ? changes : [make({ kind: 'lengths', shortest, isTail })];
}
