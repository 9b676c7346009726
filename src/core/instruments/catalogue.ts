import { parsePitch, type Pitch } from '../pitch/pitch';
import type { Instrument, WrittenRange } from './instrument';

/*
 * Sources
 *   Full ranges and transpositions: S. Adler, The Study of Orchestration, 4th ed. (2016), chapters on each family,
 *     rounded to what is commonly expected of an amateur at the top end.
 *   Ranges by level, home keys: common practice of first and second tutor books and of graded examinations; rules of thumb
 *     that a teacher may change for each player.
 *   Register breaks: fingering systems themselves (all fingers off to all on, or the partial that needs another embouchure).
 *   Playing time and breath: teachers' rules of thumb; a teacher or clinician decides.
 */
const ADLER = 'Full range: Adler, The Study of Orchestration (2016); ranges by level: common practice of tutor books and graded examinations.';

function pitch(text: string): Pitch {
  const parsed = parsePitch(text);
  if (!parsed.ok) throw new Error(`catalogue: ${text} is no pitch`);
  return parsed.value;
}

function range(text: string): WrittenRange {
  const [low = '', high = ''] = text.split(' ');
  return { low: pitch(low), high: pitch(high) };
}

function ranges(beginner: string, intermediate: string, advanced: string, full: string): Instrument['range'] {
  return { beginner: range(beginner), intermediate: range(intermediate), advanced: range(advanced), full: range(full) };
}

function breaks(...pairs: readonly string[]): Instrument['breaks'] {
  return pairs.map((pair) => {
    const { low, high } = range(pair);
    return [low, high];
  });
}

export const INSTRUMENTS: readonly Instrument[] = [
  {
    id: 'flute', name: 'Flute', shortName: 'flute', family: 'woodwind', clef: 'treble', transposition: { diatonic: 0, chromatic: 0 },
    range: ranges('D4 G5', 'C4 D6', 'C4 A6', 'C4 C7'),
    // C and C♯ are all fingers off; D takes all of them again, and the right-hand thumb has no say.
    breaks: breaks('C5 D5', 'C#5 D5', 'C6 D6', 'C#6 D6'), homeKeys: ['F', 'G', 'Bb'], beginnerMinutes: 8, breathSeconds: 4, source: ADLER,
  },
  {
    id: 'clarinet-bb', name: 'Clarinet in B♭', shortName: 'clarinet', family: 'woodwind', clef: 'treble', transposition: { diatonic: 1, chromatic: 2 },
    range: ranges('E3 Bb4', 'E3 C6', 'E3 G6', 'E3 C7'),
    breaks: breaks('A4 B4', 'Bb4 B4', 'A#4 B4', 'Bb4 C5', 'C6 C#6'), homeKeys: ['C', 'G', 'F'], beginnerMinutes: 10, breathSeconds: 5, source: ADLER,
  },
  {
    id: 'alto-sax', name: 'Alto saxophone', shortName: 'alto sax', family: 'woodwind', clef: 'treble', transposition: { diatonic: 5, chromatic: 9 },
    range: ranges('D4 G5', 'C4 D6', 'Bb3 F6', 'Bb3 F#6'),
    breaks: breaks('C5 D5', 'C#5 D5'), homeKeys: ['G', 'D', 'C'], beginnerMinutes: 10, breathSeconds: 5, source: ADLER,
  },
  {
    id: 'tenor-sax', name: 'Tenor saxophone', shortName: 'tenor sax', family: 'woodwind', clef: 'treble', transposition: { diatonic: 8, chromatic: 14 },
    range: ranges('D4 G5', 'C4 D6', 'Bb3 F6', 'Bb3 F#6'),
    breaks: breaks('C5 D5', 'C#5 D5'), homeKeys: ['G', 'C', 'D'], beginnerMinutes: 10, breathSeconds: 4, source: ADLER,
  },
  {
    id: 'trumpet-bb', name: 'Trumpet in B♭', shortName: 'trumpet', family: 'brass', clef: 'treble', transposition: { diatonic: 1, chromatic: 2 },
    range: ranges('B3 D5', 'A3 G5', 'F#3 C6', 'F#3 D6'),
    breaks: [], homeKeys: ['C', 'G', 'F'], beginnerMinutes: 5, breathSeconds: 4, source: ADLER,
  },
  {
    id: 'horn-f', name: 'Horn in F', shortName: 'horn', family: 'brass', clef: 'treble', transposition: { diatonic: 4, chromatic: 7 },
    range: ranges('B3 D5', 'G3 G5', 'C3 A5', 'F#2 C6'),
    breaks: [], homeKeys: ['C', 'F', 'G'], beginnerMinutes: 5, breathSeconds: 4, source: ADLER,
  },
  {
    id: 'trombone', name: 'Trombone', shortName: 'trombone', family: 'brass', clef: 'bass', transposition: { diatonic: 0, chromatic: 0 },
    range: ranges('Bb2 D4', 'F2 F4', 'E2 Bb4', 'E2 F5'),
    breaks: [], homeKeys: ['Bb', 'F', 'Eb'], beginnerMinutes: 5, breathSeconds: 3, source: ADLER,
  },
  {
    id: 'violin', name: 'Violin', shortName: 'violin', family: 'strings', clef: 'treble', transposition: { diatonic: 0, chromatic: 0 },
    range: ranges('D4 B5', 'G3 D6', 'G3 B6', 'G3 A7'),
    breaks: [], homeKeys: ['D', 'A', 'G'], beginnerMinutes: 15, breathSeconds: 4, source: ADLER,
  },
  {
    id: 'viola', name: 'Viola', shortName: 'viola', family: 'strings', clef: 'alto', transposition: { diatonic: 0, chromatic: 0 },
    range: ranges('G3 E5', 'C3 G5', 'C3 C6', 'C3 E6'),
    breaks: [], homeKeys: ['G', 'D', 'C'], beginnerMinutes: 15, breathSeconds: 4, source: ADLER,
  },
  {
    id: 'cello', name: 'Cello', shortName: 'cello', family: 'strings', clef: 'bass', transposition: { diatonic: 0, chromatic: 0 },
    range: ranges('G2 D4', 'C2 G4', 'C2 D5', 'C2 C6'),
    breaks: [], homeKeys: ['G', 'D', 'C'], beginnerMinutes: 15, breathSeconds: 4, source: ADLER,
  },
];

const byId: ReadonlyMap<string, Instrument> = new Map(INSTRUMENTS.map((instrument) => [instrument.id, instrument]));

/** The instrument of an id as in `reed instruments`, or `undefined` where there is none. */
export function instrumentById(id: string): Instrument | undefined {
  return byId.get(id);
}
