import { middle, type HeardNote } from './heardNotes';

/** A note that should be played. */
export interface WantedNote {
  /** Seconds from the beginning of the music. */
  readonly start: number;
  readonly end: number;
  /** MIDI key. */
  readonly key: number;
}

/** What became of a wanted note. */
export type Verdict =
  | { readonly kind: 'right' }
  /** Another pitch: `heard` is its MIDI key. */
  | { readonly kind: 'wrong'; readonly heard: number }
  /** By so many seconds. */
  | { readonly kind: 'early' | 'late'; readonly by: number }
  | { readonly kind: 'missed' };

export interface JudgedTake {
  /** One for each wanted note. */
  readonly verdicts: readonly Verdict[];
  /** Notes that nobody asked for. */
  readonly added: readonly HeardNote[];
  /** Seconds by which all of it lay behind what was wanted: sound takes its time through the machine. */
  readonly delay: number;
  /** How far all of it lay from A = 440, in hundredths of a half step. */
  readonly cents: number;
}

/**
 * What a pairing costs; the cheapest pairing of the whole take is the one that is judged. Ours, set on rendered takes
 * with known mistakes.
 */
const COSTS = {
  missed: 0.85,
  /** A note nobody asked for, and one too short to count. */
  added: 0.55,
  flicker: 0.2,
  wrongPitch: 0.55,
  /** A swell of the note before taken for a wrong one. */
  swell: 0.5,
  /** For each half step of a wrong pitch, up to six. */
  halfStep: 0.02,
  /** For each beat between where it should be and is, up to two. */
  beat: 0.9,
} as const;
const FLICKER = 0.09;
/** A note this share of a beat away is early or late, but never less or more than so many seconds. */
const TOLERANCE = { share: 0.2, least: 0.085, most: 0.17 } as const;
/**
 * In free time a note is late where the time before it is so many times what it was about there, early where it is so
 * little.
 */
const FREE = { late: 1.6, early: 0.5, around: 4 } as const;

/**
 * Holds what was heard against what was wanted.
 * @param beat seconds of a beat
 * @param isFree played in the player's own time: only what happens between neighbouring notes is early or late
 */
export function judgeTake(
  wanted: readonly WantedNote[],
  heard: readonly HeardNote[],
  { beat, isFree = false }: { readonly beat: number; readonly isFree?: boolean },
): JudgedTake {
  const cents = tuningOf(heard);
  const tuned = heard.map((note) => ({ ...note, key: note.key - cents / 100 }));
  let delay = isFree ? 0 : roughDelay(wanted, tuned, beat);
  const inTime = () => wanted.map(({ start }) => start + delay);
  let pairs = paired(wanted, tuned, isFree ? undefined : { beat, at: inTime() });
  for (let round = 0; round < 2; round += 1) {
    const met = pairs.flatMap(({ want, note }) => {
      const [a, b] = [want === undefined ? undefined : wanted[want], note === undefined ? undefined : tuned[note]];
      return a && b && want !== undefined && Math.round(b.key) === a.key ? [{ want, from: a.start, to: b.start }] : [];
    });
    if (met.length === 0) break;
    // Once more, now that the delay, or the player's own pace, is known.
    delay = isFree ? 0 : middle(met.map(({ from, to }) => to - from));
    pairs = paired(wanted, tuned, { beat, at: isFree ? ownPace(wanted, met) : inTime() });
  }
  const noteOf = new Map(
    pairs.flatMap(({ want, note }) => (want === undefined || note === undefined ? [] : [[want, note] as const])),
  );
  const tolerance = Math.max(TOLERANCE.least, Math.min(TOLERANCE.most, TOLERANCE.share * beat));
  const verdicts = wanted.map((want, k): Verdict => {
    const index = noteOf.get(k);
    const note = index === undefined ? undefined : tuned[index];
    if (!note) return { kind: 'missed' };
    const key = Math.round(note.key);
    if (key !== want.key) return { kind: 'wrong', heard: key };
    const by = isFree ? freeLateness(k, wanted, tuned, noteOf) : note.start - want.start - delay;
    if (isFree ? by !== 0 : Math.abs(by) > tolerance) return { kind: by > 0 ? 'late' : 'early', by: Math.abs(by) };
    return { kind: 'right' };
  });
  const used = new Set(noteOf.values());
  return {
    verdicts,
    added: heard.filter((note, k) => !used.has(k) && !note.isAgain && note.end - note.start >= FLICKER),
    delay,
    cents,
  };
}

/** How far a player is from A = 440 on the whole: the middle of what lies between the keys. */
function tuningOf(heard: readonly HeardNote[]): number {
  return heard.length === 0 ? 0 : Math.round(100 * middle(heard.map(({ key }) => key - Math.round(key))));
}

/** The delay that most notes of the right pitch agree on, within half a second either way. */
function roughDelay(wanted: readonly WantedNote[], heard: readonly HeardNote[], beat: number): number {
  const near = Math.min(0.5, beat * 0.6);
  const votes = wanted.flatMap(({ key, start }) =>
    heard.flatMap((note) => {
      const by = note.start - start;
      return Math.round(note.key) === key && Math.abs(by) <= near ? [by] : [];
    }),
  );
  return votes.length === 0 ? 0 : middle(votes);
}

interface Pair {
  readonly want?: number;
  readonly note?: number;
}

/**
 * When each note is to be expected of who plays in a time of their own: by the pace of the notes about it that were
 * met.
 */
function ownPace(
  wanted: readonly WantedNote[],
  met: readonly { readonly want: number; readonly from: number; readonly to: number }[],
): readonly number[] {
  return wanted.map(({ start }, k) => {
    const near = met
      .filter(({ want }) => want !== k)
      .toSorted((a, b) => Math.abs(a.want - k) - Math.abs(b.want - k))
      .slice(0, 2 * FREE.around);
    const slopes = near.flatMap((a, i) =>
      near.slice(i + 1).flatMap((b) => (a.from === b.from ? [] : [(b.to - a.to) / (b.from - a.from)])),
    );
    const slope = slopes.length === 0 ? 1 : middle(slopes);
    return near.length === 0 ? start : middle(near.map(({ from, to }) => to + slope * (start - from)));
  });
}

/**
 * The cheapest pairing in order, by dynamic programming: each wanted note is met or missed, each heard one meets or is
 * added.
 * @param time when each note is expected, where that is known
 */
function paired(
  wanted: readonly WantedNote[],
  heard: readonly HeardNote[],
  time: { readonly beat: number; readonly at: readonly number[] } | undefined,
): readonly Pair[] {
  const [rows, columns] = [wanted.length + 1, heard.length + 1];
  const cost = new Float64Array(rows * columns);
  const step = new Uint8Array(rows * columns);
  const [DIAGONAL, MISSED, ADDED] = [1, 2, 3];
  for (let i = 0; i < rows; i += 1)
    for (let j = 0; j < columns; j += 1) {
      if (i === 0 && j === 0) continue;
      const [want, note] = [wanted[i - 1], heard[j - 1]];
      let [best, way] = [Infinity, 0];
      if (want) {
        const missed = (cost[(i - 1) * columns + j] ?? 0) + COSTS.missed;
        if (missed < best) [best, way] = [missed, MISSED];
      }
      if (note) {
        const isShort = note.end - note.start < FLICKER || note.isAgain === true;
        const added = (cost[i * columns + j - 1] ?? 0) + (isShort ? COSTS.flicker : COSTS.added);
        if (added < best) [best, way] = [added, ADDED];
      }
      if (want && note) {
        const away = Math.abs(Math.round(note.key) - want.key);
        const swell = note.isAgain ? COSTS.swell : 0;
        const pitch = away === 0 ? 0 : COSTS.wrongPitch + COSTS.halfStep * Math.min(6, away) + swell;
        const beats = time ? Math.abs(note.start - (time.at[i - 1] ?? 0)) / time.beat : 0;
        const met = (cost[(i - 1) * columns + j - 1] ?? 0) + pitch + COSTS.beat * Math.min(2, beats);
        if (met <= best) [best, way] = [met, DIAGONAL];
      }
      cost[i * columns + j] = best;
      step[i * columns + j] = way;
    }
  const pairs: Pair[] = [];
  for (let [i, j] = [wanted.length, heard.length]; i > 0 || j > 0;) {
    const way = step[i * columns + j];
    if (way === DIAGONAL) pairs.push({ want: (i -= 1), note: (j -= 1) });
    else if (way === MISSED) pairs.push({ want: (i -= 1) });
    else pairs.push({ note: (j -= 1) });
  }
  return pairs.reverse();
}

/**
 * In free time: seconds by which a note comes later (or, below zero, sooner) than the notes about it let expect; 0
 * where it fits.
 */
function freeLateness(
  index: number,
  wanted: readonly WantedNote[],
  heard: readonly HeardNote[],
  noteOf: ReadonlyMap<number, number>,
): number {
  const ratioAt = (k: number) => {
    const [a, b] = [noteOf.get(k - 1), noteOf.get(k)].map((note) => (note === undefined ? undefined : heard[note]));
    const [from, to] = [wanted[k - 1], wanted[k]];
    return a && b && from && to && to.start > from.start ? (b.start - a.start) / (to.start - from.start) : undefined;
  };
  const own = ratioAt(index);
  if (own === undefined) return 0;
  const around: number[] = [];
  for (let k = index - FREE.around; k <= index + FREE.around; k += 1) {
    const ratio = k === index ? undefined : ratioAt(k);
    if (ratio !== undefined) around.push(ratio);
  }
  if (around.length < 2) return 0;
  const pace = middle(around);
  const [from, to] = [wanted[index - 1], wanted[index]];
  const by = (own - pace) * ((to?.start ?? 0) - (from?.start ?? 0));
  return own > pace * FREE.late || own < pace * FREE.early ? by : 0;
}
