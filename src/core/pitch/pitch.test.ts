import fc from 'fast-check';
import { intervalBetween, opposite, type Interval } from './interval';
import { alterInSignature, keyWithSignature, MODES, nameKey, parseKey, printKey, signatureOf } from './key';
import { fifthsOf, pitchClassAtFifths } from './fifths';
import { midiNumber, parsePitch, pitchOf, printPitch, samePitch, semitones, LETTERS, type Pitch } from './pitch';
import { readableInterval, transposeReadably, withoutDoubleAccidental } from './respell';
import { transpose } from './transpose';
import { Note as peerNote, transpose as peerTranspose, Interval as PeerInterval } from 'tonal';

const anyPitch: fc.Arbitrary<Pitch> = fc.record({
  step: fc.constantFrom(...LETTERS),
  alter: fc.integer({ min: -2, max: 2 }),
  octave: fc.integer({ min: 1, max: 7 }),
});
const anyInterval: fc.Arbitrary<Interval> = fc.tuple(anyPitch, anyPitch).map(([from, to]) => intervalBetween(from, to));

const read = (text: string): Pitch => {
  const parsed = parsePitch(text);
  if (!parsed.ok) throw new Error(text);
  return parsed.value;
};
const key = (text: string) => {
  const parsed = parseKey(text);
  if (!parsed.ok) throw new Error(text);
  return parsed.value;
};

test('up an interval and down the same one is where we started', () => {
  fc.assert(
    fc.property(anyPitch, anyInterval, (pitch, interval) => {
      expect(transpose(transpose(pitch, interval), opposite(interval))).toEqual(pitch);
    }),
  );
});

test('a transposition moves the sound by its semitones, whatever the spelling', () => {
  fc.assert(
    fc.property(anyPitch, anyInterval, (pitch, interval) => {
      expect(semitones(transposeReadably(pitch, interval)) - semitones(pitch)).toBe(interval.chromatic);
    }),
  );
});

test('spelling agrees with an independent library wherever that has a name for the interval', () => {
  let compared = 0;
  fc.assert(
    fc.property(anyPitch, anyPitch, (from, to) => {
      const name = PeerInterval.distance(printPitch(from), printPitch(to));
      const theirs = peerTranspose(printPitch(from), name);
      // Beyond doubly altered intervals the other library contradicts its own distances; there is nothing to compare
      // then.
      if (name === '' || theirs === '' || peerNote.midi(theirs) !== midiNumber(to)) return;
      compared += 1;
      expect(printPitch(transpose(from, intervalBetween(from, to)))).toBe(theirs);
      expect(midiNumber(from)).toBe(peerNote.midi(printPitch(from)));
    }),
  );
  expect(compared).toBeGreaterThan(40);
});

test('E sharp and F are two pitches with one sound', () => {
  expect(samePitch(read('E#4'), read('F4'))).toBe(false);
  expect(midiNumber(read('E#4'))).toBe(midiNumber(read('F4')));
  expect(midiNumber(read('C4'))).toBe(60);
  expect(midiNumber(read('B#3'))).toBe(60);
});

test.each(['H4', 'C', 'C#b4', 'c10', '', 'C4 ', '4C'])('%p is no pitch', (text) => {
  expect(parsePitch(text)).toEqual({ ok: false, problem: { code: 'unreadable-pitch', found: text } });
});

test('signatures follow tonic and mode', () => {
  const signatures = {
    C: 0,
    Bb: -2,
    'F#': 6,
    Am: 0,
    'F#m': 3,
    'D dorian': 0,
    'G mixolydian': 0,
    'E phrygian': 0,
    'F lydian': 0,
    'B locrian': 0,
    Gb: -6,
    Ebm: -6,
  };
  for (const [text, signature] of Object.entries(signatures))
    expect([text, signatureOf(key(text))]).toEqual([text, signature]);
});

test('a key prints as it is read, in every mode and signature', () => {
  for (const mode of MODES)
    for (let signature = -7; signature <= 7; signature += 1) {
      const made = keyWithSignature(signature, mode);
      expect(parseKey(printKey(made))).toEqual({ ok: true, value: made });
    }
  expect(nameKey(key('Bbm'))).toBe('B♭ minor');
});

test('an unreadable key says which part is wrong', () => {
  expect(parseKey('H major')).toEqual({ ok: false, problem: { code: 'unknown-tonic', found: 'H major' } });
  expect(parseKey('C majr')).toEqual({ ok: false, problem: { code: 'unknown-mode', found: 'C majr' } });
  expect(parseKey('G#')).toEqual({ ok: false, problem: { code: 'too-many-accidentals', found: 'G#' } });
  expect(parseKey('C constructor')).toEqual({ ok: false, problem: { code: 'unknown-mode', found: 'C constructor' } });
});

test('the letters that a signature alters come in the order of fifths', () => {
  expect(LETTERS.filter((step) => alterInSignature(step, 2) === 1)).toEqual(['C', 'F']);
  expect(LETTERS.filter((step) => alterInSignature(step, -3) === -1)).toEqual(['E', 'A', 'B']);
  fc.assert(
    fc.property(fc.integer({ min: -14, max: 14 }), (place) => {
      expect(fifthsOf(pitchClassAtFifths(place))).toBe(place);
    }),
  );
});

test('past six accidentals the other spelling is taken; a tie keeps its own', () => {
  const upASecond = { diatonic: 1, chromatic: 2 };
  expect(readableInterval(key('B'), upASecond)).toEqual({ diatonic: 2, chromatic: 2 });
  expect(readableInterval(key('E'), upASecond)).toEqual(upASecond);
});

test('double accidentals are respelled without changing the sound', () => {
  expect(printPitch(withoutDoubleAccidental(read('F##4')))).toBe('G4');
  expect(printPitch(withoutDoubleAccidental(read('Cbb5')))).toBe('Bb4');
  expect(printPitch(withoutDoubleAccidental(read('B##3')))).toBe('C#4');
});

test('a pitch is one object that nobody changes, for each letter, alteration and octave that is played; beyond that it is itself all the same', () => {
  fc.assert(
    fc.property(anyPitch, anyPitch, (a, b) => {
      expect(pitchOf(a.step, a.alter, a.octave)).toEqual(a);
      expect(pitchOf(a.step, a.alter, a.octave) === pitchOf(b.step, b.alter, b.octave)).toBe(samePitch(a, b));
    }),
  );
  expect(Object.isFrozen(pitchOf('C', 0, 4))).toBe(true);
  for (const odd of [
    { step: 'C', alter: 4, octave: 4 },
    { step: 'B', alter: 0, octave: -3 },
    { step: 'C', alter: -4, octave: 4 },
    { step: 'G', alter: 1, octave: 12 },
  ] as const)
    expect(pitchOf(odd.step, odd.alter, odd.octave)).toEqual(odd);
});
