import { chordTonesAt, type Phrase, phrasesOf } from '../src/core/analysis';
import type { Part } from '../src/core/levels';
import { chroma, semitones, staffPosition } from '../src/core/pitch';
import { barSpans, isNote, type Note, type SoundingNote, soundingNotes, type Tune } from '../src/core/score';
import { barTicks, beatsOf, type Ticks } from '../src/core/time';

/** What a musician would mark in a part with a pencil, as sentences; the tune lies in the part's key. */
export interface Pencil {
  readonly tune: Tune;
  readonly part: Part;
}

const endOf = ({ start, length }: SoundingNote): Ticks => start + length;

function lineOf({ tune, part }: Pencil): { readonly line: Tune; readonly notes: readonly SoundingNote[] } {
  const line = { ...tune, bars: part.soundingBars };
  return { line, notes: soundingNotes(line) };
}

const idsOf = (tune: Tune) => new Set(soundingNotes(tune).map(({ first }) => first.id));

/** Phrases of the tune with where they begin and end, in ticks. */
function phraseTimes(tune: Tune): readonly { readonly phrase: Phrase; readonly start: Ticks; readonly end: Ticks }[] {
  const notes = soundingNotes(tune);
  return phrasesOf(tune).flatMap((phrase) => {
    const [first, last] = [notes[phrase.from], notes[phrase.to - 1]];
    return first && last ? [{ phrase, start: first.start, end: endOf(last) }] : [];
  });
}

/** Slurs that go on over the end of a phrase, join a note to itself, or a pickup to its downbeat. */
export function slurFaults(pencil: Pencil): readonly string[] {
  const { line, notes } = lineOf(pencil);
  const ends = new Set(phraseTimes(pencil.tune).map(({ end }) => end));
  const open: SoundingNote[] = [];
  const faults: string[] = [];
  const last = new Map<string, SoundingNote>();
  notes.forEach((note) => last.set(note.first.id, note));
  let current: SoundingNote | undefined;
  for (const event of line.bars.flatMap(({ events }) => events)) {
    if (!isNote(event)) continue;
    current = last.get(event.id) ?? current;
    for (let k = 0; k < (event.slurEnds ?? 0); k += 1) {
      const from = open.pop();
      if (!from || !current) continue;
      const inside = notes.filter(({ start }) => start >= from.start && start <= (current?.start ?? 0));
      if (inside.length < 2) faults.push(`a slur of one note in bar ${from.bar}`);
      if (inside.slice(0, -1).some((note) => ends.has(endOf(note))))
        faults.push(`a slur over a phrase end in bar ${from.bar}`);
      if (inside.some((note, n) => n > 0 && semitones(note.pitch) === semitones(inside[n - 1]?.pitch ?? note.pitch)))
        faults.push(`a slur over a repeated note in bar ${from.bar}`);
    }
    for (let k = 0; k < (event.slurStarts ?? 0); k += 1) if (current) open.push(current);
  }
  return faults;
}

const marked = ({ articulations = [], slurStarts, slurEnds, ornaments }: Note) =>
  slurStarts !== undefined ||
  slurEnds !== undefined ||
  ornaments !== undefined ||
  articulations.some((one) => one !== 'breath' && !one.endsWith('bow'));

/** The share of bars with slurs, dots, accents or dashes; whether the beginning says how loud it is. */
export function phrasingOfPart({ part }: Pencil): { readonly share: number; readonly isLoud: boolean } {
  const bars = part.bars.filter(({ events }) => events.some(isNote));
  const first = bars[0]?.events.find(isNote);
  return {
    share:
      bars.filter(({ events }) => events.some((event) => isNote(event) && marked(event))).length /
      Math.max(1, bars.length),
    isLoud: first?.dynamic !== undefined,
  };
}

/** Notes added after the last note of a phrase that lasts a beat or more, where no rest comes first. */
export function filledEnds(pencil: Pencil): readonly string[] {
  const own = idsOf(pencil.tune);
  const { line, notes } = lineOf(pencil);
  const source = soundingNotes(pencil.tune);
  const spans = barSpans(line);
  return phrasesOf(pencil.tune).flatMap(({ to }) => {
    const end = source[to - 1];
    const at = notes.findIndex(({ first }) => first.id === end?.first.id);
    const [here, next] = [notes[at], notes[at + 1]];
    const beat = here ? (beatsOf(spans[here.bar]?.meter ?? line.meter)[0]?.length ?? 0) : 0;
    if (!end || !here || !next || end.length < beat || own.has(next.first.id) || next.start > endOf(here)) return [];
    return [`the end in bar ${end.bar} is filled`];
  });
}

/** Breaths that stand where nobody breathes, and equal phrases that breathe unlike. */
export function breathFaults(pencil: Pencil): readonly string[] {
  const { tune, part } = pencil;
  const own = idsOf(tune);
  const notes = soundingNotes({ ...tune, bars: part.bars });
  const bar = barTicks(tune.meter);
  const times = phraseTimes(tune);
  const struck = new Map(
    part.bars.flatMap(({ events }) => events.filter(isNote).map((note) => [note.id, note] as const)),
  );
  const heads = headsOf(part);
  const faults: string[] = [];
  const inPhrase = new Map<number, string>();
  notes.forEach((note, k) => {
    const isMarked = (heads.get(note.first.id) ?? [note.first.id]).some((id) =>
      struck.get(id)?.articulations?.includes('breath'),
    );
    if (!isMarked) return;
    const next = notes[k + 1];
    const place = endOf(note);
    const index = times.findLastIndex(({ start }) => start < place);
    const time = times[index];
    if (!next || k >= notes.length - 2) faults.push(`a breath before the last note`);
    if (!time || !next) return;
    inPhrase.set(index, `${inPhrase.get(index) ?? ''} ${place - time.start}`);
    const middles = [0.5, 0.25, 0.75].map((share) => time.start + (time.end - time.start) * share);
    const isEnd = times.some(({ end, start }) => end === place || start === next.start);
    if (!isEnd && !middles.some((middle) => Math.abs(middle - place) <= bar / 2 + 1))
      faults.push(`a breath in bar ${note.bar} neither at the end nor in the middle of its phrase`);
    if (!own.has(next.first.id) && !isEnd) faults.push(`a breath inside what was added in bar ${note.bar}`);
  });
  const byWords = new Map<string, string>();
  const source = soundingNotes(tune);
  times.slice(0, -1).forEach(({ phrase, start }, index) => {
    const words = source
      .slice(phrase.from, phrase.to)
      .map(({ pitch, length, start: at }) => `${at - start}:${length}:${semitones(pitch)}`)
      .join(' ');
    const here = (inPhrase.get(index) ?? '').trim();
    const known = byWords.get(words) ?? here;
    byWords.set(words, known);
    if (known !== here) faults.push(`equal phrases breathe unlike in bar ${source[phrase.from]?.bar ?? 0}`);
  });
  return faults;
}

/** The events that each struck note is written in. */
function headsOf({ bars }: Pick<Part, 'bars'>): ReadonlyMap<string, readonly string[]> {
  const heads = new Map<string, string[]>();
  let head: string | undefined;
  for (const event of bars.flatMap(({ events }) => events)) {
    if (!isNote(event)) {
      head = undefined;
      continue;
    }
    head ??= event.id;
    heads.set(head, [...(heads.get(head) ?? []), event.id]);
    if (!event.tied) head = undefined;
  }
  return heads;
}

/** Intervals inside a bar, or onto a repeated note, whose direction or octave is not the tune's. */
export function turnedIntervals(pencil: Pencil): readonly string[] {
  const source = soundingNotes(pencil.tune);
  const bySource = new Map(source.map((note, index) => [note.first.id, index]));
  const { notes } = lineOf(pencil);
  const kept = notes.filter(({ first }) => bySource.has(first.id));
  return kept.flatMap((note, k) => {
    const before = kept[k - 1];
    const [from, to] = [bySource.get(before?.first.id ?? '') ?? -1, bySource.get(note.first.id) ?? -1];
    const [a, b] = [source[from], source[to]];
    if (!before || !a || !b) return [];
    const wanted = semitones(b.pitch) - semitones(a.pitch);
    const made = semitones(note.pitch) - semitones(before.pitch);
    const isTurned = Math.sign(wanted) !== Math.sign(made) || Math.abs(wanted - made) >= 12;
    return isTurned && (before.bar === note.bar || wanted === 0) ? [`a turned interval in bar ${note.bar}`] : [];
  });
}

/** Tritones and sevenths that the tune does not make. */
export function newHardLeaps(pencil: Pencil): number {
  const hard = (notes: readonly SoundingNote[]) =>
    notes.filter((note, k) => {
      const before = notes[k - 1];
      return before !== undefined && [6, 10, 11].includes(Math.abs(semitones(note.pitch) - semitones(before.pitch)));
    }).length;
  return Math.max(0, hard(lineOf(pencil).notes) - hard(soundingNotes(pencil.tune)));
}

/** Added notes that are the chromatic twin of a tone that sounds, or make an augmented second that the tune has not. */
export function oddInflections(pencil: Pencil): readonly string[] {
  const own = idsOf(pencil.tune);
  const { line, notes } = lineOf(pencil);
  const tonesAt = chordTonesAt(line);
  return notes.flatMap((note, k) => {
    const before = notes[k - 1];
    const isAdded = !own.has(note.first.id);
    const isTwin =
      isAdded &&
      (tonesAt(note.start) ?? []).some(({ step, alter }) => step === note.pitch.step && alter !== note.pitch.alter);
    const isAugmented =
      before !== undefined &&
      (isAdded || !own.has(before.first.id)) &&
      Math.abs(staffPosition(note.pitch) - staffPosition(before.pitch)) === 1 &&
      Math.abs(semitones(note.pitch) - semitones(before.pitch)) === 3;
    return isTwin || isAugmented ? [`an odd inflection in bar ${note.bar}`] : [];
  });
}

/** Bars in which two parts of one tune do not play the same. */
export function barsApart(a: Part, b: Part): number {
  const words = (part: Part, index: number) =>
    (part.soundingBars[index]?.events ?? [])
      .map((event) =>
        isNote(event)
          ? `${chroma(event.pitch)}:${event.length}${event.ornaments?.join() ?? ''}${event.graces ? '`' : ''}`
          : `z${event.length}`,
      )
      .join(' ');
  return a.bars.filter((_, index) => words(a, index) !== words(b, index)).length;
}

/** Where added figures begin in their bars, and how often each place and length comes: a figure that comes once is none. */
export function figuresIn(pencil: Pencil): readonly string[] {
  const own = idsOf(pencil.tune);
  const { notes } = lineOf(pencil);
  return notes.flatMap((note, k) => {
    const before = notes[k - 1];
    return own.has(note.first.id) || (before && !own.has(before.first.id)) ? [] : [`${note.inBar}:${note.length}`];
  });
}
