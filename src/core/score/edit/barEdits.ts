import { sameMeter, type Tuplet } from '../../time';
import { barNumbers, keysOf, metersOf, type Bar, type Jump, type ScoreEvent, type Tune } from '../tune';
import type { IdMaker } from '../identify';
import { sameKey } from '../../pitch';
import { edited, refused, type EditResult } from './edited';
import type { Caret } from './place';
import { draftOf, emptyBar, meterAt } from './write';

/** Puts empty bars before the one at `at`; at the number of bars, behind the last. */
export function insertBars(tune: Tune, at: number, count: number): EditResult {
  const draft = draftOf(tune);
  // A pickup stays the first bar.
  const index = Math.max(tune.bars[0]?.partial !== undefined && at === 0 ? 1 : at, 0);
  const isEnd = index >= tune.bars.length;
  const meter = meterAt(draft, isEnd ? tune.bars.length - 1 : index);
  const here = tune.bars[index];
  const fresh = Array.from({ length: count }, () => emptyBar(draft, meter));
  const [first] = fresh;
  // A change of meter or key, a repeat sign or a section that began with the bar now begins with the new one before it.
  if (here && first && !isEnd) {
    const { meter: own, key, repeatStart, section, ...rest } = here;
    fresh[0] = {
      ...first,
      ...(own && { meter: own }),
      ...(key && { key }),
      ...(repeatStart && { repeatStart }),
      ...(section && { section }),
    };
    draft.bars.splice(index, 1, ...fresh, rest);
  } else {
    const last = draft.bars.at(-1);
    const final = last?.barline === 'final';
    if (last && final) {
      const { barline: _, ...open } = last;
      draft.bars[draft.bars.length - 1] = open;
    }
    draft.bars.push(...fresh.map((bar, k): Bar => (final && k === count - 1 ? { ...bar, barline: 'final' } : bar)));
  }
  return edited(
    tune,
    draft.bars,
    { bar: Math.min(index, draft.bars.length - 1), at: 0 },
    count === 1 ? 'Insert a bar' : `Insert ${count} bars`,
  );
}

/**
 * Takes bars out. What they began or ended for their neighbours (meter, key, repeat signs, endings, the final line) is
 * handed on.
 */
export function deleteBars(tune: Tune, from: number, to: number): EditResult {
  const gone = tune.bars.slice(from, to + 1);
  if (gone.length === 0) return refused('nothing-here', 'There is no bar to delete.');
  const numbers = barNumbers(tune);
  const name = gone.length === 1 ? `Delete bar ${numbers[from]}` : `Delete bars ${numbers[from]}–${numbers[to]}`;
  if (gone.length >= tune.bars.length) {
    const draft = draftOf(tune);
    return edited(tune, [{ ...emptyBar(draft, tune.meter), barline: 'final' }], { bar: 0, at: 0 }, name);
  }
  const meters = metersOf(tune);
  const keys = keysOf(tune);
  const bars = [...tune.bars.slice(0, from), ...tune.bars.slice(to + 1)];
  const [before, after] = [bars[from - 1], bars[from]];
  const there = { meter: meters[from - 1] ?? tune.meter, key: keys[from - 1] ?? tune.key };
  const here = { meter: meters[to + 1] ?? tune.meter, key: keys[to + 1] ?? tune.key };
  if (after) bars[from] = { ...after, ...(from > 0 && headOf(after, here, there)), ...begunBy(gone, after) };
  if (before) {
    const isEnd = to === tune.bars.length - 1 && gone.at(-1)?.barline === 'final';
    bars[from - 1] = { ...before, ...endedBy(gone, before), ...(isEnd && { barline: 'final' as const }) };
  }
  const messages = [
    ...(gone.some(({ jumps }) => jumps) ? ['the jump in it went'] : []),
    ...(gone.some(({ tempos }) => tempos) ? ['the change of tempo in it went'] : []),
  ];
  const whole = from === 0 ? { ...tune, ...here } : tune;
  const first = bars[0];
  const settledBars = from === 0 && first ? [withoutOwnStart(first), ...bars.slice(1)] : bars;
  return edited(whole, settledBars, { bar: Math.min(from, bars.length - 1), at: 0 }, name, messages);
}

/** Meter and key that a bar has to state now that another one stands before it. */
function headOf(
  bar: Bar,
  here: Pick<Tune, 'meter' | 'key'>,
  there: Pick<Tune, 'meter' | 'key'>,
): Partial<Pick<Bar, 'meter' | 'key'>> {
  return {
    ...(!bar.meter && !sameMeter(here.meter, there.meter) && { meter: here.meter }),
    ...(!bar.key && !sameKey(here.key, there.key) && { key: here.key }),
  };
}

/** What bars that go began and did not end: the bar after them begins it. */
function begunBy(gone: readonly Bar[], after: Bar): Partial<Pick<Bar, 'repeatStart' | 'ending'>> {
  const opened = gone.some(({ repeatStart }) => repeatStart) && !gone.some(({ repeatEnd }) => repeatEnd !== undefined);
  const ending = gone.findLast((bar) => bar.ending);
  const stays = ending && !gone.slice(gone.indexOf(ending)).some(({ endingStops }) => endingStops);
  return {
    ...(opened && { repeatStart: true as const }),
    ...(stays && !after.ending && ending.ending && { ending: ending.ending }),
  };
}

/** What bars that go ended and had not begun: the bar before them ends it. */
function endedBy(gone: readonly Bar[], before: Bar): Partial<Pick<Bar, 'repeatEnd' | 'endingStops'>> {
  const closing = gone.findLast((bar) => bar.repeatEnd !== undefined);
  const closes =
    closing &&
    !gone.slice(0, gone.indexOf(closing)).some(({ repeatStart }) => repeatStart) &&
    before.repeatEnd === undefined;
  const endingStops = gone.some((bar) => bar.endingStops) && !gone.some((bar) => bar.ending);
  return {
    ...(closes && closing.repeatEnd !== undefined && { repeatEnd: closing.repeatEnd }),
    ...(endingStops && { endingStops: true as const }),
  };
}

function withoutOwnStart({ meter: _m, key: _k, ...bar }: Bar): Bar {
  return bar;
}

/** Writes bars again behind themselves. Repeat signs, endings, sections and jumps are not copied. */
export function repeatBars(tune: Tune, from: number, to: number): EditResult {
  const source = tune.bars.slice(from, to + 1);
  if (source.length === 0) return refused('nothing-here', 'There is no bar to repeat.');
  const draft = draftOf(tune);
  const meters = metersOf(tune);
  const keys = keysOf(tune);
  const numbers = barNumbers(tune);
  const copies = source.map((bar, k): Bar => {
    const meter = k === 0 ? meters[from] : bar.meter;
    const key = k === 0 ? keys[from] : bar.key;
    const isOwnMeter = meter && (k > 0 || !sameMeter(meter, meters[to] ?? tune.meter));
    const isOwnKey = key && (k > 0 || !sameKey(key, keys[to] ?? tune.key));
    return {
      id: draft.ids.bar(),
      events: freshEvents(bar.events, draft.ids),
      chords: bar.chords,
      ...(bar.partial !== undefined && { partial: bar.partial }),
      ...(isOwnMeter && { meter }),
      ...(isOwnKey && { key }),
      ...(bar.second && { second: freshEvents(bar.second, draft.ids) }),
    };
  });
  const last = tune.bars[to];
  const rest = tune.bars.slice(to + 1);
  const head = last?.barline === 'final' ? [...tune.bars.slice(0, to), withoutLine(last)] : tune.bars.slice(0, to + 1);
  const tail =
    last?.barline === 'final'
      ? copies.map((bar, k): Bar => (k === copies.length - 1 ? { ...bar, barline: 'final' } : bar))
      : copies;
  return edited(
    tune,
    [...head, ...tail, ...rest],
    { bar: to + 1, at: 0 },
    source.length === 1 ? `Repeat bar ${numbers[from]}` : `Repeat bars ${numbers[from]}–${numbers[to]}`,
  );
}

function withoutLine({ barline: _, ...bar }: Bar): Bar {
  return bar;
}

/** The same events under new ids; those of one tuplet stay together. */
export function freshEvents(events: readonly ScoreEvent[], ids: IdMaker): readonly ScoreEvent[] {
  const tuplets = new Map<string, Tuplet>();
  const renamed = (tuplet: Tuplet): Tuplet => {
    const known = tuplets.get(tuplet.id);
    if (known) return known;
    const made: Tuplet = {
      id: ids.tuplet(),
      actual: tuplet.actual,
      normal: tuplet.normal,
      ...(tuplet.outer && { outer: renamed(tuplet.outer) }),
    };
    tuplets.set(tuplet.id, made);
    return made;
  };
  return events.map((event) => ({ ...event, id: ids.event(), ...(event.tuplet && { tuplet: renamed(event.tuplet) }) }));
}

/** What may be set on a bar; `undefined` takes it away. */
export interface BarMarks {
  readonly section?: string | undefined;
  readonly repeatStart?: true | undefined;
  readonly repeatEnd?: number | undefined;
  readonly ending?: readonly number[] | undefined;
  readonly endingStops?: true | undefined;
  readonly barline?: 'double' | 'final' | undefined;
  readonly jumps?: readonly Jump[] | undefined;
}

export function markBar(tune: Tune, index: number, marks: BarMarks, caret: Caret, name: string): EditResult {
  const here = tune.bars[index];
  if (!here) return refused('nothing-here', 'There is no such bar.');
  const changed = Object.fromEntries(
    Object.entries({ ...here, ...marks }).filter(
      ([, value]) => value !== undefined && value !== '' && !(Array.isArray(value) && value.length === 0),
    ),
  ) as unknown as Bar;
  return edited(
    tune,
    tune.bars.map((bar, k) => (k === index ? { ...changed, events: bar.events, chords: bar.chords } : bar)),
    caret,
    name,
  );
}
