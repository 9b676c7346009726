import { derived } from '../../derived';
import { lineShape, lineTotal } from '../../analysis';
import type { Instrument } from '../../instruments';
import { type Bar, isNote, quartersPerMinute, type Tempo } from '../../score';
import type { Device } from '../../work';
import type { Embellisher } from './embellishLine';
import type { LevelLine, MeasuredLine } from './lineRequest';

/** How much harder than the level below a level should be, both at one tempo: what people tell apart. Ours. */
export const APART = 1.06;
/** The share of bars in which two levels differ at least, where there is room; and how many are enough in a long tune. */
const UNLIKE_BARS = { share: 0.35, enough: 8 } as const;
/** Two totals this near print as the same figure. */
const LEAST_RISE = 0.02;
/** Densities that are tried in turn until a level stands off from the one below. */
const DENSER = [20, 35, 60, 100] as const;
/** Beyond this density the tune is hard to hear; it is exceeded only where two levels would otherwise be equal. */
const DENSE_ENOUGH = 35;
/** However plain the tune, it is embellished no more often than so beyond what is usual. */
const MAX_MORE = 3;
/** What comes in, for any level above the first, where its own devices find nothing to do. */
export const MORE_DEVICES: readonly Device[] = ['again', 'approach', 'anticipation', 'grace', 'turn'];

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
 * further rounds. Distance is measured at one tempo: a tune played faster is not another part.
 */
export function ensureHarderThan(
  under: MeasuredLine,
  plain: LevelLine,
  add: Embellisher,
  instrument: Instrument,
): LevelLine {
  const { on, usual, tempo } = add;
  const atOnce = measured(under.line, instrument, tempo);
  const bars = plain.tune.bars.length;
  const unlike = Math.min(UNLIKE_BARS.enough, Math.ceil(bars * UNLIKE_BARS.share));
  let best = measured(on(plain, usual), instrument, tempo);
  const isAbove = ({ total, notes }: MeasuredLine) => total > under.total + LEAST_RISE && notes >= under.notes;
  const isApart = ({ line, total }: MeasuredLine) =>
    total >= atOnce.total * APART && barsUnlike(line, under.line) >= unlike;
  // Harder and no fewer notes; no fewer notes; neither.
  const rank = (one: MeasuredLine) => (isAbove(one) ? (isApart(one) ? 3 : 2) : one.notes >= under.notes ? 1 : 0);
  const offer = (line: LevelLine) => {
    const next = measured(line, instrument, tempo);
    if (rank(next) === rank(best) ? next.total > best.total : rank(next) > rank(best)) best = next;
  };
  const goOn = (density: number) => !isAbove(best) || (density <= DENSE_ENOUGH && !isApart(best));
  for (const density of DENSER) if (density > usual.density && goOn(density)) offer(on(plain, { ...usual, density }));
  const begun = isAbove(best) ? plain : under.line.rounds.reduce(on, plain);
  for (const density of [usual.density, ...DENSER]) if (!isAbove(best)) offer(on(begun, { ...usual, density }));
  for (let more = 0; more < MAX_MORE && !isAbove(best); more += 1) {
    const devices = [...new Set([...usual.devices, ...MORE_DEVICES.slice(0, more === 0 ? -1 : undefined)])];
    offer(on(best.line, { ...usual, devices, density: 100, isPressed: more > 0 }));
  }
  return best.line;
}

/** Bars in which two lines do not play the same notes, signs on them included. */
function barsUnlike({ base: a }: LevelLine, { base: b }: LevelLine): number {
  return a.bars.filter((bar, index) => {
    const other = b.bars[index];
    return bar !== other && wordsOf(bar) !== (other && wordsOf(other));
  }).length;
}

const wordsOf = derived((bar: Bar): string =>
  bar.events
    .map((event) =>
      isNote(event)
        ? `${event.pitch.step}${event.pitch.alter}:${event.length}${event.ornaments?.join() ?? ''}${event.graces ? '`' : ''}`
        : `z${event.length}`,
    )
    .join(' '),
);
