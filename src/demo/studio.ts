import type { Level } from '../core/instruments';
import type { PitchClass } from '../core/pitch';
import type { DrillArticulation, Exercise, KeyOrder, Swing } from '../core/score';

export const DEMO_STUDIO_NAME = 'The Net Loft, Sallow Bay';

export interface DemoTune {
  /** The shelf's name for it in addresses. */
  readonly slug: string;
  readonly abc: string;
  readonly source: string;
  /** How its eighths are played, where not evenly; the text has no word for it. */
  readonly swing?: Swing;
  /** Instrument, and a key or tempo where the teacher of the scenario chose one. */
  readonly levels: Readonly<
    Record<Level, { readonly instrument: string; readonly key?: string; readonly perMinute?: number }>
  >;
}

/** Tunes composed for this program; the room, its people and their evenings are made up. */
export const DEMO_TUNES: readonly DemoTune[] = [
  {
    slug: 'lamps-on-the-mole',
    source: 'Written for the Thursday room, first played the night the harbour lights failed',
    levels: {
      beginner: { instrument: 'flute', key: 'G', perMinute: 60 },
      intermediate: { instrument: 'clarinet-bb', perMinute: 72 },
      advanced: { instrument: 'alto-sax', perMinute: 84 },
    },
    abc: `X:1
T:Lamps on the Mole
C:The Net Loft
M:4/4
L:1/8
Q:1/4=84
K:Eb
B,E |"Eb" G3 F E2 GB |"Cm7" c3 B G2 EG |"Ab" A3 G F2 AG |"Bb7" F6 B,E |
"Eb" G3 F E2 GB |"Cm7" c3 d e2 cB |"Fm7" A3 G "Bb7" F2 D2 |"Eb" E6 GB ||
"Ab" (c3 B) A2 ce |"Eb/G" (B3 A) G2 EG |"Fm7" A3 G F2 (3FGA |"Bb7" B6 B,E |
"Eb" G3 F E2 GB |"Cm7" c3 d e2 cA |"Fm7" {A}G3 F "Bb7" E2 D2 |"Eb" !fermata!E6 |]
`,
  },
  {
    slug: 'the-gannets-turn',
    source: 'For the sea-shanty supper; the second part was whistled before it was written',
    levels: {
      beginner: { instrument: 'violin', perMinute: 66 },
      intermediate: { instrument: 'horn-f', key: 'Dm', perMinute: 84 },
      advanced: { instrument: 'flute', perMinute: 104 },
    },
    abc: `X:2
T:The Gannet's Turn
C:The Net Loft
M:6/8
L:1/8
Q:3/8=104
K:Em
|:"Em" E2B BAG |"D" FED F2A |"Em" GFG "C" E2G |"D" FAd "Bm" B2A |
"Em" E2B BAG |"D" FED FAd |"C" efe "D" dAF |1"Em" E3 E2D :|2"Em" E3 E2B |:
"Em" e{g}fe "D" dBA |"G" Bcd "C" e2c |"G" dBG "Am" ABc |"Bm" BAF "Em" E2B |
"Em" efe "D" dBA |"G" Bcd "C" efg |"D" f{g}ed "Bm" BAF |1"Em" E3 E2B :|2"Em" E3 E3 |]
`,
  },
  {
    slug: 'kelp-on-the-slipway',
    source: 'A waltz for the string table by the window',
    levels: {
      beginner: { instrument: 'cello', key: 'D', perMinute: 72 },
      intermediate: { instrument: 'viola', key: 'G', perMinute: 92 },
      advanced: { instrument: 'violin', perMinute: 112 },
    },
    abc: `X:3
T:Kelp on the Slipway
C:The Net Loft
M:3/4
L:1/8
Q:1/4=112
K:A
"A" (c2 e>d) c2 |"E/G#" B4 G2 |"F#m" (A2 c>B) A2 |"C#m" G4 E2 |
"D" (F2 A>G) F2 |"A/C#" E2 A2 c2 |"Bm7" (d2 c2) B2 |"E7sus4" B4 "E7" z2 |
"A" (c2 e>d) c2 |"E/G#" B4 B2 |"F#m" (A2 c>d) e2 |"C#m7" e4 G2 |
"D" (f2 e>d) c2 |"A/E" (e2 c2) A2 |"E7" (B2 c>B) G2 |"A" A6 |]
`,
  },
  {
    slug: 'tin-bucket-twelve',
    swing: { unit: 'eighth', ratio: 2 },
    source: 'Twelve bars for the Saturday band, who asked for something to solo over',
    levels: {
      beginner: { instrument: 'trumpet-bb', key: 'F', perMinute: 88 },
      intermediate: { instrument: 'tenor-sax', perMinute: 112 },
      advanced: { instrument: 'trombone', perMinute: 132 },
    },
    abc: `X:4
T:Tin Bucket Twelve
C:The Net Loft
M:4/4
L:1/8
Q:"Easy swing" 1/4=132
K:Bb
"Bb7" FB z d- d2 BG |"Eb7" FB z _d- d2 BG |"Bb7" FB z d- d2 fd |"Bb7" B4 z2 FG |
"Eb7" _AG z _d- d2 BG |"Edim7" _A2 G2 E2 z2 |"Bb7" FB z d- d2 BG |"G7b9" =Bd z f- f2 d=B |
"Cm7" c2 e>d c2 z G |"F13" A2 c>B A2 z F |"Bb7" FB z d- "G7" d2 B2 |"Cm7" .c2 "F7" .A2 "Bb6/9" B4 |]
`,
  },
  {
    slug: 'slack-water',
    source: 'Two chords for a still evening; whoever has the third note of the scale may begin',
    levels: {
      beginner: { instrument: 'recorder-descant', perMinute: 76 },
      intermediate: { instrument: 'violin', perMinute: 88 },
      advanced: { instrument: 'tenor-sax', perMinute: 100 },
    },
    abc: `X:5
T:Slack Water
C:The Net Loft
M:4/4
L:1/8
Q:1/4=100
K:Ddor
P:A
"Dm7" A4 G2 F2 |"G7" D6 z2 |"Dm7" A4 c2 d2 |"G7" B6 z2 |
"Dm7" d4 c2 A2 |"G7" G4 F2 D2 |"Dm7" F2 G2 A2 c2 |"G7" d6 z2 ||
P:B
"Dm7" f4 e2 d2 |"G7" d2 B2 G4 |"Dm7" A2 c2 d2 A2 |"G7" G6 z2 |
"Dm7" A4 G2 F2 |"G7" D2 E2 F2 G2 |"Dm7" A2 F2 E2 C2 |"Dm7" D8 |]
`,
  },
  {
    slug: 'slip-rope-blues',
    swing: { unit: 'eighth', ratio: 2 },
    source: 'Three chords, for whoever improvises for the first time',
    levels: {
      beginner: { instrument: 'clarinet-bb', perMinute: 84 },
      intermediate: { instrument: 'guitar', perMinute: 104 },
      advanced: { instrument: 'flute', perMinute: 126 },
    },
    abc: `X:6
T:Slip Rope Blues
C:The Net Loft
M:4/4
L:1/8
Q:1/4=126
K:F
"F7" c2 z A- A2 F2 |"Bb7" _A2 F2 z4 |"F7" c2 z A- A2 cd |"F7" c4 z4 |
"Bb7" d2 z _A- A2 F2 |"Bb7" _A2 F2 D2 F2 |"F7" c2 z A- A2 F2 |"F7" A4 z4 |
"C7" e2 z c- c2 G2 |"Bb7" d2 z B- B2 F2 |"F7" A2 c2 A2 F2 |"C7" G2 E2 C4 |]
`,
  },
  {
    slug: 'the-other-side-of-the-sluice',
    swing: { unit: 'eighth', ratio: 1.8 },
    source: 'Written in A flat because the piano player would not move; everybody else complains',
    levels: {
      beginner: { instrument: 'trumpet-bb', key: 'C', perMinute: 80 },
      intermediate: { instrument: 'alto-sax', perMinute: 100 },
      advanced: { instrument: 'trombone', perMinute: 120 },
    },
    abc: `X:7
T:The Other Side of the Sluice
C:The Net Loft
M:4/4
L:1/8
Q:1/4=120
K:Ab
P:A
"Bbm7" f2 d2 B2 d2 |"Eb7" c6 z2 |"Abmaj7" c2 e2 g2 e2 |"Fm7" c6 z2 |
"Bbm7" d2 f2 a2 f2 |"Eb7" g4 f2 e2 |"Abmaj7" e4 c4 |"Abmaj7" e6 z2 ||
P:B
"Dm7b5" f2 d2 _A2 c2 |"G7b9" =B4 _A2 G2 |"Cm7" g2 e2 c2 e2 |"F7" =A4 c2 e2 |
"Bbm7" f2 d2 B2 d2 |"Dbm7" _f2 d2 "Gb7" _c2 B2 |"Cm7" B4 "F7b9" =A4 |"Bbm7" B2 d2 "Eb7" g2 d2 |
P:A
"Abmaj7" c2 e2 "F7" c2 =A2 |"Bbm7" B2 d2 "Eb7" e2 g2 |"Abmaj7" a6 z2 |"Ab6" a8 |]
`,
  },
  {
    slug: 'lantern-for-the-last-boat',
    source: 'A slow one in minor; the bridge looks towards the light and comes back',
    levels: {
      beginner: { instrument: 'cello', perMinute: 60 },
      intermediate: { instrument: 'clarinet-bb', perMinute: 72 },
      advanced: { instrument: 'violin', perMinute: 80 },
    },
    abc: `X:8
T:Lantern for the Last Boat
C:The Net Loft
M:3/4
L:1/8
Q:1/4=80
K:Gm
P:A
"Gm" d4 c2 |"Cm" e4 d2 |"D7" c2 B2 A2 |"Gm" B4 z2 |
"Gm" d4 g2 |"Cm" g2 f2 e2 |"D7" d2 ^F2 A2 |"Gm" G6 ||
P:Bridge
"Cm7" e2 d2 c2 |"F7" a4 f2 |"Bbmaj7" f2 d2 B2 |"Ebmaj7" g4 e2 |
"Am7b5" c2 e2 c2 |"D7b9" ^f2 e2 c2 |"Gm6" e2 d2 B2 |"D7" A4 z2 |
P:A
"Gm" d4 c2 |"Cm" e4 d2 |"D7" c2 A2 ^F2 |"Gm" G6 |]
`,
  },
];

export interface DemoDrill {
  readonly slug: string;
  readonly title: string;
  readonly source: string;
  readonly steps: readonly [Exercise, ...Exercise[]];
  readonly keys?: KeyOrder;
  /** Concert. */
  readonly start?: PitchClass;
  readonly articulation?: DrillArticulation;
  readonly spoken?: boolean;
  /** The demo tune whose chords it goes over. */
  readonly over?: string;
  readonly levels: Readonly<
    Record<
      Level,
      { readonly instrument: string; readonly perMinute?: number; readonly range?: readonly [string, string] }
    >
  >;
}

/** Drills of the made-up studio: a ladder, a round of arpeggios, one over a tune, one for the fretboard. */
export const DEMO_DRILLS: readonly DemoDrill[] = [
  {
    slug: 'six-rungs',
    title: 'Six rungs up the net loft stairs',
    source: 'The ladder that everybody in the Thursday room climbs at their own pace',
    spoken: true,
    steps: [
      { set: 'major', pattern: 'scale', extent: 'five' },
      { set: 'major', pattern: 'scale' },
      { set: 'major', pattern: 'thirds' },
      { set: 'major', pattern: 'up-two-down-one' },
      { set: 'major', pattern: 'triads' },
      { set: 'major', pattern: 'sevenths', direction: 'alternate' },
    ],
    levels: {
      beginner: { instrument: 'clarinet-bb' },
      intermediate: { instrument: 'flute' },
      advanced: { instrument: 'alto-sax' },
    },
  },
  {
    slug: 'round-the-harbour',
    title: 'Round the harbour in fourths',
    source: 'Arpeggios that join at the nearest note; for those who jump back to the root every time',
    keys: 'fourths',
    articulation: 'slurred-4',
    steps: [{ set: 'harmonic minor', pattern: 'cadence' }],
    levels: {
      beginner: { instrument: 'trumpet-bb' },
      intermediate: { instrument: 'cello' },
      advanced: { instrument: 'violin' },
    },
  },
  {
    slug: 'chords-under-the-sluice',
    title: 'Chords under the sluice',
    source: 'Before anybody solos on the tune, they play its chords',
    over: 'the-other-side-of-the-sluice',
    steps: [{ set: 'major', pattern: 'chords' }],
    levels: {
      beginner: { instrument: 'trumpet-bb', perMinute: 60 },
      intermediate: { instrument: 'alto-sax', perMinute: 76 },
      advanced: { instrument: 'trombone', perMinute: 88 },
    },
  },
  {
    slug: 'one-shape-seven-frets',
    title: 'One shape, up the neck',
    source: 'Names said aloud before each position: the hand knows the shape long before the head knows the notes',
    keys: 'semitones',
    start: { step: 'G', alter: 0 },
    articulation: 'picked',
    spoken: true,
    steps: [{ set: 'minor pentatonic', pattern: 'scale', hand: 'shape' }],
    levels: {
      beginner: { instrument: 'guitar', perMinute: 56, range: ['E3', 'C5'] },
      intermediate: { instrument: 'guitar', perMinute: 76 },
      advanced: { instrument: 'guitar', perMinute: 96 },
    },
  },
];

export interface DemoPlayer {
  readonly name: string;
  readonly instrument: string;
  readonly level: Level;
  /** Written notes, as typed into the table. */
  readonly high?: string;
  readonly known?: string;
  readonly marks?: 'all' | 'change' | 'none';
}

/** Two rooms of the made-up studio; nobody in them is real. */
export const DEMO_GROUPS: readonly { readonly name: string; readonly players: readonly DemoPlayer[] }[] = [
  {
    name: 'Thursday room',
    players: [
      { name: 'Pell', instrument: 'clarinet-bb', level: 'beginner', high: 'A4' },
      { name: 'Oda', instrument: 'flute', level: 'beginner' },
      { name: 'Bram', instrument: 'violin', level: 'beginner', marks: 'change' },
      { name: 'Wick', instrument: 'recorder-descant', level: 'beginner', known: 'G4 A4 B4 C5 D5' },
      { name: 'Sefa', instrument: 'cello', level: 'intermediate' },
      { name: 'Juno', instrument: 'alto-sax', level: 'intermediate' },
      { name: 'Tamsin', instrument: 'guitar', level: 'intermediate' },
      { name: 'Lorne', instrument: 'flute', level: 'advanced' },
    ],
  },
  {
    name: 'Saturday band',
    players: [
      { name: 'Ives', instrument: 'trumpet-bb', level: 'beginner', high: 'C5' },
      { name: 'Maren', instrument: 'trombone', level: 'beginner' },
      { name: 'Cob', instrument: 'euphonium-tc', level: 'intermediate' },
      { name: 'Ulla', instrument: 'tenor-sax', level: 'intermediate' },
      { name: 'Finch', instrument: 'bass-guitar', level: 'intermediate' },
      { name: 'Dace', instrument: 'vibraphone', level: 'advanced' },
    ],
  },
];
