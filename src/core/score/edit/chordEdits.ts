import { type ChordSymbol, printChord, type ProgressionBar, sharedBeats } from '../../harmony';
import { barTicks, beatsOf, type Meter, type Ticks } from '../../time';
import { barNumbers, barOffset, metersOf, type Bar, type PlacedChord, type Tune } from '../tune';
import { edited, refused, type EditResult } from './edited';
import { lengthOfBar, type Caret } from './place';
import { appendBar, draftOf } from './write';

/** Puts a chord at a place of a bar; `undefined` takes it away. */
export function setChord(tune: Tune, { bar, at }: Caret, symbol: ChordSymbol | undefined, caret: Caret): EditResult {
  const here = tune.bars[bar];
  if (!here || at >= lengthOfBar(here)) return refused('nothing-here', 'There is no bar here for a chord.');
  const others = here.chords.filter((chord) => chord.at !== at);
  const chords = symbol ? [...others, { at, symbol }].toSorted((a, b) => a.at - b.at) : others;
  return edited(
    tune,
    withBar(tune, bar, { ...here, chords }),
    caret,
    symbol ? `Chord ${printChord(symbol)}` : 'No chord',
  );
}

/** The chords of one bar, written anew: they share the bar as in a progression. */
export function setChordsOfBar(tune: Tune, bar: number, symbols: ProgressionBar, caret: Caret): EditResult {
  const here = tune.bars[bar];
  if (!here) return refused('nothing-here', 'There is no such bar.');
  const numbers = barNumbers(tune);
  const name = symbols.length > 0 ? `Chords in bar ${numbers[bar]}` : `No chords in bar ${numbers[bar]}`;
  return edited(tune, withBar(tune, bar, { ...here, chords: shared(tune, tune.bars, bar, symbols) }), caret, name);
}

/** Lays a progression over the tune from a bar on, in place of the chords there; bars are added where it is longer. */
export function layOutProgression(
  tune: Tune,
  from: number,
  progression: readonly ProgressionBar[],
  caret: Caret,
): EditResult {
  const draft = draftOf(tune);
  while (draft.bars.length < from + progression.length) appendBar(draft);
  progression.forEach((symbols, k) => {
    const bar = draft.bars[from + k];
    if (bar) draft.bars[from + k] = { ...bar, chords: shared(tune, draft.bars, from + k, symbols) };
  });
  return edited(tune, draft.bars, caret, `Chords of ${progression.length} bars`);
}

/**
 * Gives bars the chords of others: "same as bars 1–4". Their places stay; what lies beyond a shorter bar's end is left
 * out and said.
 * @param source first and last index; repeated as often as the target needs
 */
export function chordsLike(
  tune: Tune,
  source: readonly [number, number],
  target: readonly [number, number],
  caret: Caret,
): EditResult {
  const [first, last] = source;
  const count = last - first + 1;
  const numbers = barNumbers(tune);
  if (count < 1 || !tune.bars[first] || !tune.bars[last])
    return refused('nothing-here', 'There are no such bars to take chords from.');
  const cut: number[] = [];
  const bars = tune.bars.map((bar, index): Bar => {
    if (index < target[0] || index > target[1]) return bar;
    const from = tune.bars[first + ((index - target[0]) % count)];
    const length = lengthOfBar(bar);
    const chords = (from?.chords ?? []).filter(({ at }) => at < length);
    if (chords.length < (from?.chords.length ?? 0)) cut.push(numbers[index] ?? 0);
    return { ...bar, chords };
  });
  return edited(
    tune,
    bars,
    caret,
    `Chords as in bars ${numbers[first]}–${numbers[last]}`,
    cut.length > 0 ? [`bar ${cut.join(', ')} is too short for all of them`] : [],
  );
}

function withBar(tune: Tune, index: number, bar: Bar): readonly Bar[] {
  return tune.bars.map((other, k) => (k === index ? bar : other));
}

function shared(tune: Tune, bars: readonly Bar[], index: number, symbols: ProgressionBar): readonly PlacedChord[] {
  const meter = metersOf({ bars, meter: tune.meter })[index] ?? tune.meter;
  const bar = bars[index];
  const length = bar ? lengthOfBar(bar) : barTicks(meter);
  const offset = barOffset({ bars, meter: tune.meter }, index, meter);
  return placesOf(symbols.length, meter, offset, length).flatMap((at, k) => {
    const symbol = symbols[k];
    return symbol ? [{ at, symbol }] : [];
  });
}

/** On beats of the full bar; a short bar shares what it has. */
function placesOf(count: number, meter: Meter, offset: Ticks, length: Ticks): readonly Ticks[] {
  const beats = beatsOf(meter).filter(({ start }) => start >= offset && start < offset + length);
  if (beats.length === 0 || count > beats.length)
    return Array.from({ length: count }, (_, k) => Math.floor((k * length) / count));
  return sharedBeats(count, beats.length).map((beat) => (beats[beat]?.start ?? offset) - offset);
}
