import { Chord, Interval as PeerInterval, Key as PeerKey, Note as PeerNote, transpose as peerTranspose } from 'tonal';
import { intervalBetween } from '../pitch/interval';
import { keyWithSignature, printKey, signatureOf, transposeKey } from '../pitch/key';
import { chroma, naturalAt, printPitch, printPitchClass, type Pitch } from '../pitch/pitch';
import { transpose } from '../pitch/transpose';
import { parseChord } from './chordSymbol';
import { chordTones } from './chordTones';

/** Numbers from a seed: the same ten thousand cases on every machine. */
function numbersFrom(seed: number): (most: number) => number {
  let state = seed;
  return (most) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 4_294_967_296) * most);
  };
}

/** Suffixes that both sides write alike. */
const SUFFIXES = [
  '',
  'm',
  'dim',
  'aug',
  '6',
  'm6',
  '7',
  'maj7',
  'm7',
  'm7b5',
  'dim7',
  '9',
  'maj9',
  'm9',
  '13',
  'sus4',
  'sus2',
  '7b9',
  '7#9',
  'mMaj7',
  '7sus4',
] as const;
const pitchAt = (next: (most: number) => number): Pitch => ({ ...naturalAt(14 + next(35)), alter: next(3) - 1 });

test('intervals, transposition, keys and chord tones agree with a library that others wrote, in ten thousand random cases', () => {
  const next = numbersFrom(20_260_000);
  const differences: string[] = [];
  const compare = (what: string, ours: unknown, theirs: unknown) => {
    if (ours !== theirs) differences.push(`${what}: ${String(ours)} against ${String(theirs)}`);
  };
  for (let k = 0; k < 10_000; k += 1) {
    const [from, to] = [pitchAt(next), pitchAt(next)];
    const ours = intervalBetween(from, to);
    const name = PeerInterval.distance(printPitch(from), printPitch(to));
    // Seconds that fall while their letters rise, and augmented sevenths, the other side counts an octave off.
    const crossesOctave =
      Math.sign(ours.chromatic) !== Math.sign(ours.diatonic) ||
      Math.abs(ours.chromatic) >= 12 * Math.ceil((Math.abs(ours.diatonic) + 1) / 7) ||
      Math.abs(ours.chromatic) < 12 * Math.floor(Math.abs(ours.diatonic) / 7);
    if (!crossesOctave)
      compare(`${printPitch(from)} to ${printPitch(to)}`, ours.chromatic, PeerInterval.semitones(name));
    const start = pitchAt(next);
    const moved = transpose(start, ours);
    // Both sides spell by the letter; signs beyond two are written differently.
    if (!crossesOctave && Math.abs(moved.alter) <= 2)
      compare(
        `${printPitch(start)} by ${name}`,
        printPitch(moved),
        PeerNote.get(peerTranspose(printPitch(start), name)).name,
      );
    const key = keyWithSignature(next(13) - 6, next(2) === 0 ? 'major' : 'minor');
    const signature =
      key.mode === 'major'
        ? PeerKey.majorKey(printPitchClass(key.tonic)).alteration
        : PeerKey.minorKey(printPitchClass(key.tonic)).alteration;
    compare(`signature of ${printKey(key)}`, signatureOf(key), signature);
    compare(
      `${printKey(key)} a fourth up`,
      chroma(transposeKey(key, { diatonic: 3, chromatic: 5 }).tonic),
      PeerNote.chroma(peerTranspose(printPitchClass(key.tonic), '4P')),
    );
    const symbol = `${printPitchClass({ ...naturalAt(next(7)), alter: next(3) - 1 })}${SUFFIXES[next(SUFFIXES.length)] ?? ''}`;
    const parsed = parseChord(symbol);
    const theirs = Chord.get(symbol).notes;
    if (parsed.ok && theirs.length > 0)
      compare(
        symbol,
        [...new Set(chordTones(parsed.value).map(({ pitchClass }) => chroma(pitchClass)))]
          .toSorted((a, b) => a - b)
          .join(),
        [...new Set(theirs.map((note) => PeerNote.chroma(note)))].toSorted((a, b) => a - b).join(),
      );
    else differences.push(`${symbol} was read by one side alone`);
  }
  expect([...new Set(differences)].slice(0, 20)).toEqual([]);
});
