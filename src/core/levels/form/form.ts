import type { Key } from '../../pitch';
import {
  asPieces,
  type Bar,
  barLength,
  type EventId,
  hasPickup,
  keysOf,
  metersOf,
  type Note,
  type Rest,
  type ScoreEvent,
  type Tune,
  unfold,
  withPairedHairpins,
  withPairedSlurs,
  withTrueTies,
} from '../../score';
import {
  barTicks,
  type Meter,
  sameMeter,
  spellNoteLength,
  spellRestLength,
  type Ticks,
  TICKS_PER_QUARTER,
} from '../../time';

/** One time through the tune. */
export interface Chorus {
  readonly bars: readonly Bar[];
  /** Printed at its head. */
  readonly name: string;
}

/** A tune played through several times, as it is written out. */
export interface Formed {
  readonly bars: readonly Bar[];
  /**
   * For each bar, which time through it belongs to, from 0, and the index of the bar of the tune that it stands for.
   */
  readonly source: readonly { readonly chorus: number; readonly bar: number }[];
  /** For each event, the one of its chorus that it was; those made new are missing. */
  readonly origin: ReadonlyMap<EventId, { readonly chorus: number; readonly id: EventId }>;
  /** For each time through after the first, whether its pickup went into the bar before. */
  readonly merged: readonly boolean[];
}

/** What is added to the ids of a later time through. */
function chorusMark(chorus: number): string {
  return chorus === 0 ? '' : `~${chorus + 1}`;
}

/**
 * Writes choruses one after another. Repeats stay as signs; where the tune jumps (D.C., D.S., Coda) it is written out,
 * since a jump cannot be read twice. A pickup goes into the bar before it. Keys and meters are given anew where the
 * tune ends in others.
 * @param like the same choruses joined in another pitch: their pickups went where these shall go
 */
export function joinChoruses(
  choruses: readonly Chorus[],
  { meter, key }: { readonly meter: Meter; readonly key: Key },
  like?: Pick<Formed, 'merged'>,
): Formed {
  const merged: boolean[] = [];
  const bars: Bar[] = [];
  const source: { readonly chorus: number; readonly bar: number }[] = [];
  const origin = new Map<EventId, { readonly chorus: number; readonly id: EventId }>();
  choruses.forEach((chorus, index) => {
    const { bars: own, order: from } = writtenOut({ bars: chorus.bars, meter, key }, chorusMark(index), (id, was) =>
      origin.set(id, { chorus: index, id: was }),
    );
    const [first] = own;
    if (!first) return;
    const append = (added: readonly Bar[], skipped: number) =>
      added.forEach((bar, k) => {
        bars.push(bar);
        source.push({ chorus: index, bar: from[k + skipped] ?? 0 });
      });
    const named: Bar = { ...first, section: first.section ? `${chorus.name} · ${first.section}` : chorus.name };
    const last = bars.at(-1);
    if (!last) return append([choruses.length > 1 ? named : first, ...own.slice(1)], 0);
    const seam = seamOf({ bars, meter, key }, last, own);
    const goesIn = like?.merged[index] ?? seam.goesIn;
    merged[index] = goesIn;
    bars[bars.length - 1] = goesIn ? withPickup(last, first, seam) : { ...withoutFinal(last), barline: 'double' };
    if (!goesIn) return append([{ ...named, ...seam.opening }, ...own.slice(1)], 0);
    const [next, ...more] = own.slice(1);
    if (next) append([{ ...next, section: named.section ?? chorus.name, ...seam.opening }, ...more], 1);
  });
  return { bars: withPairedHairpins(withPairedSlurs(withTrueTies(bars).bars).bars).bars, source, origin, merged };
}

/** Where one time through meets the next. */
interface Seam {
  /** Meter, key and repeat that the first bar of the next has to state. */
  readonly opening: Partial<Pick<Bar, 'meter' | 'key' | 'repeatStart'>>;
  /** Of the last bar before it. */
  readonly meter: Meter;
  /** Length of the next one's pickup, 0 for none. */
  readonly pickup: Ticks;
  /** Whether the pickup finds room at the end of the last bar; else it stands as a bar of its own. */
  readonly goesIn: boolean;
}

function seamOf(before: Pick<Tune, 'bars' | 'meter' | 'key'>, last: Bar, next: readonly Bar[]): Seam {
  const { meter, key } = before;
  const [first] = next;
  const [meterHere, keyHere] = [first?.meter ?? meter, first?.key ?? key];
  const meterThere = metersOf(before).at(-1) ?? meter;
  const pickup = first && hasPickup({ bars: next, meter }) ? barLength(first, meterHere) : 0;
  const isSame = sameMeter(meterThere, meterHere);
  const isFree = last.partial === undefined && last.repeatEnd === undefined;
  return {
    opening: {
      ...(!isSame && { meter: meterHere }),
      ...((keysOf(before).at(-1) ?? key) !== keyHere && { key: keyHere }),
      ...opensRepeat(next),
    },
    meter: meterThere,
    pickup,
    goesIn: pickup > 0 && isFree && isSame && canBeCut(last.events, barTicks(meterThere) - pickup),
  };
}

/** The last bar of one time through with the pickup of the next at its end. */
function withPickup(last: Bar, first: Bar, { meter, pickup }: Seam): Bar {
  const until = barTicks(meter) - pickup;
  return {
    ...withoutFinal(last),
    events: [...cutAt(last.events, until, meter), ...first.events],
    chords: [
      ...last.chords.filter(({ at }) => at < until),
      ...first.chords.map((chord) => ({ ...chord, at: chord.at + until })),
    ],
  };
}

/** A chorus without notes, its chord symbols standing: room for a solo. */
export function soloSpace(tune: Pick<Tune, 'bars' | 'meter'>): readonly Bar[] {
  const meters = metersOf(tune);
  return tune.bars.map((bar, index) => {
    const meter = meters[index] ?? tune.meter;
    const length = barLength(bar, meter);
    const offset = bar.partial !== undefined && index === 0 ? barTicks(meter) - length : 0;
    return {
      ...bar,
      events: spellRestLength(offset, length, meter).map((ticks, k): Rest => ({
        kind: 'rest',
        id: `${bar.id}.s${k}`,
        length: ticks,
      })),
    };
  });
}

function withoutFinal({ barline: _, ...bar }: Bar): Bar {
  return bar;
}

/** A repeat sign at its end wants one at its beginning, where the tune no longer begins the page. */
function opensRepeat(bars: readonly Bar[]): { readonly repeatStart?: true } {
  const end = bars.findIndex(({ repeatEnd }) => repeatEnd !== undefined);
  const start = bars.findIndex(({ repeatStart }) => repeatStart);
  return end >= 0 && (start < 0 || start > end) ? { repeatStart: true } : {};
}

function untied({ tied: _, ...note }: Note): Note {
  return note;
}

/**
 * Whether a bar may end early: no note begins there, nobody else's notes are in it, and what is cut is neither in a
 * tuplet nor in an odd place.
 */
function canBeCut(events: readonly ScoreEvent[], from: Ticks): boolean {
  let at = 0;
  return events.every((event) => {
    const start = at;
    at += event.length;
    if (event.kind === 'note' && event.cue) return false;
    if (at <= from) return true;
    return !event.tuplet && (event.kind === 'rest' || start < from) && start % (TICKS_PER_QUARTER / 8) === 0;
  });
}

/** The events of a bar up to a place; what sounds over it is cut there. */
function cutAt(events: readonly ScoreEvent[], until: Ticks, meter: Meter): readonly ScoreEvent[] {
  let at = 0;
  return events.flatMap((event): readonly ScoreEvent[] => {
    const start = at;
    at += event.length;
    if (at <= until) return [event];
    if (start >= until) return [];
    const spell = event.kind === 'note' ? spellNoteLength : spellRestLength;
    let fresh = 0;
    const loose: ScoreEvent = event.kind === 'note' ? untied(event) : event;
    return asPieces(loose, spell(start, until - start, meter), () => `${event.id}.c${(fresh += 1)}`);
  });
}

/** A chorus with ids of its own; one with jumps bar by bar as it is played. */
function writtenOut(
  { bars, meter, key }: Pick<Tune, 'bars' | 'meter' | 'key'>,
  mark: string,
  told: (id: EventId, was: EventId) => void,
): { readonly bars: readonly Bar[]; readonly order: readonly number[] } {
  const renamed = (bar: Bar, suffix: string): Bar => ({
    ...bar,
    id: `${bar.id}${suffix}`,
    events: bar.events.map((event) => {
      const id = `${event.id}${suffix}`;
      told(id, event.id);
      return { ...event, id };
    }),
  });
  if (!bars.some(({ jumps }) => jumps))
    return { bars: bars.map((bar) => renamed(bar, mark)), order: bars.map((_, index) => index) };
  const { order } = unfold(bars);
  const [meters, keys] = [metersOf({ bars, meter }), keysOf({ bars, key })];
  const times = new Map<number, number>();
  const written = order.flatMap((index, place) => {
    const bar = bars[index];
    const before = order[place - 1];
    if (!bar) return [];
    const time = (times.get(index) ?? 0) + 1;
    times.set(index, time);
    const {
      jumps: _j,
      repeatStart: _s,
      repeatEnd: _e,
      ending: _n,
      endingStops: _t,
      meter: _m,
      key: _k,
      ...plain
    } = bar;
    // A jump may lead from one meter or key into another: they are given where they change in playing.
    const [hereMeter, thereMeter] = [meters[index] ?? meter, before === undefined ? meter : (meters[before] ?? meter)];
    const [hereKey, thereKey] = [keys[index] ?? key, before === undefined ? key : (keys[before] ?? key)];
    const given = {
      ...plain,
      ...(!sameMeter(hereMeter, thereMeter) && { meter: hereMeter }),
      ...(hereKey !== thereKey && { key: hereKey }),
    };
    return [renamed(given, `${mark}${time > 1 ? `.${time}` : ''}`)];
  });
  return { bars: written, order };
}
