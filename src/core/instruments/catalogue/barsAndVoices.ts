import type { Instrument } from '../instrument';
import { ADLER, AT_PITCH, ranges, READS_OCTAVE_DOWN } from './facts';

type BarFacts = Pick<Instrument, 'id' | 'name' | 'shortName' | 'transposition' | 'range'>;
type VoiceFacts = Pick<Instrument, 'id' | 'name' | 'shortName' | 'clef' | 'transposition' | 'range'>;

function bars(facts: BarFacts): Instrument {
  return {
    family: 'percussion',
    clef: 'treble',
    breaks: [],
    homeKeys: ['C', 'G', 'F'],
    beginnerMinutes: 15,
    breathSeconds: 8,
    mechanism: { kind: 'bars' },
    source: ADLER,
    ...facts,
  };
}

const VOICE_SOURCE = 'Ranges of untrained and trained voices as choral handbooks give them; a voice teacher decides.';

function voice(facts: VoiceFacts): Instrument {
  return {
    family: 'voice',
    breaks: [],
    homeKeys: ['C', 'F', 'G'],
    beginnerMinutes: 10,
    breathSeconds: 5,
    mechanism: { kind: 'voice' },
    source: VOICE_SOURCE,
    ...facts,
  };
}

export const BARS_AND_VOICES: readonly Instrument[] = [
  bars({
    id: 'glockenspiel',
    name: 'Glockenspiel',
    shortName: 'glockenspiel',
    transposition: { diatonic: -14, chromatic: -24 },
    range: ranges('G3 A4', 'G3 G5', 'G3 C6', 'F3 C6'),
  }),
  bars({
    id: 'xylophone',
    name: 'Xylophone',
    shortName: 'xylophone',
    transposition: READS_OCTAVE_DOWN,
    range: ranges('C4 C5', 'G3 G5', 'F3 C7', 'F3 C7'),
  }),
  bars({
    id: 'vibraphone',
    name: 'Vibraphone',
    shortName: 'vibraphone',
    transposition: AT_PITCH,
    range: ranges('C4 C5', 'F3 A5', 'F3 F6', 'F3 F6'),
  }),
  bars({
    id: 'marimba',
    name: 'Marimba',
    shortName: 'marimba',
    transposition: AT_PITCH,
    range: ranges('C4 C5', 'A3 A5', 'A2 C7', 'C2 C7'),
  }),
  voice({
    id: 'voice-soprano',
    name: 'Soprano voice',
    shortName: 'soprano',
    clef: 'treble',
    transposition: AT_PITCH,
    range: ranges('C4 E5', 'C4 G5', 'B3 A5', 'A3 C6'),
  }),
  voice({
    id: 'voice-alto',
    name: 'Alto voice',
    shortName: 'alto voice',
    clef: 'treble',
    transposition: AT_PITCH,
    range: ranges('A3 A4', 'G3 C5', 'G3 D5', 'F3 F5'),
  }),
  voice({
    id: 'voice-tenor',
    name: 'Tenor voice',
    shortName: 'tenor voice',
    clef: 'treble-8vb',
    transposition: AT_PITCH,
    range: ranges('C3 E4', 'C3 G4', 'C3 A4', 'B2 C5'),
  }),
  voice({
    id: 'voice-bass',
    name: 'Bass voice',
    shortName: 'bass voice',
    clef: 'bass',
    transposition: AT_PITCH,
    range: ranges('A2 A3', 'G2 C4', 'F2 D4', 'E2 F4'),
  }),
];
