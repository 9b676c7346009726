import { instrument, tuneOf } from '../../../../tests/given';
import fc from 'fast-check';
import { anyTune } from '../../../../tests/anyTune';
import { likelyTune } from '../../../../tests/likelyTune';
import { phrasesOf } from '../../analysis/phrases';
import { INSTRUMENTS } from '../../instruments/catalogue';
import { LEVELS, outsideBy, type Instrument } from '../../instruments/instrument';
import { printPitch } from '../../pitch/pitch';
import { soundingNotes } from '../../score/sounding';
import type { Tune } from '../../score/tune';
import { partFor } from '../parts/partFor';
import { fit } from './fit';

const pitches = (tune: Tune) => soundingNotes(tune).map(({ pitch }) => printPitch(pitch));

test('a line that runs out of the range is bent at its top, without a leap down', () => {
  const flute = instrument('flute');
  const narrow: Instrument = {
    ...flute,
    range: {
      ...flute.range,
      beginner: { low: { step: 'C', alter: 0, octave: 4 }, high: { step: 'B', alter: 0, octave: 4 } },
    },
  };
  const { tune, changes } = fit(tuneOf('"F"F2 G2 A2 B2 | c2 A2 F4 | "C"C4 E2 G2 | C8 |'), narrow, 'beginner');
  expect(pitches(tune).join(' ')).toMatch(/^F4 G4 A4 B4 [AB]4 A4 F4 C4 E4 G4 C4$/);
  expect(changes.map(({ bar, detail }) => [bar, detail.kind])).toEqual([
    [2, 'swapped'],
    [2, 'teach'],
  ]);
});

test('a phrase after a rest goes to another octave whole; a part of a phrase does after a held note', () => {
  const tune = tuneOf("C2 D2 E2 G2 | E4 z4 | c'2 b2 a2 g2 | e4 z4 | C2 D2 E2 D2 | C8 |");
  const trumpet = fit(tune, instrument('trumpet-bb'), 'beginner');
  expect(pitches(trumpet.tune)).toEqual([
    'C4',
    'D4',
    'E4',
    'G4',
    'E4',
    'C5',
    'B4',
    'A4',
    'G4',
    'E4',
    'C4',
    'D4',
    'E4',
    'D4',
    'C4',
  ]);
  expect(new Set(trumpet.changes.map(({ detail }) => detail.kind))).toEqual(new Set(['phrase-octave']));
});

/**
 * Starts and pitches of the notes of each phrase, from the phrase's own start to its last note, as the part has them.
 */
function heardPhrases(tune: Tune, bars: Tune['bars']): readonly { readonly source: string; readonly part: string }[] {
  const notes = soundingNotes(tune);
  const played = soundingNotes({ bars, meter: tune.meter });
  return phrasesOf(tune).map(({ from, to }) => {
    const run = notes.slice(from, to);
    const [start, end] = [run[0]?.start ?? 0, run.at(-1)?.start ?? 0];
    const words = (heard: typeof run) =>
      heard
        .map(
          (note, k) =>
            `${printPitch(note.pitch)}@${note.start - start}${k < heard.length - 1 ? `:${note.length}` : ''}`,
        )
        .join(' ');
    return {
      source: `${run[0]?.inBar ?? 0} ${words(run)}${run.map(({ first }) => (first.graces ? '`' : '')).join('')}`,
      // The first note apart: the tune's own is always kept, and that of another phrase may have to yield to the end of
      // the phrase before.
      part: words(played.filter((note) => note.start > start && note.start <= end)),
    };
  });
}

test('equal phrases are equal in the part of a beginner, whatever the instrument (hard)', () => {
  fc.assert(
    fc.property(
      fc.oneof(
        fc.nat(100_000).map(likelyTune),
        // Any tune at all, after itself: awkward rhythms, leaps and accidentals.
        anyTune
          .filter(({ bars }) => bars[0]?.partial === undefined)
          .filter(({ bars }) =>
            bars.every(({ repeatStart, repeatEnd, ending }) => !repeatStart && !repeatEnd && !ending),
          )
          .map((tune): Tune => ({
            ...tune,
            bars: [
              ...tune.bars,
              ...tune.bars
                .filter(({ partial }) => partial === undefined)
                .map((bar, k) => ({
                  ...bar,
                  id: `again${k}`,
                  events: bar.events.map((event) => ({ ...event, id: `again.${event.id}` })),
                })),
            ],
          })),
      ),
      fc.constantFrom(...INSTRUMENTS),
      (tune, player) => {
        const { value } = partFor(tune, { level: 'beginner', instrument: player });
        const known = new Map<string, string>();
        for (const { source, part } of heardPhrases(tune, value.soundingBars)) {
          const before = known.get(source) ?? part;
          known.set(source, before);
          expect(part).toBe(before);
        }
      },
    ),
  );
});

test('a beginner is never asked beyond the range, others by three half steps at most, and it is named', () => {
  fc.assert(
    fc.property(anyTune, fc.constantFrom(...INSTRUMENTS), fc.constantFrom(...LEVELS), (tune, player, level) => {
      const { value } = partFor(tune, { level, instrument: player });
      const named = new Set(value.outside.map(({ event }) => event));
      for (const { first, pitch } of soundingNotes({ bars: value.bars, meter: tune.meter })) {
        const by = Math.abs(outsideBy(pitch, player.range[level]));
        expect(by).toBeLessThanOrEqual(level === 'beginner' ? 0 : 3);
        expect([first.id, printPitch(pitch), by === 0 || named.has(first.id)]).toEqual([
          first.id,
          printPitch(pitch),
          true,
        ]);
      }
    }),
  );
});
