import type { Instrument } from '../instrument';
import { ADLER, AT_PITCH, breaks, IN_BB, IN_EB, IN_LOW_BB, IN_LOW_EB, MAKERS, ranges, READS_OCTAVE_DOWN } from './facts';

type Facts = Omit<Instrument, 'family' | 'breathSeconds' | 'source'> & Partial<Pick<Instrument, 'breathSeconds' | 'source'>>;

function woodwind(facts: Facts): Instrument {
  return { family: 'woodwind', breathSeconds: 4, source: ADLER, ...facts };
}

// C and C♯ are all fingers off; D takes all of them again, and the right-hand thumb has no say.
const FLUTE_BREAKS = breaks('C5 D5', 'C#5 D5', 'C6 D6', 'C#6 D6');
const CLARINET_BREAKS = breaks('A4 B4', 'Bb4 B4', 'A#4 B4', 'Bb4 C5', 'C6 C#6');
const SAX_BREAKS = breaks('C5 D5', 'C#5 D5');
const OBOE_BREAKS = breaks('C5 D5', 'C5 C#5', 'C6 C#6');
/** From open to nearly all fingers, and on to the pinched thumb. */
const RECORDER_C_BREAKS = breaks('D5 E5', 'D5 D#5', 'A5 B5');
const RECORDER_F_BREAKS = breaks('G5 A5', 'G5 G#5', 'D6 E6');

const FLUTE_RANGES = ranges('D4 G5', 'C4 D6', 'C4 A6', 'C4 C7');
const CLARINET_RANGES = ranges('E3 Bb4', 'E3 C6', 'E3 G6', 'E3 C7');
const SAX_RANGES = ranges('D4 G5', 'C4 D6', 'Bb3 F6', 'Bb3 F#6');
const RECORDER_C_RANGES = ranges('C4 D5', 'C4 A5', 'C4 C6', 'C4 D6');
const RECORDER_F_RANGES = ranges('F4 G5', 'F4 D6', 'F4 F6', 'F4 G6');

export const WOODWIND: readonly Instrument[] = [
  woodwind({
    id: 'piccolo', name: 'Piccolo', shortName: 'piccolo', clef: 'treble', transposition: READS_OCTAVE_DOWN,
    range: ranges('D4 G5', 'D4 D6', 'D4 A6', 'D4 C7'), breaks: FLUTE_BREAKS, homeKeys: ['F', 'G', 'Bb'], beginnerMinutes: 5, mechanism: { kind: 'holes', charts: ['flute'] },
  }),
  woodwind({
    id: 'flute', name: 'Flute', shortName: 'flute', clef: 'treble', transposition: AT_PITCH,
    range: FLUTE_RANGES, breaks: FLUTE_BREAKS, homeKeys: ['F', 'G', 'Bb'], beginnerMinutes: 8, mechanism: { kind: 'holes', charts: ['flute'] },
  }),
  woodwind({
    id: 'alto-flute', name: 'Alto flute in G', shortName: 'alto flute', clef: 'treble', transposition: { diatonic: 3, chromatic: 5 },
    range: ranges('D4 G5', 'C4 D6', 'C4 G6', 'C4 C7'), breaks: FLUTE_BREAKS, homeKeys: ['F', 'G', 'Bb'], beginnerMinutes: 6, breathSeconds: 3, mechanism: { kind: 'holes', charts: ['flute'] },
  }),
  woodwind({
    id: 'recorder-sopranino', name: 'Sopranino recorder', shortName: 'sopranino', clef: 'treble', transposition: READS_OCTAVE_DOWN,
    range: RECORDER_F_RANGES, breaks: RECORDER_F_BREAKS, homeKeys: ['F', 'C', 'Bb'], beginnerMinutes: 10, breathSeconds: 6, source: MAKERS, mechanism: { kind: 'holes', charts: ['recorder-f', 'recorder-f-german'] },
  }),
  woodwind({
    id: 'recorder-descant', name: 'Descant recorder', shortName: 'descant', clef: 'treble', transposition: READS_OCTAVE_DOWN,
    range: RECORDER_C_RANGES, breaks: RECORDER_C_BREAKS, homeKeys: ['C', 'G', 'F'], beginnerMinutes: 12, breathSeconds: 6, source: MAKERS, mechanism: { kind: 'holes', charts: ['recorder-c', 'recorder-c-german'] },
  }),
  woodwind({
    id: 'recorder-treble', name: 'Treble recorder', shortName: 'treble rec.', clef: 'treble', transposition: AT_PITCH,
    range: RECORDER_F_RANGES, breaks: RECORDER_F_BREAKS, homeKeys: ['F', 'C', 'Bb'], beginnerMinutes: 12, breathSeconds: 6, source: MAKERS, mechanism: { kind: 'holes', charts: ['recorder-f', 'recorder-f-german'] },
  }),
  woodwind({
    id: 'recorder-tenor', name: 'Tenor recorder', shortName: 'tenor rec.', clef: 'treble', transposition: AT_PITCH,
    range: RECORDER_C_RANGES, breaks: RECORDER_C_BREAKS, homeKeys: ['C', 'G', 'F'], beginnerMinutes: 10, breathSeconds: 5, source: MAKERS, mechanism: { kind: 'holes', charts: ['recorder-c', 'recorder-c-german'] },
  }),
  woodwind({
    id: 'recorder-bass', name: 'Bass recorder', shortName: 'bass rec.', clef: 'bass', transposition: READS_OCTAVE_DOWN,
    range: ranges('F2 G3', 'F2 D4', 'F2 F4', 'F2 G4'), breaks: breaks('G3 A3', 'G3 G#3', 'D4 E4'), homeKeys: ['F', 'C', 'Bb'], beginnerMinutes: 8, breathSeconds: 4, source: MAKERS,
    mechanism: { kind: 'holes', charts: ['recorder-f', 'recorder-f-german'], above: -24 },
  }),
  woodwind({
    id: 'tin-whistle-d', name: 'Tin whistle in D', shortName: 'whistle', clef: 'treble', transposition: READS_OCTAVE_DOWN,
    range: ranges('D4 E5', 'D4 B5', 'D4 D6', 'D4 D6'), breaks: breaks('C5 D5', 'C#5 D5'), homeKeys: ['D', 'G'], beginnerMinutes: 12, breathSeconds: 5, source: MAKERS, mechanism: { kind: 'holes', charts: ['whistle-d'] },
  }),
  woodwind({
    id: 'oboe', name: 'Oboe', shortName: 'oboe', clef: 'treble', transposition: AT_PITCH,
    range: ranges('D4 G5', 'C4 C6', 'Bb3 D6', 'Bb3 G6'), breaks: OBOE_BREAKS, homeKeys: ['G', 'D', 'F'], beginnerMinutes: 5, breathSeconds: 6, mechanism: { kind: 'holes', charts: ['oboe'] },
  }),
  woodwind({
    id: 'english-horn', name: 'Cor anglais', shortName: 'cor anglais', clef: 'treble', transposition: { diatonic: 4, chromatic: 7 },
    range: ranges('D4 G5', 'C4 C6', 'B3 D6', 'B3 G6'), breaks: OBOE_BREAKS, homeKeys: ['G', 'D', 'F'], beginnerMinutes: 5, breathSeconds: 5, mechanism: { kind: 'holes', charts: ['oboe'] },
  }),
  woodwind({
    id: 'clarinet-eb', name: 'Clarinet in E♭', shortName: 'E♭ clarinet', clef: 'treble', transposition: { diatonic: -2, chromatic: -3 },
    range: CLARINET_RANGES, breaks: CLARINET_BREAKS, homeKeys: ['C', 'G', 'F'], beginnerMinutes: 8, breathSeconds: 5, mechanism: { kind: 'holes', charts: ['clarinet'] },
  }),
  woodwind({
    id: 'clarinet-bb', name: 'Clarinet in B♭', shortName: 'clarinet', clef: 'treble', transposition: IN_BB,
    range: CLARINET_RANGES, breaks: CLARINET_BREAKS, homeKeys: ['C', 'G', 'F'], beginnerMinutes: 10, breathSeconds: 5, mechanism: { kind: 'holes', charts: ['clarinet'] },
  }),
  woodwind({
    id: 'clarinet-a', name: 'Clarinet in A', shortName: 'A clarinet', clef: 'treble', transposition: { diatonic: 2, chromatic: 3 },
    range: CLARINET_RANGES, breaks: CLARINET_BREAKS, homeKeys: ['C', 'G', 'F'], beginnerMinutes: 10, breathSeconds: 5, mechanism: { kind: 'holes', charts: ['clarinet'] },
  }),
  woodwind({
    id: 'bass-clarinet', name: 'Bass clarinet', shortName: 'bass clarinet', clef: 'treble', transposition: IN_LOW_BB,
    range: ranges('E3 Bb4', 'E3 C6', 'Eb3 E6', 'Eb3 G6'), breaks: CLARINET_BREAKS, homeKeys: ['C', 'G', 'F'], beginnerMinutes: 8, mechanism: { kind: 'holes', charts: ['clarinet'] },
  }),
  woodwind({
    id: 'bass-clarinet-bc', name: 'Bass clarinet, bass clef', shortName: 'bass cl. (b.c.)', clef: 'bass', transposition: IN_BB,
    range: ranges('E2 Bb3', 'E2 C5', 'Eb2 E5', 'Eb2 G5'), breaks: breaks('A3 B3', 'Bb3 B3', 'A#3 B3', 'Bb3 C4', 'C5 C#5'), homeKeys: ['C', 'G', 'F'], beginnerMinutes: 8, mechanism: { kind: 'holes', charts: ['clarinet'], above: -12 },
  }),
  woodwind({
    id: 'bassoon', name: 'Bassoon', shortName: 'bassoon', clef: 'bass', transposition: AT_PITCH,
    range: ranges('F2 F3', 'F2 D4', 'Bb1 G4', 'Bb1 D5'), breaks: breaks('F3 G3', 'F3 F#3', 'F3 Gb3'), homeKeys: ['F', 'C', 'Bb'], beginnerMinutes: 6, mechanism: { kind: 'holes', charts: ['bassoon'] },
  }),
  woodwind({
    id: 'soprano-sax', name: 'Soprano saxophone', shortName: 'soprano sax', clef: 'treble', transposition: IN_BB,
    range: SAX_RANGES, breaks: SAX_BREAKS, homeKeys: ['G', 'C', 'D'], beginnerMinutes: 8, breathSeconds: 5, mechanism: { kind: 'holes', charts: ['saxophone'] },
  }),
  woodwind({
    id: 'alto-sax', name: 'Alto saxophone', shortName: 'alto sax', clef: 'treble', transposition: IN_EB,
    range: SAX_RANGES, breaks: SAX_BREAKS, homeKeys: ['G', 'D', 'C'], beginnerMinutes: 10, breathSeconds: 5, mechanism: { kind: 'holes', charts: ['saxophone'] },
  }),
  woodwind({
    id: 'tenor-sax', name: 'Tenor saxophone', shortName: 'tenor sax', clef: 'treble', transposition: IN_LOW_BB,
    range: SAX_RANGES, breaks: SAX_BREAKS, homeKeys: ['G', 'C', 'D'], beginnerMinutes: 10, mechanism: { kind: 'holes', charts: ['saxophone'] },
  }),
  woodwind({
    id: 'baritone-sax', name: 'Baritone saxophone', shortName: 'baritone sax', clef: 'treble', transposition: IN_LOW_EB,
    range: SAX_RANGES, breaks: SAX_BREAKS, homeKeys: ['G', 'D', 'C'], beginnerMinutes: 8, breathSeconds: 3, mechanism: { kind: 'holes', charts: ['saxophone'] },
  }),
];
