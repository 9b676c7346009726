import type { ChordSymbol } from '../harmony';
import type { Key } from '../pitch';
import { barTicks, type Meter, type NoteValue, type Ticks, valueTicks } from '../time';
import type { DrillIdea } from './drillIdea';
import type { BarId, Lyric, Note, ScoreEvent } from './event';
import type { HarmonyNotes } from './harmonyNotes';
import type { TogetherNotes } from './together';

export {
  type Articulation,
  ARTICULATIONS,
  type BarId,
  type Dynamic,
  DYNAMICS,
  type EventId,
  type GraceNote,
  type Hairpin,
  HAIRPINS,
  type Lyric,
  type Note,
  type Ornament,
  ORNAMENTS,
  PHRASE_MARKS,
  type PhraseMark,
  type Rest,
  type ScoreEvent,
} from './event';

/** The number of the document's shape. Raised when older documents must be upgraded on reading. */
export const TUNE_SCHEMA = 2;

export const JUMPS = [
  'segno',
  'coda',
  'fine',
  'to-coda',
  'dc',
  'dc-al-fine',
  'dc-al-coda',
  'ds',
  'ds-al-fine',
  'ds-al-coda',
] as const;
export type Jump = (typeof JUMPS)[number];
export const RIGHTS = ['own', 'public-domain', 'cleared', 'unknown', 'not-cleared'] as const;
/**
 * Whether the tune may be shared: composed here, free by age, cleared by its owner, not checked, or known not to be.
 */
export type Rights = (typeof RIGHTS)[number];

export interface PlacedChord {
  /** From the start of the bar. */
  readonly at: Ticks;
  readonly symbol: ChordSymbol;
}

export interface PlacedTempo {
  /** From the start of the bar. */
  readonly at: Ticks;
  readonly tempo: Tempo;
}

export interface Bar {
  readonly id: BarId;
  /** In order, without gaps; their lengths add up to `barLength`. */
  readonly events: readonly ScoreEvent[];
  readonly chords: readonly PlacedChord[];
  /** Given where the meter or key changes with this bar. The first bar takes the tune's. */
  readonly meter?: Meter;
  readonly key?: Key;
  /** Length of a bar that is not full: a pickup, its counterpart, or a bar cut by a repeat. */
  readonly partial?: Ticks;
  readonly repeatStart?: true;
  /** A repeat sign at the end: how often the passage is played in all. */
  readonly repeatEnd?: number;
  /** This bar begins an ending for these times through. */
  readonly ending?: readonly number[];
  /** The ending's bracket closes with this bar. */
  readonly endingStops?: true;
  /** The line at the end of the bar, where it is neither plain nor a repeat. */
  readonly barline?: 'double' | 'final';
  /** A section name or rehearsal mark. */
  readonly section?: string;
  readonly jumps?: readonly Jump[];
  /** Changes of tempo on the way; the tune's own stands at its head. */
  readonly tempos?: readonly PlacedTempo[];
  /**
   * A second part in the same bar: as long as `events`, with ids of its own. Chords, signs and meters are shared. All
   * bars have one or none.
   */
  readonly second?: readonly ScoreEvent[];
  /** Numbers of beats that are counted aloud here; of parts alone, never stored. */
  readonly counts?: readonly PlacedCount[];
}

/** A beat that is counted, from the start of its bar as it stands. */
export interface PlacedCount {
  readonly at: Ticks;
  readonly text: string;
}

export interface Tempo {
  /** The note that is counted. */
  readonly beat: NoteValue;
  readonly perMinute: number;
  readonly words?: string;
}

export const SWING_UNITS = ['eighth', '16th'] as const;

/** Written straight, played long–short: the first of a pair lasts `ratio` times the second. */
export interface Swing {
  readonly unit: (typeof SWING_UNITS)[number];
  /** 1 to 4; 2 is a triplet's two to one. */
  readonly ratio: number;
}

/** The source as entered, in concert pitch. */
/** More pupils than have one lick. */
export const MAX_LICK_PUPILS = 300;

/** What is kept about a lick beside its music. */
export interface LickNotes {
  /** First names of those who have it. */
  readonly pupils?: readonly string[];
}

export interface Tune {
  readonly schema: typeof TUNE_SCHEMA;
  readonly title: string;
  readonly composer?: string;
  /** Where the tune was got: a person, a book, an evening. */
  readonly source?: string;
  readonly rights: Rights;
  readonly key: Key;
  readonly meter: Meter;
  readonly tempo: Tempo;
  readonly swing?: Swing;
  /** Concert key of the recording that people play along with, where there is one. */
  readonly recordingKey?: Key;
  /** How the chords are to be read, where a teacher said so. */
  readonly harmony?: HarmonyNotes;
  /** The idea of a drill, whose bars are laid out by the program. */
  readonly drill?: DrillIdea;
  /** Who has what where it is played together, where a teacher said so. */
  readonly together?: TogetherNotes;
  /** A short line that is kept to be used in solos. */
  readonly lick?: LickNotes;
  readonly bars: readonly Bar[];
}

export function isNote(event: ScoreEvent): event is Note {
  return event.kind === 'note';
}

/** The meter in force in each bar. */
export function metersOf(tune: Pick<Tune, 'bars' | 'meter'>): readonly Meter[] {
  let current = tune.meter;
  return tune.bars.map((bar) => (current = bar.meter ?? current));
}

/** The key in force in each bar. */
export function keysOf(tune: Pick<Tune, 'bars' | 'key'>): readonly Key[] {
  let current = tune.key;
  return tune.bars.map((bar) => (current = bar.key ?? current));
}

export function barLength(bar: Bar, meter: Meter): Ticks {
  return bar.partial ?? barTicks(meter);
}

/** Whether the tune begins with an incomplete bar. */
export function hasPickup(tune: Pick<Tune, 'bars' | 'meter'>): boolean {
  const first = tune.bars[0];
  return first?.partial !== undefined && first.partial < barTicks(first.meter ?? tune.meter);
}

/**
 * Bar numbers as printed: a pickup is 0, the first full bar 1.
 * A bar cut in two by a repeat sign counts once for both halves.
 */
export function barNumbers(tune: Pick<Tune, 'bars' | 'meter'>): readonly number[] {
  const meters = metersOf(tune);
  let number = hasPickup(tune) ? -1 : 0;
  let open = 0;
  return tune.bars.map((bar, index) => {
    const full = barTicks(meters[index] ?? tune.meter);
    if (bar.partial === undefined || bar.partial >= full) {
      open = 0;
      return (number += 1);
    }
    const continues = index > 0 && open > 0 && open + bar.partial <= full;
    open = continues ? open + bar.partial : bar.partial;
    if (open === full || index === 0) open = 0;
    return continues ? number : (number += 1);
  });
}

/**
 * How many bars a musician counts: the number of the last one. A pickup and the halves of a cut bar do not count again.
 */
export function countedBars(tune: Pick<Tune, 'bars' | 'meter'>): number {
  return Math.max(1, barNumbers(tune).at(-1) ?? 1);
}

/**
 * Where a short bar's first event stands in the full bar: a pickup hangs at the end, anything else at the start.
 * A short bar after a cut one carries on where that stopped.
 */
export function barOffset(tune: Pick<Tune, 'bars' | 'meter'>, index: number, meter: Meter): Ticks {
  const bar = tune.bars[index];
  if (bar?.partial === undefined) return 0;
  const full = barTicks(meter);
  if (bar.partial >= full) return 0;
  if (index === 0) return full - bar.partial;
  const before = tune.bars[index - 1];
  const cut = before?.partial !== undefined && before.partial + bar.partial === full && index - 1 > 0;
  const afterRepeat = before?.repeatEnd !== undefined || bar.repeatStart === true;
  return cut || afterRepeat ? full - bar.partial : 0;
}

export interface PlacedEvent {
  readonly event: ScoreEvent;
  readonly bar: number;
  /** From the start of the bar. */
  readonly start: Ticks;
}

/** All events with the index of their bar and their place in it. */
export function placedEvents(bars: readonly Bar[]): readonly PlacedEvent[] {
  return bars.flatMap((bar, index) => {
    let start = 0;
    return bar.events.map((event) => {
      const placed = { event, bar: index, start };
      start += event.length;
      return placed;
    });
  });
}

/** Whether the tune has a second part. */
export function hasSecondPart(tune: Pick<Tune, 'bars'>): boolean {
  return tune.bars.some((bar) => bar.second !== undefined);
}

/** The bars of the second part, as if they were the tune's. */
export function secondPartBars(bars: readonly Bar[]): readonly Bar[] {
  return bars.map(({ second, ...bar }) => ({ ...bar, events: second ?? [] }));
}

/** The bars without the second part. */
export function withoutSecondPart(bars: readonly Bar[]): readonly Bar[] {
  return bars.map((bar) => {
    if (!bar.second) return bar;
    const { second: _, ...alone } = bar;
    return alone;
  });
}

/** The syllable of the first verse. */
export function firstLyric(note: Pick<Note, 'lyrics'>): Lyric | undefined {
  return note.lyrics?.find(({ verse }) => verse === 1);
}

/** Quarter notes a minute. */
export function quartersPerMinute(tempo: Tempo): number {
  return (tempo.perMinute * valueTicks(tempo.beat)) / valueTicks({ type: 'quarter', dots: 0 });
}

/** The same bars with every note changed by `change`; bars and notes that stay the same are shared. */
export function mapNotes(bars: readonly Bar[], change: (note: Note, barIndex: number) => Note): readonly Bar[] {
  let isSame = true;
  const changed = bars.map((bar, index) => {
    const events = bar.events.map((event) => (isNote(event) ? change(event, index) : event));
    if (events.every((event, k) => event === bar.events[k])) return bar;
    isSame = false;
    return { ...bar, events };
  });
  return isSame ? bars : changed;
}
