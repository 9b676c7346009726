import { key, tuneOf } from '../../../tests/given';
import { parseChord, printChord } from '../harmony/chordSymbol';
import { printPitch, type Pitch } from '../pitch/pitch';
import { isNote, type Tune } from '../score/tune';
import { scoreProblems } from '../score/validate';
import { backingOnly, heardNotes } from './backingTune';

const TEMPO = { beat: { type: 'quarter', dots: 0 }, perMinute: 72 } as const;
const chords = ({ bars }: Tune) =>
  bars.map((bar) => bar.chords.map(({ symbol }) => printChord(symbol)).join(' ')).join(' | ');
const chord = (text: string) => {
  const parsed = parseChord(text);
  if (!parsed.ok) throw new Error(text);
  return parsed.value;
};

test('chords to try out notes over: the tune’s, in the key and at the tempo asked for, with nothing played', () => {
  const tune = tuneOf('G2 | "C"C4 "G7"D4 | "C"c6 |]');
  const backing = backingOnly(tune, key('Eb'), TEMPO);
  expect([chords(backing), backing.tempo.perMinute]).toEqual([' | Eb Bb7 | Eb', 72]);
  expect(backing.bars.flatMap(({ events }) => events.filter(isNote))).toEqual([]);
  expect(scoreProblems(backing)).toEqual([]);
});

test('short bars and other meters rest for as long as they are', () => {
  const tune = tuneOf('A | "Am"A2 B2 c2 | "E7"B6 |]', 'M:3/4\nL:1/8\nK:Am');
  const lengths = (one: Tune) => one.bars.map(({ events }) => events.reduce((sum, { length }) => sum + length, 0));
  expect(lengths(backingOnly(tune, tune.key, TEMPO))).toEqual(lengths(tune));
});

describe('what is heard of one chord', () => {
  const LINE: readonly Pitch[] = ['C', 'E', 'G', 'B', 'D'].map((step, k) => ({
    step: step as 'C',
    alter: 0,
    octave: k < 4 ? 4 : 5,
  }));
  const notes = ({ bars }: Tune) =>
    bars.map(({ events }) => events.map((event) => (isNote(event) ? printPitch(event.pitch) : 'z')).join(' '));

  test('the chord alone first, then its notes a quarter each', () => {
    const heard = heardNotes(chord('Cmaj9'), LINE, 90);
    expect([notes(heard).slice(0, 2), chords(heard).split(' | ')[0]]).toEqual([['z', 'C4 E4 G4 B4'], 'Cmaj9']);
    expect(scoreProblems(heard)).toEqual([]);
  });

  test('notes alone where there is no chord', () => {
    expect(notes(heardNotes(undefined, LINE.slice(0, 4), 90))).toEqual(['C4 E4 G4 B4']);
  });
});
