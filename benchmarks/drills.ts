import { type Instrument, instrumentById } from '../src/core/instruments';
import { drillTune, layDrill } from '../src/core/drills';
import { drillPart } from '../src/core/levels';
import { type DrillIdea, quarterBars } from '../src/core/score';
import { barDifficulties } from '../src/core/analysis';
import { keyWithSignature } from '../src/core/pitch';
import { DrillEngraver } from '../src/engrave/drillEngraver';
import { Engraver } from '../src/engrave/engraver';

const PLAYERS = ['flute', 'clarinet-bb', 'alto-sax', 'trumpet-bb', 'trombone', 'violin', 'cello', 'guitar'];

const nothing = () => undefined;

/** A drill in twelve keys for eight players, and from a changed word to the picture of the first row. */
export async function drills(
  time: (rounds: number, work: () => unknown) => number,
  line: (text: string) => void,
): Promise<void> {
  const players = PLAYERS.map((id) => instrumentById(id)).filter((one): one is Instrument => one !== undefined);
  const idea = (seed: number): DrillIdea => ({ steps: [{ set: 'major', pattern: 'thirds' }], keys: 'fourths', seed });
  let seed = 0;
  const laid = time(9, () =>
    players.map((instrument) => layDrill(idea((seed += 1)), { level: 'intermediate', instrument })),
  );
  const parts = time(5, () =>
    players.map((instrument) => drillPart(idea((seed += 1)), { level: 'intermediate', instrument })),
  );
  // The floor: the same number of bars in quarters, only measured for their difficulty.
  const [flute] = players;
  const bars = flute ? layDrill(idea(0), { level: 'intermediate', instrument: flute }).tune.bars.length : 0;
  const quarters = quarterBars(
    Array.from({ length: 4 * bars }, (_, k) => ({ step: k % 2 ? 'C' : 'G', alter: 0, octave: 4 }) as const),
  );
  const tempo = { beat: { type: 'quarter', dots: 0 }, perMinute: 80 } as const;
  const floor = time(5, () =>
    players.map((instrument) =>
      barDifficulties(
        { bars: quarters, key: keyWithSignature(0, 'major'), meter: { count: 4, unit: 4 }, tempo },
        instrument,
      ),
    ),
  );
  line('Drills: thirds in twelve keys for eight players');
  line(
    `  laid out ${laid.toFixed(0)} ms (aim 30); as parts with difficulty ${parts.toFixed(0)} ms, ${(parts / floor).toFixed(1)} × measuring as many bars of quarters`,
  );
  const engraver = new DrillEngraver(await Engraver.start());
  const firstRow = async () => {
    const begun = performance.now();
    const work = { tune: drillTune(idea((seed += 1))), recipes: {} };
    let first = 0;
    await engraver.draw(work, 'written', 760, {
      laidOut: nothing,
      rows: () => {
        if (first > 0) return;
        first = performance.now() - begun;
        // A newer request ends this one: only the first row is waited for.
        const { drill: _, ...plain } = work.tune;
        void engraver.draw({ tune: plain, recipes: {} }, 'written', 760, { laidOut: nothing, rows: nothing });
      },
    });
    return first;
  };
  const times: number[] = [];
  for (let round = 0; round < 12; round += 1) times.push(await firstRow());
  const sorted = times.slice(3).toSorted((a, b) => a - b);
  line(
    `  a changed word to the picture of the first row ${(sorted[Math.floor(sorted.length / 2)] ?? 0).toFixed(0)} ms (aim 100)`,
  );
}
