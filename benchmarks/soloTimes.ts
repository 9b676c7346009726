import { withRecipe, type Work } from '../src/core/work';
import { givenFrom, soloOfLevel } from '../src/core/levels';
import { formOf } from '../src/core/pools';
import { instrumentById, LEVELS } from '../src/core/instruments';
import type { Tune } from '../src/core/score';
import { composeSolo, formBarsOf, readSolo } from '../src/core/solos';
import { readAbc } from '../src/core/formats';
import { drawSolo } from '../src/engrave/variants';
import { Engraver } from '../src/engrave/engraver';

const CHANGES = [
  '"Dm7"d8',
  '"G7"g8',
  '"Cmaj7"e4 "A7"^c4',
  '"Dm7"f4 "G7"d4',
  '"Em7"g8',
  '"A7"e8',
  '"Dm7"d4 "G7"B4',
  '"C6"c8',
];

/** A form of so many bars in fours, as a tune. */
function formTune(bars: number): Tune {
  const body = Array.from({ length: bars }, (_, k) => CHANGES[k % CHANGES.length]).join('|');
  const read = readAbc(`X:1\nT:A form\nM:4/4\nL:1/8\nK:C\n${body}|]\n`);
  if (!read.ok) throw new Error('a bench tune that cannot be read');
  return read.value.tune;
}

/** A solo of 32 bars at each level and its growth with the form, and from a varied phrase to its picture. */
export async function soloTimes(
  time: (rounds: number, work: () => unknown) => number,
  line: (text: string) => void,
): Promise<void> {
  const instrument = instrumentById('flute');
  if (!instrument) throw new Error('no flute');
  let seed = 0;
  const composed = (tune: Tune, level: (typeof LEVELS)[number]) => {
    const [form, bars] = [formOf(tune), formBarsOf(tune)];
    return time(9, () => composeSolo({ form, bars, level, instrument, seed: (seed += 1) }));
  };
  const [short, long] = [formTune(32), formTune(128)];
  const made = LEVELS.map((level) => ({ level, short: composed(short, level), long: composed(long, level) }));
  // The floor: only to say of as many bars what each note is.
  const floor = time(9, () => readSolo({ ...short }));
  line('Solos: 32 bars');
  for (const one of made)
    line(
      `  ${one.level} ${one.short.toFixed(0)} ms (aim 50), ${(one.short / floor).toFixed(1)} × reading as many bars; four times the bars ${(one.long / one.short).toFixed(1)} ×`,
    );
  const engraver = await Engraver.start();
  const times: number[] = [];
  for (let round = 0; round < 12; round += 1) {
    const work: Work = { tune: { ...short }, recipes: {} };
    const first = soloOfLevel(work.tune, 'advanced', work.recipes, round + 1);
    if (!first) throw new Error('a bench solo that does not come home');
    const given = Object.fromEntries(
      first.solo.phrases.flatMap((_, k) => (k === 3 ? [] : [[String(k), givenFrom(first, work.tune, k)] as const])),
    );
    drawSolo(engraver, work, { level: 'advanced', seed: round + 1, slot: 0, isAnalysed: true }, 'written', 880);
    const begun = performance.now();
    const varied = withRecipe(work, 'advanced', { solo: { given } });
    drawSolo(engraver, varied, { level: 'advanced', seed: round + 40, slot: 0, isAnalysed: true }, 'written', 880);
    times.push(performance.now() - begun);
  }
  const sorted = times.slice(3).toSorted((a, b) => a - b);
  line(`  a phrase varied to its picture ${(sorted[Math.floor(sorted.length / 2)] ?? 0).toFixed(0)} ms (aim 150)`);
}
