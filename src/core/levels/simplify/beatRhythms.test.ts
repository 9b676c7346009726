import fc from 'fast-check';
import { anyTune } from '../../../../tests/anyTune';
import { readAbc } from '../../formats/abc/readAbc';
import { instrumentById } from '../../instruments/catalogue';
import type { Instrument } from '../../instruments/instrument';
import { barSpans, soundingNotes } from '../../score/sounding';
import { isNote, type Tune } from '../../score/tune';
import { scoreProblems } from '../../score/validate';
import { TICKS_PER_QUARTER as Q } from '../../time/ticks';
import { partFor } from '../parts/partFor';
import type { RhythmLimits } from '../../work/groups';
import { ALL_BEAT_RHYTHMS, BEAT_RHYTHMS, kindOfBeat, rhythmsOfKind, type BeatRhythm } from '../../work/beatRhythms';
import { beatsRead } from './slots';

const flute = instrumentById('flute') as Instrument;
const tuneOf = (body: string, meter = '4/4'): Tune => {
  const read = readAbc(`X:1\nT:T\nM:${meter}\nL:1/16\nK:C\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
};
const simplified = (tune: Tune, rhythm: RhythmLimits) =>
  partFor(tune, { level: 'intermediate', instrument: flute, melody: 'simplified', rhythm }).value;
const lengths = (tune: Tune, words: readonly BeatRhythm[]) =>
  simplified(tune, { words })
    .bars.map(({ events }) => events.map((event) => `${isNote(event) ? '' : 'z'}${event.length / Q}`).join(' '))
    .join(' | ');

/**
 * The whole beats of bars, each with what it begins with and what comes later in it, read off the notes and not off the
 * search.
 */
function beatsOfPart(part: Pick<Tune, 'bars' | 'meter'>) {
  const notes = soundingNotes(part);
  return barSpans(part).flatMap((span) =>
    beatsRead(span.meter)
      .filter(({ start, length }) => start >= span.offset && start + length <= span.offset + span.length)
      .map((beat) => {
        const from = span.start - span.offset + beat.start;
        const soundsAt = (at: number) => notes.find(({ start, length }) => start <= at && start + length > at);
        const here = notes.filter(({ start }) => start > from && start < from + beat.length);
        const first = soundsAt(from);
        const ends = notes
          .map(({ start, length }) => start + length)
          .filter((end) => end > from && end < from + beat.length && !soundsAt(end));
        return {
          kind: kindOfBeat(beat),
          begins: !first ? 'rest' : first.start === from ? 'note' : 'held',
          notes: here.map(({ start }) => ((start - from) * 12) / beat.length),
          rests: ends.map((end) => ((end - from) * 12) / beat.length),
        };
      }),
  );
}

describe('rhythm words allowed one by one', () => {
  const tune = tuneOf('C2D2 E4 FGAB c4 | c6 B2 A3G F4 | z2E2 D8 C4 |');
  test.each<readonly [readonly BeatRhythm[], string]>([
    [[], '1 1 1 1 | 2 1 1 | 1 2 1'],
    [['two-eighths'], '0.5 0.5 1 0.5 0.5 1 | 2 1 1 | z1 2 1'],
    [['held-eighth', 'rest-eighth'], '1 1 1 1 | 1.5 0.5 1 1 | z0.5 0.5 2 1'],
    [['four-sixteenths', 'dotted-eighth'], '1 1 0.25 0.25 0.25 0.25 1 | 2 0.75 0.25 1 | z1 2 1'],
  ])('%j', (words, expected) => {
    expect(lengths(tune, words)).toBe(expected);
  });

  test('three parts of a beat have words of their own; a list about the other kind of beat leaves the usual ones', () => {
    const dance = tuneOf('C4D2 E2F2G2 | A2B4 c6 |', '6/8');
    expect(lengths(dance, ['long-short'])).toBe('1 0.5 1 0.5 | 1.5 1.5');
    expect(lengths(dance, ['three-eighths', 'short-long'])).toBe('1.5 0.5 0.5 0.5 | 0.5 1 1.5');
    expect(lengths(dance, ['two-eighths'])).toBe(
      simplified(dance, {})
        .bars.map(({ events }) => events.map(({ length }) => length / Q).join(' '))
        .join(' | '),
    );
  });

  test('in any tune, whatever is ticked, each whole beat has one note, or is held, or rests, or is one of the words', () => {
    fc.assert(
      fc.property(anyTune, fc.subarray([...ALL_BEAT_RHYTHMS]), (any, words) => {
        const part = simplified(any, { words });
        expect(scoreProblems({ ...any, bars: part.soundingBars })).toEqual([]);
        for (const { kind, begins, notes, rests } of beatsOfPart({ bars: part.soundingBars, meter: part.meter })) {
          if (notes.length + rests.length === 0) continue;
          const about = rhythmsOfKind(words, kind);
          if (!about) continue;
          const names = about.map((word) => {
            const entry: { begins: string; notes?: readonly number[]; rest?: number } = BEAT_RHYTHMS[word];
            return JSON.stringify([entry.begins, entry.notes ?? [], entry.rest === undefined ? [] : [entry.rest]]);
          });
          expect(names).toContain(JSON.stringify([begins, notes, rests]));
        }
      }),
    );
  });
});
