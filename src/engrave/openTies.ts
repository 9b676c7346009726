import type { Staff } from '../core/formats/musicxml/writeMusicXml';
import { isNote } from '../core/score/tune';
import type { Line } from './lines';

/** Sizes in the picture's inner units, of which a staff space has 180. */
const HEAD_WIDTH = 235;
const HEIGHT = 110;
const THICKNESS = 34;
const INCOMING_LENGTH = 330;

/**
 * Draws the ties that leave a row at its end or come into it at its start. The engraver sees one row at a time, so it has
 * only one end of them; each is drawn as in print, half on either line.
 */
export function withOpenTies(svg: string, staves: readonly Staff[], { from, to }: Line): string {
  return staves.reduce((picture, staff) => {
    const before = staff.bars[from - 1]?.events.at(-1);
    const first = staff.bars[from]?.events[0];
    const last = staff.bars[to - 1]?.events.at(-1);
    const entering = before && isNote(before) && before.tied && first ? addTie(picture, `${staff.id}:${first.id}`, 'in') : picture;
    return last && isNote(last) && last.tied && to < staff.bars.length ? addTie(entering, `${staff.id}:${last.id}`, 'out') : entering;
  }, svg);
}

function addTie(svg: string, id: string, way: 'in' | 'out'): string {
  const opening = `<g id="${id}" class="note">`;
  const at = svg.indexOf(opening);
  if (at < 0) return svg;
  const note = svg.slice(at, at + 1200);
  const head = /<use [^>]*transform="translate\((-?[\d.]+), (-?[\d.]+)\)/.exec(note);
  if (!head) return svg;
  const [x, y] = [Number(head[1]), Number(head[2])];
  const stem = /class="stem"><path d="M-?[\d.]+ (-?[\d.]+) L-?[\d.]+ (-?[\d.]+)"/.exec(note.split('</g></g>')[0] ?? '');
  // A tie curves away from the stem; without one (a whole note) upwards.
  const up = !stem || Number(stem[2]) > Number(stem[1]) ? -1 : 1;
  const start = way === 'out' ? x + HEAD_WIDTH + 30 : x - 30 - INCOMING_LENGTH;
  const end = way === 'out' ? Math.max(start + 200, rowEnd(svg) - 60) : x - 30;
  const level = y + up * 60;
  return `${svg.slice(0, at + opening.length)}${arc(start, end, level, up)}${svg.slice(at + opening.length)}`;
}

/** The right end of the staff lines: the furthest level line of the picture. */
function rowEnd(svg: string): number {
  let furthest = 0;
  for (const [, right] of svg.matchAll(/class="staff"[^>]*><path d="M-?[\d.]+ -?[\d.]+ L(-?[\d.]+)/g)) furthest = Math.max(furthest, Number(right));
  return furthest;
}

function arc(start: number, end: number, level: number, up: number): string {
  const bend = Math.min(300, (end - start) / 3);
  const outer = level + up * HEIGHT;
  const inner = outer - up * THICKNESS;
  return `<path class="tie" d="M${start} ${level} C${start + bend} ${outer} ${end - bend} ${outer} ${end} ${level} C${end - bend} ${inner} ${start + bend} ${inner} ${start} ${level}Z" stroke-width="8" stroke-linejoin="round"/>`;
}
