import { Chord } from 'tonal';
import {
  chordTones,
  parseChord,
  parseProgression,
  type ProgressionBar,
  progressionChords,
  readForm,
} from '../src/core/harmony';
import { styleOfChords } from '../src/core/analysis';
import { LEVELS } from '../src/core/instruments';
import { poolsFor } from '../src/core/pools';

const CELL = 'Cmaj7 A7 | Dm7 G7 | Em7 A7b9 | Dm7b5 G7alt | Cm7 | F7 | Bbmaj7 Ebmaj7 | Am7b5 D7';
const METER = { count: 4, unit: 4 } as const;

/**
 * Reading a form and finding the notes of three levels; the symbols are made anew each time, so that nothing is known
 * of them.
 */
export function harmony(line: (text: string) => void, time: (rounds: number, work: () => unknown) => number): void {
  const parsed = parseProgression(CELL);
  if (!parsed.ok) throw new Error(CELL);
  line('Reading a form and finding its notes, three levels');
  for (const [count, aim] of [
    [32, 5],
    [256, 40],
  ] as const) {
    const cells = parsed.value;
    const bars = Array.from(
      { length: (count * cells.length) / cells.flat().length },
      (_, k) => cells[k % cells.length] ?? [],
    );
    const milliseconds = time(15, () => {
      const fresh: readonly ProgressionBar[] = bars.map((bar) => bar.map((symbol) => ({ ...symbol })));
      const chords = progressionChords(fresh, METER);
      const reading = readForm(chords, { bars: bars.length });
      const form = {
        key: reading.home,
        meter: METER,
        places: chords.map(({ bar }) => ({ bar: bar + 1, barIndex: bar, beat: 1 })),
        reading,
        ...styleOfChords(reading, bars.length),
        bars: bars.map((_, index) => index + 1),
      };
      return LEVELS.map((level) => poolsFor(form, level));
    });
    line(`  ${String(count).padStart(4)} chords: ${milliseconds.toFixed(1)} ms (aim: ${aim})`);
  }
  const symbols = 'Cmaj7 F#m7b5 Bb7 Eb6 Am7 D7b9 G13 Dbm9 E7#9 Ab Csus4 Gm6 B7 F#dim7 Caug'.split(' ');
  const rounds = 1_000;
  const run = (work: (symbol: string) => unknown) =>
    time(9, () => {
      for (let k = 0; k < rounds; k += 1) work(symbols[k % symbols.length] ?? 'C');
    });
  const ours = run((symbol) => {
    const read = parseChord(symbol);
    return read.ok && chordTones(read.value);
  });
  const theirs = run((symbol) => Chord.get(symbol).notes);
  line('Chord symbols read, with their tones, ours beside tonal');
  line(
    `  ${((ours * 1e6) / rounds).toFixed(0)} ns against ${((theirs * 1e6) / rounds).toFixed(0)} ns: ${(theirs / ours).toFixed(1)} times as fast (aim: 5)`,
  );
}
