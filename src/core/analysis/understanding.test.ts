import fc from 'fast-check';
import { anyTune } from '../../../tests/anyTune';
import { readAbc } from '../formats/abc/readAbc';
import { instrumentById } from '../instruments/catalogue';
import { warmUpPart } from '../levels/accompany/warmUpPart';
import { transposeBars } from '../levels/fit/inKey';
import { scaleOn } from '../harmony/scales';
import { printKey } from '../pitch/key';
import { namePitchClass, printPitch } from '../pitch/pitch';
import { isNote, type Tune } from '../score/tune';
import { TICKS_PER_QUARTER } from '../time/ticks';
import { phraseWords } from './byEar';
import { contourOf } from './contour';
import { findKey } from './findKey';
import { analyseTune } from './tuneAnalysis';
import { ownScale, scaleText } from './warmUp';

const tuneOf = (body: string, head = 'M:4/4\nL:1/4\nK:C'): Tune => {
  const read = readAbc(`X:1\nT:T\n${head}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
};

describe('the key', () => {
  test.each<readonly [string, string, string]>([
    ['A', 'E A c e | d c B ^G | A B c A | A4 |]', 'Am'],
    ['the signature has no say', '^F D ^F A | G E G B | A ^F G E | D4 |]', 'D'],
    ['a raised sixth makes it dorian', 'D F A d | c A G F | A B c A | D4 |]', 'D dorian'],
    ['a lowered seventh makes it mixolydian', 'G B d B | =f d c A | G B d =f | d B G2 |]', 'G mixolydian'],
    ['chords decide where notes leave it open', '"Am"A2 E2 | "Dm"A2 D2 | "E7"B2 E2 | "Am"A4 |]', 'Am'],
    ['flat keys are spelled flat', '_E G _B _e | d c _B _A | G F _E G | F2 _E2 |]', 'Eb'],
  ])('%s', (_, body, expected) => {
    const { key, confidence, runnersUp } = findKey(tuneOf(body));
    expect(printKey(key)).toBe(expected);
    expect([confidence >= 0.5, confidence <= 1, runnersUp.length]).toEqual([true, true, 3]);
  });

  test('moves with the tune', () => {
    fc.assert(
      fc.property(anyTune, (tune) => {
        const fourthUp = { ...tune, ...transposeBars(tune, { diatonic: 3, chromatic: 5 }) };
        const [here, there] = [findKey(tune), findKey(fourthUp)];
        expect(there.confidence).toBeCloseTo(here.confidence, 5);
        expect(there.key.mode).toBe(here.key.mode);
      }),
    );
  });
});

test('every named set that holds the melody is told, the smallest first, those on the home note before others', () => {
  const scales = analyseTune(tuneOf('G A B d | e d B A | G E D E | G4 |]')).scales.map(
    ({ tonic, name }) => `${namePitchClass(tonic)} ${name}`,
  );
  expect(scales.slice(0, 2)).toEqual(['G major pentatonic', 'E minor pentatonic']);
  expect(scales).toEqual(expect.arrayContaining(['G major', 'E natural minor', 'C major', 'D major']));
  expect(scaleOn({ step: 'E', alter: -1 }, 'blues scale').notes.map(namePitchClass)).toEqual([
    'E♭',
    'G♭',
    'A♭',
    'B𝄫',
    'B♭',
    'D♭',
  ]);
});

describe('phrases', () => {
  const A = 'C D E C';
  const relations = (body: string, head?: string) => {
    const { form, phrases } = analyseTune(tuneOf(body, head));
    return [
      form,
      ...phrases.map(({ kin, differsAt }) =>
        kin
          ? `${kin.relation.kind}${'steps' in kin.relation ? ` ${kin.relation.steps}` : ''} of ${kin.of + 1}${differsAt.length > 0 ? ` at ${differsAt.join(',')}` : ''}`
          : '-',
      ),
    ];
  };
  test.each<readonly [string, string, readonly string[]]>([
    ['the same again', `${A} | E F G2 | A G F E | D4 | ${A} | E F G2 | A G F E | D4 |]`, ['A A', '-', 'same of 1']],
    [
      'another ending',
      `${A} | E F G2 | A G F E | D4 | ${A} | E F G2 | A G F D | C4 |]`,
      ['A A′', '-', 'other-ending of 1 at 7,8'],
    ],
    [
      'a sequence',
      'C D E C | D E F D | E D C D | C2 z2 | D E F D | E F G E | F E D E | D2 z2 |]',
      ['A A′', '-', 'sequence 1 of 1'],
    ],
    [
      'the same rhythm',
      'C2 D E | F2 G A | c3 B | A2 z2 | g2 c g | e2 d c | E3 c | C2 z2 |]',
      ['A B', '-', 'same-rhythm of 1'],
    ],
    [
      'song form',
      `${A} | E F G2 | A G F E | D2 z2 | ${A} | E F G2 | A G F E | C2 z2 | G G A G | c B A2 | B A G F | G2 z2 | ${A} | E F G2 | A G F E | C2 z2 |]`,
      ['A A′ B A′', '-', 'other-ending of 1 at 8', 'same-rhythm of 1', 'same of 2'],
    ],
  ])('%s', (_, body, expected) => expect(relations(body)).toEqual(expected));

  test('two endings are one phrase, not a phrase of a note; the played form has the repeats in it', () => {
    const { form, playedForm, phrases } = analyseTune(
      tuneOf('|: G A B G | c B A2 | B A G F |1 E4 :|2 G4 |: d c B A | G A B c | d c B A | G4 :|'),
    );
    expect([form, playedForm]).toEqual(['A B', 'A A B B']);
    expect(phrases[0]?.endings).toEqual([
      { fromBar: 4, toBar: 4 },
      { fromBar: 5, toBar: 5 },
    ]);
  });

  test('a boundary set by the teacher stands, and one taken away is gone', () => {
    const tune = tuneOf('C D E F | G4 | A G F E | D4 | C D E F | G4 | F E D C | C4 |]');
    const marked = (id: string, phrase: 'begins' | 'goes-on'): Tune => ({
      ...tune,
      bars: tune.bars.map((bar) => ({
        ...bar,
        events: bar.events.map((event) => (event.id === id && isNote(event) ? { ...event, phrase } : event)),
      })),
    });
    const bars = (one: Tune) => analyseTune(one).phrases.map(({ fromBar }) => fromBar);
    expect([bars(tune), bars(marked('n6', 'begins')), bars(marked('n11', 'goes-on'))]).toEqual([
      [1, 5],
      [1, 3, 5],
      [1],
    ]);
  });

  test('a learner is told the shape without the notes', () => {
    const { phrases } = analyseTune(tuneOf(`${A} | E F G2 | A G F E | D4 | ${A} | E F G2 | A G F E | C4 |]`));
    const words = phrases.map((phrase) =>
      phraseWords(phrase, phrases, { tonic: { step: 'C', alter: 0 }, mode: 'major' }),
    );
    expect(words[1]).toMatchObject({
      startsOn: 'home note',
      endsOn: 'home note',
      kin: 'phrase 1 with another ending: only the last note is new',
    });
    expect(words[0]?.shape).toBe('2 steps up, a skip down, up a sixth in steps and skips, 4 steps down');
  });

  test('shapes', () => {
    const shape = (notes: string) =>
      contourOf(notes.split(' ').map((name) => ({ step: name[0] as 'C', alter: 0, octave: Number(name[1]) })));
    expect(['C4 E4 G4', 'G4 F4 C4', 'C4 G4 C4', 'G4 C4 G4', 'C4 C4', 'C4 G4 D4 A4 C4'].map(shape)).toEqual([
      'rises',
      'falls',
      'arch',
      'valley',
      'level',
      'wave',
    ]);
  });
});

test('leaps, rhythm words and notes outside are told with their bars', () => {
  const { leaps, rhythms, outside, range, pickup } = analyseTune(
    tuneOf('G | c2 c/d/ ^f | g G c2 | B/A/ G2 E/F/ | c3 |]'),
  );
  expect(leaps.map(({ from, to, bar }) => `${printPitch(from)}-${printPitch(to)} ${bar}`)).toEqual([
    'G4-C5 1',
    'G5-G4 2',
    'G4-C5 2',
    'F4-C5 4',
  ]);
  expect(rhythms[0]).toEqual({ word: 'quarter', count: 4, bars: [0, 1, 2] });
  expect(rhythms.map(({ word }) => word)).toContain('eighth eighth');
  expect([
    outside.map(({ bar, pitch }) => `${bar} ${printPitch(pitch)}`),
    range && printPitch(range.lowest),
    pickup,
  ]).toEqual([['1 F#5'], 'E4', TICKS_PER_QUARTER]);
});

test('the warm-up is the tune’s own scale in one piece, in the reader’s key and range', () => {
  const tune = tuneOf('E G B e | d c B A | G F E G | F2 E2 |]', 'M:4/4\nL:1/4\nK:Eb');
  expect(scaleText(ownScale(analyseTune(tune)))).toBe('E♭ major: E♭ F G A♭ B♭ C D');
  for (const id of ['alto-sax', 'clarinet-bb', 'cello', 'trumpet-bb', 'flute']) {
    const instrument = instrumentById(id);
    if (!instrument) throw new Error(id);
    const part = warmUpPart(tune, instrument);
    const heights = part.bars.flatMap(({ events }) =>
      events.flatMap((event) => (isNote(event) ? [event.pitch.octave * 7 + 'CDEFGAB'.indexOf(event.pitch.step)] : [])),
    );
    expect([id, heights.slice(1, 8).every((height, k) => height === (heights[k] ?? 0) + 1), part.outside]).toEqual([
      id,
      true,
      [],
    ]);
  }
});
