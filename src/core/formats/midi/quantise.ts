import { type Ticks, TICKS_PER_QUARTER } from '../../time';

/** A note in our ticks, from the start of the file. */
export interface TimedNote {
  readonly start: Ticks;
  readonly end: Ticks;
  readonly pitch: number;
}

/** A stretch in which one grid holds: a beat of the meter. */
export interface GridBeat {
  readonly start: Ticks;
  readonly length: Ticks;
  /** Whether the beat falls into three by its meter. */
  readonly isCompound: boolean;
}

/** Into how many parts a beat may fall where every note stands exactly, the plainest first. */
const EXACT_PARTS = [1, 2, 3, 4, 6, 8, 12, 16, 5, 7, 10, 9, 24, 32, 15, 14, 20, 18, 11, 13, 48] as const;

/**
 * The same for notes played by hand: what a player means, and what it costs to believe it. Costs in squared standard
 * deviations.
 */
const PLAYED_PARTS: Readonly<Record<'simple' | 'compound', readonly (readonly [parts: number, cost: number])[]>> = {
  simple: [
    [1, 0],
    [2, 0.6],
    [4, 2.2],
    [3, 2.6],
    [6, 6],
    [8, 7],
  ],
  compound: [
    [1, 0],
    [3, 0.6],
    [6, 2.2],
    [2, 4],
    [12, 7],
  ],
};
/** A player's spread around the beat, in quarters, is never taken for less. */
const LEAST_SPREAD = 0.02;
const MAX_SPREAD = 0.09;
/** Times within this of a grid, in quarters, are rounding of the file (one tick at 96 a quarter is 0.0104). */
const EXACT_WITHIN = 0.0053;

export interface Quantised {
  readonly notes: readonly TimedNote[];
  readonly isExact: boolean;
  /** Long–short eighths were written straight. */
  readonly swung: boolean;
}

/**
 * Moves notes to printable places. A file whose notes stand exactly on some grid keeps every one of them; one played by
 * hand gets for each beat the grid that explains its notes best, plainer grids being cheaper. Steady long–short pairs
 * are swing and are written straight; true triplets (three notes in the beat) stay.
 */
export function quantise(
  notes: readonly TimedNote[],
  beats: readonly GridBeat[],
  swingSaid: boolean | undefined,
): Quantised {
  const exact = exactNotes(notes, beats);
  if (exact && swingSaid !== true) return { notes: exact, isExact: true, swung: false };
  const swung = swingSaid ?? isSwung(notes, beats);
  const straight = swung
    ? notes.map((note) => ({ ...note, start: unswing(note.start, beats), end: unswing(note.end, beats) }))
    : notes;
  const again = swung ? exactNotes(straight, beats) : undefined;
  if (again) return { notes: again, isExact: true, swung };
  return { notes: playedNotes(straight, beats, swung), isExact: false, swung };
}

function beatAt(beats: readonly GridBeat[], at: Ticks): GridBeat {
  let low = 0;
  let high = beats.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((beats[middle]?.start ?? Infinity) <= at) low = middle;
    else high = middle - 1;
  }
  const beat = beats[low];
  if (!beat) throw new RangeError('there are no beats to set notes on');
  return beat;
}

/** Times grouped by their beat. */
function byBeat(beats: readonly GridBeat[], times: readonly Ticks[]): ReadonlyMap<GridBeat, readonly Ticks[]> {
  const grouped = new Map<GridBeat, Ticks[]>();
  for (const time of times) {
    const beat = beatAt(beats, time);
    const known = grouped.get(beat);
    if (known) known.push(time);
    else grouped.set(beat, [time]);
  }
  return grouped;
}

/**
 * Every start and end on a grid of its beat, or `undefined` where one stands on none. Ends that stand on none go on to
 * the next note.
 */
function exactNotes(notes: readonly TimedNote[], beats: readonly GridBeat[]): readonly TimedNote[] | undefined {
  const starts = snapper(
    beats,
    notes.map(({ start }) => start),
  );
  if (!starts) return undefined;
  const ends = snapper(
    beats,
    notes.map(({ end }) => end),
  );
  return notes
    .map(({ start, end, pitch }, index) => {
      const next = notes[index + 1];
      const from = starts(start);
      const limit = next ? starts(next.start) : Infinity;
      const to = ends ? ends(end) : openEnd(from, end, limit, beats);
      return { start: from, end: Math.min(limit, Math.max(to, from + 1)), pitch };
    })
    .filter(({ start, end }) => end > start);
}

/** A 128th. */
const SHORTEST: Ticks = 315;

/** Whether a beat can be written in so many parts: whole ticks, and on paper none shorter than a 128th. */
function isPrintable(beat: Ticks, parts: number): boolean {
  let odd = parts;
  while (odd % 2 === 0) odd /= 2;
  const normal = 2 ** Math.floor(Math.log2(odd));
  const printed = (beat / parts) * (odd / normal);
  return Number.isInteger(beat / parts) && Number.isInteger(printed) && printed >= SHORTEST;
}

/** Times to the place of the plainest grid that holds all of their beat; `undefined` where there is none. */
function snapper(beats: readonly GridBeat[], times: readonly Ticks[]): ((time: Ticks) => Ticks) | undefined {
  const places = new Map<Ticks, Ticks>();
  for (const [beat, inside] of byBeat(beats, times)) {
    const parts = EXACT_PARTS.find((count) => {
      const part = beat.length / count;
      return (
        isPrintable(beat.length, count) &&
        inside.every(
          (time) =>
            Math.abs((time - beat.start) / part - Math.round((time - beat.start) / part)) * part <=
            EXACT_WITHIN * TICKS_PER_QUARTER,
        )
      );
    });
    if (parts === undefined) return undefined;
    const part = beat.length / parts;
    for (const time of inside) places.set(time, beat.start + Math.round((time - beat.start) / part) * part);
  }
  return (time) => places.get(time) ?? time;
}

const LET_GO_EARLY = 0.1;

/**
 * Where a note that was let go early is meant to end: with the next note if that is near, else on the next half beat.
 */
function openEnd(from: Ticks, end: Ticks, next: Ticks, beats: readonly GridBeat[]): Ticks {
  const beat = beatAt(beats, end);
  if (next - end < (next - from) * 0.45 && next - end <= beat.length) return next;
  // Long notes are meant to last whole beats, and players let them go a little early.
  const parts = end - from >= 1.6 * beat.length ? 1 : beat.isCompound ? 3 : 2;
  const part = beat.length / parts;
  return Math.max(
    from + part,
    beat.start + Math.round((end + (parts === 1 ? (end - from) * LET_GO_EARLY : 0) - beat.start) / part) * part,
  );
}

function playedNotes(notes: readonly TimedNote[], beats: readonly GridBeat[], swung: boolean): readonly TimedNote[] {
  const spread = spreadOf(notes, beats);
  const grids = new Map<GridBeat, number>();
  for (const [beat, inside] of byBeat(
    beats,
    notes.map(({ start }) => start),
  )) {
    const costs = PLAYED_PARTS[beat.isCompound ? 'compound' : 'simple'].filter(
      ([parts]) => !swung || beat.isCompound || parts !== 3 || inside.length >= 3,
    );
    let best: readonly [number, number] = [1, Infinity];
    for (const [parts, cost] of costs) {
      if (!isPrintable(beat.length, parts)) continue;
      const part = beat.length / parts;
      const places = inside.map((time) => Math.round((time - beat.start) / part));
      // Two notes on one place would be lost.
      if (new Set(places).size < places.length) continue;
      const error = inside.reduce(
        (sum, time, k) => sum + ((time - beat.start - (places[k] ?? 0) * part) / (spread * TICKS_PER_QUARTER)) ** 2,
        0,
      );
      if (error + cost < best[1]) best = [parts, error + cost];
    }
    grids.set(beat, best[1] === Infinity ? (isPrintable(beat.length, 8) ? 8 : 1) : best[0]);
  }
  const snap = (time: Ticks) => {
    const beat = beatAt(beats, time);
    const part = beat.length / (grids.get(beat) ?? 2);
    return beat.start + Math.round((time - beat.start) / part) * part;
  };
  const placed: TimedNote[] = [];
  notes.forEach(({ start, end, pitch }) => {
    const from = snap(start);
    const last = placed.at(-1);
    if (last && from <= last.start) return;
    if (last && last.end > from) placed[placed.length - 1] = { ...last, end: from };
    placed.push({ start: from, end: Math.max(end, from + 1), pitch });
  });
  return placed.map((note, index) => {
    const next = placed[index + 1]?.start ?? Infinity;
    return { ...note, end: Math.min(next, openEnd(note.start, note.end, next, beats)) };
  });
}

/** How far the notes usually lie from sixteenths or triplets, in quarters: the player's own spread. */
function spreadOf(notes: readonly TimedNote[], beats: readonly GridBeat[]): number {
  const off = notes
    .map(({ start }) => {
      const beat = beatAt(beats, start);
      const from = start - beat.start;
      const away = (parts: number) => Math.abs(from - Math.round((from * parts) / beat.length) * (beat.length / parts));
      return Math.min(away(4), away(3)) / TICKS_PER_QUARTER;
    })
    .toSorted((a, b) => a - b);
  const median = off[Math.floor(off.length / 2)] ?? 0;
  return Math.min(MAX_SPREAD, Math.max(LEAST_SPREAD, 1.5 * median));
}

/** The middle of a swung pair lies between these shares of the beat. */
const SWING_FROM = 0.57;
const SWING_TO = 0.72;

/** Whether off-beat notes mostly come late, in pairs, and hardly any beat has a triplet's other note. */
function isSwung(notes: readonly TimedNote[], beats: readonly GridBeat[]): boolean {
  let late = 0;
  let straight = 0;
  let other = 0;
  for (const [beat, inside] of byBeat(
    beats,
    notes.map(({ start }) => start),
  )) {
    if (beat.isCompound) return false;
    const places = inside
      .map((time) => (time - beat.start) / beat.length)
      .filter((place) => place > 0.12 && place < 0.88);
    const [place] = places;
    if (places.length === 1 && place !== undefined) {
      if (place > SWING_FROM && place < SWING_TO) late += 1;
      else if (Math.abs(place - 0.5) < 0.06) straight += 1;
      else other += 1;
    } else if (places.length > 1) other += 1;
  }
  return late >= 4 && late >= 3 * straight && late >= 2 * other;
}

/** The later half of a swung beat moved back to the middle, what lies around it stretched. */
function unswing(time: Ticks, beats: readonly GridBeat[]): Ticks {
  const beat = beatAt(beats, time);
  const place = (time - beat.start) / beat.length;
  const pivot = 2 / 3;
  const moved = place <= pivot ? (place / pivot) * 0.5 : 0.5 + ((place - pivot) / (1 - pivot)) * 0.5;
  return Math.round(beat.start + moved * beat.length);
}
