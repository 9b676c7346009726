import { derived } from '../../derived';
import { lineShape, lineTotal } from '../../analysis';
import type { Instrument } from '../../instruments';
import { quartersPerMinute, type Tempo } from '../../score';
import type { Device } from '../../work';
import type { Embellisher } from './embellishLine';
import type { LevelLine, MeasuredLine } from './lineRequest';

/** How much harder than the level below a level should be: what people tell apart without measuring. Ours. */
export const APART = 1.1;
/** Two totals this near print as the same figure. */
const LEAST_RISE = 0.02;
/** Densities that are tried in turn until a level stands off from the one below. */
const DENSER = [20, 35, 60, 100] as const;
/** Beyond this density the tune is hard to hear; it is exceeded only where two levels would otherwise be equal. */
const DENSE_ENOUGH = 35;
/** However plain the tune, it is embellished no more often than so beyond what is usual. */
const MAX_MORE = 3;
/** What comes in, for any level above the first, where its own devices find nothing to do. */
const MORE_DEVICES: readonly Device[] = ['again', 'approach', 'anticipation', 'grace', 'turn'];

/** A line and how hard it is; what was measured while it was looked for is not measured again when it was found. */
export const measured = derived(
  (line: LevelLine, instrument: Instrument, tempo: Tempo): MeasuredLine => {
    const { base } = line;
    const { bars, key, meter } = base;
    const total = lineTotal({ bars, key, meter, tempo }, instrument, 'sounding', line.shift);
    return { line, total, notes: lineShape(base).notes.length };
  },
  { most: 1, by: (line, instrument, tempo) => [line, instrument, quartersPerMinute(tempo)] },
);

/**
 * Embellishes a line until it is harder than the level below and has no fewer notes: as is usual for the level, so that
 * each has a character of its own; then ever more densely; then on top of all that the level below was given, by
 * further rounds.
 */
export function ensureHarderThan(
  under: MeasuredLine,
  plain: LevelLine,
  add: Embellisher,
  instrument: Instrument,
): LevelLine {
  const { on, usual, tempo } = add;
  let best = measured(on(plain, usual), instrument, tempo);
  const isAbove = ({ total, notes }: MeasuredLine) => total > under.total + LEAST_RISE && notes >= under.notes;
  // Harder and no fewer notes; no fewer notes; neither.
  const rank = (one: MeasuredLine) => (isAbove(one) ? 2 : one.notes >= under.notes ? 1 : 0);
  const offer = (line: LevelLine) => {
    const next = measured(line, instrument, tempo);
    if (rank(next) === rank(best) ? next.total > best.total : rank(next) > rank(best)) best = next;
  };
  const goOn = (density: number) => !isAbove(best) || (density <= DENSE_ENOUGH && best.total < under.total * APART);
  for (const density of DENSER) if (density > usual.density && goOn(density)) offer(on(plain, { ...usual, density }));
  const begun = isAbove(best) ? plain : under.line.rounds.reduce(on, plain);
  for (const density of [usual.density, ...DENSER]) if (!isAbove(best)) offer(on(begun, { ...usual, density }));
  for (let more = 0; more < MAX_MORE && !isAbove(best); more += 1) {
    const devices = [...new Set([...usual.devices, ...MORE_DEVICES.slice(0, more === 0 ? -1 : undefined)])];
    offer(on(best.line, { ...usual, devices, density: 100, isPressed: more > 0 }));
  }
  return best.line;
}
