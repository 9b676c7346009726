import type { Instrument } from '../instrument';
import { ADLER, AT_PITCH, MAKERS, pitches, ranges, READS_OCTAVE_UP } from './facts';

const FRETTED_SOURCE =
  'Full range: open strings and number of frets; ranges by level: first, fifth and ninth position as tutor books reach them.';

function bowed(
  facts: Omit<Instrument, 'family' | 'breaks' | 'beginnerMinutes' | 'breathSeconds' | 'source'>,
): Instrument {
  return { family: 'strings', breaks: [], beginnerMinutes: 15, breathSeconds: 4, source: ADLER, ...facts };
}

function fretted(
  facts: Omit<Instrument, 'family' | 'breaks' | 'beginnerMinutes' | 'breathSeconds' | 'source' | 'clef'> &
    Partial<Pick<Instrument, 'clef'>>,
): Instrument {
  return {
    family: 'fretted',
    clef: 'treble',
    breaks: [],
    beginnerMinutes: 15,
    breathSeconds: 6,
    source: FRETTED_SOURCE,
    ...facts,
  };
}

/** Bowed strings up to the fifth position at the advanced level; fretted ones in their usual tuning. */
export const STRINGS: readonly Instrument[] = [
  bowed({
    id: 'violin',
    name: 'Violin',
    shortName: 'violin',
    clef: 'treble',
    transposition: AT_PITCH,
    range: ranges('D4 B5', 'G3 D6', 'G3 B6', 'G3 A7'),
    homeKeys: ['D', 'A', 'G'],
    mechanism: { kind: 'bowed', hand: 'violin', strings: pitches('G3 D4 A4 E5') },
  }),
  bowed({
    id: 'viola',
    name: 'Viola',
    shortName: 'viola',
    clef: 'alto',
    transposition: AT_PITCH,
    range: ranges('G3 E5', 'C3 G5', 'C3 C6', 'C3 E6'),
    homeKeys: ['G', 'D', 'C'],
    mechanism: { kind: 'bowed', hand: 'violin', strings: pitches('C3 G3 D4 A4') },
  }),
  bowed({
    id: 'cello',
    name: 'Cello',
    shortName: 'cello',
    clef: 'bass',
    transposition: AT_PITCH,
    range: ranges('G2 D4', 'C2 G4', 'C2 D5', 'C2 C6'),
    homeKeys: ['G', 'D', 'C'],
    mechanism: { kind: 'bowed', hand: 'cello', strings: pitches('C2 G2 D3 A3') },
  }),
  bowed({
    id: 'double-bass',
    name: 'Double bass',
    shortName: 'double bass',
    clef: 'bass',
    transposition: READS_OCTAVE_UP,
    range: ranges('E2 A3', 'E2 D4', 'E2 G4', 'E2 C5'),
    homeKeys: ['D', 'G', 'A'],
    mechanism: { kind: 'bowed', hand: 'double-bass', strings: pitches('E2 A2 D3 G3') },
  }),
  fretted({
    id: 'guitar',
    name: 'Guitar',
    shortName: 'guitar',
    transposition: READS_OCTAVE_UP,
    range: ranges('E3 G5', 'E3 B5', 'E3 E6', 'E3 B6'),
    homeKeys: ['C', 'G', 'D'],
    mechanism: { kind: 'fretted', strings: pitches('E3 A3 D4 G4 B4 E5'), frets: 19 },
  }),
  fretted({
    id: 'bass-guitar',
    name: 'Bass guitar',
    shortName: 'bass guitar',
    clef: 'bass',
    transposition: READS_OCTAVE_UP,
    range: ranges('E2 C4', 'E2 E4', 'E2 G4', 'E2 Eb5'),
    homeKeys: ['G', 'A', 'E'],
    mechanism: { kind: 'fretted', strings: pitches('E2 A2 D3 G3'), frets: 20 },
  }),
  fretted({
    id: 'mandolin',
    name: 'Mandolin',
    shortName: 'mandolin',
    transposition: AT_PITCH,
    range: ranges('G3 B5', 'G3 D6', 'G3 G6', 'G3 A6'),
    homeKeys: ['G', 'D', 'A'],
    mechanism: { kind: 'fretted', strings: pitches('G3 D4 A4 E5'), frets: 17 },
  }),
  fretted({
    id: 'ukulele',
    name: 'Ukulele',
    shortName: 'ukulele',
    transposition: AT_PITCH,
    range: ranges('C4 C5', 'C4 E5', 'C4 G5', 'C4 C6'),
    homeKeys: ['C', 'F', 'G'],
    mechanism: { kind: 'fretted', strings: pitches('G4 C4 E4 A4'), frets: 15 },
  }),
  fretted({
    id: 'tenor-banjo',
    name: 'Tenor banjo',
    shortName: 'tenor banjo',
    transposition: READS_OCTAVE_UP,
    range: ranges('C4 D6', 'C4 E6', 'C4 G6', 'C4 C7'),
    homeKeys: ['C', 'G', 'D'],
    mechanism: { kind: 'fretted', strings: pitches('C4 G4 D5 A5'), frets: 17 },
  }),
  {
    id: 'melodica',
    name: 'Melodica',
    shortName: 'melodica',
    family: 'free-reed',
    clef: 'treble',
    transposition: AT_PITCH,
    range: ranges('C4 D5', 'A3 A5', 'F3 C6', 'F3 C6'),
    breaks: [],
    homeKeys: ['C', 'G', 'F'],
    beginnerMinutes: 12,
    breathSeconds: 5,
    mechanism: { kind: 'keys' },
    source: MAKERS,
  },
  {
    id: 'harmonica',
    name: 'Diatonic harmonica in C',
    shortName: 'harmonica',
    family: 'free-reed',
    clef: 'treble',
    transposition: AT_PITCH,
    range: ranges('C5 C6', 'C4 G6', 'C4 C7', 'C4 C7'),
    breaks: [],
    homeKeys: ['C'],
    beginnerMinutes: 10,
    breathSeconds: 5,
    mechanism: { kind: 'harmonica' },
    source: MAKERS,
  },
];
