import fc from 'fast-check';
import { anyTune } from '../../../tests/anyTune';
import { DEMO_TUNES } from '../../demo/studio';
import { readAbc } from '../formats/abc/readAbc';
import { namePitchClass } from '../pitch/pitch';
import { transposeBars } from '../levels/fit/inKey';
import { soundingNotes } from '../score/sounding';
import { barNumbers, type Tune } from '../score/tune';
import { beatNumberAt } from '../time/meter';
import { chordTonesUnder } from './chordsUnder';
import { phrasesOf } from './phrases';

const tuneOf = (abc: string): Tune => {
  const read = readAbc(abc);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
};
/** Bar and beat with which each phrase begins. */
const starts = (tune: Tune) => {
  const notes = soundingNotes(tune);
  const numbers = barNumbers(tune);
  return phrasesOf(tune).map(({ from }) => {
    const note = notes[from];
    return note ? `${numbers[note.bar]}:${beatNumberAt(tune.meter, note.inBar)}` : '';
  });
};

test('every note belongs to one phrase, in order, for any tune', () => {
  fc.assert(
    fc.property(anyTune, (tune) => {
      const phrases = phrasesOf(tune);
      const covered = phrases.flatMap(({ from, to }) => Array.from({ length: to - from }, (_, k) => from + k));
      expect(covered).toEqual(soundingNotes(tune).map((_, index) => index));
      expect(phrases.every(({ from, to }) => to > from)).toBe(true);
    }),
  );
});

test('a tune has the same phrases in every key', () => {
  fc.assert(
    fc.property(anyTune, (tune) => {
      expect(phrasesOf({ ...tune, ...transposeBars(tune, { diatonic: 3, chromatic: 5 }) })).toEqual(phrasesOf(tune));
    }),
  );
});

test.each<readonly [string, readonly string[]]>([
  ['lamps-on-the-mole', ['0:4', '4:4', '8:4', '12:4']],
  ['kelp-on-the-slipway', ['1:1', '5:1', '9:1', '13:1']],
])('%s falls into its four-bar phrases, pickups and all', (slug, expected) => {
  expect(starts(tuneOf(DEMO_TUNES.find((tune) => tune.slug === slug)?.abc ?? ''))).toEqual(expected);
});

test('long notes and rests make phrases of three bars where the tune has them', () => {
  expect(starts(tuneOf('X:1\nM:4/4\nL:1/4\nK:C\nCDEF|GABc|d2z2|cBAG|FEDC|C2z2|EFGA|BcdB|c4|\n'))).toEqual([
    '1:1',
    '4:1',
    '7:1',
  ]);
});

test('a repeat sign always cuts', () => {
  expect(starts(tuneOf('X:1\nM:4/4\nL:1/4\nK:C\n|:CDEF|GABc:|:dcBA|GFEC:|\n'))).toEqual(['1:1', '3:1']);
});

test('the chord under a note is the last one before it; N.C. has no tones; before the first there is none', () => {
  const tune = tuneOf('X:1\nM:4/4\nL:1/4\nK:C\nC"Am"DEF|"N.C."GA"E7"BC|\n');
  const under = chordTonesUnder(tune, soundingNotes(tune)).map((tones) => tones?.map(namePitchClass).join(' '));
  expect(under).toEqual([undefined, 'A C E', 'A C E', 'A C E', '', '', 'E G♯ B D', 'E G♯ B D']);
});
