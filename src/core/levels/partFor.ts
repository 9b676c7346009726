import { barDifficulties, type Difficulty } from '../analysis/difficulty';
import { phrasesOf } from '../analysis/phrases';
import { toSounding, type Instrument, type Level } from '../instruments/instrument';
import type { Interval } from '../pitch/interval';
import type { Key } from '../pitch/key';
import { pitchClassOf, type Pitch } from '../pitch/pitch';
import { readableInterval, withoutDoubleAccidental } from '../pitch/respell';
import { barNumbers, mapNotes, withoutSecondPart, type Bar, type EventId, type Tempo, type Tune } from '../score/tune';
import type { Meter } from '../time/meter';
import type { Change } from './change';
import { eventsOutOfReach, extremesOf, fit, type NoteOutside } from './fit';
import { inKey, transposeBars } from './inKey';
import { fingerPart, type FingeredPart, type FingerWishes } from './fingerPart';
import { LEVEL_DEFAULTS, levelTempo, type Remedy } from './recipe';
import { thin } from './thin';

/** What one player reads, computed from tune, level and instrument; never stored. */
export interface Part {
  readonly level: Level;
  readonly instrument: Instrument;
  readonly title: string;
  readonly composer?: string;
  readonly concertKey: Key;
  readonly writtenKey: Key;
  readonly meter: Meter;
  readonly tempo: Tempo;
  /** Written pitch. */
  readonly bars: readonly Bar[];
  /** The same bars as they sound. */
  readonly soundingBars: readonly Bar[];
  /** Added to a concert pitch (or chord) to get the written one, spelling included. */
  readonly written: Interval;
  /** Octaves by which the line was moved against the tune, apart from the instrument's own. */
  readonly octaves: number;
  readonly lowest?: Pitch;
  readonly highest?: Pitch;
  readonly outside: readonly NoteOutside[];
  readonly fidelity: number;
  /** How the line is fingered and what of it is printed; none where no marks are wanted. */
  readonly fingered?: FingeredPart;
  /** For each bar as it is read; see `lineDifficulty` for the whole. */
  readonly difficulty: readonly Difficulty[];
}

export interface PartRequest {
  readonly level: Level;
  readonly instrument: Instrument;
  /** Concert; its mode must be the tune's. The tune's own key by default. */
  readonly key?: Key;
  /** In the tune's own beat. By default the level's share of the tune's tempo. */
  readonly perMinute?: number;
  /** How the part is fingered; without it, it is not. */
  readonly fingers?: FingerWishes;
  readonly remedies?: Readonly<Record<EventId, Remedy>>;
  /** `none` leaves the line as it is, whatever the level does: only key, octave and written pitch are worked out. */
  readonly shape?: 'level' | 'none';
}

/** The part of one level for one instrument, with a word for everything that is not as in the tune. */
export function partFor(tune: Tune, { level, instrument, key = tune.key, perMinute, fingers, remedies, shape = 'level' }: PartRequest): { readonly value: Part; readonly changes: readonly Change[] } {
  if (key.mode !== tune.key.mode) throw new RangeError(`a tune in ${tune.key.mode} cannot be put in ${key.mode}`);
  const line: Tune = { ...tune, bars: withoutSecondPart(tune.bars) };
  const keyed: Tune = { ...line, ...inKey(line, key) };
  const phrases = phrasesOf(keyed);
  const shaped = shape === 'level' && LEVEL_DEFAULTS[level].melody === 'thinned'
    ? thin(keyed, phrases, eventsOutOfReach(keyed, instrument, level, phrases)) : { tune: keyed, phrases, changes: [], fidelity: 100 };
  const written = readableInterval(keyed.key, instrument.transposition);
  const fitted = fit(shaped.tune, instrument, level, shaped.phrases, remedies);
  const onPage = transposeBars(fitted.tune, instrument.transposition);
  const plain = level === 'beginner' ? withoutDoubles(fitted.tune, onPage.bars) : { bars: onPage.bars, changes: [] };
  const extremes = extremesOf(plain.bars);
  const tempo = levelTempo(tune, level, perMinute);
  const bars = closed(plain.bars);
  const fingered = fingers && fingers.marks !== 'none' ? fingerPart({ bars, meter: tune.meter }, tempo, instrument, fingers) : undefined;
  return {
    value: {
      level, instrument, title: tune.title,
      ...(tune.composer && { composer: tune.composer }),
      concertKey: keyed.key, writtenKey: onPage.key, meter: tune.meter, tempo,
      bars, soundingBars: closed(transposeBars({ key: onPage.key, bars: plain.bars }, toSounding(instrument)).bars),
      written, octaves: fitted.octaves, ...extremes, outside: fitted.outside, fidelity: shaped.fidelity, ...(fingered && { fingered }),
      difficulty: barDifficulties({ bars, key: onPage.key, meter: tune.meter, tempo }, instrument),
    },
    changes: [...shaped.changes, ...fitted.changes, ...plain.changes].toSorted((a, b) => a.barIndex - b.barIndex),
  };
}

/** A part ends with a final line even where its source has none. */
function closed(bars: readonly Bar[]): readonly Bar[] {
  const last = bars.at(-1);
  if (!last || last.barline || last.repeatEnd !== undefined) return bars;
  return [...bars.slice(0, -1), { ...last, barline: 'final' }];
}

function withoutDoubles(concert: Tune, written: readonly Bar[]): { readonly bars: readonly Bar[]; readonly changes: readonly Change[] } {
  const numbers = barNumbers(concert);
  const changes: Change[] = [];
  const bars = mapNotes(written, (note, barIndex) => {
    const pitch = withoutDoubleAccidental(note.pitch);
    if (pitch === note.pitch) return note;
    changes.push({ bar: numbers[barIndex] ?? 0, barIndex, events: [note.id], detail: { kind: 'respelled', from: pitchClassOf(note.pitch), to: pitchClassOf(pitch) } });
    return { ...note, pitch };
  });
  return { bars, changes };
}
