import fc from 'fast-check';
import { anyTune } from '../../../../tests/anyTune';
import { key, tuneOf } from '../../../../tests/given';
import { printKey } from '../../pitch/key';
import { printMeter } from '../../time/meter';
import { isNote, keysOf, metersOf, type Bar, type Tune } from '../tune';
import { scoreProblems } from '../validate';
import { deleteBars, insertBars, repeatBars } from './barEdits';

const TUNE = tuneOf('C2 D2 E2 F2 | G2 A2 B2 c2 | d4 c4 | C8 |]');
const with_ = (tune: Tune, at: number, more: Partial<Bar>): Tune => ({
  ...tune,
  bars: tune.bars.map((bar, k) => (k === at ? { ...bar, ...more } : bar)),
});
const done = (result: ReturnType<typeof insertBars>) => {
  if (!result.ok) throw new Error(result.problem.text);
  return result.value;
};
const shown = ({ bars }: Tune) =>
  bars
    .map(({ events }) =>
      events.map((event) => (isNote(event) ? `${event.pitch.step}${event.pitch.octave}` : 'z')).join(' '),
    )
    .join(' | ');

describe('bars that are put in', () => {
  test('are empty, stand before the one that was meant, and take the caret', () => {
    const { tune, caret, name } = done(insertBars(TUNE, 1, 2));
    expect(shown(tune)).toBe('C4 D4 E4 F4 | z | z | G4 A4 B4 C5 | D5 C5 | C4');
    expect([caret, name]).toEqual([{ bar: 1, at: 0 }, 'Insert 2 bars']);
  });

  test('at the end they take the final line with them', () => {
    const { tune } = done(insertBars(TUNE, 4, 1));
    expect(tune.bars.map(({ barline }) => barline)).toEqual([undefined, undefined, undefined, undefined, 'final']);
  });

  test('what began with the bar after them begins with them: meter, key, repeat and section', () => {
    const three = { count: 3, unit: 4 } as const;
    const marked = with_(tuneOf('C2 D2 E2 F2 | G2 A2 B2 |]'), 1, {
      meter: three,
      key: key('G'),
      repeatStart: true,
      section: 'B',
    });
    const { tune } = done(insertBars(marked, 1, 1));
    expect(tune.bars[1]).toMatchObject({ meter: three, repeatStart: true, section: 'B' });
    expect(tune.bars[2]).not.toHaveProperty('section');
    expect(metersOf(tune).map(printMeter)).toEqual(['4/4', '3/4', '3/4']);
    expect(keysOf(tune).map(printKey)).toEqual(['C', 'G', 'G']);
  });

  test('a pickup stays the first bar', () => {
    const { tune } = done(insertBars(tuneOf('G2 | C8 | D8 |]'), 0, 1));
    expect(shown(tune)).toBe('G4 | z | C4 | D4');
  });
});

describe('bars that are taken out', () => {
  test('leave the others as they were, and the final line at the end', () => {
    const { tune, name } = done(deleteBars(TUNE, 2, 3));
    expect([shown(tune), tune.bars.at(-1)?.barline, name]).toEqual([
      'C4 D4 E4 F4 | G4 A4 B4 C5',
      'final',
      'Delete bars 3–4',
    ]);
  });

  test('hand on the meter and key that began with them', () => {
    const three = { count: 3, unit: 4 } as const;
    const change = tuneOf('C8 | D6 | E6 | F6 |]', 'M:4/4\nL:1/8\nK:C');
    const marked: Tune = {
      ...change,
      bars: change.bars.map((bar, k) => {
        const { partial: _, ...plain } = bar;
        return k === 1 ? { ...plain, meter: three, key: key('G') } : plain;
      }),
    };
    const { tune } = done(deleteBars(marked, 1, 1));
    expect([metersOf(tune).map(printMeter), keysOf(tune).map(printKey)]).toEqual([
      ['4/4', '3/4', '3/4'],
      ['C', 'G', 'G'],
    ]);
  });

  test('at the head of a tune, the tune begins as the bar after them', () => {
    const marked = with_(TUNE, 1, { key: key('D') });
    const { tune } = done(deleteBars(marked, 0, 0));
    expect([printKey(tune.key), tune.bars[0]?.key]).toEqual(['D', undefined]);
  });

  test('hand on a repeat that they began or ended alone', () => {
    const repeated = with_(with_(TUNE, 1, { repeatStart: true }), 2, { repeatEnd: 2 });
    expect(done(deleteBars(repeated, 1, 1)).tune.bars[1]).toMatchObject({ repeatStart: true, repeatEnd: 2 });
    expect(done(deleteBars(repeated, 2, 2)).tune.bars[1]).toMatchObject({ repeatStart: true, repeatEnd: 2 });
    const whole = done(deleteBars(repeated, 1, 2)).tune;
    expect(whole.bars.some(({ repeatStart, repeatEnd }) => repeatStart ?? repeatEnd)).toBe(false);
  });

  test('hand on an ending, and tell of jumps and tempos that went with them', () => {
    const tempo = { beat: { type: 'quarter', dots: 0 }, perMinute: 60 } as const;
    const marked = with_(with_(TUNE, 1, { ending: [1], jumps: ['segno'], tempos: [{ at: 0, tempo }] }), 2, {
      endingStops: true,
    });
    const { tune, messages } = done(deleteBars(marked, 1, 1));
    expect(tune.bars[1]).toMatchObject({ ending: [1], endingStops: true });
    expect(messages).toEqual(['the jump in it went', 'the change of tempo in it went']);
  });

  test('all of them leave one empty bar', () => {
    const { tune, caret } = done(deleteBars(TUNE, 0, 3));
    expect([shown(tune), tune.bars.length, tune.bars[0]?.barline, caret]).toEqual(['z', 1, 'final', { bar: 0, at: 0 }]);
  });

  test('where there is none it is said', () => {
    expect(deleteBars(TUNE, 9, 9)).toMatchObject({ ok: false, problem: { text: 'There is no bar to delete.' } });
  });
});

describe('bars that are written again', () => {
  test('follow themselves under names of their own, without signs that would count twice', () => {
    const marked = with_(TUNE, 1, { section: 'B', repeatStart: true, jumps: ['segno'] });
    const { tune } = done(repeatBars(marked, 1, 1));
    expect(shown(tune)).toBe('C4 D4 E4 F4 | G4 A4 B4 C5 | G4 A4 B4 C5 | D5 C5 | C4');
    expect(Object.keys(tune.bars[2] ?? {}).toSorted()).toEqual(['chords', 'events', 'id']);
    const ids = tune.bars.flatMap(({ id, events }) => [id, ...events.map((event) => event.id)]);
    expect(new Set(ids).size).toBe(ids.length);
  });

  test('where there is none it is said', () => expect(repeatBars(TUNE, 7, 8).ok).toBe(false));
});

test('whatever bars go in, out or come twice, the tune adds up', () => {
  fc.assert(
    fc.property(anyTune, fc.nat(30), fc.nat(3), fc.constantFrom('in', 'out', 'twice'), (tune, at, more, how) => {
      const from = at % tune.bars.length;
      const to = Math.min(tune.bars.length - 1, from + more);
      const result =
        how === 'in'
          ? insertBars(tune, from, more + 1)
          : how === 'out'
            ? deleteBars(tune, from, to)
            : repeatBars(tune, from, to);
      const wrong = result.ok ? scoreProblems(result.value.tune) : [];
      expect(wrong).toEqual([]);
    }),
  );
});
