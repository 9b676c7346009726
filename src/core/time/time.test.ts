import fc from 'fast-check';
import { beamsFor } from './beams';
import { barTicks, beatNumberAt, beatsOf, isCompound, parseMeter, weightAt, type Meter } from './meter';
import { valueOfTicks, valueTicks } from './noteValue';
import { spellNoteLength, spellRestLength } from './spellLength';
import { TICKS_PER_QUARTER as Q } from './ticks';

const four: Meter = { count: 4, unit: 4 };
const six: Meter = { count: 6, unit: 8 };
const anyMeter = fc.constantFrom<Meter>(
  four,
  six,
  { count: 3, unit: 4 },
  { count: 2, unit: 2 },
  { count: 9, unit: 8 },
  { count: 5, unit: 4 },
  { count: 7, unit: 8 },
  { count: 3, unit: 8 },
  { count: 12, unit: 8 },
);

test('128ths, triplets, quintuplets and septuplets are whole ticks', () => {
  for (const divisor of [32, 3, 5, 7, 9, 15, 21]) expect(Q % divisor).toBe(0);
});

test('beats: four in 4/4, two dotted ones in 6/8, 2+2+3 in 7/8', () => {
  expect(beatsOf(four).map(({ length }) => length / Q)).toEqual([1, 1, 1, 1]);
  expect(beatsOf(six).map(({ length }) => length / Q)).toEqual([1.5, 1.5]);
  expect(beatsOf({ count: 7, unit: 8 }).map(({ length }) => length / Q)).toEqual([1, 1, 1.5]);
  expect([isCompound(six), isCompound({ count: 3, unit: 8 })]).toEqual([true, false]);
  expect([0, 2, 1, 0.5, 0.25].map((beat) => weightAt(four, beat * Q))).toEqual([1, 0.75, 0.5, 0.25, 0.1]);
  expect(beatNumberAt(six, 1.5 * Q)).toBe(2);
});

test('meters are read or refused', () => {
  expect(parseMeter('C|')).toEqual({ count: 2, unit: 2, sign: 'cut' });
  expect(parseMeter('3+2/8')).toEqual({ count: 5, unit: 8 });
  for (const text of ['4/3', '0/4', '33/4', '4', 'x', '4/4x']) expect(parseMeter(text)).toBeUndefined();
});

test('any span of sixteenths in any meter is written in printable values that add up and, for rests, show the beats', () => {
  fc.assert(
    fc.property(anyMeter, fc.nat(47), fc.integer({ min: 1, max: 48 }), (meter, from, count) => {
      const unit = Q / 4;
      const start = (from * unit) % barTicks(meter);
      const length = Math.min(count * unit, barTicks(meter) - start);
      for (const pieces of [spellNoteLength(start, length, meter), spellRestLength(start, length, meter)]) {
        expect(pieces.reduce((sum, piece) => sum + piece, 0)).toBe(length);
        expect(pieces.every((piece) => valueOfTicks(piece) !== undefined)).toBe(true);
      }
    }),
  );
});

test('spelling follows the conventions of print', () => {
  const inQuarters = (pieces: readonly number[]) => pieces.map((piece) => piece / Q);
  expect(inQuarters(spellNoteLength(0, 2.5 * Q, four))).toEqual([2, 0.5]);
  expect(inQuarters(spellNoteLength(0.5 * Q, Q, four))).toEqual([1]);
  expect(inQuarters(spellNoteLength(1.5 * Q, Q, four))).toEqual([0.5, 0.5]);
  expect(inQuarters(spellNoteLength(Q, 3 * Q, four))).toEqual([3]);
  expect(inQuarters(spellRestLength(0, 3 * Q, four))).toEqual([2, 1]);
  expect(inQuarters(spellRestLength(Q, 2 * Q, { count: 3, unit: 4 }))).toEqual([1, 1]);
  expect(inQuarters(spellNoteLength(0.5 * Q, 1.5 * Q, six))).toEqual([1, 0.5]);
});

test('every value knows its ticks and back', () => {
  for (const dots of [0, 1, 2] as const)
    expect(valueOfTicks(valueTicks({ type: 'quarter', dots }))).toEqual({ type: 'quarter', dots });
  expect(valueOfTicks(5 * 5040)).toBeUndefined();
});

test('beams keep to the beat, join plain eighths to half bars, and hook what stands alone', () => {
  const notes = (...lengths: readonly number[]) => {
    let start = 0;
    return lengths.map((quarters) => {
      const item = { start, length: quarters * Q, isRest: false };
      start += item.length;
      return item;
    });
  };
  const first = (items: ReturnType<typeof notes>, meter: Meter) =>
    beamsFor(items, meter).map((marks) => marks[0] ?? '-');
  expect(first(notes(0.5, 0.5, 0.5, 0.5, 1, 0.5, 0.5), four)).toEqual([
    'begin',
    'continue',
    'continue',
    'end',
    '-',
    'begin',
    'end',
  ]);
  expect(first(notes(0.5, 0.5, 0.5, 0.5, 0.5, 0.5), six)).toEqual([
    'begin',
    'continue',
    'end',
    'begin',
    'continue',
    'end',
  ]);
  expect(first(notes(0.5, 0.5, 0.5, 0.5, 0.5, 0.5), { count: 3, unit: 4 })).toEqual([
    'begin',
    'end',
    'begin',
    'end',
    'begin',
    'end',
  ]);
  expect(beamsFor(notes(0.75, 0.25, 0.25, 0.75), four)).toEqual([
    ['begin'],
    ['end', 'backward hook'],
    ['begin', 'forward hook'],
    ['end'],
  ]);
});
