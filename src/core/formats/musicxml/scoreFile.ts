import { printHarmony } from './harmonyField';
import type { Interval, Key } from '../../pitch';
import {
  type AccidentalTable,
  type Bar,
  type Clef,
  clefFor,
  type EventId,
  hasSecondPart,
  isNote,
  secondPartBars,
  type Swing,
  type Tablature,
  type Tempo,
  type Tune,
  withoutSecondPart,
} from '../../score';
import type { Meter } from '../../time';

/** One staff of a score: a tune or a part, with what a reader needs at its head. */
export interface Staff {
  readonly id: string;
  readonly name: string;
  readonly clef: Clef;
  readonly key: Key;
  readonly meter: Meter;
  readonly tempo?: Tempo;
  readonly bars: readonly Bar[];
  /** Added to a written pitch to get the sounding one. Left out for instruments that read what sounds. */
  readonly toSounding?: Interval;
  readonly hideChords?: boolean;
  /** Finger marks over the notes, by event: a line each, from the top. */
  readonly fingers?: ReadonlyMap<EventId, readonly string[]>;
  /** A word over the beginning of a bar, by index. */
  readonly words?: ReadonlyMap<number, string>;
  /** Bars of rest in which no rest is printed, by index: to be written into. */
  readonly blank?: ReadonlySet<number>;
  /** Bars that rest for so many bars in one sign, by the index of the first. */
  readonly restRuns?: ReadonlyMap<number, number>;
  /** Other versions of some bars: the staff is small, and shown in these bars alone, by index. */
  readonly ossiaBars?: ReadonlySet<number>;
  /** A tablature: a line for each string, with frets on them instead of heads. */
  readonly tab?: Tablature;
  /** Worked out from the bars when not given. */
  readonly accidentals?: AccidentalTable;
}

export interface ScoreFile {
  readonly title: string;
  readonly composer?: string;
  readonly source?: string;
  readonly rights?: string;
  /** The name of the staff that is the tune's second part. */
  readonly secondPart?: string;
  readonly swing?: Swing;
  readonly recordingKey?: Key;
  /** Style and readings of a tune's chords, as `printHarmony` writes them. */
  readonly harmony?: string;
  readonly staves: readonly Staff[];
}

/** A tune as a score of one staff, in concert pitch. */
export function tuneStaff(tune: Tune): ScoreFile {
  const pitches = tune.bars.flatMap((bar) => bar.events.flatMap((event) => (isNote(event) ? [event.pitch] : [])));
  return {
    title: tune.title,
    ...(tune.composer && { composer: tune.composer }),
    ...(tune.source && { source: tune.source }),
    rights: tune.rights,
    ...(hasSecondPart(tune) && { secondPart: SECOND_PART }),
    ...(tune.swing && { swing: tune.swing }),
    ...(tune.recordingKey && { recordingKey: tune.recordingKey }),
    ...(tune.harmony && { harmony: printHarmony(tune) }),
    staves: [
      {
        id: 'P1',
        name: 'Tune',
        clef: clefFor(pitches),
        key: tune.key,
        meter: tune.meter,
        tempo: tune.tempo,
        bars: withoutSecondPart(tune.bars),
      },
      ...secondStaff(tune),
    ],
  };
}

const SECOND_PART = 'Second part';

/**
 * The second part as a staff of its own, if the tune has one. Chords, sections and signs stand over the melody alone.
 */
function secondStaff(tune: Tune): readonly Staff[] {
  if (!hasSecondPart(tune)) return [];
  const bars = secondPartBars(tune.bars).map(({ section: _, tempos: _tempos, ...bar }) => ({ ...bar, chords: [] }));
  const pitches = bars.flatMap((bar) => bar.events.flatMap((event) => (isNote(event) ? [event.pitch] : [])));
  return [{ id: 'P2', name: SECOND_PART, clef: clefFor(pitches), key: tune.key, meter: tune.meter, bars }];
}
