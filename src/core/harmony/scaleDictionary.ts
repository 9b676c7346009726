/**
 * Named sets of notes. Degrees are counted against the major scale on the tonic: `b3` is its third lowered by a half
 * step. A set of seven notes has each degree once, so that it is spelled one letter a degree.
 *
 * Sources: `kostka`: S. Kostka and D. Payne, Tonal Harmony (7th ed. 2013), ch. 4 and 28; `persichetti`: V. Persichetti,
 * Twentieth-Century Harmony (1961), ch. 2; `levine`: M. Levine, The Jazz Theory Book (1995), ch. 3, 4 and 7;
 * `terefenko`: D. Terefenko, Jazz Theory (2014), ch. 8, 10 and 11; `baker`: D. Baker, How to Play Bebop, vol. 1 (1985),
 * on scales with an added half step. Pentachord and hexachord are the first five and six degrees of the scale. Kinds of
 * chords stand at the end: their tones as a set to be played up and down.
 */
export interface ScaleEntry {
  readonly degrees: string;
  /** Other common names, as they are also read. */
  readonly also?: readonly string[];
  /** How a pupil may build it from something better known. */
  readonly built: string;
  readonly source: 'kostka' | 'persichetti' | 'levine' | 'terefenko' | 'baker';
  /** Spelled otherwise going up: the blue note is a raised fourth there, a lowered fifth coming down. */
  readonly rising?: string;
  /** Spelled with flats coming down. */
  readonly falling?: string;
}

const table = {
  'major pentachord': {
    degrees: '1 2 3 4 5',
    built: 'the first five notes of major',
    source: 'kostka',
    also: ['five notes of major'],
  },
  'minor pentachord': {
    degrees: '1 2 b3 4 5',
    built: 'the first five notes of minor',
    source: 'kostka',
    also: ['five notes of minor'],
  },
  'major pentatonic': {
    degrees: '1 2 3 5 6',
    built: 'major without its 4 and 7',
    source: 'kostka',
    also: ['pentatonic'],
  },
  'minor pentatonic': { degrees: '1 b3 4 5 b7', built: 'natural minor without its 2 and 6', source: 'kostka' },
  'major hexachord': { degrees: '1 2 3 4 5 6', built: 'major without its 7', source: 'kostka' },
  'minor hexachord': { degrees: '1 2 b3 4 5 b6', built: 'natural minor without its 7', source: 'kostka' },
  'blues scale': {
    degrees: '1 b3 4 b5 5 b7',
    rising: '1 b3 4 #4 5 b7',
    built: 'minor pentatonic with a flat 5',
    source: 'levine',
    also: ['blues', 'minor blues'],
  },
  'major blues': {
    degrees: '1 2 b3 3 5 6',
    built: 'major pentatonic with a flat 3',
    source: 'terefenko',
    also: ['major blues scale'],
  },
  major: {
    degrees: '1 2 3 4 5 6 7',
    built: 'whole, whole, half, whole, whole, whole, half',
    source: 'kostka',
    also: ['ionian'],
  },
  'natural minor': {
    degrees: '1 2 b3 4 5 b6 b7',
    built: 'major with a flat 3, 6 and 7',
    source: 'kostka',
    also: ['minor', 'aeolian', 'pure minor'],
  },
  dorian: { degrees: '1 2 b3 4 5 6 b7', built: 'natural minor with a raised 6', source: 'kostka' },
  mixolydian: { degrees: '1 2 3 4 5 6 b7', built: 'major with a flat 7', source: 'kostka', also: ['dominant scale'] },
  lydian: { degrees: '1 2 3 #4 5 6 7', built: 'major with a sharp 4', source: 'kostka' },
  phrygian: { degrees: '1 b2 b3 4 5 b6 b7', built: 'natural minor with a flat 2', source: 'kostka' },
  'harmonic minor': { degrees: '1 2 b3 4 5 b6 7', built: 'natural minor with a raised 7', source: 'kostka' },
  'melodic minor': {
    degrees: '1 2 b3 4 5 6 7',
    built: 'major with a flat 3',
    source: 'kostka',
    also: ['jazz minor', 'ascending melodic minor'],
  },
  locrian: { degrees: '1 b2 b3 4 b5 b6 b7', built: 'natural minor with a flat 2 and 5', source: 'kostka' },
  'whole-tone': { degrees: '1 2 3 #4 #5 b7', built: 'whole steps only', source: 'kostka', also: ['whole tone'] },
  'harmonic major': { degrees: '1 2 3 4 5 b6 7', built: 'major with a flat 6', source: 'persichetti' },
  'dorian flat 2': {
    degrees: '1 b2 b3 4 5 6 b7',
    built: 'dorian with a flat 2',
    source: 'levine',
    also: ['phrygian natural 6', 'dorian b2', 'phrygian sharp 6'],
  },
  'lydian augmented': {
    degrees: '1 2 3 #4 #5 6 7',
    built: 'lydian with a sharp 5',
    source: 'levine',
    also: ['lydian sharp 5'],
  },
  'lydian dominant': {
    degrees: '1 2 3 #4 5 6 b7',
    built: 'mixolydian with a sharp 4',
    source: 'levine',
    also: ['lydian flat 7', 'mixolydian sharp 4', 'acoustic', 'overtone'],
  },
  'mixolydian flat 6': {
    degrees: '1 2 3 4 5 b6 b7',
    built: 'mixolydian with a flat 6',
    source: 'levine',
    also: ['mixolydian b6', 'melodic major', 'aeolian dominant'],
  },
  'locrian natural 2': {
    degrees: '1 2 b3 4 b5 b6 b7',
    built: 'natural minor with a flat 5',
    source: 'levine',
    also: ['half-diminished', 'locrian sharp 2', 'aeolian flat 5'],
  },
  altered: {
    degrees: '1 b2 b3 b4 b5 b6 b7',
    built: 'major with every note but the tonic lowered',
    source: 'levine',
    also: ['altered scale', 'super-locrian', 'altered dominant', 'diminished whole-tone'],
  },
  'locrian natural 6': {
    degrees: '1 b2 b3 4 b5 6 b7',
    built: 'locrian with a raised 6',
    source: 'persichetti',
    also: ['locrian sharp 6'],
  },
  'ionian augmented': {
    degrees: '1 2 3 4 #5 6 7',
    built: 'major with a sharp 5',
    source: 'persichetti',
    also: ['ionian sharp 5', 'major sharp 5'],
  },
  'dorian sharp 4': {
    degrees: '1 2 b3 #4 5 6 b7',
    built: 'dorian with a sharp 4',
    source: 'persichetti',
    also: ['dorian #4'],
  },
  'phrygian dominant': {
    degrees: '1 b2 3 4 5 b6 b7',
    built: 'phrygian with a raised 3',
    source: 'levine',
    also: ['phrygian major', 'phrygian natural 3', 'mixolydian flat 2 flat 6'],
  },
  'lydian sharp 2': {
    degrees: '1 #2 3 #4 5 6 7',
    built: 'lydian with a sharp 2',
    source: 'persichetti',
    also: ['lydian #2'],
  },
  'altered diminished': {
    degrees: '1 b2 b3 b4 b5 b6 bb7',
    built: 'altered with its 7 lowered again',
    source: 'persichetti',
    also: ['super-locrian flat 7', 'super-locrian bb7'],
  },
  'bebop dominant': {
    degrees: '1 2 3 4 5 6 b7 7',
    built: 'mixolydian with the major 7 added',
    source: 'baker',
    also: ['bebop', 'mixolydian bebop', 'dominant bebop'],
  },
  'bebop major': {
    degrees: '1 2 3 4 5 #5 6 7',
    built: 'major with a sharp 5 added',
    source: 'baker',
    also: ['major bebop'],
  },
  'bebop minor': {
    degrees: '1 2 b3 3 4 5 6 b7',
    built: 'dorian with the major 3 added',
    source: 'baker',
    also: ['bebop dorian', 'dorian bebop', 'minor bebop'],
  },
  'bebop melodic minor': {
    degrees: '1 2 b3 4 5 #5 6 7',
    built: 'melodic minor with a sharp 5 added',
    source: 'baker',
    also: ['melodic minor bebop'],
  },
  diminished: {
    degrees: '1 2 b3 4 b5 b6 6 7',
    built: 'whole and half steps in turn',
    source: 'kostka',
    also: ['whole-half diminished', 'diminished whole-half', 'octatonic', 'whole half diminished'],
  },
  'half-whole diminished': {
    degrees: '1 b2 #2 3 #4 5 6 b7',
    built: 'half and whole steps in turn',
    source: 'levine',
    also: ['dominant diminished', 'diminished half-whole', 'octatonic half-whole', 'half whole diminished'],
  },
  chromatic: {
    degrees: '1 #1 2 #2 3 4 #4 5 #5 6 #6 7',
    falling: '1 b2 2 b3 3 4 b5 5 b6 6 b7 7',
    built: 'half steps only',
    source: 'kostka',
  },
  triad: { degrees: '1 3 5', built: '1 3 5 of major', source: 'kostka', also: ['major triad', 'major chord'] },
  'minor triad': { degrees: '1 b3 5', built: '1 3 5 of minor', source: 'kostka', also: ['minor chord', 'm'] },
  'diminished triad': { degrees: '1 b3 b5', built: 'minor triad with a flat 5', source: 'kostka', also: ['dim'] },
  'augmented triad': { degrees: '1 3 #5', built: 'triad with a sharp 5', source: 'kostka', also: ['aug'] },
  '6': { degrees: '1 3 5 6', built: 'triad with the 6', source: 'kostka', also: ['sixth chord'] },
  m6: { degrees: '1 b3 5 6', built: 'minor triad with the major 6', source: 'kostka', also: ['minor sixth chord'] },
  maj7: {
    degrees: '1 3 5 7',
    built: 'triad with the 7',
    source: 'kostka',
    also: ['major seventh', 'major seventh chord'],
  },
  '7': {
    degrees: '1 3 5 b7',
    built: 'triad with a flat 7',
    source: 'kostka',
    also: ['dominant seventh', 'dominant seventh chord', 'dom7'],
  },
  m7: {
    degrees: '1 b3 5 b7',
    built: 'minor triad with a flat 7',
    source: 'kostka',
    also: ['minor seventh', 'minor seventh chord', 'min7'],
  },
  mmaj7: {
    degrees: '1 b3 5 7',
    built: 'minor triad with the major 7',
    source: 'kostka',
    also: ['minor major seventh'],
  },
  m7b5: {
    degrees: '1 b3 b5 b7',
    built: 'diminished triad with a flat 7',
    source: 'kostka',
    also: ['half-diminished seventh', 'm7 flat 5'],
  },
  dim7: {
    degrees: '1 b3 b5 bb7',
    built: 'minor thirds only',
    source: 'kostka',
    also: ['diminished seventh', 'diminished seventh chord'],
  },
} as const satisfies Readonly<Record<string, ScaleEntry>>;

export type ScaleName = keyof typeof table;

export const SCALE_DICTIONARY: Readonly<Record<ScaleName, ScaleEntry>> = table;

export const ALL_SCALE_NAMES = Object.keys(table) as readonly ScaleName[];
