import { barNumbers, barSpans, isNote, type Tune } from '../score';
import { beatsOf, nameValue, notatedTicks, valueOfTicks } from '../time';

/** A rhythm that fills one or several beats, as it is written. */
export interface RhythmWord {
  /** `two eighths` as `eighth eighth`; rests are said; a tie goes on with `tied to`. */
  readonly word: string;
  readonly count: number;
  /** Printed numbers of the bars that hold it, each once. */
  readonly bars: readonly number[];
}

/**
 * The rhythm words of a tune, most frequent first. A word begins on a beat and ends before the next beat on which
 * something begins.
 */
export function rhythmWords(tune: Pick<Tune, 'bars' | 'meter'>): readonly RhythmWord[] {
  const spans = barSpans(tune);
  const numbers = barNumbers(tune);
  const found = new Map<string, { count: number; bars: Set<number> }>();
  tune.bars.forEach((bar, index) => {
    const span = spans[index];
    if (!span) return;
    const beats = new Set(beatsOf(span.meter).map(({ start }) => start));
    let at = span.offset;
    let word: string[] = [];
    const close = () => {
      if (word.length === 0) return;
      const text = word.join(' ');
      const known = found.get(text) ?? { count: 0, bars: new Set<number>() };
      known.count += 1;
      known.bars.add(numbers[index] ?? 0);
      found.set(text, known);
      word = [];
    };
    for (const event of bar.events) {
      if (beats.has(at)) close();
      const value = valueOfTicks(notatedTicks(event.length, event.tuplet));
      const name = `${event.tuplet ? `${event.tuplet.actual}-tuplet ` : ''}${value ? nameValue(value) : 'note'}`;
      word.push(isNote(event) ? `${name}${event.tied ? ' tied to' : ''}` : `${name} rest`);
      at += event.length;
    }
    close();
  });
  return [...found]
    .map(([word, { count, bars }]) => ({ word, count, bars: [...bars] }))
    .toSorted((a, b) => b.count - a.count);
}
