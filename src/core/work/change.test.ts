import { noteName } from '../../../tests/given';
import { describeChange, type ChangeKind } from './change';

const notes = (names: string) => names.split(' ').map(noteName);
const CONCERT = { diatonic: 0, chromatic: 0 };
const ALTO = { diatonic: 5, chromatic: 9 };
const told = (detail: ChangeKind, written = CONCERT) => {
  const { what, why } = describeChange({ bar: 3, barIndex: 2, events: [], detail }, written);
  return `${what}: ${why}`;
};
const QUARTER = { type: 'quarter', dots: 0 } as const;
const embellished = (
  device: Extract<ChangeKind, { kind: 'embellished' }>['device'],
  added: string,
  more: Partial<Extract<ChangeKind, { kind: 'embellished' }>> = {},
): ChangeKind => ({
  kind: 'embellished',
  device,
  at: noteName('G'),
  added: added === '' ? [] : notes(added),
  beat: 2,
  ...more,
});

test.each<[ChangeKind, string]>([
  [
    {
      kind: 'simplified',
      before: notes('C D E F'),
      after: notes('C E'),
      shortest: QUARTER,
      isTail: false,
      syllablesJoined: false,
    },
    'C D E F became C E: nothing shorter than a quarter here; the notes that carry the tune stay',
  ],
  [
    { kind: 'simplified', before: notes('C D'), after: [], shortest: QUARTER, isTail: false, syllablesJoined: false },
    'C D left out: nothing shorter than a quarter here; the notes that carry the tune stay',
  ],
  [
    {
      kind: 'simplified',
      before: notes('C D'),
      after: notes('C'),
      shortest: { type: 'eighth', dots: 0 },
      isTail: true,
      syllablesJoined: true,
    },
    'C D became C, and their syllables are sung on the notes that stay: each beat is a dotted quarter, or a quarter and an eighth, here; the notes that carry the tune stay',
  ],
  [
    { kind: 'moved', notes: [{ pitch: noteName('A'), beat: 3 }] },
    'A now falls on beat 3: notes start on the beat at this level',
  ],
  [
    { kind: 'lengths', shortest: QUARTER, isTail: false },
    'note lengths evened out: nothing shorter than a quarter here',
  ],
  [{ kind: 'graces', count: 1 }, 'a grace note left out: ornaments wait until the plain tune is secure'],
  [
    { kind: 'graces', count: 5, isPiping: true },
    '5 grace notes left out: they are a piper’s, and this instrument does not play them so',
  ],
  [
    { kind: 'ornaments', names: ['trill', 'turn'] },
    'trill, turn left out: ornaments wait until the plain tune is secure',
  ],
  [
    { kind: 'phrase-octave', octaves: -1, low: 'C4', high: 'A5' },
    'this phrase is an octave lower: so that it stays between C4 and A5',
  ],
  [
    { kind: 'phrase-octave', octaves: 2, low: 'C4', high: 'A5', isPart: true },
    'this part of the phrase is 2 octaves higher: so that it stays between C4 and A5',
  ],
  [
    { kind: 'note-octave', pitch: noteName('B'), octaves: 1, edge: 'C4', isLow: true },
    'B played an octave higher: C4 is the lowest note here',
  ],
  [
    { kind: 'along', pitch: noteName('B'), octaves: 1 },
    'B played an octave higher: it moves with the note beside it, which is out of reach',
  ],
  [
    { kind: 'swapped', from: noteName('B'), to: noteName('G'), edge: 'A5', isLow: false },
    'B became G, a note of the chord: A5 is the highest note here',
  ],
  [
    { kind: 'not-known', from: noteName('F#'), to: noteName('D'), octaves: 0.5 },
    'F♯ became D: this player does not know it there yet',
  ],
  [
    { kind: 'not-known', from: noteName('F#'), to: noteName('F#'), octaves: -1 },
    'F♯ played an octave lower: this player does not know it there yet',
  ],
  [{ kind: 'left-out', pitch: noteName('Bb') }, 'B♭ left out: it lies beyond the range, and a rest was chosen'],
  [{ kind: 'chosen', variant: 'optional' }, 'this bar is optional: as you set this bar'],
  [
    { kind: 'leap', from: noteName('C'), to: noteName('C'), octaves: 1, most: 4 },
    'C played an octave higher: no leap beyond a fifth here',
  ],
  [
    { kind: 'leap', from: noteName('C'), to: noteName('E'), octaves: 0.25, most: 4 },
    'C became E, a note of the chord: no leap beyond a fifth here',
  ],
  [
    { kind: 'leap-stays', from: noteName('C'), to: noteName('B') },
    'the leap from C to B stays: the first note and the ends of phrases keep their notes',
  ],
  [
    { kind: 'long-breath', seconds: 14.4, lasts: 8.2 },
    'about 14 seconds in one breath from here: no better place to breathe comes sooner, and about 8 seconds are usual: a quicker tempo helps',
  ],
  [{ kind: 'drill', what: 'A♭ left out', why: 'beyond the range' }, 'A♭ left out: beyond the range'],
  [{ kind: 'articulation', style: 'crisp' }, 'short notes detached: the articulation of the level'],
  [
    { kind: 'respelled', from: noteName('F##'), to: noteName('G') },
    'F𝄪 written as G: no double sharps or flats for a beginner',
  ],
  [embellished('passing', 'A B'), 'A B after G on beat 2: the line walks where it leaped'],
  [embellished('neighbour', 'A'), 'A after G on beat 2: a step away and back'],
  [embellished('fill', 'A B', { to: noteName('C') }), 'A B after G on beat 2: the long note walks on into C'],
  [embellished('fill', 'A B'), 'A B after G on beat 2: the long note walks on'],
  [embellished('chord-tone', 'D'), 'D after G on beat 2: another note of the same chord'],
  [embellished('run-in', 'E F'), 'E F on beat 2, into G: the rest has room for a way in'],
  [embellished('again', ''), 'G struck again on beat 2: the same note, livelier'],
  [embellished('approach', 'F#', { to: noteName('G') }), 'F♯ after G on beat 2: a half step leads into G'],
  [embellished('enclosure', 'B G#'), 'B G♯ after G on beat 2: the next note is met from both sides'],
  [embellished('anticipation', ''), 'G comes an eighth before beat 2: a strong note pushed forward'],
  [embellished('double-time', 'A B C'), 'G A B C on beat 2: a beat in double time'],
  [embellished('grace', 'A'), 'a grace note A before G on beat 2: a strong note gets an edge'],
  [embellished('turn', '', { ornament: 'mordent' }), 'a mordent on G, beat 2: a long note is adorned'],
])('%j', (detail, words) => expect(told(detail)).toBe(words));

test('names are those that the reader sees: an alto saxophone reads a sixth higher', () => {
  expect(told({ kind: 'left-out', pitch: noteName('Bb') }, ALTO)).toMatch(/^G left out/);
  expect(told(embellished('passing', 'A B'), ALTO)).toMatch(/^F♯ G♯ after E on beat 2/);
});

test('what concerns the page alone is written pitch already, for whatever reader', () => {
  expect(told({ kind: 'respelled', from: noteName('F##'), to: noteName('G') }, ALTO)).toMatch(/^F𝄪 written as G/);
});

test('no name has more than two signs', () => {
  expect(told({ kind: 'left-out', pitch: noteName('B##') }, { diatonic: 3, chromatic: 6 })).not.toMatch(/♯𝄪|𝄪𝄪|###/);
});
