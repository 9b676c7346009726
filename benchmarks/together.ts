import { arrange, type EnsemblePlayer, partOfVoice } from '../src/core/ensemble';
import { instrumentById, type Level } from '../src/core/instruments';
import type { TogetherNotes, Tune } from '../src/core/score';
import { likelyTune } from '../tests/likelyTune';

const EIGHT: readonly (readonly [string, Level])[] = [
  ['flute', 'advanced'],
  ['violin', 'intermediate'],
  ['clarinet-bb', 'intermediate'],
  ['alto-sax', 'intermediate'],
  ['trumpet-bb', 'beginner'],
  ['clarinet-bb', 'beginner'],
  ['cello', 'beginner'],
  ['tuba', 'beginner'],
];

/** A tune of 32 bars for eight players of three levels: everything anew, and one cell changed. */
export function together(time: (rounds: number, work: () => unknown) => number, line: (text: string) => void): void {
  const players = EIGHT.flatMap(([id, level], k): readonly EnsemblePlayer[] => {
    const instrument = instrumentById(id);
    return instrument ? [{ id: `p${k}`, instrument, level }] : [];
  });
  const sixteen = likelyTune(7);
  const again = sixteen.bars.map((bar) => ({
    ...bar,
    id: `${bar.id}x`,
    events: bar.events.map((event) => ({ ...event, id: `${event.id}x` })),
  }));
  const tune: Tune = { ...sixteen, bars: [...sixteen.bars, ...again] };
  const made = (of: Tune, notes: TogetherNotes = {}) => {
    const ensemble = arrange(of, { players, notes });
    return ensemble.voices.map((_, index) => partOfVoice(ensemble, index));
  };
  const section = tune.bars[8]?.id ?? '';
  let turn = 0;
  line(`Together: eight players, ${tune.bars.length} bars`);
  // A copy each time: nothing is remembered of it.
  line(
    `  everything anew, with all parts (aim 150 ms): ${time(12, () => made({ ...tune, bars: tune.bars.map((bar) => ({ ...bar })) })).toFixed(0)} ms`,
  );
  line(
    `  one cell changed, with all parts (aim 100 ms): ${time(12, () => made(tune, { cells: { [section]: { p4: (turn += 1) % 2 === 0 ? 'rhythm' : 'out' } } })).toFixed(0)} ms`,
  );
}
