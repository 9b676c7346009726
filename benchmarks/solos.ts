import { likelyTune } from '../tests/likelyTune';
import { instrumentById, LEVELS } from '../src/core/instruments';
import { semitones } from '../src/core/pitch';
import { formOf, withProposedChords } from '../src/core/pools';
import { composeSolo, formBarsOf, type Solo } from '../src/core/solos';

const PLAYERS = ['flute', 'clarinet-bb', 'alto-sax', 'trumpet-bb', 'trombone', 'violin'];

/** Soft quality of solos over tunes that nobody tuned for: `npm run fuzz -- solos N`. */
export function measureSolos(count: number, line: (text: string) => void): void {
  for (const level of LEVELS) {
    const made: Solo[] = [];
    let none = 0;
    let milliseconds = 0;
    let bars = 0;
    for (let k = 0; k < count; k += 1) {
      const tune = withProposedChords(likelyTune(k));
      const instrument = instrumentById(PLAYERS[k % PLAYERS.length] ?? 'flute');
      if (!instrument) continue;
      const begun = performance.now();
      const solo = composeSolo({ form: formOf(tune), bars: formBarsOf(tune), level, instrument, seed: k });
      milliseconds += performance.now() - begun;
      if (solo) {
        made.push(solo);
        bars += solo.bars.length;
      } else none += 1;
    }
    const mean = (of: (solo: Solo) => number) =>
      (made.reduce((sum, solo) => sum + of(solo), 0) / made.length).toFixed(2);
    line(
      `${level}: ${made.length} solos (${none} forms without one), ${((32 * milliseconds) / bars).toFixed(0)} ms for 32 bars`,
    );
    line(
      `  strong beats at home ${mean(({ measures }) => measures.strongBeatHome)}, phrases that go back ${mean(({ measures }) => measures.repeatedIdeas)}, leaps over a sixth ${mean(({ measures }) => measures.leapsOverSixth)} a solo`,
    );
    line(
      `  longest run ${mean(({ measures }) => measures.longestRun)} quarters, rhythms of a bar ${mean(({ measures }) => measures.distinctRhythms)}, entropy of rhythms ${mean(rhythmEntropy)} bits and of intervals ${mean(intervalEntropy)} bits`,
    );
    line(
      `  the first phrase comes again ${mean(({ phrases }) => phrases.filter(({ of }) => of === 0).length)} times, notes a bar ${mean(({ notes, bars: all }) => notes.length / all.length)}`,
    );
  }
}

const rhythmEntropy = ({ notes }: Solo) => entropy(notes.map(({ length }) => length));
const intervalEntropy = ({ notes }: Solo) =>
  entropy(notes.slice(1).map(({ pitch }, k) => semitones(pitch) - semitones(notes[k]?.pitch ?? pitch)));

/** In bits. */
function entropy(values: readonly number[]): number {
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts.values()].reduce((sum, count) => {
    const share = count / values.length;
    return sum - share * Math.log2(share);
  }, 0);
}
