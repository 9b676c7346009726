import { type Instrument, outsideBy } from '../../instruments';
import { byOctaves, transpose } from '../../pitch';
import { barNumbers, barSpans, isNote, mapNotes, noteByOctaves, withTrueTies } from '../../score';
import type { BarChoice, Change } from '../../work';
import type { Fitted } from '../fit/fit';
import { inKey } from '../fit/inKey';
import { joined } from './versions';

/** Bars that a teacher wants an octave away, where the instrument goes there. */
export function withOctavesChosen(
  fitted: Fitted,
  chosen: ReadonlyMap<number, BarChoice>,
  instrument: Instrument,
): Fitted {
  const numbers = barNumbers(fitted.tune);
  const changes: Change[] = [];
  const bars = fitted.tune.bars.map((bar, index) => {
    const kind = chosen.get(index)?.kind;
    if (kind !== 'octave-up' && kind !== 'octave-down') return bar;
    const by = kind === 'octave-up' ? 1 : -1;
    const [moved] = mapNotes([bar], (note) => {
      const pitch = byOctaves(note.pitch, by);
      if (outsideBy(transpose(pitch, instrument.transposition), instrument.range.full) !== 0) return note;
      return noteByOctaves(note, by);
    });
    changes.push({
      bar: numbers[index] ?? 0,
      barIndex: index,
      detail: { kind: 'chosen', variant: kind },
      events: bar.events.filter(isNote).map(({ id }) => id),
    });
    return moved ?? bar;
  });
  return changes.length === 0
    ? fitted
    : { ...fitted, tune: { ...fitted.tune, bars: withTrueTies(bars).bars }, changes: [...fitted.changes, ...changes] };
}

/**
 * Bars that a teacher wrote: in the key and octave of the part. One that does not fill its bar any more is left and
 * said.
 */
export function withOwnBars(fitted: Fitted, chosen: ReadonlyMap<number, BarChoice>): Fitted {
  const own = [...chosen].flatMap(([index, choice]) => (choice.kind === 'own' ? [[index, choice] as const] : []));
  if (own.length === 0) return fitted;
  const { tune } = fitted;
  const numbers = barNumbers(tune);
  const spans = barSpans(tune);
  const bars = [...tune.bars];
  const changes: Change[] = [];
  for (const [index, { events, key, octaves }] of own) {
    const bar = bars[index];
    if (!bar) continue;
    const place = { bar: numbers[index] ?? 0, barIndex: index };
    if (events.reduce((sum, { length }) => sum + length, 0) !== spans[index]?.length) {
      changes.push({ ...place, events: [], detail: { kind: 'chosen', variant: 'own-too-long' } });
      continue;
    }
    const [moved] = mapNotes(
      inKey({ ...tune, key, bars: [{ id: bar.id, events, chords: [] }] }, tune.key).bars,
      (note) => {
        const by = fitted.octaves - octaves;
        return by === 0 ? note : noteByOctaves(note, by);
      },
    );
    bars[index] = { ...bar, events: moved?.events ?? bar.events };
    changes.push({
      ...place,
      events: events.filter(isNote).map(({ id }) => id),
      detail: { kind: 'chosen', variant: 'own' },
    });
  }
  return { ...fitted, tune: { ...tune, bars: joined(bars) }, changes: [...fitted.changes, ...changes] };
}
