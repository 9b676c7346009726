import { fifthsOf, pitchClassAtFifths } from './fifths';
import { alterInSignature, signatureOf, type Key } from './key';
import { naturalSemitones, semitones, LETTERS, type Pitch } from './pitch';

/**
 * How far on the line of fifths the usual names reach on either side of a major key's tonic: from ♭2 (−5) to ♯4 (6).
 * Minor and modal keys take the window of their tonic a third higher, so that minor has ♭2 to ♯4 and both leading
 * notes.
 */
const FLATTEST = -5;

/**
 * Spells a MIDI key number in a key: notes of the signature by it, others by their nearest name on the line of fifths;
 * one that moves on by a semitone is named as leading up (raised) or down (lowered) to the next, as is usual for
 * passing notes.
 * @param number 0–127, 60 is middle C
 * @param next the key number that follows in the line
 */
export function spellInKey(number: number, key: Key, next?: number): Pitch {
  const signature = signatureOf(key);
  const own = LETTERS.map((step) => pitchOn(number, step)).find(
    (pitch) => pitch && alterInSignature(pitch.step, signature) === pitch.alter,
  );
  if (own) return own;
  const leads = next === undefined ? 0 : next - number;
  if (leads === 1 || leads === -1) {
    const target = spellInKey(next ?? number, key);
    const step = LETTERS[(LETTERS.indexOf(target.step) - leads + 7) % 7];
    const passing = step && pitchOn(number, step);
    if (passing && Math.abs(passing.alter) <= 1) return passing;
  }
  const tonic = fifthsOf(key.tonic);
  const isMinor = signature - tonic < -1;
  const from = (isMinor ? tonic : signature) + FLATTEST;
  for (let place = from; place < from + 12; place += 1) {
    const name = pitchClassAtFifths(place);
    const pitch = Math.abs(name.alter) <= 1 ? pitchOn(number, name.step) : undefined;
    if (pitch && pitch.alter === name.alter) return pitch;
  }
  const plain = LETTERS.map((step) => pitchOn(number, step)).find((pitch) => pitch && Math.abs(pitch.alter) <= 1);
  if (!plain) throw new RangeError(`no name for key number ${number}`);
  return plain;
}

/** The number under a letter, if at most two accidentals get it there. */
function pitchOn(number: number, step: (typeof LETTERS)[number]): Pitch | undefined {
  const above = number - 12 - naturalSemitones(step);
  const octave = Math.round(above / 12);
  const alter = above - 12 * octave;
  return Math.abs(alter) <= 2 ? { step, alter, octave } : undefined;
}

/** A pitch so many half steps higher (or lower, below 0), spelled in a key; it stays within the MIDI key numbers. */
export function raisedInKey(pitch: Pitch, by: number, key: Key): Pitch {
  const number = semitones(pitch) + 12 + by;
  return number < 0 || number > 127 ? pitch : spellInKey(number, key);
}
