import { TICKS_PER_QUARTER } from '../../time/ticks';
import { printMeter, type Meter } from '../../time/meter';
import type { FormatProblem } from '../problem';
import { barsUntil, COMMON_TIME, gridBeats, metersOfFile, withoutLead, type GridBar } from './meterGrid';
import type { MidiFile } from './midiFile';
import type { TimedNote } from './quantise';
import { temposOfFile, withTempos } from './tempos';

const q = (quarters: number) => quarters * TICKS_PER_QUARTER;
const DIVISION = 480;
const file = (more: Partial<MidiFile> = {}): MidiFile => ({
  division: DIVISION,
  tracks: [],
  tempos: [],
  meters: [],
  keys: [],
  markers: [],
  lyrics: [],
  title: '',
  copyright: '',
  end: 0,
  ...more,
});
const meterAt = (quarters: number, count: number, unit: number) => ({ at: quarters * DIVISION, count, unit });
const tempoAt = (quarters: number, perMinute: number) => ({
  at: quarters * DIVISION,
  microsecondsPerQuarter: 60_000_000 / perMinute,
});
const note = (start: number, length: number): TimedNote => ({ start: q(start), end: q(start + length), pitch: 60 });
const THREE: Meter = { count: 3, unit: 4 };
const bars = (...meters: readonly Meter[]) => {
  let start = 0;
  return meters.map((meter): GridBar => {
    const length = q((meter.count * 4) / meter.unit);
    start += length;
    return { start: start - length, length, meter, changesMeter: false };
  });
};

describe('the meter of a file', () => {
  const meters = (of: MidiFile, notes: readonly TimedNote[] = [], set?: Meter) => {
    const { changes, source } = metersOfFile(of, notes, set ? { midi: { meter: set } } : {});
    return `${source}: ${changes.map(({ at, meter }) => `${printMeter(meter)}@${at / TICKS_PER_QUARTER}`).join(' ')}`;
  };

  test('is what the file says, wherever it changes', () => {
    expect(meters(file({ meters: [meterAt(0, 4, 4), meterAt(8, 3, 4)] }))).toBe('file: 4/4@0 3/4@8');
  });

  test('of two at one place the later one counts, and what nobody can read does not', () => {
    expect(meters(file({ meters: [meterAt(0, 4, 4), meterAt(0, 6, 8), meterAt(3, 0, 4), meterAt(6, 4, 3)] }))).toBe(
      'file: 6/8@0',
    );
  });

  test('is what a person set, whatever the file says', () => {
    expect(meters(file({ meters: [meterAt(0, 4, 4)] }), [], THREE)).toBe('set: 3/4@0');
  });

  test('is worked out from where long notes begin, where the file says nothing', () => {
    const waltz = Array.from({ length: 8 }, (_, k) => [note(3 * k, 2), note(3 * k + 2, 1)]).flat();
    const march = Array.from({ length: 8 }, (_, k) => [note(4 * k, 2), note(4 * k + 2, 1), note(4 * k + 3, 1)]).flat();
    expect([meters(file(), waltz), meters(file(), march)]).toEqual(['guess: 3/4@0', 'guess: 4/4@0']);
  });
});

describe('bars on the grid', () => {
  const shown = (grid: readonly GridBar[]) =>
    grid.map(
      ({ start, length, meter }) => `${start / TICKS_PER_QUARTER}+${length / TICKS_PER_QUARTER} ${printMeter(meter)}`,
    );

  test('go on until the end of the notes', () => {
    expect(shown(barsUntil([{ at: 0, meter: COMMON_TIME }], q(9)))).toEqual(['0+4 4/4', '4+4 4/4', '8+4 4/4']);
  });

  test('a change inside a bar cuts it', () => {
    const grid = barsUntil(
      [
        { at: 0, meter: COMMON_TIME },
        { at: q(6), meter: THREE },
      ],
      q(12),
    );
    expect(shown(grid)).toEqual(['0+4 4/4', '4+2 4/4', '6+3 3/4', '9+3 3/4']);
    expect(grid.map(({ changesMeter }) => changesMeter)).toEqual([false, false, true, false]);
  });

  test('a short meter at the head is a pickup to the next', () => {
    const grid = barsUntil(
      [
        { at: 0, meter: { count: 1, unit: 4 } },
        { at: q(1), meter: COMMON_TIME },
      ],
      q(5),
    );
    expect(shown(grid)).toEqual(['0+1 4/4', '1+4 4/4']);
    expect(grid[1]?.changesMeter).toBe(false);
  });

  test('beats of a pickup are the last of its bar; beats of three stay whole where they are', () => {
    const beats = (bar: GridBar, index: number) =>
      gridBeats(bar, index).map(
        ({ start, length, isCompound }) =>
          `${start / TICKS_PER_QUARTER}+${length / TICKS_PER_QUARTER}${isCompound ? '*' : ''}`,
      );
    const [whole] = bars({ count: 6, unit: 8 });
    if (!whole) throw new Error('no bar');
    expect(beats(whole, 1)).toEqual(['0+1.5*', '1.5+1.5*']);
    expect(beats({ ...whole, length: q(1) }, 0)).toEqual(['0+1']);
    const [common] = bars(COMMON_TIME);
    if (!common) throw new Error('no bar');
    expect(beats({ ...common, length: q(2) }, 0)).toEqual(['0+1', '1+1']);
    expect(beats(bars({ count: 2, unit: 2 })[0] ?? common, 1)).toHaveLength(4);
  });
});

describe('the beginning of a tune', () => {
  const lead = (notes: readonly TimedNote[], pickup?: number) => {
    const {
      bars: left,
      dropped,
      pickup: found,
    } = withoutLead(
      bars(COMMON_TIME, COMMON_TIME, COMMON_TIME, COMMON_TIME),
      notes,
      pickup === undefined ? {} : { midi: { pickup: q(pickup) } },
    );
    return `${dropped} dropped, ${left.length} left, pickup ${found / TICKS_PER_QUARTER}`;
  };

  test('empty bars at the head go', () => expect(lead([note(8, 4)])).toBe('2 dropped, 2 left, pickup 0'));
  test('a first bar that is silent for half and more is a pickup', () => {
    expect(lead([note(3, 1), note(4, 4)])).toBe('0 dropped, 4 left, pickup 1');
    expect(lead([note(1, 1), note(4, 4)])).toBe('0 dropped, 4 left, pickup 0');
  });
  test('unless a person says how long it is, or that there is none', () => {
    expect(lead([note(3, 1), note(4, 4)], 2)).toBe('0 dropped, 4 left, pickup 2');
    expect(lead([note(3, 1), note(4, 4)], 0)).toBe('0 dropped, 4 left, pickup 0');
  });
});

describe('the tempo of a file', () => {
  const tempos = (of: MidiFile, meter: Meter = COMMON_TIME, set?: number) => {
    const warnings: FormatProblem[] = [];
    const grid = bars(meter, meter, meter, meter);
    const read = temposOfFile(of, meter, grid, warnings, set === undefined ? {} : { midi: { perMinute: set } });
    return {
      ...read,
      told: warnings.map(({ found }) => found),
      bars: withTempos(
        grid.map(() => ({ events: [], chords: [], place: {} })),
        read,
      ),
    };
  };

  test('is said in the beat of the meter', () => {
    const six: Meter = { count: 6, unit: 8 };
    expect(tempos(file({ tempos: [tempoAt(0, 90)] }), six).first).toEqual({
      beat: { type: 'quarter', dots: 1 },
      perMinute: 60,
    });
    expect(tempos(file({ tempos: [tempoAt(0, 120)] }), { count: 2, unit: 2 }).first).toEqual({
      beat: { type: 'half', dots: 0 },
      perMinute: 60,
    });
    expect(tempos(file()).first.perMinute).toBe(120);
  });

  test('real changes stand in their bars, small ones are counted and told', () => {
    const read = tempos(file({ tempos: [tempoAt(0, 100), tempoAt(5, 102), tempoAt(6, 60), tempoAt(7, 61)] }));
    expect(read.placed.map(({ barIndex, at, tempo }) => [barIndex, at / TICKS_PER_QUARTER, tempo.perMinute])).toEqual([
      [1, 2, 60],
    ]);
    expect(read.told).toEqual(['2 small changes of tempo']);
    expect(read.bars.map(({ tempos: here }) => here?.length ?? 0)).toEqual([0, 1, 0, 0]);
  });

  test('that a person set holds throughout', () => {
    const read = tempos(file({ tempos: [tempoAt(0, 100), tempoAt(6, 60)] }), COMMON_TIME, 72);
    expect([read.first.perMinute, read.placed, read.source, read.told]).toEqual([72, [], 'set', []]);
  });
});
