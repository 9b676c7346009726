import { derived } from '../core/derived';
import type { Difficulty } from '../core/analysis';
import { type Level, LEVELS } from '../core/instruments';
import { type Change, describeChange, type Work } from '../core/work';
import { alternativesOfLevel, type Part, type PartMaker, partOfLevel } from '../core/levels';
import { type Key, nameKey, namePitchClass, type Pitch } from '../core/pitch';
import {
  accidentalsFor,
  type Bar,
  barNumbers,
  type EventId,
  hasSecondPart,
  isNote,
  secondPartBars,
  type Tempo,
  type Tune,
} from '../core/score';
import { nameValue, notatedTicks, valueOfTicks } from '../core/time';
import { barWidths, goodLineStarts, planLines, type Line } from './lines';
import { laneStaff, ossiaLane, tabStaff, tuneLane } from './staves';
import type { Staff } from '../core/formats';

/** Height of a staff space on the bench, CSS pixels. */
export const BENCH_STAFF_SPACE = 7;

/** Whose pitch is on screen. */
export type PitchView = 'written' | 'sounding';
export type LaneId = 'tune' | 'second' | Level;
/** All lanes, or the tune (and its second part) alone: while it is written, the levels wait. */
export type LaneSet = 'all' | 'tune';

interface LaneChange {
  readonly barIndex: number;
  readonly bar: number;
  readonly what: string;
  readonly why: string;
  /** It is said of the part as a whole, and no bar is marked for it. */
  readonly isOfAll?: true;
  /** A written note that would leave the line as it is, where the level had it. */
  readonly teach?: { readonly pitch: string; readonly isLow: boolean };
}

/** What the screen says of a lane, in words; plain data, so that it can be sent from a worker or a server. */
export interface LaneInfo {
  readonly id: LaneId;
  readonly instrument: string;
  /** In the pitch on screen. */
  readonly keyName: string;
  readonly concertKey: string;
  readonly writtenKey: string;
  readonly tempo: Tempo;
  readonly changes: readonly LaneChange[];
  /** Notes that the level does not have yet. */
  readonly outside: readonly {
    readonly event: EventId;
    readonly barIndex: number;
    readonly bar: number;
    readonly pitch: string;
  }[];
  /** How hard each bar is, and why; none for the tune. */
  readonly difficulty: readonly Difficulty[];
  readonly range: string;
  readonly octaves: number;
  readonly fidelity: number;
  /** Each bar read out: note names and lengths. */
  readonly barTexts: readonly string[];
}

/** All lanes of the bench, ready to be engraved a row at a time. */
export interface Lanes {
  readonly infos: readonly LaneInfo[];
  readonly staves: readonly Staff[];
  /** Small staves with other versions of bars, by the id of the staff over which they stand. */
  readonly ossias: ReadonlyMap<string, Staff>;
  /** Tablatures, by the id of the staff under which they stand. */
  readonly tabs: ReadonlyMap<string, Staff>;
  readonly lines: readonly Line[];
  readonly numbers: readonly number[];
  /** Events to be marked as changed, as STAFF:EVENT. */
  readonly changed: ReadonlySet<string>;
}

/** CSS pixels that a quarter's width takes on screen at the bench's staff size; the engraver spreads the rest. */
const PIXELS_PER_QUARTER = 33;
/** Clef and key signature at the head of a row. */
const ROW_HEAD_PIXELS = 62;

/**
 * What follows from a tune or part alone, with the view it was made for. A part that did not change is not read again.
 */
interface Lane {
  readonly view: PitchView;
  readonly staff: Staff;
  readonly info: LaneInfo;
  readonly changed: readonly string[];
  readonly ossia?: Staff;
  readonly tab?: Staff;
}

/** The lane of a tune or part, which `make` works out of it. */
const laneOf = derived(
  (_source: Tune | Part, view: PitchView, make: () => Omit<Lane, 'view'>): Lane => {
    const made = make();
    return { ...made, view, staff: { ...made.staff, accidentals: accidentalsFor(made.staff) } };
  },
  { most: 1, by: (source, view) => [source, view] },
);

/**
 * Computes tune and parts as lanes and breaks them into rows for a width.
 * @param makePart lets a caller keep parts whose level did not change
 */
export function lanesFor(
  { tune, recipes }: Work,
  view: PitchView,
  width: number,
  makePart: PartMaker = partOfLevel,
  set: LaneSet = 'all',
): Lanes {
  const tuneAlone = laneOf(tune, 'sounding', () => ({
    staff: tuneLane('tune', tune),
    info: tuneInfo(tune),
    changed: [],
  }));
  const second = hasSecondPart(tune) ? [secondLane(tune)] : [];
  const parts = (set === 'all' ? LEVELS : []).map((level) => {
    const { value, changes } = makePart(tune, level, recipes);
    return laneOf(value, view, () => ({
      ...laneWithOssia(laneStaff(level, value, view), alternativesOfLevel(tune, level, recipes), view),
      ...(value.tab && { tab: tabStaff(`${level}-tab`, value, value.tab) }),
      info: partInfo(level, value, changes, view),
      changed: changes.flatMap(({ events }) => events.map((event) => `${level}:${event}`)),
    }));
  });
  // The levels of a drill go through other keys in other rhythms: they are rows of their own.
  const lanes = tune.drill ? [tuneAlone] : [tuneAlone, ...second, ...parts];
  const all = [tuneAlone, ...second, ...parts];
  const staves = lanes.map(({ staff }) => staff);
  const room = Math.max(3, (width - ROW_HEAD_PIXELS) / PIXELS_PER_QUARTER);
  return {
    infos: all.map(({ info }) => info),
    staves,
    ossias: new Map(lanes.flatMap(({ staff, ossia }) => (ossia ? [[staff.id, ossia] as const] : []))),
    tabs: new Map(lanes.flatMap(({ staff, tab }) => (tab ? [[staff.id, tab] as const] : []))),
    lines: planLines(barWidths(staves), room, goodLineStarts(tuneAlone.staff)),
    numbers: tune.drill ? drillNumbers(all) : barNumbers(tune),
    changed: new Set(lanes.flatMap(({ changed }) => changed)),
  };
}

function laneWithOssia(
  staff: Staff,
  others: ReturnType<typeof alternativesOfLevel>,
  view: PitchView,
): Pick<Lane, 'staff' | 'ossia'> {
  const ossia = others && ossiaLane(staff, others.part, others.has, view);
  return { staff, ...(ossia && { ossia }) };
}

/** The staves of a row: each lane's, under a small one where it has other versions of bars there. */
export function stavesOfRow(
  { staves, ossias, tabs }: Pick<Lanes, 'staves' | 'ossias' | 'tabs'>,
  { from, to }: Line,
): readonly Staff[] {
  if (ossias.size + tabs.size === 0) return staves;
  return staves.flatMap((staff) => {
    const ossia = ossias.get(staff.id);
    const isHere = [...(ossia?.ossiaBars ?? [])].some((bar) => bar >= from && bar < to);
    const tab = tabs.get(staff.id);
    return [...(ossia && isHere ? [ossia] : []), staff, ...(tab ? [tab] : [])];
  });
}

/** The longest level counts. */
function drillNumbers(lanes: readonly Lane[]): readonly number[] {
  const most = Math.max(...lanes.map(({ staff }) => staff.bars.length));
  return Array.from({ length: most }, (_, index) => index + 1);
}

/** The second part as a lane; it sounds as the tune does, in any view. */
const secondLane = derived((tune: Tune): Lane => {
  const bars = secondPartBars(tune.bars).map(({ section: _, tempos: _tempos, jumps: _jumps, ...bar }) => ({
    ...bar,
    chords: [],
  }));
  const staff = tuneLane('second', { ...tune, bars });
  return {
    view: 'sounding',
    staff: { ...staff, accidentals: accidentalsFor(staff) },
    info: { ...tuneInfo(tune), id: 'second', barTexts: bars.map(barText) },
    changed: [],
  };
});

function tuneInfo(tune: Tune): LaneInfo {
  const key = nameKey(tune.key);
  return {
    id: 'tune',
    instrument: '',
    keyName: key,
    concertKey: key,
    writtenKey: key,
    tempo: tune.tempo,
    changes: [],
    outside: [],
    difficulty: [],
    range: '',
    octaves: 0,
    fidelity: 100,
    barTexts: tune.bars.map(barText),
  };
}

function partInfo(level: Level, part: Part, changes: readonly Change[], view: PitchView): LaneInfo {
  const name = (key: Key) => nameKey(key);
  const shown = view === 'written' ? part.written : { diatonic: 0, chromatic: 0 };
  return {
    id: level,
    instrument: part.instrument.name,
    keyName: name(view === 'written' ? part.writtenKey : part.concertKey),
    concertKey: name(part.concertKey),
    writtenKey: name(part.writtenKey),
    tempo: part.tempo,
    changes: changes.map((change) => ({
      barIndex: change.barIndex,
      bar: change.bar,
      ...describeChange(change, shown),
      ...(change.detail.kind === 'phrased' && { isOfAll: true as const }),
      ...(change.detail.kind === 'teach' && { teach: { pitch: change.detail.pitch, isLow: change.detail.isLow } }),
    })),
    outside: part.outside.map(({ event, barIndex, bar, pitch }) => ({ event, barIndex, bar, pitch: spoken(pitch) })),
    difficulty: part.difficulty,
    range: part.lowest && part.highest ? `${spoken(part.lowest)} to ${spoken(part.highest)}` : '',
    octaves: part.octaves,
    fidelity: part.fidelity,
    barTexts: (view === 'written' ? part.bars : part.soundingBars).map(barText),
  };
}

/** With a real sign for sharp or flat: `F♯4`. */
function spoken(pitch: Pitch): string {
  return `${namePitchClass(pitch)}${pitch.octave}`;
}

/** A bar read out: `G4 dotted quarter, F4 eighth, rest quarter`. Tied notes are said to be held. */
function barText(bar: Bar): string {
  return bar.events
    .map((event) => {
      const value = valueOfTicks(notatedTicks(event.length, event.tuplet));
      const length = `${value ? nameValue(value) : ''}${event.tuplet ? ` of a group of ${event.tuplet.actual}` : ''}`;
      if (!isNote(event)) return `rest ${length}`;
      return `${spoken(event.pitch)} ${length}${event.tied ? ' tied on' : ''}`;
    })
    .join(', ');
}

/** Marks changed notes in a row's picture with a class, for the page's style to show. */
export function markChanged(svg: string, changed: ReadonlySet<EventId>): string {
  return svg.replace(/<g id="([^"]+)" class="(note|rest)"/g, (whole, id: string, kind: string) =>
    changed.has(id) ? `<g id="${id}" class="${kind} changed"` : whole,
  );
}
