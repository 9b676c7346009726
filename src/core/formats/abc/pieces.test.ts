import { printPitch } from '../../pitch/pitch';
import { TICKS_PER_QUARTER } from '../../time/ticks';
import { bodyField } from './bodyField';
import type { DraftEvent } from './draftBars';
import { gatheredIn } from './gathered';
import { parseAbcKey } from './header';
import { brokenRhythm, lengthIn, tupletIn } from './lengths';
import { OpenTuplet } from './openTuplet';
import { AbcPitches } from './pitches';

const EIGHTH = TICKS_PER_QUARTER / 2;
const pitches = (tonality: string) => {
  const key = parseAbcKey(tonality);
  if (!key) throw new Error(tonality);
  return new AbcPitches(key);
};
const sign = (text: string) => {
  const match = /^\((\d):?(\d)?:?(\d+)?/.exec(text);
  if (!match) throw new Error(text);
  return match;
};

describe('a field between the lines of music', () => {
  test.each([
    ['V', 'alto clef=alto', { kind: 'voice', name: 'alto' }],
    ['w', 'la la', { kind: 'words', text: 'la la' }],
    ['M', '6/8', { kind: 'meter', meter: { count: 6, unit: 8 } }],
    ['L', '1/16', { kind: 'unit', unit: TICKS_PER_QUARTER / 4 }],
    ['P', 'B', { kind: 'section', label: 'B' }],
    ['N', 'a note', { kind: 'other' }],
  ])('%s:%s', (name, value, said) => expect(bodyField(name, value, EIGHTH)).toEqual(said));

  test.each([
    ['K', 'H', 'a key is written like D, Bb, Em or A dorian'],
    ['M', 'four', 'a meter is written like 4/4 or 6/8'],
    ['L', '8', 'a unit length is written like 1/8'],
  ])('%s:%s is wrong, with what would be right', (name, value, right) =>
    expect(bodyField(name, value, EIGHTH)).toEqual({ kind: 'wrong', right }),
  );

  test('a tempo that cannot be read is a slight thing: the music does not depend on it', () => {
    expect(bodyField('Q', 'lively', EIGHTH)).toMatchObject({ kind: 'wrong', isSlight: true });
    expect(bodyField('Q', '1/4=96', EIGHTH)).toMatchObject({ kind: 'tempo', tempo: { perMinute: 96 } });
  });

  test('the name of a section has an end', () => {
    const field = bodyField('P', 'x'.repeat(100), EIGHTH);
    expect(field.kind === 'section' && field.label.length).toBe(40);
  });
});

describe('notes that are written together', () => {
  const read = (text: string, most?: number) => {
    const { notes, odd } = gatheredIn(text, pitches('G'), most);
    return `${notes.map(({ pitch }) => printPitch(pitch)).join(' ')}${odd.length > 0 ? ` | ${odd.join('')}` : ''}`;
  };

  test.each([
    ['CEG', 'C4 E4 G4'],
    ['c F a2', 'C5 F#4 A5'],
    ["^c' _B,", 'C#6 Bb3'],
    ['C?E!', 'C4 E4 | ?!'],
    ['', ''],
  ])('“%s”', (text, words) => expect(read(text)).toBe(words));

  test('no more are read than are wanted, and one', () => expect(read('CDEFGAB', 3)).toBe('C4 D4 E4 F#4'));
});

describe('a tuplet that is going on', () => {
  const event = (): DraftEvent => ({ length: EIGHTH, marks: {} });
  const place = { line: 3 };

  test('takes as many events as it lasts for, each in its share of the time', () => {
    const open = new OpenTuplet();
    expect(open.begin(sign('(3'), undefined, place)).toEqual([]);
    const events = [event(), event(), event(), event()];
    events.forEach((one) => open.take(one));
    expect(events.map(({ length }) => length / EIGHTH)).toEqual([2 / 3, 2 / 3, 2 / 3, 1]);
    expect(new Set(events.slice(0, 3).map(({ tuplet }) => tuplet)).size).toBe(1);
    expect(open.end()).toEqual([]);
  });

  test('one after the other have names of their own', () => {
    const open = new OpenTuplet();
    const ids = [0, 1].map(() => {
      open.begin(sign('(2'), undefined, place);
      const [a, b] = [event(), event()];
      open.take(a);
      open.take(b);
      return a.tuplet?.id;
    });
    expect(new Set(ids).size).toBe(2);
  });

  test('that is left unfinished is told with what is missing, by the next one or at the end', () => {
    const open = new OpenTuplet();
    open.begin(sign('(3'), undefined, place);
    open.take(event());
    const told = { code: 'tuplet-unfinished', place, found: '(3', right: '2 more should follow' };
    expect(open.begin(sign('(3'), undefined, place)).toEqual([told]);
    open.take(event());
    expect(open.end()).toEqual([told]);
    expect(open.end()).toEqual([]);
  });

  test('of a number that there is not is refused, and takes nothing', () => {
    const open = new OpenTuplet();
    expect(open.begin(sign('(1'), undefined, place)).toMatchObject([{ code: 'unreadable-length', found: '(1' }]);
    const one = event();
    open.take(one);
    expect(one.tuplet).toBeUndefined();
  });
});

describe('lengths', () => {
  const unit = EIGHTH;

  test.each([
    ['', '', '', 1],
    ['3', '', '', 3],
    ['', '/', '', 1 / 2],
    ['', '//', '', 1 / 4],
    ['3', '/', '2', 3 / 2],
    ['3', '/', '', 3 / 2],
  ])('%s%s%s', (over, slashes, under, units) => expect(lengthIn(unit, over, slashes.length, under)).toBe(unit * units));

  test.each([
    ['0', '', ''],
    ['1', '/', '0'],
    ['9999', '', ''],
    ['', '/', '11'],
  ])('%s%s%s is no length', (over, slashes, under) =>
    expect(lengthIn(unit, over, slashes.length, under)).toBeUndefined(),
  );

  test('broken rhythm takes from one and gives to the other, whichever way it points', () => {
    for (const count of [1, 2, 3])
      for (const way of ['<', '>'] as const) {
        const { before, after } = brokenRhythm(way, count);
        expect([before + after, before > after]).toEqual([2, way === '>']);
      }
    expect(brokenRhythm('>', 1)).toEqual({ before: 1.5, after: 0.5 });
  });

  test.each([
    ['(3', '4/4', 3, 2, 3],
    ['(2', '6/8', 2, 3, 2],
    ['(5', '4/4', 5, 2, 5],
    ['(5', '6/8', 5, 3, 5],
    ['(3:4:6', '4/4', 3, 4, 6],
  ])('%s in %s', (text, meter, actual, normal, count) => {
    const [beats = 4, unitOf = 4] = meter.split('/').map(Number);
    expect(tupletIn(sign(text), { count: beats, unit: unitOf as 4 })).toEqual({ actual, normal, count });
  });
});
