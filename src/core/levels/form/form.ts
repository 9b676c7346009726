import type { Key } from '../../pitch/key';
import { withPairedHairpins, withPairedSlurs, withTrueTies } from '../../score/balance';
import { asPieces } from '../../score/splitNote';
import {
  barLength,
  hasPickup,
  keysOf,
  metersOf,
  type Bar,
  type EventId,
  type Note,
  type Rest,
  type ScoreEvent,
  type Tune,
} from '../../score/tune';
import { unfold } from '../../score/unfold';
import { barTicks, sameMeter, type Meter } from '../../time/meter';
import { spellNoteLength, spellRestLength } from '../../time/spellLength';
import { TICKS_PER_QUARTER, type Ticks } from '../../time/ticks';

/** One time through the tune. */
export interface Chorus {
  readonly bars: readonly Bar[];
  /** Printed at its head. */
  readonly name: string;
}

/** A tune played through several times, as it is written out. */
export interface Formed {
  readonly bars: readonly Bar[];
  /** For each bar, which time through it belongs to, from 0, and the index of the bar of the tune that it stands for. */
  readonly source: readonly { readonly chorus: number; readonly bar: number }[];
  /** For each event, the one of its chorus that it was; those made new are missing. */
  readonly origin: ReadonlyMap<EventId, { readonly chorus: number; readonly id: EventId }>;
  /** For each time through after the first, whether its pickup went into the bar before. */
  readonly merged: readonly boolean[];
}

/** What is added to the ids of a later time through. */
export function chorusMark(chorus: number): string {
  return chorus === 0 ? '' : `~${chorus + 1}`;
}

/**
 * Writes choruses one after another. Repeats stay as signs; where the tune jumps (D.C., D.S., Coda) it is written out, since a jump
 * cannot be read twice. A pickup goes into the bar before it. Keys and meters are given anew where the tune ends in others.
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
    const place = (k: number) => ({ chorus: index, bar: from[k] ?? 0 });
    const [first, ...others] = own;
    if (!first) return;
    const last = bars.at(-1);
    const named: Bar = { ...first, section: first.section ? `${chorus.name} · ${first.section}` : chorus.name };
    if (!last) {
      bars.push(choruses.length > 1 ? named : first);
      source.push(place(0));
    } else {
      const before = { bars, meter, key };
      const meterThere = metersOf(before).at(-1) ?? meter;
      const keyThere = keysOf(before).at(-1) ?? key;
      const open: Bar = {
        ...named,
        ...(!sameMeter(meterThere, first.meter ?? meter) && { meter: first.meter ?? meter }),
        ...(keyThere !== (first.key ?? key) && { key: first.key ?? key }),
      };
      const pickup = hasPickup({ bars: own, meter }) ? barLength(first, first.meter ?? meter) : 0;
      const full = barTicks(meterThere);
      bars[bars.length - 1] = { ...withoutFinal(last), barline: 'double' };
      // Where the end of the last bar is not free, the pickup stands as a bar of its own.
      const goesIn =
        like?.merged[index] ??
        (pickup > 0 &&
          last.partial === undefined &&
          last.repeatEnd === undefined &&
          canBeCut(last.events, full - pickup) &&
          sameMeter(meterThere, first.meter ?? meter));
      merged[index] = goesIn;
      if (goesIn) {
        bars[bars.length - 1] = {
          ...withoutFinal(last),
          events: [...cutAt(last.events, full - pickup, meterThere), ...first.events],
          chords: [
            ...last.chords.filter(({ at }) => at < full - pickup),
            ...first.chords.map((chord) => ({ ...chord, at: chord.at + full - pickup })),
          ],
        };
        const [next, ...more] = others;
        if (next) {
          bars.push({
            ...next,
            section: named.section ?? chorus.name,
            ...(open.meter && { meter: open.meter }),
            ...(open.key && { key: open.key }),
            ...opensRepeat(own),
          });
          source.push(place(1));
        }
        more.forEach((bar, k) => {
          bars.push(bar);
          source.push(place(k + 2));
        });
        return;
      }
      bars.push({ ...open, ...opensRepeat(own) });
      source.push(place(0));
    }
    others.forEach((bar, k) => {
      bars.push(bar);
      source.push(place(k + 1));
    });
  });
  return { bars: withPairedHairpins(withPairedSlurs(withTrueTies(bars).bars).bars).bars, source, origin, merged };
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

/** Whether a bar may end early: no note begins there, nobody else's notes are in it, and what is cut is neither in a tuplet nor in an odd place. */
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
