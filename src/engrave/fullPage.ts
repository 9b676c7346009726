import { printChord } from '../core/harmony';
import { profileOf } from '../core/instruments';
import type { Staff } from '../core/formats';
import type { Part } from '../core/levels';
import { hasPickup } from '../core/score';
import { TICKS_PER_QUARTER } from '../core/time';
import { PAGE_SIZE_TABLE } from '../core/work';
import { barWidths, goodLineStarts, type Line, planLines } from './lines';

const POINTS_PER_MILLIMETRE = 72 / 25.4;

/** What a quarter takes on paper, in staff spaces; see `barWidths`. */
const SPACES_PER_QUARTER = 3.8;

/** Points from one staff line to the next, for a part on its paper. */
function staffSpaceOf({ level, size = 'usual' }: Pick<Part, 'level' | 'size'>): number {
  return (profileOf(level).staffMillimetres * PAGE_SIZE_TABLE[size].times * POINTS_PER_MILLIMETRE) / 4;
}

/**
 * Bars of a line that are followed with ease, the staff spaces that such a line takes on the page with the air around
 * it, and those that it takes where lines are moved apart as far as they may be. Ours.
 */
const EASY_BARS = 6;
const EASY_SPACES = 15;
const WIDEST_SPACES = 24;

/**
 * What is tried in turn until a page is full: so many bars a line at most, and notes so much larger. First-year players
 * read down to three bars a line, others do where the tune is short; nobody's notes grow by more than a quarter.
 */
const FULLER = [
  { most: EASY_BARS, times: 1 },
  { most: 5, times: 1 },
  { most: 4, times: 1 },
  { most: 4, times: 1.1 },
  { most: 3, times: 1, isFirstYear: true },
  { most: 4, times: 1.2 },
  { most: 3, times: 1.15, isFirstYear: true },
  { most: 3, times: 1.2, isShort: true },
] as const;

/** So few bars do not fill a page in fours. */
const SHORT_TUNE = 9;

/**
 * Lines and note size with which a part fills its page, where one page has room for it: short bars are not crowded into
 * few lines above an empty half. A size that a teacher chose stays.
 * @param available height for systems, points; 0 where the part is one of several on its page
 */
export function fullPage(
  part: Part,
  staff: Staff,
  inside: number,
  available: number,
): { readonly lines: readonly Line[]; readonly staffSpace: number } {
  const widths = barWidths([staff]);
  const starts = goodLineStarts(staff);
  const usual = staffSpaceOf(part);
  // The clef and signature take room in every line.
  const roomAt = (space: number) =>
    inside / (space * SPACES_PER_QUARTER) - 2 - Math.abs(part.writtenKey.tonic.alter) * 0.5;
  const dense = { lines: planLines(widths, roomAt(usual), starts), staffSpace: usual };
  if (available === 0) return dense;
  const isFirstYear = profileOf(part.level).aids.counts;
  const options = FULLER.filter(
    (one) =>
      (!('isFirstYear' in one) || isFirstYear) &&
      (!('isShort' in one) || staff.bars.length <= SHORT_TUNE) &&
      (one.times === 1 || (part.size === undefined && !isCrowded(staff))),
  ).map(({ most, times }) => {
    const staffSpace = usual * times;
    const lines = planLines(widths, roomAt(staffSpace), starts, most, hasPickup(staff));
    return { lines, staffSpace, height: lines.length * staffSpace };
  });
  const fitting = options.filter(({ height }) => height * EASY_SPACES <= available);
  const [first] = fitting;
  if (!first) return dense;
  const isFull = ({ height }: { readonly height: number }) => height * WIDEST_SPACES >= available;
  return fitting.find(isFull) ?? fitting.reduce((best, one) => (one.height > best.height ? one : best), first);
}

/** Whether larger chord symbols would touch one another, or the finger marks beside them. */
function isCrowded({ bars, fingers }: Staff): boolean {
  const isFingered = (fingers?.size ?? 0) > 0 && bars.some(({ chords }) => chords.length > 0);
  if (isFingered) return true;
  return bars.some(({ chords }) =>
    chords.some(({ at, symbol }, k) => {
      const next = chords[k + 1];
      return next !== undefined && printChord(symbol).length * TICKS_PER_QUARTER > 2 * (next.at - at);
    }),
  );
}
