import fc from 'fast-check';
import { anyTune } from '../../../../tests/anyTune';
import { instrument, key, tuneOf } from '../../../../tests/given';
import { barDifficulties, lineDifficulty, lineTotal } from '../../analysis/difficulty';
import { addIntervals, octaves, opposite, UNISON } from '../../pitch/interval';
import { printKey } from '../../pitch/key';
import { byOctaves, semitones } from '../../pitch/pitch';
import { readableInterval, transposeReadably } from '../../pitch/respell';
import { withFinalBarline } from '../../score/finalBarline';
import { barsByOctaves, beforeOctaves, lineByOctaves } from '../../score/octaves';
import { isNote, keysOf, type Note, type Tune } from '../../score/tune';
import { scoreProblems } from '../../score/validate';
import { inKey, transposeBars } from './inKey';

const notes = ({ bars }: Pick<Tune, 'bars'>): readonly Note[] => bars.flatMap(({ events }) => events.filter(isNote));
const ALTO = { diatonic: 5, chromatic: 9 };

describe('a line in other octaves', () => {
  test('has every note and grace note there, and all else as it was', () => {
    fc.assert(
      fc.property(anyTune, fc.integer({ min: -2, max: 2 }), (tune, octaves) => {
        const moved = lineByOctaves(tune, octaves);
        const wanted = notes(tune).map((note) => ({
          ...note,
          pitch: byOctaves(note.pitch, octaves),
          ...(note.graces && {
            graces: note.graces.map((grace) => ({ ...grace, pitch: byOctaves(grace.pitch, octaves) })),
          }),
        }));
        expect(notes(moved)).toEqual(wanted);
        expect(scoreProblems(moved)).toEqual([]);
      }),
    );
  });

  test('is the line itself where nothing moves, and one object however often it is asked for', () => {
    const tune = tuneOf('C2 D2 z4 | E8 |]');
    expect(lineByOctaves(tune, 0)).toBe(tune);
    expect(lineByOctaves(tune, 1)).toBe(lineByOctaves(tune, 1));
    expect(lineByOctaves(tune, -1)).not.toBe(lineByOctaves(tune, 1));
  });

  test('shares bars that two lines share', () => {
    const tune = tuneOf('C8 | D8 | E8 |]');
    const other: Tune = {
      ...tune,
      bars: [...tune.bars.slice(0, 2), { ...(tune.bars[2] ?? tune.bars[0]!), id: 'own' }],
    };
    const [a, b] = [lineByOctaves(tune, 1), lineByOctaves(other, 1)];
    expect([a.bars[0] === b.bars[0], a.bars[2] === b.bars[2]]).toEqual([true, false]);
  });
});

describe('bars that were moved', () => {
  test('are one object for each octave, however they came there, and at home again the bars that they were', () => {
    const { bars } = tuneOf('C2 D2 z4 | E8 |]');
    const up = barsByOctaves(bars, 1);
    expect(barsByOctaves(up, 1)).toBe(barsByOctaves(bars, 2));
    expect(barsByOctaves(barsByOctaves(up, 1), -2)).toBe(bars);
    expect(beforeOctaves(up)).toEqual({ bars, octaves: 1 });
    expect(beforeOctaves(bars)).toEqual({ bars, octaves: 0 });
  });

  test('end alike in every octave, with a line where there was none', () => {
    const { bars } = tuneOf('C8 | E8 |');
    expect(withFinalBarline(bars).at(-1)?.barline).toBe('final');
    expect(withFinalBarline(barsByOctaves(bars, -1))).toBe(barsByOctaves(withFinalBarline(bars), -1));
    const repeated = tuneOf('|: C8 | E8 :|').bars;
    expect(withFinalBarline(repeated)).toBe(repeated);
  });
});

describe('a line in another key', () => {
  test('is the line itself for who reads what sounds, and in the next octave the line there', () => {
    const tune = tuneOf('C2 ^E2 [K:D] G4 |]');
    expect(transposeBars(tune, UNISON)).toEqual({ key: tune.key, bars: tune.bars });
    expect(transposeBars(tune, UNISON).bars).toBe(tune.bars);
    expect(transposeBars(tune, octaves(-1)).bars).toBe(barsByOctaves(tune.bars, -1));
    const alto = transposeBars(tune, ALTO).bars;
    expect(transposeBars(lineByOctaves(tune, 2), ALTO).bars).toBe(barsByOctaves(alto, 2));
    // A chord whose root would need a double flat is not what stands on the page.
    const odd = tuneOf('"Bbb"C8 |]');
    expect(transposeBars(odd, UNISON).bars[0]?.chords[0]?.symbol).toMatchObject({ root: { step: 'A', alter: 0 } });
  });

  test('has each note where it is found one by one, in any octave', () => {
    fc.assert(
      fc.property(anyTune, fc.integer({ min: -2, max: 2 }), (tune, by) => {
        const interval = addIntervals(ALTO, octaves(by));
        const keys = keysOf(tune);
        const wanted = tune.bars.map(({ events }, index) =>
          events.flatMap((event) =>
            isNote(event) ? [transposeReadably(event.pitch, readableInterval(keys[index] ?? tune.key, interval))] : [],
          ),
        );
        const moved = transposeBars(lineByOctaves(tune, 1), addIntervals(interval, octaves(-1)));
        expect(moved.bars.map((bar) => notes({ bars: [bar] }).map(({ pitch }) => pitch))).toEqual(wanted);
      }),
    );
  });

  test('is one object for one key and interval, and another for another', () => {
    const tune = tuneOf('C2 E2 G4 |]');
    expect(transposeBars(tune, ALTO)).toBe(transposeBars(tune, ALTO));
    expect(transposeBars(tune, ALTO)).not.toBe(transposeBars(tune, opposite(ALTO)));
    expect(transposeBars({ ...tune, key: key('F') }, ALTO).key).not.toEqual(transposeBars(tune, ALTO).key);
  });

  test('remembered bars never come back in the key of another line', () => {
    const tune = tuneOf('C8 | D8 |]');
    const { bars } = tune;
    // Up a tritone, C goes to F♯ and F to B; the bars are the same objects.
    const up = { diatonic: 3, chromatic: 6 };
    const names = (from: string) =>
      notes(transposeBars({ key: key(from), bars }, up)).map(({ pitch }) => `${pitch.step}${pitch.alter}`);
    expect([names('C'), names('Eb'), names('C')]).toEqual([
      ['F1', 'G1'],
      ['F1', 'G1'],
      ['F1', 'G1'],
    ]);
    expect(names('E')).toEqual(['G-1', 'A-1']);
  });

  test('goes up and comes down again as it was, in keys that need no twin', () => {
    fc.assert(
      fc.property(anyTune, (tune) => {
        const up = transposeBars(tune, ALTO);
        const back = transposeBars(up, opposite(ALTO));
        expect(notes(back).map(({ pitch }) => semitones(pitch))).toEqual(
          notes(tune).map(({ pitch }) => semitones(pitch)),
        );
      }),
    );
  });

  test('moves the shorter way', () => {
    const tune = tuneOf('c2 e2 g4 |]');
    const moved = inKey(tune, key('A'));
    expect([printKey(moved.key), notes(moved).map(({ pitch }) => semitones(pitch) - 60 + 12)]).toEqual([
      'A',
      notes(tune).map(({ pitch }) => semitones(pitch) - 60 + 12 - 3),
    ]);
  });
});

test('the total of a line is that of its bars, for any line, player and octave', () => {
  fc.assert(
    fc.property(
      anyTune,
      fc.constantFrom('flute', 'alto-sax', 'trombone', 'cello', 'guitar'),
      fc.integer({ min: -1, max: 1 }),
      fc.constantFrom('written', 'sounding'),
      (tune, id, octaves, pitch) => {
        const player = instrument(id);
        const bars = barDifficulties(tune, player, pitch, octaves);
        expect(lineTotal(tune, player, pitch, octaves)).toBeCloseTo(lineDifficulty(bars).total, 9);
      },
    ),
  );
});

test('a line without bars is not hard at all', () => {
  expect(lineTotal({ ...tuneOf('C8 |]'), bars: [] }, instrument('flute'))).toBe(0);
});
