import fc from 'fast-check';
import { richTune } from '../../../../tests/richTune';
import { parseChord, printChord } from '../../harmony/chordSymbol';
import { parseProgression, progressionProblemText } from '../../harmony/progression';
import { readAbc } from '../../formats/abc/readAbc';
import { midiNumber, printPitch } from '../../pitch/pitch';
import { TICKS_PER_QUARTER } from '../../time/ticks';
import { printMeter, type Meter } from '../../time/meter';
import { soundingNotes } from '../sounding';
import { barNumbers, isNote, JUMPS, metersOf, type Tune } from '../tune';
import { unfold } from '../unfold';
import { scoreProblemText, scoreProblems } from '../validate';
import { deleteBars, insertBars, markBar, repeatBars } from './barEdits';
import { chordsLike, layOutProgression, setChord, setChordsOfBar } from './chordEdits';
import { copyStretch, cutStretch, pasteClip } from './clipEdits';
import { setEnding, setKeyFrom, setMeterFrom, setTempoFrom, toggleJump, toggleRepeat } from './courseEdits';
import { onSecondPart, type EditResult } from './edited';
import { setLyric, setPhraseMark, toggleHairpin, toggleMark, toggleOptional, toggleSlur } from './markEdits';
import { movePitches, nearestPitch, respellNotes, toggleTie } from './pitchEdits';
import { eventAt, eventsIn, moveCaret, settled, type Caret, type Stretch } from './place';
import { makeTuplet, removeTuplet } from './tupletEdits';
import { changeLength, forecast, silence, writeAt } from './write';

const Q = TICKS_PER_QUARTER;
const tuneOf = (body: string, head = 'M:4/4\nL:1/4\nK:C'): Tune => {
  const read = readAbc(`X:1\nT:T\n${head}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
};
const line = (tune: Tune) =>
  tune.bars
    .map((bar) =>
      bar.events
        .map(
          (event) =>
            `${isNote(event) ? printPitch(event.pitch) : 'z'}:${Math.round((event.length / Q) * 100) / 100}${isNote(event) && event.tied ? '~' : ''}`,
        )
        .join(' '),
    )
    .join(' | ');
const done = (result: EditResult) => {
  if (!result.ok) throw new Error(result.problem.text);
  return result.value;
};
const METERS: readonly (Meter | undefined)[] = [
  { count: 3, unit: 4 },
  { count: 5, unit: 8 },
  { count: 4, unit: 4 },
  undefined,
];
const C5 = { step: 'C', alter: 0, octave: 5 } as const;
const at = (bar: number, quarters = 0): Caret => ({ bar, at: quarters * Q });
const idAt = (tune: Tune, caret: Caret) => eventAt(tune.bars, caret)?.event.id ?? '';

describe('the course of the music', () => {
  test('a repeat with two endings and a way back are played as printed', () => {
    let tune = tuneOf('CDEF|GABc|cBAG|C4|c4|');
    tune = done(toggleRepeat(tune, 1, 2, at(1))).tune;
    expect(unfold(tune.bars).order).toEqual([0, 1, 2, 1, 2, 3, 4]);
    expect(unfold(done(toggleRepeat(tune, 1, 2, at(1))).tune.bars).order).toEqual([0, 1, 2, 3, 4]);
    const first = done(setEnding(done(toggleRepeat(tune, 1, 3, at(1))).tune, 2, 2, [1], at(2)));
    expect(first.messages.join()).toContain('next ending');
    tune = done(setEnding(first.tune, 3, 3, [2], at(3))).tune;
    expect(unfold(tune.bars).order).toEqual([0, 1, 2, 1, 3, 4]);
    const back = done(toggleJump(tune, 4, 'dc-al-fine', at(4)));
    expect(back.messages.join()).toContain('Fine');
    const fine = done(toggleJump(back.tune, 0, 'fine', at(0)));
    expect([fine.messages, unfold(fine.tune.bars).order]).toEqual([[], [0, 1, 2, 1, 3, 4, 0]]);
  });

  test('another meter, key and tempo hold until the next change and can be taken back', () => {
    const tune = tuneOf('CDEF|GABc|cBAG|C4|');
    const three = done(setMeterFrom(tune, 1, METERS[0], at(1)));
    expect(line(three.tune)).toBe('C4:1 D4:1 E4:1 F4:1 | G4:1 A4:1 B4:1 | C5:1 C5:1 B4:1 | A4:1 G4:1 C4:1~ | C4:3');
    expect(metersOf(three.tune).map(printMeter)).toEqual(['4/4', '3/4', '3/4', '3/4', '3/4']);
    expect(line(done(setMeterFrom(three.tune, 1, undefined, at(1))).tune)).toBe(line(tune));
    const odd = done(setMeterFrom(tune, 2, METERS[1], at(2)));
    expect([odd.messages.length, barNumbers(odd.tune).length]).toEqual([1, 6]);
    const keyed = done(
      setTempoFrom(
        done(setKeyFrom(tune, 2, { tonic: { step: 'D', alter: 0 }, mode: 'major' }, at(2))).tune,
        2,
        { beat: tune.tempo.beat, perMinute: 60 },
        at(2),
      ),
    ).tune;
    expect([keyed.bars[2]?.key?.mode, keyed.bars[2]?.tempos?.[0]?.tempo.perMinute, line(keyed)]).toEqual([
      'major',
      60,
      line(tune),
    ]);
    expect(setKeyFrom(tune, 0, keyed.bars[2]?.key, at(0)).ok).toBe(false);
  });
});

describe('writing', () => {
  test.each<readonly [string, string, Caret, number, string, Caret]>([
    ['over a note of the same length', 'CDEF|', at(0, 1), 1, 'C4:1 C5:1 E4:1 F4:1', at(0, 2)],
    ['a shorter note leaves a rest', 'C4|', at(0, 0), 1, 'C5:1 z:1 z:2', at(0, 1)],
    ['a longer one eats what follows', 'CDEF|', at(0, 1), 2, 'C4:1 C5:2 F4:1', at(0, 3)],
    ['what is covered in part is shortened to a rest', 'C D2 F|', at(0, 0), 2, 'C5:2 z:1 F4:1', at(0, 2)],
    ['inside a note, its beginning stays', 'C4|', at(0, 2), 1, 'C4:2 C5:1 z:1', at(0, 3)],
    ['over a barline it is tied on', 'CDEF|GABc|', at(0, 3), 2, 'C4:1 D4:1 E4:1 C5:1~ | C5:1 A4:1 B4:1 C5:1', at(1, 1)],
    ['at the end a bar is added', 'CDEF|', at(0, 4), 1, 'C4:1 D4:1 E4:1 F4:1 | C5:1 z:1 z:2', at(1, 1)],
    ['a touched tuplet is silent as a whole', 'C (3c/d/e/ F2|', at(0, 0), 1.5, 'C5:1.5 z:0.5 F4:2', at(0, 1.5)],
  ])('%s', (_, body, caret, quarters, expected, after) => {
    const result = done(writeAt(tuneOf(body), caret, { pitch: C5, length: quarters * Q }));
    expect([line(result.tune), result.caret]).toEqual([expected, after]);
  });

  test('inside a tuplet the printed length counts, and what is left of it rests', () => {
    const result = done(writeAt(tuneOf('(3cde z2|'), { bar: 0, at: (Q * 2) / 3 }, { pitch: C5, length: Q / 2 }));
    expect(line(result.tune)).toBe('C5:0.67 C5:0.33 z:0.33 E5:0.67 z:2');
  });

  test('the final line and the pickup keep their places', () => {
    const tune = tuneOf('G|CDEF|]');
    const result = done(writeAt(tune, at(1, 4), { pitch: C5, length: 6 * Q }));
    expect([line(result.tune), result.tune.bars.map(({ barline, partial }) => barline ?? partial)]).toEqual([
      'G4:1 | C4:1 D4:1 E4:1 F4:1 | C5:4~ | C5:2 z:2',
      [Q, undefined, undefined, 'final'],
    ]);
  });

  test('a changed length keeps the note, its marks and its place', () => {
    const tune = tuneOf('!accent!(C D) E F|');
    const longer = done(changeLength(tune, at(0, 0), 2 * Q));
    expect(line(longer.tune)).toBe('C4:2 E4:1 F4:1');
    expect(longer.tune.bars[0]?.events[0]).toMatchObject({ id: 'n1', articulations: ['accent'] });
    expect(longer.messages).toEqual(['a slur in bar 1 lost its other end and went']);
    expect(line(done(changeLength(tune, at(0, 0), Q / 2)).tune)).toBe('C4:0.5 z:0.5 D4:1 E4:1 F4:1');
  });

  test('deleting leaves rests, joined where the meter allows', () => {
    expect(line(done(silence(tuneOf('CDEF|GABc|'), at(0, 2), at(1, 2))).tune)).toBe('C4:1 D4:1 z:2 | z:2 B4:1 C5:1');
    expect(line(done(silence(tuneOf('(3cde f2|'), at(0, 0), at(0, 2))).tune)).toBe('z:2 F5:2');
  });

  test('the caret says beforehand what will happen', () => {
    const tune = tuneOf('CDEF|GABc|');
    expect(forecast(tune, at(0, 3), 2 * Q)).toEqual({
      text: 'half note at bar 1, beat 4, tied over the barline',
      spans: [
        { bar: 0, from: 3 * Q, to: 4 * Q },
        { bar: 1, from: 0, to: Q },
      ],
    });
    expect(forecast(tune, at(1, 4), Q).text).toBe('quarter in a new bar');
  });
});

describe('pitches', () => {
  test('a letter goes to the nearest octave of the key', () => {
    const key = { tonic: { step: 'D', alter: 0 }, mode: 'major' } as const;
    expect(
      [
        nearestPitch('F', key, { step: 'A', alter: 0, octave: 4 }),
        nearestPitch('C', key, { step: 'G', alter: 0, octave: 4 }),
        nearestPitch('D', key, undefined),
      ].map(printPitch),
    ).toEqual(['F#4', 'C#5', 'D5']);
  });

  test('steps stay in the key, octaves and half steps do what they say, tied notes go together', () => {
    const tune = tuneOf('E4-|E2 F2|', 'M:4/4\nL:1/4\nK:G');
    const id = idAt(tune, at(0));
    expect(line(done(movePitches(tune, [id], { steps: 1 }, at(0))).tune)).toBe('F#4:4~ | F#4:2 F#4:2');
    expect(line(done(movePitches(tune, [idAt(tune, at(1))], { octaves: -1 }, at(0))).tune)).toBe('E3:4~ | E3:2 F#4:2');
    expect(line(done(movePitches(tune, [idAt(tune, at(1, 2))], { halfSteps: 1 }, at(0))).tune)).toBe(
      'E4:4~ | E4:2 F##4:2',
    );
    expect(movePitches(tune, [id], { octaves: -5 }, at(0)).ok).toBe(false);
    expect(line(done(respellNotes(tune, [idAt(tune, at(1, 2))], at(0))).tune)).toContain('Gb4');
  });

  test('a tie needs its pitch on the other side, and says so', () => {
    const tune = tuneOf('CCDE|');
    expect(line(done(toggleTie(tune, idAt(tune, at(0)), at(0))).tune)).toBe('C4:1~ C4:1 D4:1 E4:1');
    const refusedTie = toggleTie(tune, idAt(tune, at(0, 1)), at(0));
    expect(refusedTie.ok ? '' : refusedTie.problem.text).toMatch(/A tie needs the same pitch right after it/);
  });
});

test('one note is divided into a tuplet, several are drawn together; taken away they are plain again', () => {
  const one = done(makeTuplet(tuneOf('C2 z2|'), at(0), undefined, { actual: 3, normal: 2 }));
  expect(line(one.tune)).toBe('C4:0.67 z:0.67 z:0.67 z:2');
  const three = done(
    makeTuplet(tuneOf('C/D/E/F/ G2|'), at(0), { from: at(0), to: at(0, 1.5) }, { actual: 3, normal: 2 }),
  );
  expect(line(three.tune)).toBe('C4:0.33 D4:0.33 E4:0.33 z:0.5 F4:0.5 G4:2');
  const plain = done(removeTuplet(three.tune, at(0)));
  expect([line(plain.tune), plain.messages]).toEqual([
    'C4:0.5 D4:0.5 z:0.5 F4:0.5 G4:2',
    ['a note of the group had no room and went'],
  ]);
  expect(makeTuplet(tuneOf('C4|D4|'), at(0), { from: at(0), to: at(1, 4) }, { actual: 3, normal: 2 }).ok).toBe(false);
});

describe('bars', () => {
  test('bars are put in, repeated and taken out; meters, repeat signs and the last line stay true', () => {
    const tune = tuneOf('|:CDEF|GABc:|[M:3/4]CDE|FGA|]');
    expect(line(done(insertBars(tune, 2, 1)).tune)).toBe(
      'C4:1 D4:1 E4:1 F4:1 | G4:1 A4:1 B4:1 C5:1 | z:1 z:1 z:1 | C4:1 D4:1 E4:1 | F4:1 G4:1 A4:1',
    );
    const without = done(deleteBars(tune, 1, 2));
    expect([
      line(without.tune),
      without.tune.bars.map(({ repeatStart, repeatEnd, meter }) => [repeatStart, repeatEnd, meter?.count]),
    ]).toEqual([
      'C4:1 D4:1 E4:1 F4:1 | F4:1 G4:1 A4:1',
      [
        [true, 2, undefined],
        [undefined, undefined, 3],
      ],
    ]);
    const again = done(repeatBars(tune, 3, 3)).tune;
    expect([line(again), again.bars.map(({ barline }) => barline)]).toEqual([
      `${line(tune)} | F4:1 G4:1 A4:1`,
      [undefined, undefined, undefined, undefined, 'final'],
    ]);
    expect(line(done(deleteBars(tune, 0, 3)).tune)).toBe('z:4');
  });

  test('a stretch is copied with its chords and laid over another place; a tuplet may not cross a barline', () => {
    const tune = tuneOf('"C"C "F"D E F|"G7"G4|(3c2d2e2|');
    const clip = copyStretch(tune, { from: at(0, 1), to: at(0, 3) });
    if (!clip) throw new Error('no clip');
    const pasted = done(pasteClip(tune, at(1, 3), clip)).tune;
    expect(line(pasted)).toBe('C4:1 D4:1 E4:1 F4:1 | G4:3 D4:1 | E4:1 z:1 z:2');
    expect(pasted.bars[1]?.chords.map(({ at: place, symbol }) => [place / Q, printChord(symbol)])).toEqual([
      [0, 'G7'],
      [3, 'F'],
    ]);
    const group = copyStretch(tuneOf('(3cde f2|GABc|'), { from: at(0), to: at(0, 1) });
    expect(group?.events).toHaveLength(3);
    if (!group) return;
    expect(line(done(pasteClip(tuneOf('CDEF|'), at(0, 2), group)).tune)).toBe('C4:1 D4:1 C5:0.67 D5:0.67 E5:0.67');
    const crossing = pasteClip(tuneOf('CDEF|GABc|'), at(0, 3), group);
    expect(crossing.ok ? '' : crossing.problem.text).toMatch(/would cross a barline/);
  });
});

describe('chords', () => {
  const symbols = (tune: Tune) =>
    tune.bars
      .map(({ chords }) => chords.map(({ at: place, symbol }) => `${place / Q}${printChord(symbol)}`).join(' '))
      .join(' | ');

  test('a progression is laid into bars, shared equally, and bars are added for it', () => {
    const read = parseProgression('| Dm7 G7 | Cmaj7 |\n| % | A7 Bb7 B7 |');
    if (!read.ok) throw new Error(read.problem.map(progressionProblemText).join());
    const tune = done(layOutProgression(tuneOf('C4|C4|'), 0, read.value, at(0))).tune;
    expect(symbols(tune)).toBe('0Dm7 2G7 | 0Cmaj7 | 0Cmaj7 | 0A7 1Bb7 3B7');
    expect(symbols(done(chordsLike(tune, [0, 1], [2, 3], at(0))).tune)).toBe('0Dm7 2G7 | 0Cmaj7 | 0Dm7 2G7 | 0Cmaj7');
    expect(symbols(done(setChordsOfBar(tune, 1, [], at(0))).tune)).toBe('0Dm7 2G7 |  | 0Cmaj7 | 0A7 1Bb7 3B7');
  });

  test('what cannot be read is told with its bar, all at once', () => {
    const read = parseProgression('% | H7 | C | Dmx');
    expect(read.ok ? [] : read.problem.map(progressionProblemText)).toEqual([
      'bar 1: % repeats the bar before, and there is none; write its chord',
      'bar 2: the chord symbol "H7" cannot be read; write it like Am7 or F#m7b5/C',
      'bar 4: the chord symbol "Dmx" cannot be read; write it like Am7 or F#m7b5/C',
    ]);
  });
});

test('marks, words, brackets and phrases are put on and taken off again', () => {
  const tune = tuneOf('CDEF|');
  const ids = eventsIn(tune.bars, { from: at(0), to: at(0, 3) }).map(({ event }) => event.id);
  const steps: readonly ((from: Tune) => EditResult)[] = [
    (from) => toggleMark(from, ids, { kind: 'articulation', value: 'staccato' }, at(0)),
    (from) => toggleSlur(from, ids, at(0)),
    (from) => toggleOptional(from, ids, at(0)),
    (from) => toggleHairpin(from, ids, 'crescendo', at(0)),
  ];
  for (const step of steps) expect(done(step(done(step(tune)).tune)).tune).toEqual(tune);
  const sung = done(
    setLyric(done(setLyric(tune, ids[0] ?? '', 1, 'sing-', at(0))).tune, ids[0] ?? '', 2, 'hold_', at(0)),
  ).tune;
  expect(sung.bars[0]?.events[0]).toMatchObject({
    lyrics: [
      { verse: 1, text: 'sing', hyphen: true },
      { verse: 2, text: 'hold', extend: true },
    ],
  });
  expect(done(setPhraseMark(tune, ids[1] ?? '', 'begins', at(0))).tune.bars[0]?.events[1]).toMatchObject({
    phrase: 'begins',
  });
  expect(done(markBar(tune, 0, { section: 'A', repeatEnd: 2 }, at(0), 'x')).tune.bars[0]).toMatchObject({
    section: 'A',
    repeatEnd: 2,
  });
});

test('whatever is done, in whatever order, bars add up, ids are single, and what was not touched is shared', () => {
  const anyStep = fc.record({
    kind: fc.integer({ min: 0, max: 24 }),
    bar: fc.integer({ min: 0, max: 9 }),
    place: fc.integer({ min: 0, max: 16 }),
    size: fc.constantFrom(1, 2, 4, 6, 8, 16, 24),
    more: fc.integer({ min: 0, max: 6 }),
  });
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 100_000 }),
      fc.array(anyStep, { minLength: 1, maxLength: 14 }),
      fc.boolean(),
      (seed, steps, second) => {
        let tune = richTune(seed, { oddTuplets: seed % 2 === 0, ownMarks: true, second });
        for (const { kind, bar, place, size, more } of steps) {
          const caret = settled(tune.bars, { bar: bar % tune.bars.length, at: (place * Q) / 4 });
          let end = caret;
          for (let k = 0; k < more; k += 1) end = moveCaret(tune.bars, end, 1);
          const stretch: Stretch = { from: caret, to: end };
          const ids = eventsIn(tune.bars, stretch).map(({ event }) => event.id);
          const id = idAt(tune, caret);
          const length = (size * Q) / 4;
          const chord = parseChord('Bb7');
          const clip = copyStretch(tune, stretch);
          const edits: readonly (() => EditResult | undefined)[] = [
            () => writeAt(tune, caret, { pitch: C5, length }),
            () => writeAt(tune, caret, { length }),
            () => changeLength(tune, caret, length),
            () => silence(tune, caret, end),
            () => movePitches(tune, ids, { steps: more - 3 }, caret),
            () => movePitches(tune, ids, { octaves: 1 }, caret),
            () => movePitches(tune, ids, { halfSteps: -1 }, caret),
            () => toggleTie(tune, id, caret),
            () => makeTuplet(tune, caret, stretch, { actual: 3, normal: 2 }),
            () => removeTuplet(tune, caret),
            () => insertBars(tune, caret.bar, 1 + (more % 2)),
            () => deleteBars(tune, caret.bar, caret.bar + (more % 3)),
            () => repeatBars(tune, caret.bar, Math.min(tune.bars.length - 1, caret.bar + (more % 3))),
            () =>
              clip
                ? pasteClip(tune, settled(tune.bars, { bar: (bar + 1) % tune.bars.length, at: 0 }), clip)
                : undefined,
            () => cutStretch(tune, stretch)?.result,
            () => (chord.ok ? setChord(tune, caret, chord.value, caret) : undefined),
            () => toggleSlur(tune, ids, caret),
            () => toggleHairpin(tune, ids, 'diminuendo', caret),
            () => toggleOptional(tune, ids, caret),
            () => onSecondPart(tune, (other) => writeAt(other, caret, { pitch: C5, length })),
            () => toggleRepeat(tune, caret.bar, Math.min(tune.bars.length - 1, caret.bar + (more % 3)), caret),
            () => setEnding(tune, caret.bar, caret.bar, more % 2 ? [1] : undefined, caret),
            () => toggleJump(tune, caret.bar, JUMPS[(more + size) % JUMPS.length] ?? 'dc', caret),
            () => setMeterFrom(tune, caret.bar, METERS[size % METERS.length], caret),
            () => setKeyFrom(tune, caret.bar, { tonic: { step: 'D', alter: 0 }, mode: 'dorian' }, caret),
          ];
          const before = tune;
          const result = edits[kind]?.();
          if (!result?.ok) continue;
          tune = result.value.tune;
          expect(scoreProblems(tune).map(scoreProblemText)).toEqual([]);
          const known = new Map(before.bars.map((one) => [one.id, one]));
          if (kind === 0 && caret.bar > 1 && result.value.messages.length === 0)
            expect(tune.bars[caret.bar - 2]).toBe(known.get(tune.bars[caret.bar - 2]?.id ?? ''));
          expect(eventAt(tune.bars, result.value.caret) === undefined ? result.value.caret.bar : 0).toBeLessThan(
            tune.bars.length,
          );
          expect(soundingNotes(tune).every(({ pitch }) => midiNumber(pitch) > 0)).toBe(true);
        }
      },
    ),
  );
});
