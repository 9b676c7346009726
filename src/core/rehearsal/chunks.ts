import { phrasesOf } from '../analysis';
import type { BarRun, Part } from '../levels';
import { semitones } from '../pitch';
import { hasPickup, type SoundingNote, soundingNotes, type Tune, TUNE_SCHEMA } from '../score';

/** A stretch that is learned by itself: bars `from` up to but without `to`. */
export interface Chunk extends BarRun {
  /** It is harder than the rest, and stands by itself for that. */
  readonly isHard: boolean;
  /** It says what an earlier one says: the same, or all but so many notes at its end. */
  readonly like?: { readonly chunk: number; readonly butLast: number };
}

/** Bars of a chunk, and of a chunk of hard bars. */
const LENGTHS = { least: 2, most: 4, hard: 2 } as const;
/** A bar is hard that lies so far above the middle of all, on the scale of difficulty. */
const HARD = 2;
/** An ending is told that differs by a third of the notes at most. */
const MAX_OTHER = 1 / 3;

/**
 * The chunks of a part: its sections, else its phrases, not too long; hard bars by themselves; what comes again is
 * told.
 */
export function proposeChunks(
  part: Pick<Part, 'bars' | 'meter' | 'tempo' | 'difficulty' | 'sections' | 'writtenKey'>,
): readonly Chunk[] {
  const { bars, meter, tempo, writtenKey, sections = [], difficulty } = part;
  const notes = soundingNotes(part);
  const starts =
    sections.length > 0
      ? sections.map(({ from }) => from)
      : phraseStarts({ schema: TUNE_SCHEMA, title: '', rights: 'own', key: writtenKey, meter, tempo, bars }, notes);
  // A pickup belongs to the first chunk, and does not make it longer.
  const first = hasPickup(part) ? 1 : 0;
  const runs = evenRuns(
    [...new Set([first, ...starts])].filter((bar) => bar >= first && bar < bars.length).toSorted((a, b) => a - b),
    bars.length,
  ).map((run) => (run.from === first ? { ...run, from: 0 } : run));
  const totals = difficulty.map(({ total }) => total).toSorted((a, b) => a - b);
  const middle = totals[Math.floor(totals.length / 2)] ?? 0;
  const isHard = (bar: number) => (difficulty[bar]?.total ?? 0) >= middle + HARD;
  return withLikes(
    runs.flatMap((run) => withHardApart(run, isHard)),
    notes,
  );
}

/** Chunks that begin with given bars, as somebody has cut and joined them; what comes again is told anew. */
export function chunksFrom(
  part: Pick<Part, 'bars' | 'meter'>,
  starts: readonly number[],
  proposed: readonly Chunk[],
): readonly Chunk[] {
  const hard = proposed.filter(({ isHard }) => isHard);
  const runs = starts.map((from, k) => {
    const to = starts[k + 1] ?? part.bars.length;
    // Hard as a whole where most of it is.
    const inHard = hard.reduce((sum, one) => sum + Math.max(0, Math.min(to, one.to) - Math.max(from, one.from)), 0);
    return { from, to, isHard: 2 * inHard > to - from };
  });
  return withLikes(runs, soundingNotes(part));
}

function withLikes(runs: readonly Omit<Chunk, 'like'>[], notes: readonly SoundingNote[]): readonly Chunk[] {
  const words = runs.map((run) => wordsOf(run, notes));
  return runs.map((run, index): Chunk => {
    const like = likeEarlier(words, index);
    return { ...run, ...(like && { like }) };
  });
}

/** Bars with which phrases begin: a pickup belongs to the bar that it leads into. */
function phraseStarts(line: Tune, notes: readonly SoundingNote[]): readonly number[] {
  return phrasesOf(line).flatMap(({ from }) => {
    const first = notes[from];
    if (!first) return [];
    const isLead = notes.slice(from).findIndex((note) => note.bar > first.bar) <= 2 && first.inBar > 0;
    return [first.bar + (isLead ? 1 : 0)];
  });
}

/** Runs between starts, joined where they are too short and halved where they are too long. */
function evenRuns(starts: readonly number[], end: number): readonly BarRun[] {
  const joined: { from: number; to: number }[] = [];
  starts.forEach((from, k) => {
    const to = starts[k + 1] ?? end;
    const last = joined.at(-1);
    const isShort = to - from < LENGTHS.least || (last !== undefined && last.to - last.from < LENGTHS.least);
    if (last && isShort && to - last.from <= LENGTHS.most) last.to = to;
    else joined.push({ from, to });
  });
  return joined.flatMap(({ from, to }) => {
    const pieces = Math.ceil((to - from) / LENGTHS.most);
    const size = Math.ceil((to - from) / pieces);
    return Array.from({ length: pieces }, (_, k) => ({
      from: from + k * size,
      to: Math.min(to, from + (k + 1) * size),
    }));
  });
}

/** One or two hard bars of an easier run stand by themselves; a run that is hard throughout stays whole. */
function withHardApart({ from, to }: BarRun, isHard: (bar: number) => boolean): readonly Omit<Chunk, 'like'>[] {
  const hard = Array.from({ length: to - from }, (_, k) => from + k).filter(isHard);
  const [first] = hard;
  const last = hard.at(-1);
  if (first === undefined || last === undefined) return [{ from, to, isHard: false }];
  if (hard.length === to - from || last - first + 1 > LENGTHS.hard) return [{ from, to, isHard: true }];
  return [
    { from, to: first, isHard: false },
    { from: first, to: last + 1, isHard: true },
    { from: last + 1, to, isHard: false },
  ].filter((run) => run.to > run.from);
}

function wordsOf({ from, to }: BarRun, notes: readonly SoundingNote[]): readonly string[] {
  return notes
    .filter(({ bar }) => bar >= from && bar < to)
    .map(({ bar, inBar, length, pitch }) => `${bar - from}/${inBar}/${length}/${semitones(pitch)}`);
}

function likeEarlier(all: readonly (readonly string[])[], index: number): Chunk['like'] {
  const own = all[index] ?? [];
  if (own.length < 3) return undefined;
  let best: Chunk['like'];
  for (let chunk = 0; chunk < index; chunk += 1) {
    const other = all[chunk] ?? [];
    let same = 0;
    while (same < own.length && own[same] === other[same]) same += 1;
    const butLast = Math.max(own.length, other.length) - same;
    if (butLast <= own.length * MAX_OTHER && (!best || butLast < best.butLast)) best = { chunk, butLast };
  }
  return best;
}

/** `the same as chunk 2, but for the last two notes`. @param what chunks are called: phrases, where one learns by ear */
export function likeWords({ chunk, butLast }: NonNullable<Chunk['like']>, what: 'chunk' | 'phrase' = 'chunk'): string {
  if (butLast === 0) return `the same as ${what} ${chunk + 1}`;
  const count = ['', 'note', 'two notes', 'three notes', 'four notes'][butLast] ?? `${butLast} notes`;
  return `the same as ${what} ${chunk + 1}, but for the last ${count}`;
}
