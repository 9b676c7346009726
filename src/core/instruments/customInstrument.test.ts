import { instrument, pitch } from '../../../tests/given';
import { customInstrument, customInstrumentProblems, withChart, type CustomInstrument } from './customInstrument';
import type { WrittenRange } from './instrument';

const range = (low: string, high: string): WrittenRange => ({ low: pitch(low), high: pitch(high) });
const OWN: CustomInstrument = { id: 'own-1', name: 'Quarter-size violin', base: 'violin' };

describe('an instrument of one’s own', () => {
  test('is the one it was copied from, but for what differs', () => {
    const made = customInstrument({ ...OWN, transposition: { diatonic: -1, chromatic: -2 } });
    const violin = instrument('violin');
    expect(made).toMatchObject({ id: 'own-1', name: 'Quarter-size violin', clef: violin.clef, range: violin.range });
    expect(made?.transposition).toEqual({ diatonic: -1, chromatic: -2 });
    expect(made?.source).toMatch(/^The teacher's own, from: Violin\./);
  });

  test('is one object however often it is asked for', () => {
    expect(customInstrument(OWN)).toBe(customInstrument(OWN));
  });

  test('has strings of its own only where it has strings', () => {
    const strings = ['C3', 'G3', 'D4', 'A4'].map(pitch);
    expect(customInstrument({ ...OWN, strings })?.mechanism).toMatchObject({ kind: 'bowed', strings });
    const flute = customInstrument({ ...OWN, base: 'flute', strings });
    expect(flute?.mechanism).toBe(instrument('flute').mechanism);
  });

  test('keeps the short name of its base where its own is too long for a margin', () => {
    const { shortName } = instrument('violin');
    expect(customInstrument({ ...OWN, name: 'Fiddle' })?.shortName).toBe('Fiddle');
    expect(customInstrument({ ...OWN, name: 'The fiddle from the boat shed' })?.shortName).toBe(shortName);
  });

  test('is none where its base is gone', () => expect(customInstrument({ ...OWN, base: 'no-such' })).toBeUndefined());
});

describe('what is wrong with one is said in words', () => {
  const full = range('G3', 'E7');
  const nested = { beginner: range('G3', 'B5'), intermediate: range('G3', 'E6'), advanced: range('G3', 'A6'), full };
  const wrong = (more: Partial<CustomInstrument>) => customInstrumentProblems({ ...OWN, ...more });

  test.each<[string, Partial<CustomInstrument>, readonly string[]]>([
    ['nothing', { range: nested }, []],
    ['no base', { base: 'no-such' }, ['"no-such" is not in the catalogue']],
    ['no name', { name: '  ' }, ['it needs a name']],
    ['strings on a flute', { base: 'flute', strings: [pitch('G3')] }, ['the flute has no strings']],
    ['no strings left', { strings: [] }, ['1 to 12 strings']],
    [
      'a fingering system of others',
      { chart: 'clarinet' as NonNullable<CustomInstrument['chart']> },
      ['the violin has no system "clarinet"'],
    ],
    [
      'too few notes',
      { range: { ...nested, beginner: range('G3', 'C4') } },
      ['beginner: the range needs all twelve notes, eleven half steps at least'],
    ],
    [
      'a beginner beyond the intermediate',
      { range: { ...nested, beginner: range('G3', 'F6') } },
      ['the beginner range must lie within the intermediate one'],
    ],
    [
      'an advanced player beyond the instrument',
      { range: { ...nested, advanced: range('F3', 'A6') } },
      ['the advanced range must lie within the full one'],
    ],
  ])('%s', (_, more, problems) => expect(wrong(more)).toEqual(problems));

  test('all of it at once', () => {
    expect(wrong({ name: '', strings: [], range: { ...nested, beginner: range('G3', 'C4') } })).toHaveLength(3);
  });
});

describe('another system of fingering', () => {
  const recorder = instrument('recorder-descant').mechanism;

  test('comes first, the others stay; the same object comes back each time', () => {
    if (recorder.kind !== 'holes') throw new Error('a recorder has holes');
    const other = recorder.charts.at(-1) ?? recorder.charts[0];
    const made = withChart(recorder, other);
    expect(made).toMatchObject({ charts: [other, ...recorder.charts.filter((one) => one !== other)] });
    expect(withChart(recorder, other)).toBe(made);
  });

  test('that the instrument does not have changes nothing', () => {
    expect(withChart(recorder, 'no-such' as Parameters<typeof withChart>[1])).toBe(recorder);
  });
});
