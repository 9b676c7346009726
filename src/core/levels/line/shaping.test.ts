import { instrument, key, tuneOf } from '../../../../tests/given';
import { INSTRUMENTS } from '../../instruments/catalogue';
import { outsideBy, toSounding } from '../../instruments/instrument';
import { nameKey } from '../../pitch/key';
import { parsePitch, printPitch, semitones } from '../../pitch/pitch';
import { transpose } from '../../pitch/transpose';
import { rebar, rebarProblemText } from '../../score/rebar';
import { soundingNotes } from '../../score/sounding';
import { isNote, type Note, type Tune } from '../../score/tune';
import type { Meter } from '../../time/meter';
import { TICKS_PER_QUARTER as Q } from '../../time/ticks';
import { describeChange, type Change, type ChangeKind } from '../../work/change';
import { fit } from '../fit/fit';
import { inKey, readableKey, transposeBars } from '../fit/inKey';
import { phrasesOf } from '../../analysis/phrases';
import { partFor, type PartRequest } from '../parts/partFor';
import { fidelityTo } from './fidelity';
import { levelTempo } from '../../work/recipe';
import { shortestWord, slotsOf } from '../simplify/slots';
import { simplify } from '../simplify/simplify';

const show = (bars: Tune['bars']) =>
  bars
    .map((bar) =>
      bar.events
        .map(
          (event) =>
            `${isNote(event) ? printPitch(event.pitch) : 'z'}:${event.length / Q}${isNote(event) && event.tied ? '~' : ''}`,
        )
        .join(' '),
    )
    .join(' | ');
const simplified = (body: string, head?: string) => show(simplify(tuneOf(body, head)).tune.bars);
const notesOf = (tune: Tune): readonly Note[] => tune.bars.flatMap((bar) => bar.events.filter(isNote));

describe('the words of a beginner', () => {
  const meters: readonly (readonly [string, Meter, readonly number[]])[] = [
    ['4/4', { count: 4, unit: 4 }, [0, 1, 2, 3]],
    ['3/4', { count: 3, unit: 4 }, [0, 1, 2]],
    ['2/2', { count: 2, unit: 2 }, [0, 1, 2, 3]],
    ['6/8', { count: 6, unit: 8 }, [0, 1, 1.5, 2.5]],
    ['5/4', { count: 5, unit: 4 }, [0, 1, 2, 3, 4]],
    ['7/8', { count: 7, unit: 8 }, [0, 1, 2]],
    ['3/8', { count: 3, unit: 8 }, [0, 0.5, 1]],
  ];
  test.each(meters)('%s: where notes may be struck', (_, meter, expected) => {
    const tune: Tune = { ...tuneOf('C8 |'), meter };
    expect(
      slotsOf({ ...tune, bars: tune.bars.map(({ id, events, chords }) => ({ id, events, chords })) }).map(
        ({ inBar }) => inBar / Q,
      ),
    ).toEqual(expected);
  });

  test('a pickup hangs at the end of its bar, and its first note is always a place', () => {
    expect(
      slotsOf(tuneOf('E3 | C8 |'))
        .slice(0, 2)
        .map(({ inBar, length, isOffBeat }) => [inBar / Q, length / Q, isOffBeat]),
    ).toEqual([
      [2.5, 0.5, true],
      [3, 1, false],
    ]);
    expect(shortestWord({ count: 6, unit: 8 })).toEqual({ type: 'eighth', dots: 0 });
  });

  test('three eighths in a compound beat become quarter and eighth; a long one stays', () => {
    expect(simplified('"C"CDE G3 | "G"GAB c3 |', 'M:6/8\nL:1/8\nK:C')).toBe('C4:1 E4:0.5 G4:1.5 | G4:1 B4:0.5 C5:1.5');
  });

  test('dotted quarter and eighth become a half note; the passing eighth goes', () => {
    expect(simplified('"C"E3 D C2 G2 | E8 |')).toBe('E4:2 C4:1 G4:1 | E4:4');
  });

  test('rests of a beat stay; short ones are sounded through', () => {
    expect(simplified('E2 z2 G z A z | E8 |')).toBe('E4:1 z:1 G4:1 A4:1 | E4:4');
  });

  test('a note held over the barline stays held', () => {
    expect(simplified('C2 D2 E4- | E4 C4 |')).toBe('C4:1 D4:1 E4:2~ | E4:2 C4:2');
  });

  test('slurs move to what is left inside them, and one that loses its notes goes', () => {
    const notes = notesOf(simplify(tuneOf('(CDEF) G4 | (cB) A2 G4 |')).tune);
    expect(
      notes.map(
        ({ pitch, slurStarts, slurEnds }) => `${printPitch(pitch)}${slurStarts ? '(' : ''}${slurEnds ? ')' : ''}`,
      ),
    ).toEqual(['C4(', 'E4)', 'G4', 'C5', 'A4', 'G4']);
  });

  test('what is lost with a note is said: syllables, graces, ornaments', () => {
    const { changes, tune } = simplify(tuneOf('CDEF {d}G4 | !trill!c8 |\nw: one two three four five'));
    expect(changes.map((change) => describeChange(change, { diatonic: 0, chromatic: 0 }).what)).toEqual([
      'C D E F G became C E G, and their syllables are sung on the notes that stay',
      'a grace note left out',
      'trill left out',
    ]);
    expect(notesOf(tune).map(({ lyrics }) => lyrics?.[0]?.text)).toEqual(['one two', 'three four', 'five', undefined]);
  });

  test('fidelity falls with what is lost, and is whole for the tune itself', () => {
    const fidelity = (body: string) => {
      const tune = tuneOf(body);
      return fidelityTo({ tune, phrases: phrasesOf(tune) }, simplify(tune).tune);
    };
    expect(fidelity('C4 E4 | G8 |')).toBe(100);
    expect(fidelity('CDEF GABc | G8 |')).toBeLessThan(fidelity('C2 E2 GA Bc | G8 |'));
    // What is done later counts as well: bars left out, notes out of reach, bars by hand.
    const part = (request: Omit<PartRequest, 'level' | 'instrument'>) =>
      partFor(tuneOf('C2E2 G2c2 | E2G2 c2e2 | C8 |'), {
        level: 'advanced',
        instrument: instrument('flute'),
        embellish: { density: 0 },
        ...request,
      }).value.fidelity;
    expect(part({})).toBe(100);
    expect(part({ bars: { chosen: { b1: { kind: 'rest' } } } })).toBeLessThan(75);
    expect(part({ limits: { leap: 2 } })).toBeLessThan(100);
    expect(fidelity('C/E/G/c/ C/E/G/c/ C/E/G/c/ C/E/G/c/ | c8 |')).toBeLessThan(75);
  });

  test('equal phrases stay equal', () => {
    const bars = simplify(
      tuneOf('"C"EFGE c2 BA | "G7"GFED C4 | "C"EFGE c2 BA | "G7"GFED C4 | "C"EFGE c2 BA | "G7"GFED C4 |'),
    ).tune.bars;
    const text = bars.map((bar) => show([bar]));
    expect([text[2], text[3], text[4], text[5]]).toEqual([text[0], text[1], text[0], text[1]]);
  });
});

describe('a line in a range', () => {
  test('the whole tune moves by octaves where it can, and nothing else is changed', () => {
    const tune = tuneOf('C2 E2 G2 c2 | C8 |');
    const fitted = fit(tune, instrument('cello'), 'beginner');
    expect([fitted.octaves, fitted.changes, fitted.outside, show(fitted.tune.bars)]).toEqual([
      -1,
      [],
      [],
      'C3:1 E3:1 G3:1 C4:1 | C3:4',
    ]);
  });

  test('where it cannot, a phrase moves as a whole, and every bar of it says so', () => {
    const tune = tuneOf('"D"d2 f2 a2 d\'2 | a6 z2 | "D"D,2 F,2 A,2 D2 | D,6 z2 |', 'M:4/4\nL:1/8\nK:D');
    const { changes, tune: moved } = fit(tune, instrument('horn-f'), 'intermediate');
    const kinds = new Set(changes.map(({ detail }) => detail.kind));
    expect([...kinds]).toEqual(['phrase-octave']);
    expect(changes.map(({ bar }) => bar)).toEqual([3, 4]);
    const heights = soundingNotes(moved).map(({ pitch }) =>
      semitones(transpose(pitch, instrument('horn-f').transposition)),
    );
    expect(Math.max(...heights) - Math.min(...heights)).toBeLessThanOrEqual(24);
  });

  test('what the instrument does not have is moved at every level; what a level lacks is reported', () => {
    const wide = tuneOf("D,,2 D,2 d'2 d''2 | D8 |", 'M:4/4\nL:1/8\nK:D');
    const fitted = fit(wide, instrument('violin'), 'advanced');
    const full = instrument('violin').range.full;
    expect(soundingNotes(fitted.tune).every(({ pitch }) => outsideBy(pitch, full) === 0)).toBe(true);
    expect(fitted.changes.length).toBeGreaterThan(0);
  });
});

test('grace notes of a piping kind stay where the instrument plays them', () => {
  const tune = tuneOf('{gdG}B4 {c}A4 | {GdGe}d8 |', 'M:4/4\nL:1/8\nK:G');
  const part = (id: string) =>
    partFor(tune, { level: 'intermediate', instrument: instrument(id), embellish: { density: 0 } });
  const graces = (id: string) =>
    notesOf({ ...tune, bars: part(id).value.bars }).map(({ graces: own = [] }) => own.length);
  expect([graces('tin-whistle-d'), graces('trombone')]).toEqual([
    [3, 1, 4],
    [0, 1, 0],
  ]);
  expect(part('trombone').changes.map(({ bar, detail }) => [bar, detail.kind])).toEqual([
    [1, 'graces'],
    [2, 'graces'],
  ]);
});

test('every instrument reads back what it sounds', () => {
  const middle = parsePitch('E4');
  if (!middle.ok) throw new Error('E4');
  const read = Object.fromEntries(
    INSTRUMENTS.map((one) => [one.id, printPitch(transpose(middle.value, one.transposition))]),
  );
  const readers: Readonly<Record<string, string>> = {
    E2: 'glockenspiel',
    E3: 'piccolo recorder-sopranino recorder-descant recorder-bass tin-whistle-d xylophone',
    'C#4': 'clarinet-eb',
    E4: 'flute recorder-treble recorder-tenor oboe bassoon trumpet-c baritone-bc euphonium-bc trombone trombone-tenor-clef tuba violin viola cello mandolin ukulele melodica harmonica vibraphone marimba voice-soprano voice-alto voice-tenor voice-bass',
    'F#4': 'clarinet-bb bass-clarinet-bc soprano-sax cornet trumpet-bb flugelhorn',
    G4: 'clarinet-a',
    A4: 'alto-flute',
    B4: 'english-horn horn-f',
    'C#5': 'alto-sax tenor-horn',
    E5: 'double-bass guitar bass-guitar tenor-banjo',
    'F#5': 'bass-clarinet tenor-sax baritone-tc euphonium-tc trombone-tc',
    'C#6': 'baritone-sax bass-eb',
    'F#6': 'bass-bb',
  };
  expect(read).toEqual(
    Object.fromEntries(Object.entries(readers).flatMap(([note, ids]) => ids.split(' ').map((id) => [id, note]))),
  );
  for (const one of INSTRUMENTS)
    expect(transpose(transpose(middle.value, one.transposition), toSounding(one))).toEqual(middle.value);
});

describe('keys', () => {
  test('a tune is put in a key by the shorter way, mode and all', () => {
    const tune = tuneOf('A2 c2 e4 |', 'M:4/4\nL:1/8\nK:Am');
    expect(['Em', 'F#m', 'Bbm', 'Ebm'].map((text) => show(inKey(tune, key(text)).bars))).toEqual([
      'E4:1 G4:1 B4:2',
      'F#4:1 A4:1 C#5:2',
      'Bb4:1 Db5:1 F5:2',
      'Eb5:1 Gb5:1 Bb5:2',
    ]);
    expect(nameKey(readableKey(key('C#')))).toBe('D♭ major');
    expect(() =>
      partFor(tune, { level: 'advanced', instrument: instrument('flute'), keyAndTempo: { key: key('C') } }),
    ).toThrow(RangeError);
  });

  test('a key change on the way moves with it, and each stretch is spelled for itself', () => {
    const moved = transposeBars(tuneOf('B8 | [K:E] e8 | [K:Eb] e8 |', 'M:4/4\nL:1/8\nK:B'), {
      diatonic: 1,
      chromatic: 2,
    });
    expect([nameKey(moved.key), ...moved.bars.map((bar) => (bar.key ? nameKey(bar.key) : ''))]).toEqual([
      'D♭ major',
      '',
      'F♯ major',
      'F major',
    ]);
    expect(show(moved.bars)).toBe('Db5:4 | F#5:4 | F5:4');
  });

  test('a beginner reads no double sharps', () => {
    const tune = tuneOf('^^F4 ^G4 | G8 |', 'M:4/4\nL:1/8\nK:G#m');
    const { value, changes } = partFor(tune, { level: 'beginner', instrument: instrument('violin') });
    expect(show(value.bars)).toBe('G4:2 G#4:2 | G#4:4');
    expect(changes.map((change) => describeChange(change, value.written).what)).toEqual(['F𝄪 written as G']);
    // Those above read what is written.
    const above = partFor(tune, { level: 'intermediate', instrument: instrument('violin'), melody: 'as written' });
    expect(show(above.value.bars)).toBe('F##4:2 G#4:2 | G#4:4');
  });
});

test('tempos by level keep to the marks of a metronome', () => {
  const tune: Tune = { ...tuneOf('C8 |'), tempo: { beat: { type: 'quarter', dots: 0 }, perMinute: 123 } };
  expect(
    (['beginner', 'intermediate', 'advanced'] as const).map((level) => levelTempo(tune, level, undefined).perMinute),
  ).toEqual([80, 104, 123]);
  expect(levelTempo(tune, 'beginner', 51).perMinute).toBe(51);
});

describe("changes in words, in the reader's pitch", () => {
  const up = { diatonic: 1, chromatic: 2 };
  const say = (detail: ChangeKind) => {
    const change: Change = { bar: 3, barIndex: 2, events: [], detail };
    const { what, why } = describeChange(change, up);
    return `${what}: ${why}`;
  };
  const [B, E] = [
    { step: 'B', alter: -1 },
    { step: 'E', alter: -1 },
  ] as const;

  test.each<readonly [ChangeKind, string]>([
    [{ kind: 'moved', notes: [{ pitch: B, beat: 3 }] }, 'C now falls on beat 3: notes start on the beat at this level'],
    [
      {
        kind: 'simplified',
        before: [B, E],
        after: [],
        shortest: { type: 'quarter', dots: 0 },
        isTail: false,
        syllablesJoined: false,
      },
      'C F left out: nothing shorter than a quarter here; the notes that carry the tune stay',
    ],
    [
      { kind: 'lengths', shortest: { type: 'eighth', dots: 0 }, isTail: true },
      'note lengths evened out: each beat is a dotted quarter, or a quarter and an eighth, here',
    ],
    [{ kind: 'graces', count: 2 }, '2 grace notes left out: ornaments wait until the plain tune is secure'],
    [
      { kind: 'phrase-octave', octaves: -1, low: 'E3', high: 'C6' },
      'this phrase is an octave lower: so that it stays between E3 and C6',
    ],
    [
      { kind: 'note-octave', pitch: E, octaves: 1, edge: 'E3', isLow: true },
      'F played an octave higher: E3 is the lowest note here',
    ],
    [
      { kind: 'swapped', from: B, to: E, edge: 'C6', isLow: false },
      'C became F, a note of the chord: C6 is the highest note here',
    ],
  ])('%j', (detail, expected) => expect(say(detail)).toBe(expected));
});

describe('another meter', () => {
  test('chords and sections go to their new bars; a last bar is filled', () => {
    const barred = rebar(tuneOf('P:A\n"C"C4 "G"D4 | "F"E4 "C"F4 |\nP:B\n"Am"G8 |'), { count: 2, unit: 4 });
    expect(
      barred.ok &&
        barred.value.bars.map(({ section, chords }) => `${section ?? ''}${chords.map(({ at }) => at / Q).join(',')}`),
    ).toEqual(['A0', '0', '0', '0', 'B0', '']);
    const filled = rebar(tuneOf('C8 |'), { count: 3, unit: 4 });
    expect(filled.ok && show(filled.value.bars)).toBe('C4:3~ | C4:1 z:1 z:1');
  });

  test.each<readonly [string, string, Meter, string]>([
    ['a tuplet', 'C2 D2 E2 (3FGA | B8 |', { count: 7, unit: 8 }, 'In 7/8 a barline would cut the tuplet in bar 1.'],
    [
      'a meter change',
      'C8 | [M:3/4] D6 |',
      { count: 2, unit: 4 },
      'The tune changes its meter at bar 2; it cannot be barred anew as one.',
    ],
    ['a long pickup', 'C6 | D8 |', { count: 2, unit: 4 }, 'The pickup fills a bar of 2/4.'],
  ])('%s is in the way, and it is said where', (_, body, meter, expected) => {
    const barred = rebar(tuneOf(body), meter);
    expect(barred.ok ? '' : rebarProblemText(barred.problem)).toBe(expected);
  });
});

test('a song keeps every syllable: what is left out is sung on the note that is held for it', () => {
  const tune = tuneOf(
    'G2 AB c2 d2 | e>d cB A2 G2 | AB cd e2 d2 | c8 |\nw: Oh the wind went round the hou-ses by the wa-ter ev-er sing-ing home',
  );
  const words = (bars: Tune['bars']) => {
    let text = '';
    for (const { events } of bars)
      for (const event of events)
        for (const { text: syllable, hyphen } of isNote(event) ? (event.lyrics ?? []) : [])
          text += syllable + (hyphen ? '' : ' ');
    return text.trim();
  };
  const { value, changes } = partFor(tune, { level: 'beginner', instrument: instrument('flute') });
  expect(changes.some(({ detail }) => detail.kind === 'simplified' && detail.syllablesJoined)).toBe(true);
  expect(words(value.bars)).toBe(words(tune.bars));
});
