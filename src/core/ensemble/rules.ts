import { chroma } from '../pitch';
import type { TogetherCell } from '../score';
import { barTicks, beatsOf, type Ticks } from '../time';
import type { Ground, Slot } from './ground';
import { type LineNote, noteAt, type VoiceLine } from './line';

/** A part as it sounds, with what it does in each bar. */
export interface Sounding {
  readonly line: VoiceLine;
  readonly cellAt: (bar: number) => TogetherCell;
}

/** Two fifths or octaves in one direction, on neighbouring strong beats. */
interface Parallel {
  /** Indices of the parts, and of the slot with the second of the two intervals. */
  readonly parts: readonly [number, number];
  readonly slot: number;
  readonly interval: 'fifths' | 'octaves';
}

/** A half step or minor ninth on a strong beat that the chord does not have. */
interface Clash {
  readonly parts: readonly [number, number];
  readonly slot: number;
}

/** A part over the tune, or under the bass, for longer than a bar. */
export interface Crossing {
  readonly part: number;
  readonly bar: number;
  readonly kind: 'over the tune' | 'under the bass';
}

/** What outside ears hear of an arrangement: measured of the notes as they are, whatever made them. */
export interface EnsembleMeasures {
  readonly parallels: readonly Parallel[];
  readonly clashes: readonly Clash[];
  /** Notes on strong beats that are neither of the chord nor suspensions: part and slot. */
  readonly foreign: readonly { readonly part: number; readonly slot: number }[];
  readonly crossings: readonly Crossing[];
  /** Share of chords whose root (or named bass) the bass has on their first strong beat; 1 where nobody has the bass. */
  readonly bassRoots: number;
  /** Share of strong beats on which root and third, and the seventh where four play, sound. */
  readonly chordCover: number;
}

export function measureEnsemble(ground: Ground, parts: readonly Sounding[]): EnsembleMeasures {
  const strong = ground.slots.flatMap((slot, index) => (slot.isStrong ? [{ slot, index }] : []));
  const heights = parts.map(({ line }) => strong.map(({ slot }) => noteAt(line, slot.from)));
  return {
    ...faultsAt(ground, parts, strong, heights),
    crossings: crossingsOf(ground, parts),
    ...coverOf(parts, strong, heights),
  };
}

/** Parallels, clashes and foreign notes alone, which composing asks for again and again. */
export function faultsOf(
  ground: Ground,
  parts: readonly Sounding[],
): Pick<EnsembleMeasures, 'parallels' | 'clashes' | 'foreign'> {
  const strong = ground.slots.flatMap((slot, index) => (slot.isStrong ? [{ slot, index }] : []));
  return faultsAt(
    ground,
    parts,
    strong,
    parts.map(({ line }) => strong.map(({ slot }) => noteAt(line, slot.from))),
  );
}

function faultsAt(ground: Ground, parts: readonly Sounding[], strong: Strong, heights: Heights) {
  return {
    parallels: parallelsOf(ground, parts, strong, heights),
    clashes: clashesOf(parts, strong, heights),
    foreign: foreignOf(ground, parts, strong, heights),
  };
}

type Strong = readonly { readonly slot: Slot; readonly index: number }[];
type Heights = readonly (readonly (LineNote | undefined)[])[];

function parallelsOf(
  ground: Ground,
  parts: readonly Sounding[],
  strong: Strong,
  heights: Heights,
): readonly Parallel[] {
  const found: Parallel[] = [];
  for (let k = 1; k < strong.length; k += 1) {
    const [then, now] = [strong[k - 1], strong[k]];
    if (!then || !now || isOtherEnding(ground, then.slot.bar, now.slot.bar)) continue;
    const moves = heights.flatMap((row, part) => {
      const [from, to] = [row[k - 1]?.height, row[k]?.height];
      return from === undefined || to === undefined || from === to ? [] : [{ part, from, to }];
    });
    moves.forEach((a, index) => {
      for (const b of moves.slice(index + 1)) {
        const interval = parallelOf(a, b);
        const isDoubling =
          isOneRole(parts, a.part, b.part, then.slot.bar) && isOneRole(parts, a.part, b.part, now.slot.bar);
        if (interval && !isDoubling) found.push({ parts: [a.part, b.part], slot: now.index, interval });
      }
    });
  }
  return found;
}

interface Move {
  readonly from: number;
  readonly to: number;
}

/** Fifths or octaves (unisons with them) that two parts move in, the same way. */
function parallelOf(a: Move, b: Move): Parallel['interval'] | undefined {
  if (b.to > b.from !== a.to > a.from) return undefined;
  const interval = Math.abs(a.to - b.to) % 12;
  if (Math.abs(a.from - b.from) % 12 !== interval) return undefined;
  return interval === 7 ? 'fifths' : interval === 0 ? 'octaves' : undefined;
}

function isOneRole(parts: readonly Sounding[], a: number, b: number, bar: number): boolean {
  return parts[a]?.cellAt(bar) === parts[b]?.cellAt(bar);
}

/** The bar is a second ending, and the one before it another's: nobody plays one after the other. */
function isOtherEnding({ tune }: Ground, from: number, to: number): boolean {
  return from !== to && tune.bars[to]?.ending !== undefined && tune.bars[from]?.repeatEnd !== undefined;
}

function clashesOf(parts: readonly Sounding[], strong: Strong, heights: Heights): readonly Clash[] {
  const found: Clash[] = [];
  strong.forEach(({ slot, index }, k) => {
    for (let a = 0; a < parts.length; a += 1)
      for (let b = a + 1; b < parts.length; b += 1) {
        const [one, other] = [heights[a]?.[k]?.height, heights[b]?.[k]?.height];
        if (one === undefined || other === undefined || Math.abs(one - other) % 12 !== 1) continue;
        const bits = slot.chord?.bits ?? 0;
        if (!(bits & (1 << (one % 12))) || !(bits & (1 << (other % 12)))) found.push({ parts: [a, b], slot: index });
      }
  });
  return found;
}

function foreignOf(
  ground: Ground,
  parts: readonly Sounding[],
  strong: Strong,
  heights: Heights,
): EnsembleMeasures['foreign'] {
  return parts.flatMap(({ line, cellAt }, part) =>
    strong.flatMap(({ slot, index }, k) => {
      const note = heights[part]?.[k];
      const cell = cellAt(slot.bar);
      if (!note || cell === 'tune' || !slot.chord) return [];
      if (slot.chord.bits & (1 << (note.height % 12))) return [];
      if (cell === 'bass' && note.height % 12 === chroma(slot.chord.bass)) return [];
      return isSuspension(ground, line, note, slot) ? [] : [{ part, slot: index }];
    }),
  );
}

/** Prepared by the same pitch, and falling by step by the next beat to a tone of the chord of then. */
function isSuspension(ground: Ground, line: VoiceLine, note: LineNote, slot: Slot): boolean {
  const prepared = note.from < slot.from || noteAt(line, note.from - 1)?.height === note.height;
  const next = noteAt(line, note.to);
  const span = ground.spans[slot.bar];
  if (!prepared || !next || !span) return false;
  const falls = note.height - next.height;
  const chord = ground.slots.findLast(({ from }) => from <= next.from)?.chord;
  const beat = slot.from + (beatsOf(span.meter)[0]?.length ?? 0);
  return (
    (falls === 1 || falls === 2) &&
    next.from <= beat &&
    chord !== undefined &&
    (chord.bits & (1 << (next.height % 12))) !== 0
  );
}

/** Whether so many half steps are a third or a sixth, octaves apart from it. */
export function isThirdOrSixth(halfSteps: number): boolean {
  const distance = Math.abs(halfSteps) % 12;
  return distance === 3 || distance === 4 || distance === 8 || distance === 9;
}

/** From this share of strong beats on, in thirds, sixths or contrary motion, a second voice moves with the tune. */
const WITH_TUNE = 0.65;

/**
 * Strong beats on which a second voice goes with the tune neither in thirds or sixths nor against it, with the
 * tune's height there; none where they are few.
 */
export function strayPlaces(
  ground: Ground,
  parts: readonly Sounding[],
  part: number,
): readonly { readonly slot: number; readonly tune: number }[] {
  const own = parts[part];
  if (!own) return [];
  const stray: { readonly slot: number; readonly tune: number }[] = [];
  let both = 0;
  let before: readonly [number, number] | undefined;
  ground.slots.forEach(({ from, bar, isStrong }, slot) => {
    if (!isStrong) return;
    const leader = parts.find(({ cellAt }) => cellAt(bar) === 'tune');
    const [mine, tune] = [noteAt(own.line, from)?.height, leader && noteAt(leader.line, from)?.height];
    const earlier = before;
    before = mine !== undefined && tune !== undefined ? [mine, tune] : undefined;
    if (own.cellAt(bar) !== 'second' || mine === undefined || tune === undefined) return;
    both += 1;
    const isContrary = earlier !== undefined && (mine - earlier[0]) * (tune - earlier[1]) < 0;
    if (!isThirdOrSixth(mine - tune) && !isContrary) stray.push({ slot, tune });
  });
  return both - stray.length < both * WITH_TUNE ? stray : [];
}

/** Parts over the tune or under the bass for longer than a bar. */
export function crossingsOf(ground: Ground, parts: readonly Sounding[]): readonly Crossing[] {
  const times = [...new Set(parts.flatMap(({ line }) => line.flatMap(({ from, to }) => [from, to])))].toSorted(
    (a, b) => a - b,
  );
  const barAt = barFinder(ground);
  const found: Crossing[] = [];
  const sounding = times.map((at) => {
    const bar = barAt(at);
    let [top, bass] = [-1, -1];
    for (const { line, cellAt } of parts) {
      const cell = cellAt(bar);
      if (cell !== 'tune' && cell !== 'bass') continue;
      const height = noteAt(line, at)?.height ?? -1;
      if (cell === 'tune') top = Math.max(top, height);
      else if (bass < 0 || height < bass) bass = height;
    }
    return { bar, top, bass };
  });
  parts.forEach(({ line, cellAt }, part) => {
    for (const kind of ['over the tune', 'under the bass'] as const) {
      let since: number | undefined;
      times.forEach((at, k) => {
        const here = sounding[k];
        const height = noteAt(line, at)?.height;
        const cell = here && cellAt(here.bar);
        const crosses =
          here !== undefined &&
          height !== undefined &&
          (kind === 'over the tune'
            ? cell !== 'tune' && here.top >= 0 && height > here.top
            : cell !== 'bass' && here.bass >= 0 && height < here.bass);
        if (crosses) {
          since ??= k;
          return;
        }
        if (since === undefined) return;
        const from = times[since] ?? 0;
        const bar = sounding[since]?.bar ?? 0;
        const span = ground.spans[bar];
        if (span && at - from > barTicks(span.meter)) found.push({ part, bar, kind });
        since = undefined;
      });
    }
  });
  return found;
}

export function barFinder({ spans }: Ground): (at: Ticks) => number {
  return (at) => {
    let [low, high] = [0, spans.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((spans[middle]?.start ?? Infinity) <= at) low = middle + 1;
      else high = middle;
    }
    return Math.max(0, low - 1);
  };
}

function coverOf(
  parts: readonly Sounding[],
  strong: Strong,
  heights: Heights,
): Pick<EnsembleMeasures, 'bassRoots' | 'chordCover'> {
  let [chords, rooted, places, covered] = [0, 0, 0, 0];
  strong.forEach(({ slot }, k) => {
    const { chord } = slot;
    if (!chord) return;
    const basses = parts.flatMap(({ cellAt }, part) =>
      cellAt(slot.bar) === 'bass' ? [heights[part]?.[k]?.height] : [],
    );
    if (slot.isChordStart && basses.length > 0) {
      chords += 1;
      if (basses.some((height) => height !== undefined && height % 12 === chroma(chord.bass))) rooted += 1;
    }
    const bits = heights.reduce((sum, row) => {
      const height = row[k]?.height;
      return height === undefined ? sum : sum | (1 << (height % 12));
    }, 0);
    const has = (one: number | undefined) => one === undefined || (bits & (1 << one)) !== 0;
    places += 1;
    if (has(chord.root) && has(chord.third) && (parts.length < 4 || has(chord.seventh))) covered += 1;
  });
  return { bassRoots: chords === 0 ? 1 : rooted / chords, chordCover: places === 0 ? 1 : covered / places };
}
