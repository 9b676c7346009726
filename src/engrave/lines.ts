import { printChord } from '../core/harmony';
import { type Bar, barLength, isNote, metersOf } from '../core/score';
import { type Ticks, TICKS_PER_QUARTER } from '../core/time';
import type { Staff } from '../core/formats';

/** A run of bars that stand in one line of staves: `from` up to but without `to`. */
export interface Line {
  readonly from: number;
  readonly to: number;
}

/**
 * Room that each bar asks for, in widths of a quarter: what all staves strike in it, each gap by its length
 * (longer notes get more room, but less than in proportion, as in printed music), and its accidentals.
 */
export function barWidths(staves: readonly Staff[]): readonly number[] {
  const [first] = staves;
  if (!first) return [];
  const meters = metersOf(first);
  return first.bars.map((bar, index) => {
    const end = barLength(bar, meters[index] ?? first.meter);
    const onsets = new Set<Ticks>([end]);
    let extra = 0;
    for (const staff of staves) {
      let at = 0;
      let here = 0;
      for (const event of staff.bars[index]?.events ?? []) {
        onsets.add(at);
        at += event.length;
        if (isNote(event))
          here +=
            (event.graces?.length ?? 0) * 0.5 +
            (staff.accidentals?.has(event.id) ? 0.25 : 0) +
            Math.max(0, ...(event.lyrics ?? []).map(({ text }) => text.length)) * 0.08;
      }
      extra = Math.max(extra, here);
    }
    for (const { bars } of staves) extra += chordRoom(bars[index], end);
    const places = [...onsets].toSorted((a, b) => a - b);
    const notes = places
      .slice(1)
      .reduce((sum, place, k) => sum + ((place - (places[k] ?? 0)) / TICKS_PER_QUARTER) ** 0.6, 0);
    const signs = (bar.key ? 1 : 0) + (bar.meter ? 0.7 : 0) + (bar.repeatStart ? 0.5 : 0) + (bar.repeatEnd ? 0.4 : 0);
    return Math.max(1.2, notes + extra + signs + 0.5);
  });
}

/** What a letter of a chord symbol takes, in widths of a quarter, and what a quarter without notes between leaves it. */
const CHORD_LETTER = 0.3;
const QUARTER_ROOM = 0.95;

/** Room that chord symbols ask for beyond that of the notes under them. */
function chordRoom(bar: Bar | undefined, end: Ticks): number {
  const chords = bar?.chords ?? [];
  return chords.reduce((sum, { at, symbol }, k) => {
    const gap = ((chords[k + 1]?.at ?? end) - at) / TICKS_PER_QUARTER;
    return sum + Math.max(0, printChord(symbol).length * CHORD_LETTER - gap * QUARTER_ROOM);
  }, 0);
}

/**
 * What an uneven page costs. A line is best full; lines that begin where phrases usually do are easier to learn from.
 */
const COSTS = { tooFull: 40, notFull: 3, offGroup: 1.5, oneBar: 1.5, unequal: 0.35 } as const;

/** So many bars stand in a line at most. */
const MAX_IN_LINE = 12;

/** The first bar that a line which ends before `to` can begin with. */
function earliestStart(to: number, most: number, hasPickup: boolean): number {
  return hasPickup && to === most + 1 ? 0 : Math.max(0, to - most);
}

/**
 * Breaks bars into lines of about equal fullness and number of bars, by dynamic programming over the whole tune. The
 * last line may be short.
 * @param room what one line holds, in the unit of `barWidths`
 * @param goodStarts bars (indices) with which a line likes to begin
 * @param most so many bars stand in a line at most
 * @param hasPickup the first bar is a pickup, and does not count in its line
 */
export function planLines(
  widths: readonly number[],
  room: number,
  goodStarts: ReadonlySet<number>,
  most: number = MAX_IN_LINE,
  hasPickup = false,
): readonly Line[] {
  interface Plan {
    readonly cost: number;
    readonly from: number;
    readonly before: Plan | undefined;
    /** The bar after the line. */
    readonly to: number;
  }
  // Plans that end before a bar, by how many bars their last line has.
  const ending: (readonly Plan[])[] = [[{ cost: 0, from: 0, to: 0, before: undefined }]];
  for (let to = 1; to <= widths.length; to += 1) {
    let width = 0;
    const plans: Plan[] = [];
    const earliest = earliestStart(to, most, hasPickup);
    for (let from = to - 1; from >= earliest; from -= 1) {
      width += widths[from] ?? 0;
      const fullness = width / room;
      if (fullness > 1.6 && from < to - 1) break;
      const own =
        (fullness > 1 ? COSTS.tooFull * (fullness - 1) ** 2 : COSTS.notFull * (1 - fullness) ** 2) +
        (from === 0 || goodStarts.has(from) ? 0 : COSTS.offGroup) +
        (to - from === 1 && widths.length > 1 && fullness < 0.6 ? COSTS.oneBar : 0);
      const isShortLast = to === widths.length;
      let best: Plan | undefined;
      for (const before of ending[from] ?? []) {
        const bars = before.to - before.from;
        const unequal = bars === 0 || (isShortLast && to - from < bars) ? 0 : Math.abs(to - from - bars);
        const cost = before.cost + own + COSTS.unequal * unequal;
        if (!best || cost < best.cost - 1e-9) best = { cost, from, to, before };
      }
      if (best) plans.push(best);
    }
    ending.push(plans);
  }
  let plan = (ending.at(-1) ?? []).reduce<Plan | undefined>(
    (least, one) => (!least || one.cost < least.cost - 1e-9 ? one : least),
    undefined,
  );
  const lines: Line[] = [];
  for (; plan && plan.to > plan.from; plan = plan.before) lines.unshift({ from: plan.from, to: plan.to });
  return lines;
}

/** Line breaks never fall into bars that rest in one sign. */
export function withWholeRests(lines: readonly Line[], restRuns: ReadonlyMap<number, number>): readonly Line[] {
  const starts = [
    ...new Set(
      lines
        .map(({ from }) => [...restRuns].find(([run, count]) => from > run && from < run + count))
        .map((run, index) => (run ? run[0] + run[1] : (lines[index]?.from ?? 0))),
    ),
  ];
  const end = lines.at(-1)?.to ?? 0;
  return starts.filter((start) => start < end).map((from, index, all) => ({ from, to: all[index + 1] ?? end }));
}

/** Bars that begin a group of four after any pickup, or a section: where a reader expects a line to begin. */
export function goodLineStarts(staff: Staff): ReadonlySet<number> {
  const first = staff.bars[0]?.partial === undefined ? 0 : 1;
  return new Set(
    staff.bars.flatMap((bar, index) => {
      const before = staff.bars[index - 1];
      const isSection = bar.repeatStart || bar.section || before?.barline || before?.repeatEnd !== undefined;
      return index === 0 || isSection || (index - first) % 4 === 0 ? [index] : [];
    }),
  );
}
