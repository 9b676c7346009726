import fc from 'fast-check';
import { anyTune } from '../../../../tests/anyTune';
import { readAbc } from '../../formats/abc/readAbc';
import { INSTRUMENTS, instrumentById } from '../../instruments/catalogue';
import type { Instrument } from '../../instruments/instrument';
import { printKey } from '../../pitch/key';
import { printPitch, semitones } from '../../pitch/pitch';
import { soundingNotes } from '../../score/sounding';
import { isNote, type Tune } from '../../score/tune';
import { scoreProblems } from '../../score/validate';
import { firstNotes, UNDER_PACES, underPart } from './underPart';

const tuneOf = (body: string, head = 'M:4/4\nL:1/8\nK:G'): Tune => {
  const read = readAbc(`X:1\nT:T\n${head}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
};
const instrument = (id: string) => instrumentById(id) as Instrument;
const shown = (bars: Tune['bars']) =>
  bars
    .map(({ events }) => events.map((event) => (isNote(event) ? printPitch(event.pitch) : 'z')).join(' '))
    .join(' | ');

const SONG = tuneOf(
  '"G"G2B2 d2B2 | "C"e2c2 G4 | "D7"A2d2 f2d2 | "G"G8 | "G"G2B2 d2B2 | "C"e2c2 G4 | "D7"A2d2 f2d2 | "G"g8 |',
);

test('open strings under a tune: chord tones, and the same notes where the chords come again', () => {
  const violin = underPart(SONG, instrument('violin'), firstNotes(instrument('violin'), 3), 'bar');
  expect(shown(violin.part.bars)).toBe('G3 | G3 | D4 | G3 | G3 | G3 | D4 | G3');
  expect([violin.used.map(printPitch), violin.fits, violin.better]).toEqual([['G3', 'D4'], true, []]);
  expect(shown(underPart(SONG, instrument('cello'), firstNotes(instrument('cello'), 3), 'half').part.bars)).toMatch(
    /^G2 G2 \| (C2|G2) (C2|G2) \| D3 D3 \| G2 G2/,
  );
});

test('the first notes of a wind instrument are those of its first key; a transposing player reads their own', () => {
  expect(firstNotes(instrument('trumpet-bb'), 5).map(printPitch)).toEqual(['C4', 'D4', 'E4', 'F4', 'G4']);
  const horn = underPart(SONG, instrument('alto-sax'), firstNotes(instrument('alto-sax'), 5), 'beat');
  expect(horn.part.bars.every(({ events }) => events.length === 4)).toBe(true);
  expect(
    horn.part.bars
      .flatMap(({ events }) => events)
      .every(
        (event) =>
          isNote(event) &&
          firstNotes(instrument('alto-sax'), 5).some((pitch) => semitones(pitch) === semitones(event.pitch)),
      ),
  ).toBe(true);
});

test('where no allowed note fits, it says so and names keys in which they would', () => {
  const flat = tuneOf('"Gb"G2B2 d4 | "Cb"e2c2 G4 | "Db7"A2d2 f4 | "Gb"G8 |', 'M:4/4\nL:1/8\nK:Gb');
  const { fits, better } = underPart(flat, instrument('violin'), firstNotes(instrument('violin'), 3), 'bar');
  expect([
    fits,
    better.length > 0,
    better.map(printKey).every((key) => ['G', 'D', 'A', 'C', 'E'].includes(key)),
  ]).toEqual([false, true, true]);
});

test("for any tune and instrument it adds up, holds allowed notes alone and stands in the tune's form", () => {
  fc.assert(
    fc.property(
      anyTune,
      fc.constantFrom(...INSTRUMENTS),
      fc.constantFrom(...UNDER_PACES),
      fc.constantFrom<3 | 5>(3, 5),
      (tune, player, pace, count) => {
        const allowed = firstNotes(player, count);
        const { part } = underPart(tune, player, allowed, pace);
        expect(scoreProblems({ ...tune, key: part.writtenKey, bars: part.bars })).toEqual([]);
        const heights = new Set(allowed.map(semitones));
        expect(
          part.bars
            .flatMap(({ events }) => events)
            .filter((event) => !isNote(event) || !heights.has(semitones(event.pitch))),
        ).toEqual([]);
        expect(part.bars.map(({ repeatStart, repeatEnd, ending }) => [repeatStart, repeatEnd, ending])).toEqual(
          tune.bars.map(({ repeatStart, repeatEnd, ending }) => [repeatStart, repeatEnd, ending]),
        );
      },
    ),
  );
});

test('its form is one line of words, phrases with the same notes under one letter', () => {
  const tune = tuneOf(
    '"D"d2 f2|"A"e4|"D"d2 f2|"A"e4|"G"g2 b2|"D"f4|"A"e2 c2|"D"d4|"D"d2 f2|"A"e4|"D"d2 f2|"D"d4|',
    'M:4/4\nL:1/4\nK:D',
  );
  const { part } = underPart(tune, instrument('violin'), firstNotes(instrument('violin'), 3), 'bar');
  const [form, ...rows] = part.lead ?? [];
  expect(form).toMatch(/^A( [A-D])+$/);
  expect(rows[0]).toMatch(/^A: D A/);
  // Every chord whose root is an open string has it.
  const struck = soundingNotes({ bars: part.bars, meter: part.meter }).map(({ pitch }) => pitch.step);
  expect(struck.slice(0, 5)).toEqual(['D', 'A', 'D', 'A', 'G']);
});
