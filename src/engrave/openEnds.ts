import { isNote } from '../core/score';
import type { Line } from './lines';
import type { Staff } from '../core/formats';

/** Sizes in the picture's inner units, of which a staff space has 180. */
const HEAD_WIDTH = 235;
const HEIGHT = 110;
const THICKNESS = 34;
const INCOMING_LENGTH = 330;

/**
 * Draws the ties and slurs that leave a row at its end or come into it at its start. The engraver sees one row at a
 * time, so it has only one end of them; each is drawn as in print, half on either line.
 */
export function withOpenEnds(svg: string, staves: readonly Staff[], line: Line): string {
  return staves.reduce((picture, staff) => withOpenSlurs(withOpenTies(picture, staff, line), staff, line), svg);
}

function withOpenTies(svg: string, staff: Staff, { from, to }: Line): string {
  const before = staff.bars[from - 1]?.events.at(-1);
  const first = staff.bars[from]?.events[0];
  const last = staff.bars[to - 1]?.events.at(-1);
  const entering =
    before && isNote(before) && before.tied && first ? addTie(svg, `${staff.id}:${first.id}`, 'in') : svg;
  return last && isNote(last) && last.tied && to < staff.bars.length
    ? addTie(entering, `${staff.id}:${last.id}`, 'out')
    : entering;
}

/** Slurs with one end in the row: from their first note to its end, or from its start to their last note. */
function withOpenSlurs(svg: string, staff: Staff, { from, to }: Line): string {
  const notes = staff.bars.slice(from, to).flatMap((bar) => bar.events.filter(isNote));
  const open: number[] = [];
  const spans: (readonly [number | undefined, number | undefined])[] = [];
  notes.forEach((note, index) => {
    // An end without a beginning in this row comes from the row before.
    for (let k = 0; k < (note.slurEnds ?? 0); k += 1) if (open.pop() === undefined) spans.push([undefined, index]);
    for (let k = 0; k < (note.slurStarts ?? 0); k += 1) open.push(index);
  });
  spans.push(...open.map((start) => [start, undefined] as const));
  return spans.reduce((picture, [start, end]) => {
    const covered = notes
      .slice(start ?? 0, (end ?? notes.length - 1) + 1)
      .flatMap((note) => headOf(picture, `${staff.id}:${note.id}`) ?? []);
    const [first, last] = [covered[0], covered.at(-1)];
    const carrier = notes[start ?? end ?? -1];
    if (!first || !last || !carrier) return picture;
    const top = Math.min(...covered.map(({ y }) => y)) - SLUR_CLEARANCE;
    const x1 = start === undefined ? first.x - INCOMING_LENGTH : first.x + HEAD_WIDTH / 2;
    const x2 = end === undefined ? rowEnd(picture) - 60 : last.x + HEAD_WIDTH / 2;
    const y1 = start === undefined ? top : first.y - SLUR_START;
    const y2 = end === undefined ? top : last.y - SLUR_START;
    return into(picture, `${staff.id}:${carrier.id}`, slur(x1, y1, x2, y2, top));
  }, svg);
}

/** How far a slur keeps above the highest head it covers, and above the heads it begins and ends with. */
const SLUR_CLEARANCE = 480;
const SLUR_START = 190;

function slur(x1: number, y1: number, x2: number, y2: number, top: number): string {
  const bend = (x2 - x1) / 4;
  return `<path class="slur" fill="none" d="M${x1} ${y1} C${x1 + bend} ${top} ${x2 - bend} ${top} ${x2} ${y2}" stroke-width="22" stroke-linecap="round"/>`;
}

/** Where a note's head is drawn, in inner units; `undefined` for a note that is not in the picture. */
function headOf(svg: string, id: string): { readonly x: number; readonly y: number } | undefined {
  const at = svg.indexOf(`<g id="${id}" class="note">`);
  const head =
    at < 0 ? null : /<use [^>]*transform="translate\((-?[\d.]+), (-?[\d.]+)\)/.exec(svg.slice(at, at + 1200));
  return head ? { x: Number(head[1]), y: Number(head[2]) } : undefined;
}

function into(svg: string, id: string, shape: string): string {
  const opening = `<g id="${id}" class="note">`;
  const at = svg.indexOf(opening);
  return at < 0 ? svg : `${svg.slice(0, at + opening.length)}${shape}${svg.slice(at + opening.length)}`;
}

function addTie(svg: string, id: string, way: 'in' | 'out'): string {
  const head = headOf(svg, id);
  if (!head) return svg;
  const { x, y } = head;
  const note = svg.slice(svg.indexOf(`<g id="${id}" class="note">`)).split('</g></g>')[0] ?? '';
  const stem = /class="stem"><path d="M-?[\d.]+ (-?[\d.]+) L-?[\d.]+ (-?[\d.]+)"/.exec(note);
  // A tie curves away from the stem; without one (a whole note) upwards.
  const up = !stem || Number(stem[2]) > Number(stem[1]) ? -1 : 1;
  const start = way === 'out' ? x + HEAD_WIDTH + 30 : x - 30 - INCOMING_LENGTH;
  const end = way === 'out' ? Math.max(start + 200, rowEnd(svg) - 60) : x - 30;
  const level = y + up * 60;
  return into(svg, id, arc(start, end, level, up));
}

/** The right end of the staff lines: the furthest level line of the picture. */
function rowEnd(svg: string): number {
  let furthest = 0;
  for (const [, right] of svg.matchAll(/class="staff"[^>]*><path d="M-?[\d.]+ -?[\d.]+ L(-?[\d.]+)/g))
    furthest = Math.max(furthest, Number(right));
  return furthest;
}

function arc(start: number, end: number, level: number, up: number): string {
  const bend = Math.min(300, (end - start) / 3);
  const outer = level + up * HEIGHT;
  const inner = outer - up * THICKNESS;
  return `<path class="tie" d="M${start} ${level} C${start + bend} ${outer} ${end - bend} ${outer} ${end} ${level} C${end - bend} ${inner} ${start + bend} ${inner} ${start} ${level}Z" stroke-width="8" stroke-linejoin="round"/>`;
}
