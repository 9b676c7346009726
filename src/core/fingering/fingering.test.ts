import { instrument as given } from '../../../tests/given';
import { scaleOn } from '../harmony/scales';
import { CHARTS } from './charts';
import { markLegend } from './legend';
import { movableShape } from './shapes';
import { styledMark } from './stringMarks';
import { describeFingering, fingeringId, keyName, markOf, ordinal, positionName, type Fingering } from './fingering';

const bowed = (more: Partial<Extract<Fingering, { kind: 'bowed' }>> = {}): Fingering => ({
  kind: 'bowed',
  string: 2,
  finger: 2,
  position: 1,
  placement: 'usual',
  above: 4,
  ...more,
});
const VIOLIN = ['G', 'D', 'A', 'E'];

test.each<[Fingering, string, string]>([
  [{ kind: 'holes', keys: [] }, 'open', 'all open'],
  [{ kind: 'holes', keys: ['T', '1', '2', '3', '4h'] }, 'T123 4½', 'T123 4½'],
  [
    { kind: 'holes', keys: ['1', 'leftF#', '4', 'Eb'], when: 'before a trill' },
    '1 4 left F♯ E♭',
    '1 4 left F♯ E♭ (before a trill)',
  ],
  [{ kind: 'valves', valves: [], partial: 2 }, '0', 'open'],
  [{ kind: 'valves', valves: [2], partial: 3 }, '2', 'valve 2'],
  [{ kind: 'valves', valves: [1, 3], partial: 3, thumb: true }, 'T13', 'B♭ side, valves 1 and 3'],
  [{ kind: 'slide', position: 4, partial: 3 }, '4', 'fourth position'],
  [bowed(), '2', 'A string, second finger, first position'],
  [bowed({ placement: 'low' }), 'L2', 'A string, second finger low, first position'],
  [bowed({ placement: 'high', finger: 3 }), 'H3', 'A string, third finger high, first position'],
  [bowed({ placement: 'stretched', finger: 1 }), 'x1', 'A string, first finger stretched, first position'],
  [bowed({ position: 0, finger: 1 }), '1', 'A string, first finger, half position'],
  [bowed({ finger: 0, above: 0, string: 4 }), '0', 'open G string'],
  [{ kind: 'fretted', string: 3, fret: 5, finger: 3, hand: 3 }, '3-5', 'D string, fret 5, third finger'],
  [{ kind: 'fretted', string: 1, fret: 0, finger: 0, hand: 1 }, '1-0', 'open E string'],
  [{ kind: 'bar', name: { step: 'B', alter: -1 } }, 'B♭', 'bar B♭'],
  [{ kind: 'reed', hole: 4, breath: 'draw' }, '−4', 'hole 4, draw'],
  [{ kind: 'reed', hole: 4, breath: 'blow' }, '4', 'hole 4, blow'],
])('%j is printed as %s and read out as “%s”', (fingering, mark, words) => {
  expect([markOf(fingering), describeFingering(fingering, VIOLIN)]).toEqual([mark, words]);
});

test('strings without names are counted', () => {
  expect(describeFingering(bowed())).toBe('string 2, second finger, first position');
});

test('what a pin holds on to tells apart what looks alike over a note', () => {
  const [first, third] = [bowed({ position: 1 }), bowed({ position: 3 })];
  expect(markOf(first)).toBe(markOf(third));
  expect(fingeringId(first)).not.toBe(fingeringId(third));
  const fretted = (finger: number): Fingering => ({ kind: 'fretted', string: 2, fret: 3, finger, hand: 1 });
  expect(fingeringId(fretted(3))).not.toBe(fingeringId(fretted(2)));
  expect(fingeringId({ kind: 'slide', position: 3, partial: 4 })).toBe('3');
});

test('names of keys are read with real signs', () => {
  expect(['leftF#', 'sideBb', 'palmD', 'highE', 'Eb', 'leftC#'].map(keyName)).toEqual([
    'left F♯',
    'side B♭',
    'palm D',
    'high E',
    'E♭',
    'left C♯',
  ]);
});

test('positions and fingers are counted in words as far as people do', () => {
  expect([positionName(0), positionName(1), positionName(8), positionName(11), ordinal(3)]).toEqual([
    'half position',
    'first position',
    'eighth position',
    '11th position',
    'third',
  ]);
});

test('the lowest notes of a conical tube close all that those above them close', () => {
  const closed = (instrument: 'saxophone' | 'bassoon' | 'oboe', height: number) =>
    new Set(CHARTS[instrument].notes.get(height)?.[0]?.keys);
  // B♭3, B3 and C♯4 of a saxophone are played with the low C key held down.
  expect([10, 11, 12, 13].map((above) => closed('saxophone', 36 + above).has('lowC'))).toEqual([
    true,
    true,
    true,
    true,
  ]);
  expect([10, 11, 12].map((above) => closed('oboe', 36 + above).has('C'))).toEqual([true, true, true]);
  const bassoon = [22, 23, 24, 26, 28].map((height) => closed('bassoon', height));
  for (let k = 1; k < 4; k += 1) expect([...(bassoon[k] ?? [])].filter((key) => !bassoon[k - 1]?.has(key))).toEqual([]);
});

test('a shape of two octaves lies under one hand of a guitar, and a mark can name its string', () => {
  const { mechanism } = given('guitar');
  if (mechanism.kind !== 'fretted') throw new Error('a guitar has frets');
  const scale = scaleOn({ step: 'A', alter: 0 }, 'major');
  const two = movableShape(mechanism, scale, 2);
  expect([two?.places.length, two?.places.filter(({ pitch }) => pitch.step === 'A').length]).toEqual([15, 3]);
  const low = bowed({ placement: 'low' });
  expect([
    styledMark(low, 'string-finger', VIOLIN),
    styledMark(bowed(), 'string-finger', VIOLIN),
    styledMark(low, 'string', VIOLIN),
  ]).toEqual(['A L2', 'A2', 'A']);
  expect(
    markLegend(
      [
        { fingering: low, text: 'L2' },
        { fingering: bowed(), text: '2' },
      ],
      VIOLIN,
    ),
  ).toEqual(['L2 second finger low']);
});
