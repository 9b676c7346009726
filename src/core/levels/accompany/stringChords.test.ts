import fc from 'fast-check';
import { anyTune } from '../../../../tests/anyTune';
import { chordTones } from '../../harmony/chordTones';
import { parseChord } from '../../harmony/chordSymbol';
import { readAbc } from '../../formats/abc/readAbc';
import { INSTRUMENTS, instrumentById } from '../../instruments/catalogue';
import { LEVELS, type Instrument } from '../../instruments/instrument';
import { chroma, printPitch, semitones } from '../../pitch/pitch';
import { barSpans } from '../../score/sounding';
import { isNote, type Tune } from '../../score/tune';
import { scoreProblems } from '../../score/validate';
import { TICKS_PER_QUARTER as Q } from '../../time/ticks';
import { BOW_RHYTHMS, gripsFor, hasGrips, stringChords } from './stringChords';

const violin = instrumentById('violin') as Instrument;
const tuneOf = (body: string, head = 'M:4/4\nL:1/8\nQ:1/4=90\nK:G'): Tune => {
  const read = readAbc(`X:1\nT:T\n${head}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
};
const best = (chord: string, instrument = violin) => {
  const parsed = parseChord(chord);
  const [grip] = parsed.ok ? gripsFor(parsed.value, instrument) : [];
  return grip && `${printPitch(grip.low)} ${printPitch(grip.high)}`;
};

test('open strings first: the grips that string players know', () => {
  expect(best('G5')).toBe('G3 D4');
  expect(best('G')).toMatch(/^G3 (D4|B4|B3)$/);
  expect(best('D5')).toBe('D4 A4');
  expect(best('A5')).toBe('A4 E5');
  expect(best('C', instrumentById('cello') as Instrument)).toMatch(/^C2 (G2|E3)$/);
  expect(hasGrips(instrumentById('flute') as Instrument)).toBe(false);
});

test('each rhythm in its plainest place', () => {
  const show = (tune: Tune, rhythm: (typeof BOW_RHYTHMS)[number]) =>
    stringChords(tune, violin, 'beginner', rhythm)
      .part.bars.map((bar) => bar.events.map((event) => `${isNote(event) ? '' : 'z'}${event.length / Q}`).join(' '))
      .join(' | ');
  const common = tuneOf('"G"G8 | "D7"A4 "G"B4 |');
  expect([show(common, 'long'), show(common, 'shuffle'), show(common, 'quick')]).toEqual([
    '4 | 2 2',
    '1 0.5 0.5 1 0.5 0.5 | 1 0.5 0.5 1 0.5 0.5',
    `${Array(4).fill('0.5 0.25 0.25').join(' ')} | ${Array(4).fill('0.5 0.25 0.25').join(' ')}`,
  ]);
  const jig = tuneOf('"Em"E6 |', 'M:6/8\nL:1/8\nK:Em');
  expect([show(jig, 'long'), show(jig, 'shuffle'), show(jig, 'quick')]).toEqual([
    '3',
    '1 0.5 1 0.5',
    '0.5 0.5 0.5 0.5 0.5 0.5',
  ]);
});

test('for any tune: bars add up, both notes are of the chord, on neighbouring strings that one hand can stop, and what has no grip is named', () => {
  fc.assert(
    fc.property(
      anyTune,
      fc.constantFrom(...INSTRUMENTS.filter(hasGrips)),
      fc.constantFrom(...LEVELS),
      fc.constantFrom(...BOW_RHYTHMS),
      (tune, player, level, rhythm) => {
        const { part, grips, missing } = stringChords(tune, player, level, rhythm);
        expect(scoreProblems({ ...tune, bars: part.soundingBars })).toEqual([]);
        for (const {
          grip: { low, high, lowFinger, highFinger },
        } of grips) {
          expect(Math.abs(lowFinger.string - highFinger.string)).toBe(1);
          expect(semitones(high)).toBeGreaterThan(semitones(low));
          const fingers = [lowFinger, highFinger].map((one) => (one.kind === 'bowed' ? one.finger : one.fret));
          if (
            lowFinger.kind === 'bowed' &&
            highFinger.kind === 'bowed' &&
            fingers[0] === fingers[1] &&
            lowFinger.finger > 0
          )
            expect(lowFinger.above).toBe(highFinger.above);
        }
        const spans = barSpans({ bars: part.soundingBars, meter: part.meter });
        let current = part.soundingBars[0]?.chords[0]?.symbol;
        part.soundingBars.forEach((bar, index) => {
          let at = 0;
          const before = current;
          for (const event of bar.events) {
            const symbol = bar.chords.findLast((chord) => chord.at <= at)?.symbol ?? before;
            if (isNote(event)) {
              const classes = symbol && chordTones(symbol).map(({ pitchClass }) => chroma(pitchClass));
              expect(event.chord).toHaveLength(1);
              for (const pitch of [event.pitch, ...(event.chord ?? [])]) expect(classes).toContain(chroma(pitch));
            }
            at += event.length;
          }
          expect(at).toBe(spans[index]?.length);
          current = bar.chords.at(-1)?.symbol ?? current;
        });
        expect(new Set(missing).size).toBe(missing.length);
      },
    ),
  );
});

test('chords on different roots are gripped apart where that is in reach', () => {
  const tune = tuneOf('"Em" E4 | "C" E4 | "G" D4 | "Em" E4 |', 'M:4/4\nL:1/4\nK:Em');
  const { grips } = stringChords(tune, violin, 'beginner', 'long');
  const byPitch = new Map(
    grips.map(({ symbol, grip: { low, high } }) => [`${printPitch(low)} ${printPitch(high)}`, symbol]),
  );
  expect(byPitch.size).toBe(grips.length);
});
