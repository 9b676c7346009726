import fc from 'fast-check';
import { anyTune } from '../../../../tests/anyTune';
import { instrument, key, tuneOf } from '../../../../tests/given';
import { barDifficulties, lineDifficulty, lineTotal } from '../../analysis/difficulty';
import { opposite } from '../../pitch/interval';
import { printKey } from '../../pitch/key';
import { byOctaves, semitones } from '../../pitch/pitch';
import { lineByOctaves } from '../../score/octaves';
import { isNote, type Note, type Tune } from '../../score/tune';
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
      { numRuns: 60 },
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

describe('a line in another key', () => {
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
      { numRuns: 60 },
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
    { numRuns: 80 },
  );
});

test('a line without bars is not hard at all', () => {
  expect(lineTotal({ ...tuneOf('C8 |]'), bars: [] }, instrument('flute'))).toBe(0);
});
