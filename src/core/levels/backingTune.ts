import type { Key, Pitch } from '../pitch';
import type { ChordSymbol } from '../harmony';
import {
  type Bar,
  barLength,
  metersOf,
  quarterBars,
  QUARTERS_METER,
  type Rest,
  type Tempo,
  type Tune,
  TUNE_SCHEMA,
} from '../score';
import { barTicks, spellRestLength } from '../time';
import { inKey } from './fit/inKey';

/** A tune's chords with nothing played over them, for a player to try out notes: in a key and at a tempo. */
export function backingOnly(tune: Tune, key: Key, tempo: Tempo): Tune {
  const moved = inKey(tune, key);
  const meters = metersOf(tune);
  const bars = moved.bars.map((bar, index): Bar => {
    const meter = meters[index] ?? tune.meter;
    const { second: _, ...plain } = bar;
    const rests = spellRestLength(0, barLength(bar, meter), meter);
    return { ...plain, events: rests.map((length, k): Rest => ({ kind: 'rest', id: `r${index}x${k}`, length })) };
  });
  return { ...tune, key: moved.key, tempo, bars };
}

/**
 * What is heard of one chord: the chord alone, a line of notes alone, or the chord and then the notes over it. Concert
 * pitch. The key and title are those of nothing in particular: this is never shown.
 */
export function heardNotes(symbol: ChordSymbol | undefined, line: readonly Pitch[], perMinute: number): Tune {
  const full = barTicks(QUARTERS_METER);
  const chords = symbol ? [{ at: 0, symbol }] : [];
  const alone: Bar[] = symbol ? [{ id: 'chord', events: [{ kind: 'rest', id: 'r', length: full }], chords }] : [];
  return {
    schema: TUNE_SCHEMA,
    title: '',
    rights: 'own',
    key: { tonic: { step: 'C', alter: 0 }, mode: 'major' },
    meter: QUARTERS_METER,
    tempo: { beat: { type: 'quarter', dots: 0 }, perMinute },
    bars: [...alone, ...quarterBars(line)],
  };
}
