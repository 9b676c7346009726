import { type Instrument, instrumentById, type WrittenRange } from '../instruments';
import type { DrillIdea, Tune } from '../score';
import { drillTitle, layDrill } from './drill';

const SKETCH_RANGE: WrittenRange = {
  low: { step: 'C', alter: 0, octave: 4 },
  high: { step: 'C', alter: 0, octave: 6 },
};
/** Keys of the sketch: enough to know the drill by. */
const SKETCH_KEYS = 3;

/** Nobody's instrument: two octaves from middle C, as it sounds. */
function sketchInstrument(): Instrument {
  const flute = instrumentById('flute');
  if (!flute) throw new Error('the catalogue has no flute');
  const range = { beginner: SKETCH_RANGE, intermediate: SKETCH_RANGE, advanced: SKETCH_RANGE, full: SKETCH_RANGE };
  return { ...flute, id: 'sketch', range };
}

/**
 * The document of a drill: its idea, and its first exercise in a few keys, by which it is known on the shelf. Parts are
 * laid out from the idea.
 */
export function drillTune(idea: DrillIdea, title: string = drillTitle(idea)): Tune {
  const [first] = idea.steps;
  const asked = { level: 'beginner', instrument: sketchInstrument(), wishes: { keys: SKETCH_KEYS } } as const;
  const { tune } = layDrill({ ...idea, steps: [first] }, asked);
  // Heads of keys are for parts; on the shelf there is no room for them.
  const bars = tune.bars.map(({ section: _, ...bar }) => bar);
  return { ...tune, title, drill: idea, bars };
}

/** A drill's document with another idea. A title that said the old idea says the new one. */
export function withIdea(tune: Tune, idea: DrillIdea): Tune {
  const said = tune.drill && ownTitle(tune.title, tune.drill);
  const made = drillTune(idea, said === undefined ? tune.title : `${drillTitle(idea)}${said}`);
  return {
    ...made,
    rights: tune.rights,
    ...(tune.composer && { composer: tune.composer }),
    ...(tune.source && { source: tune.source }),
  };
}

/**
 * What follows the name of the idea in a title that nobody wrote: nothing, or a number by which it is told from others;
 * `undefined` for a title of somebody's own. Titles once said the first exercise and the set alone.
 */
function ownTitle(title: string, idea: DrillIdea): string | undefined {
  for (const name of [drillTitle(idea), drillTitle(plainIdea(idea))]) {
    const rest = title.startsWith(name) ? title.slice(name.length) : undefined;
    if (rest !== undefined && /^(?: \(\d+\))?$/.test(rest)) return rest;
  }
  return undefined;
}

function plainIdea({ steps, over }: DrillIdea): Pick<DrillIdea, 'steps' | 'over'> {
  const [{ set, pattern }, ...rest] = steps;
  return { steps: [{ set, pattern }, ...rest], ...(over && { over }) };
}
