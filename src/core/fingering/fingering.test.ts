import fc from 'fast-check';
import { INSTRUMENTS, instrumentById } from '../instruments/catalogue';
import { outsideBy, type Instrument } from '../instruments/instrument';
import { keyWithSignature, MODES } from '../pitch/key';
import { naturalAt, parsePitch, printPitch, semitones, type Pitch } from '../pitch/pitch';
import { scaleOn } from '../harmony/scales';
import { fingeringId, markOf, type Fingering } from './fingering';
import { fingerLine, type FingerNote } from './fingerLine';
import { fingerMarks } from './marks';
import { chartOf, isFingered, waysFor } from './options';
import { movableShape, shapeName, shapeSteps } from './shapes';
import { FINGER_SCHOOLS, moveCost, schoolCost } from './travel';

const pitchOf = (text: string): Pitch => {
  const read = parsePitch(text);
  if (!read.ok) throw new Error(text);
  return read.value;
};
const instrument = (id: string): Instrument => {
  const found = instrumentById(id);
  if (!found) throw new Error(id);
  return found;
};
const line = (text: string, seconds = 0.3): readonly FingerNote[] =>
  text.split(' ').map((name, k) => ({ id: `n${k}`, pitch: pitchOf(name), seconds }));
const marks = (id: string, text: string, school: (typeof FINGER_SCHOOLS)[number] = 'open') =>
  fingerLine(line(text), instrument(id), school)
    .notes.map(({ fingering }) => (fingering ? markOf(fingering) : '?'))
    .join(' ');

/** What sounds, worked out from the fingering alone: written semitones above C0. */
function heightOf(fingering: Fingering, { mechanism }: Instrument): number {
  const strings = mechanism.kind === 'bowed' || mechanism.kind === 'fretted' ? mechanism.strings : [];
  const open = (number: number) => semitones(strings[strings.length - number] ?? pitchOf('C0'));
  const partial = (first: number, number: number) => first + Math.round(12 * Math.log2(number));
  const longer = [0, 2, 1, 3, 5];
  switch (fingering.kind) {
    case 'bowed':
      return open(fingering.string) + fingering.above;
    case 'fretted':
      return open(fingering.string) + fingering.fret;
    case 'valves': {
      if (mechanism.kind !== 'valves') throw new Error('no valves');
      const first = fingering.thumb ? (mechanism.second ?? mechanism.open) : mechanism.open;
      return (
        partial(semitones(first), fingering.partial) -
        fingering.valves.reduce((sum, valve) => sum + (longer[valve] ?? 0), 0)
      );
    }
    case 'slide':
      return mechanism.kind === 'slide'
        ? partial(semitones(mechanism.open), fingering.partial) - fingering.position + 1
        : 0;
    default:
      throw new Error('read from a chart');
  }
}

test.each<readonly [string, string, string]>([
  ['violin', 'G3 A3 B3 C4 D4 E4 F#4 G4 A4 B4 C#5 D5 E5 F#5 G5', '0 1 H2 3 0 1 H2 3 0 1 H2 3 0 1 L2'],
  ['violin', 'Bb3 C4 D4 Eb4 F4 G4 A4 Bb4', 'L2 3 0 L1 L2 3 0 L1'],
  ['viola', 'C3 D3 E3 F3 G3 A3 Bb3 C4', '0 1 H2 3 0 1 L2 3'],
  ['cello', 'Bb3 C4 D4 C4 Bb3 A3', 'x1 2 4 2 x1 0'],
  ['cello', 'C2 D2 E2 F2 G2 A2 Bb2 C3 D3 E3 F#3 G3', '0 1 3 4 0 1 2 4 0 1 3 4'],
  ['guitar', 'C4 D4 E4 F4 G4 A4 B4 C5', '5-3 4-0 4-2 4-3 3-0 3-2 2-0 2-1'],
  ['trumpet-bb', 'C4 D4 Eb4 E4 F4 F#4 G4 G#4 A4 Bb4 B4 C5 C#5 D5 E5', '0 13 23 12 1 2 0 23 12 1 2 0 12 1 0'],
  ['horn-f', 'C4 D4 F4 G4 G#4 A4 Bb4 B4 C5 D5', '0 1 1 0 T23 T12 T1 T2 T0 T12'],
  ['trombone', 'Bb2 C3 D3 Eb3 F3 G3 A3 Bb3 C4 D4 Eb4 F4', '1 6 4 3 1 4 2 1 3 1 3 1'],
  ['euphonium-bc', 'Bb2 C3 D3 Eb3 F3 B2', '0 4 12 1 0 24'],
  ['clarinet-bb', 'E4 F4 G4 A4 Bb4 B4 C5 D5', 'T1 T open A R A TR123 456 left E TR123 456 F TR123 456'],
  ['alto-sax', 'D4 F#4 G4 A4 B4 C5 C#5 D5', '123 456 123 5 123 12 1 2 open 8123 456'],
  ['flute', 'D4 F#4 B4 C5 C#5 D5', 'T123 456 T123 6 E♭ T1 E♭ 1 E♭ E♭ T23 456'],
  ['recorder-treble', 'F4 G4 A4 Bb4 B4 C5 D5 G5', 'T123 4567 T123 456 T123 45 T123 467 T123 56 T123 T12 2'],
  ['recorder-bass', 'F2 C3', 'T123 4567 T123'],
  ['tin-whistle-d', 'D4 G4 C#5 D5 G5', '123 456 123 open 23 456 blow 123 blow'],
  ['harmonica', 'C4 D4 G4 A5 C5', '1 −1 3 −6 4'],
])('%s plays %s as its methods say', (id, notes, expected) => expect(marks(id, notes)).toBe(expected));

test('every fingering of every instrument sounds the pitch it is for', () => {
  for (const one of INSTRUMENTS.filter(({ mechanism }) =>
    ['bowed', 'fretted', 'valves', 'slide'].includes(mechanism.kind),
  )) {
    const { low, high } = one.range.full;
    for (let height = semitones(low); height <= semitones(high); height += 1) {
      const natural = Array.from({ length: 90 }, (_, k) => naturalAt(k)).find(
        (pitch) => Math.abs(height - semitones(pitch)) <= 1,
      );
      const pitch = { ...(natural ?? low), alter: height - semitones(natural ?? low) };
      const ways = waysFor(one, pitch);
      expect([
        one.id,
        printPitch(pitch),
        ways.map(({ fingering }) => heightOf(fingering, one)).filter((found) => found !== height),
      ]).toEqual([one.id, printPitch(pitch), []]);
      if (outsideBy(pitch, one.range.advanced) === 0)
        expect([one.id, printPitch(pitch), ways.length > 0]).toEqual([one.id, printPitch(pitch), true]);
    }
  }
});

test('every chart has each note of the beginner range once, and no two main fingerings of an octave are the same', () => {
  for (const one of INSTRUMENTS.filter(({ mechanism }) => mechanism.kind === 'holes')) {
    const notes = chartOf(one)?.notes ?? new Map();
    const { low, high } = one.range.beginner;
    for (let height = semitones(low); height <= semitones(high); height += 1)
      expect([one.id, height, notes.has(height)]).toEqual([one.id, height, true]);
    const mains = [...notes.values()].map(([main]) => (main ? markOf(main) : ''));
    for (let k = 1; k < mains.length; k += 1)
      expect([one.id, mains.slice(Math.max(0, k - 8), k).includes(mains[k] ?? '')]).toEqual([one.id, false]);
  }
});

describe('the path through a line', () => {
  const anyPlayer = fc.constantFrom(...INSTRUMENTS.filter((one) => isFingered(one) && one.mechanism.kind !== 'bars'));
  const anyKey = fc
    .record({ signature: fc.integer({ min: -6, max: 6 }), mode: fc.constantFrom(...MODES) })
    .map(({ signature, mode }) => keyWithSignature(signature, mode));

  test('no other way is cheaper', () => {
    fc.assert(
      fc.property(
        anyPlayer,
        fc.constantFrom(...FINGER_SCHOOLS),
        anyKey,
        fc.array(fc.integer({ min: 0, max: 12 }), { minLength: 2, maxLength: 3 }),
        fc.double({ min: 0.1, max: 1, noNaN: true }),
        (one, school, key, degrees, seconds) => {
          const scale = scaleOn(key.tonic, 'major').notes;
          const base = Math.ceil(semitones(one.range.beginner.low) / 12);
          const notes = degrees
            .flatMap((degree, k): FingerNote[] => {
              const step = scale[degree % scale.length];
              return step
                ? [{ id: `n${k}`, pitch: { ...step, octave: base + Math.floor(degree / scale.length) }, seconds }]
                : [];
            })
            .filter(({ pitch }) => waysFor(one, pitch).length > 0);
          fc.pre(notes.length > 1);
          const share = Math.max(0.35, Math.min(2, 0.25 / seconds));
          const chart = chartOf(one);
          const best = notes.reduce<readonly { readonly cost: number; readonly last?: Fingering }[]>(
            (paths, { pitch }) =>
              waysFor(one, pitch).flatMap(({ fingering, cost }) =>
                paths.map((path) => ({
                  cost:
                    path.cost +
                    cost +
                    schoolCost(fingering, school) +
                    (path.last ? moveCost(path.last, fingering, school, chart) * share : 0),
                  last: fingering,
                })),
              ),
            [{ cost: 0 }],
          );
          expect(fingerLine(notes, one, school).cost).toBeCloseTo(
            best.reduce((least, { cost }) => Math.min(least, cost), Infinity),
            6,
          );
        },
      ),
      { numRuns: 300 },
    );
  });

  test('schools differ: the fourth finger saves a crossing, who stays does not shift, the lowest position is the first', () => {
    const turn = 'C#5 D5 E5 D5 E5 D5 C#5';
    expect([marks('violin', turn, 'open'), marks('violin', turn, 'fourth')]).toEqual([
      'H2 3 0 3 0 3 H2',
      'H2 3 4 3 4 3 H2',
    ]);
    const climb = line('A4 B4 C#5 D5 E5 F#5 G#5 A5 B5 C#6 D6 C#6 B5 A5');
    const shifts = (school: (typeof FINGER_SCHOOLS)[number]) => fingerLine(climb, instrument('violin'), school).shifts;
    expect(shifts('stay')).toBeLessThanOrEqual(shifts('lowest'));
    expect(
      fingerLine(climb, instrument('violin'), 'lowest')
        .notes.slice(0, 8)
        .every(({ fingering }) => fingering?.kind === 'bowed' && fingering.position === 1),
    ).toBe(true);
  });

  test('a pinned finger stays and the rest follows; a pin that means nothing is told', () => {
    const notes = line('D5 E5 F#5 G5 A5');
    const free = fingerLine(notes, instrument('violin'));
    const pinned = fingerLine(notes, instrument('violin'), 'stay', new Map([['n0', 'string 2 finger 1 position 3']]));
    expect([
      free.notes.map(({ fingering }) => fingering && fingeringId(fingering))[0],
      pinned.notes[0]?.fingering,
    ]).toEqual([
      'string 2 finger 3 position 1',
      { kind: 'bowed', string: 2, finger: 1, position: 3, placement: 'usual', above: 5 },
    ]);
    expect(
      pinned.notes.slice(1, 4).every(({ fingering }) => fingering?.kind === 'bowed' && fingering.position === 3),
    ).toBe(true);
    expect(fingerLine(notes, instrument('violin'), 'open', new Map([['n1', '9']])).lostPins).toEqual(['n1']);
  });
});

test('marks: on every note, where something changes, or none', () => {
  const notes = line('D4 E4 F#4 D4 A4 B4 C#5 D5');
  const fingered = fingerLine(notes, instrument('violin'));
  const count = (school: 'all' | 'change' | 'none') =>
    [...fingerMarks(fingered, notes, school).entries()].map(([id, text]) => `${id}:${text}`);
  expect([count('all').length, count('none')]).toEqual([8, []]);
  expect(count('change')).toEqual(['n0:0', 'n4:0']);
  const horn = line('C4 D4 C4 E4 D4');
  expect([...fingerMarks(fingerLine(horn, instrument('trumpet-bb')), horn, 'change').values()]).toEqual([
    '0',
    '13',
    '12',
  ]);
});

test('unusual fingerings alone are marked: side keys, and what lies across the break', () => {
  const clarinet = instrument('clarinet-bb');
  const marked = (notes: ReturnType<typeof line>) =>
    fingerMarks(fingerLine(notes, clarinet), notes, 'unusual', clarinet.breaks);
  expect(marked(line('C4 D4 E4 F4 G4')).size).toBe(0);
  const over = line('G4 A4 B4 C5 A4');
  expect([...marked(over).keys()]).toEqual([over[2]?.id, over[4]?.id]);
});

test('a movable shape keeps its fingers at every fret, and its notes are the scale of the key', () => {
  const guitar = instrument('guitar');
  if (guitar.mechanism.kind !== 'fretted') throw new Error('no frets');
  const { mechanism } = guitar;
  const gMajor = { tonic: { step: 'G', alter: 0 }, mode: 'major' } as const;
  const shape = movableShape(mechanism, scaleOn(gMajor.tonic, 'major'));
  if (!shape) throw new Error('no shape');
  expect([shapeName(shape), shape.places.map(({ string, fret, finger }) => `${string}/${fret}/${finger}`)]).toEqual([
    'root on the 6th string, second finger',
    ['6/3/2', '6/5/4', '5/2/1', '5/3/2', '5/5/4', '4/2/1', '4/4/3', '4/5/4'],
  ]);
  const steps = shapeSteps(shape, mechanism, gMajor);
  expect(
    steps
      .slice(0, 4)
      .map(({ key, notes }) => `${key.tonic.step}${key.tonic.alter}: ${notes.map(printPitch).join(' ')}`),
  ).toEqual([
    'G0: G3 A3 B3 C4 D4 E4 F#4 G4',
    'A-1: Ab3 Bb3 C4 Db4 Eb4 F4 G4 Ab4',
    'A0: A3 B3 C#4 D4 E4 F#4 G#4 A4',
    'B-1: Bb3 C4 D4 Eb4 F4 G4 A4 Bb4',
  ]);
  for (const id of ['guitar', 'bass-guitar', 'mandolin', 'tenor-banjo', 'ukulele']) {
    const one = instrument(id).mechanism;
    if (one.kind !== 'fretted') continue;
    const found = movableShape(one, scaleOn(gMajor.tonic, 'major'));
    for (const { string, fret, pitch } of found?.places ?? [])
      expect([id, semitones(one.strings[one.strings.length - string] ?? pitch) + fret, fret > 0]).toEqual([
        id,
        semitones(pitch),
        true,
      ]);
  }
});
