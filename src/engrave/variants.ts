import { partOfLevel } from '../core/levels/levelPart';
import type { Level } from '../core/instruments/instrument';
import { BAR_CHOICES, type BarChoice } from '../core/levels/recipe';
import { recipesOf, withRecipe, type Work } from '../core/levels/work';
import { barTicks } from '../core/time/meter';
import { metersOf, type Bar } from '../core/score/tune';
import { TICKS_PER_QUARTER } from '../core/time/ticks';
import type { Engraver } from './engraver';
import type { PitchView } from './lanes';
import { laneStaff } from './staves';

/** Another version of a bar, drawn small; `undefined` is what the level makes of it. */
export interface BarVariant {
  readonly choice: BarChoice | undefined;
  readonly svg: string;
  /** Versions that look alike share a word: what else would give the same bar. */
  readonly same: readonly BarChoice['kind'][];
}

/** Staff space of a small picture, and what a quarter takes there, CSS pixels. */
const SMALL = { staffSpace: 4.6, quarter: 46, head: 64 } as const;

/** Seeds that a dressed bar is shown with. */
const DRESSES = [1, 2, 3] as const;

/**
 * A bar of a level in all its versions: what the level makes of it, and each that can stand there instead. Versions that come
 * out alike are shown once.
 */
export function barVariants(engraver: Engraver, work: Work, level: Level, barIndex: number, view: PitchView): readonly BarVariant[] {
  const bar = work.tune.bars[barIndex];
  if (!bar) return [];
  const bars = recipesOf(work)[level].bars ?? {};
  const meter = metersOf(work.tune)[barIndex] ?? work.tune.meter;
  const width = SMALL.head + (SMALL.quarter * barTicks(meter)) / TICKS_PER_QUARTER;
  const { [bar.id]: _, ...others } = bars;
  const choices: readonly (BarChoice | undefined)[] = [undefined, ...BAR_CHOICES.flatMap((kind): readonly BarChoice[] => (kind === 'dressed' ? DRESSES.map((seed) => ({ kind, seed })) : [{ kind }]))];
  const shown = new Map<string, { variant: BarVariant; same: BarChoice['kind'][] }>();
  for (const choice of choices) {
    const { value } = partOfLevel(work.tune, level, withRecipe(work, level, { bars: choice ? { ...others, [bar.id]: choice } : others }).recipes);
    const staff = laneStaff(level, value, view);
    const look = lookOf(staff.bars[barIndex]);
    const known = shown.get(look);
    if (known && choice) {
      if (!known.same.includes(choice.kind)) known.same.push(choice.kind);
      continue;
    }
    const { svg } = engraver.row({ staves: [staff], line: { from: barIndex, to: barIndex + 1 }, width, staffSpace: SMALL.staffSpace, seed: 900 + shown.size });
    const same: BarChoice['kind'][] = [];
    shown.set(look, { variant: { choice, svg, same }, same });
  }
  return [...shown.values()].map(({ variant }) => variant);
}

/** A bar as it is read, names of events apart. */
function lookOf(bar: Bar | undefined): string {
  return JSON.stringify(bar?.events.map(({ id: _, ...event }) => event) ?? []);
}
