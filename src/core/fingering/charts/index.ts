import type { HoleChart } from '../../instruments';
import { chart, shifted, type Chart, type Finger } from './chart';

/*
 * The standard fingerings as given in the field's method books and makers' charts, main fingering first. Systems: Boehm
 * flute with closed G sharp and C foot; Boehm (17 keys, 6 rings) clarinet; modern saxophone with high F sharp;
 * conservatoire oboe; German (Heckel) bassoon; recorders in the English (baroque) and the German system; six-hole
 * whistle. A pitch that is missing is one on whose fingering charts differ so much that a teacher has to say.
 */
const TUTORS = "Standard fingering as in method books and makers' charts.";

const SIX: Readonly<Record<string, Finger>> = {
  1: 'left 1',
  2: 'left 2',
  3: 'left 3',
  4: 'right 1',
  5: 'right 2',
  6: 'right 3',
};

const FLUTE = chart(
  'flute',
  TUTORS,
  {
    T: 'left thumb',
    Tb: 'left thumb',
    ...SIX,
    'G#': 'left 4',
    side: 'right 1',
    tr1: 'right 2',
    tr2: 'right 3',
    Eb: 'right 4',
    'C#': 'right 4',
    C: 'right 4',
  },
  `
C4 T123 456 C
C#4 T123 456 C#
D4 T123 456
D#4 T123 456 Eb
E4 T123 45 Eb
F4 T123 4 Eb
F#4 T123 6 Eb
G4 T123 Eb
G#4 T123 G# Eb
A4 T12 Eb
A#4 T1 4 Eb / Tb 1 Eb (flat keys: the thumb stays) / T1 side Eb (trill, chromatic run)
B4 T1 Eb
C5 1 Eb
C#5 Eb
D5 T23 456
D#5 T23 456 Eb
E5 T123 45 Eb
F5 T123 4 Eb
F#5 T123 6 Eb
G5 T123 Eb
G#5 T123 G# Eb
A5 T12 Eb
A#5 T1 4 Eb / Tb 1 Eb (flat keys: the thumb stays) / T1 side Eb (trill, chromatic run)
B5 T1 Eb
C6 1 Eb
C#6 Eb
D6 T23 Eb
D#6 T123 G# 456 Eb
E6 T12 45 Eb
F6 T13 4 Eb
F#6 T13 6 Eb
G6 123 Eb
G#6 23 G# Eb
A6 T2 4 Eb
A#6 T 4 tr1
B6 T13 tr2
C7 123 G# 4
`,
);

const RECORDER_HOLES: Readonly<Record<string, Finger>> = { T: 'left thumb', ...SIX, 7: 'right 4' };

const RECORDER_C = chart(
  'recorder in C, English system',
  TUTORS,
  RECORDER_HOLES,
  `
C4 T123 4567
C#4 T123 4567h
D4 T123 456
D#4 T123 456h
E4 T123 45
F4 T123 467
F#4 T123 56
G4 T123
G#4 T12 456h
A4 T12
A#4 T1 34
B4 T1
C5 T2
C#5 12
D5 2
D#5 23 456
E5 Th123 45
F5 Th123 46
F#5 Th123 5
G5 Th123
G#5 Th12 4
A5 Th12
A#5 Th12 456
B5 Th12 45
C6 Th1 45
D6 Th1 3 467
`,
);

const RECORDER_C_GERMAN: Chart = {
  ...RECORDER_C,
  name: 'recorder in C, German system',
  notes: new Map([
    ...RECORDER_C.notes,
    ...chart(
      'recorder in C, German system',
      TUTORS,
      RECORDER_HOLES,
      `
F4 T123 4
F#4 T123 567
F5 Th123 4
F#5 Th123 57
`,
    ).notes,
  ]),
};

const WHISTLE_D = chart(
  'tin whistle in D',
  TUTORS,
  { ...SIX, blow: 'breath' },
  `
D4 123 456
D#4 123 456h
E4 123 45
F4 123 45h
F#4 123 4
G4 123
G#4 123h
A4 12
A#4 12h
B4 1
C5 23 / 1h (where the forked one is sharp)
C#5 -
D5 23 456 blow / 123 456 blow (fast runs)
D#5 123 456h blow
E5 123 45 blow
F5 123 45h blow
F#5 123 4 blow
G5 123 blow
G#5 123h blow
A5 12 blow
A#5 12h blow
B5 1 blow
C6 2 4 blow
C#6 blow
D6 23 456 blow
`,
);

const CLARINET = chart(
  'clarinet, Boehm system',
  TUTORS,
  {
    T: 'left thumb',
    R: 'left thumb',
    ...SIX,
    A: 'left 1',
    'G#': 'left 1',
    leftE: 'left 4',
    leftF: 'left 4',
    'leftF#': 'left 4',
    'C#': 'left 4',
    sliver: 'left 3',
    side: 'right 1',
    side2: 'right 1',
    fork: 'right 3',
    E: 'right 4',
    lowEb: 'right 4',
    F: 'right 4',
    'F#': 'right 4',
    Ab: 'right 4',
  },
  `
Eb3 T123 456 lowEb
E3 T123 456 E / T123 456 leftE (next to the right little finger's keys)
F3 T123 456 F / T123 456 leftF (next to the right little finger's keys)
F#3 T123 456 F# / T123 456 leftF# (next to the right little finger's keys)
G3 T123 456
G#3 T123 456 Ab
A3 T123 45
A#3 T123 4
B3 T123 5 / T123 4 fork (after or before B♭)
C4 T123
C#4 T123 C#
D4 T12
D#4 T12 side / T1 4 (arpeggios) / T12 sliver (after or before D)
E4 T1
F4 T
F#4 1 / T side2 (after or before F)
G4 -
G#4 G#
A4 A
A#4 R A / A side2 (trill)
B4 T R 123 456 E / T R 123 456 leftE (next to the right little finger's keys)
C5 T R 123 456 F / T R 123 456 leftF (next to the right little finger's keys)
C#5 T R 123 456 F# / T R 123 456 leftF# (next to the right little finger's keys)
D5 T R 123 456
D#5 T R 123 456 Ab
E5 T R 123 45
F5 T R 123 4
F#5 T R 123 5 / T R 123 4 fork (after or before F)
G5 T R 123
G#5 T R 123 C#
A5 T R 12
A#5 T R 12 side / T R 1 4 (arpeggios)
B5 T R 1
C6 T R
C#6 T R 23 45
D6 T R 23 4 Ab
D#6 T R 23 5 Ab
E6 T R 23 Ab
F6 T R 23 C# Ab
F#6 T R 2 Ab
G6 T R 2 45 Ab
`,
);

const SAXOPHONE = chart(
  'saxophone',
  TUTORS,
  {
    8: 'left thumb',
    ...SIX,
    bis: 'left 1',
    frontF: 'left 1',
    palmD: 'left 1',
    palmEb: 'left 1',
    palmF: 'left 2',
    'G#': 'left 4',
    lowC: 'right 4',
    lowB: 'left 4',
    lowBb: 'left 4',
    'lowC#': 'left 4',
    Eb: 'right 4',
    sideBb: 'right 1',
    sideC: 'right 1',
    highE: 'right 1',
    'F#': 'right 3',
    'highF#': 'right 3',
  },
  `
A#3 123 lowBb 456 lowC
B3 123 lowB 456 lowC
C4 123 456 lowC
C#4 123 lowC# 456 lowC
D4 123 456
D#4 123 456 Eb
E4 123 45
F4 123 4
F#4 123 5 / 123 4 F# (after or before F)
G4 123
G#4 123 G#
A4 12
A#4 12 sideBb / 1 bis (flat keys) / 1 4 (arpeggios)
B4 1
C5 2 / 1 sideC (after or before B)
C#5 -
D5 8 123 456
D#5 8 123 456 Eb
E5 8 123 45
F5 8 123 4
F#5 8 123 5 / 8 123 4 F# (after or before F)
G5 8 123
G#5 8 123 G#
A5 8 12
A#5 8 12 sideBb / 8 1 bis (flat keys) / 8 1 4 (arpeggios)
B5 8 1
C6 8 2 / 8 1 sideC (after or before B)
C#6 8
D6 8 palmD
D#6 8 palmD palmEb
E6 8 palmD palmEb highE
F6 8 palmD palmEb palmF highE / 8 frontF 2 (from below)
F#6 8 palmD palmEb palmF highE highF#
`,
);

const OBOE = chart(
  'oboe, conservatoire system',
  TUTORS,
  {
    8: 'left thumb',
    ...SIX,
    '2nd': 'left 1',
    lowBb: 'left 4',
    lowB: 'left 4',
    'G#': 'left 4',
    leftEb: 'left 4',
    leftF: 'left 4',
    F: 'right 3',
    C: 'right 4',
    'C#': 'right 4',
    Eb: 'right 4',
  },
  `
A#3 123 lowBb 456 C
B3 123 lowB 456 C
C4 123 456 C
C#4 123 456 C#
D4 123 456
D#4 123 456 Eb / 123 leftEb 456 (next to C or C♯)
E4 123 45
F4 123 45 F / 123 4 6 Eb (forked: next to D or E♭) / 123 leftF 45 (next to D)
F#4 123 4
G4 123
G#4 123 G#
A4 12
A#4 12 4
B4 1
C5 1 4
C#5 1h23 456 C#
D5 1h23 456
D#5 1h23 456 Eb / 1h23 leftEb 456 (next to C♯)
E5 8 123 45
F5 8 123 45 F / 8 123 4 6 Eb (forked: next to D or E♭)
F#5 8 123 4
G5 8 123
G#5 8 123 G#
A5 2nd 12
A#5 2nd 12 4
B5 2nd 1
C6 2nd 1 4
`,
);

const BASSOON = chart(
  'bassoon, German system',
  TUTORS,
  {
    W: 'left thumb',
    D: 'left thumb',
    C: 'left thumb',
    B: 'left thumb',
    Bb: 'left thumb',
    ...SIX,
    E: 'right thumb',
    rightBb: 'right thumb',
    F: 'right 4',
    'F#': 'right 4',
    Ab: 'right 4',
    'thumbC#': 'left thumb',
  },
  `
A#1 123 456 E F Bb B C D
B1 123 456 E F B C D
C2 123 456 E F C D
D2 123 456 E F D
E2 W 123 456 E F
F2 W 123 456 F
F#2 W 123 456 F#
G2 W 123 456
G#2 W 123 456 Ab
A2 W 123 45
A#2 W 123 45 rightBb
B2 W 123 4
C3 W 123
C#3 123 thumbC#
D3 W 12
D#3 W 1 3
E3 W 1
F3 W
F#3 W 1h23 456 F#
G3 W 1h23 456
G#3 1h23 456 Ab
A3 123 45
A#3 123 45 rightBb
B3 123 4
C4 123
D4 12
`,
);

/** From C instruments up a fourth to those in F. */
const FOURTH = 5;

export const CHARTS: Readonly<Record<HoleChart, Chart>> = {
  flute: FLUTE,
  'recorder-c': RECORDER_C,
  'recorder-c-german': RECORDER_C_GERMAN,
  'recorder-f': { ...shifted(RECORDER_C, FOURTH), name: 'recorder in F, English system' },
  'recorder-f-german': { ...shifted(RECORDER_C_GERMAN, FOURTH), name: 'recorder in F, German system' },
  'whistle-d': WHISTLE_D,
  clarinet: CLARINET,
  saxophone: SAXOPHONE,
  oboe: OBOE,
  bassoon: BASSOON,
};
