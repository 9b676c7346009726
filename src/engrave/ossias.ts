import { FOR_ENGRAVER, type Staff, writeMusicXml } from '../core/formats';
import type { Part } from '../core/levels';
import { accidentalsFor, keysOf, metersOf } from '../core/score';
import type { Engraver } from './engraver';
import type { Line } from './lines';
import { cutSystems, type SystemPicture, type TallPicture } from './systems';

/**
 * Small staves over the systems: where each begins, and how much of the system's width it takes, in the systems' units.
 */
export type Ossias = ReadonlyMap<
  SystemPicture,
  readonly { readonly left: number; readonly width: number; readonly picture: TallPicture }[]
>;

/** How high a small staff with its air stands, in staff spaces of the system. */
const OSSIA_SPACES = 6.9;

/** The room that a system's small staves take above it, in its own units. */
export function roomAbove(system: SystemPicture | undefined, ossias: Ossias): number {
  return system && ossias.has(system) ? system.space * OSSIA_SPACES : 0;
}

/**
 * Draws other versions of bars for the systems in which they begin; one that runs on into the next system is cut there
 * in two.
 */
export function ossiaPictures(
  engraver: Engraver,
  part: Part,
  staff: Staff,
  lines: readonly Line[],
  picture: TallPicture,
  staffSpace: number,
): Ossias {
  const found = new Map<SystemPicture, { left: number; width: number; picture: TallPicture }[]>();
  const keys = keysOf(staff);
  const meters = metersOf(staff);
  for (const { at, bars } of part.ossias ?? []) {
    lines.forEach(({ from, to }, index) => {
      const system = picture.systems[index];
      const [first, end] = [Math.max(at, from), Math.min(at + bars.length, to)];
      if (!system || first >= end) return;
      // Bars that rest together are drawn as one.
      const place = (bar: number) =>
        [...(staff.restRuns ?? [])].reduce(
          (shift, [run, count]) => shift - Math.max(0, Math.min(bar, run + count) - run - (bar > run ? 1 : 0)),
          bar - from,
        );
      const [left, right] = [system.bars[place(first)]?.left, system.bars[place(end - 1)]?.right];
      if (left === undefined || right === undefined) return;
      const shown = bars
        .slice(first - at, end - at)
        .map(
          ({
            section: _,
            tempos: _t,
            repeatStart: _r,
            repeatEnd: _e,
            ending: _n,
            endingStops: _s,
            barline: _b,
            jumps: _j,
            ...bar
          }) => ({ ...bar, chords: [] }),
        );
      const { tempo: _tempo, words: _words, restRuns: _runs, fingers: _fingers, ...plain } = staff;
      const small: Staff = {
        ...plain,
        key: keys[first] ?? staff.key,
        meter: meters[first] ?? staff.meter,
        bars: shown,
        name: '',
      };
      // The meter stands in the staff below.
      const xml = writeMusicXml(
        { title: '', staves: [{ ...small, accidentals: accidentalsFor(small) }] },
        { target: FOR_ENGRAVER, from: 0, to: shown.length },
      ).replace(/<time[ >].*?<\/time>/, '');
      const drawn = cutSystems(
        engraver.systems(xml, { width: ((right - left) / picture.width) * 520, staffSpace: staffSpace * 0.68 }),
      );
      found.set(system, [...(found.get(system) ?? []), { left, width: right - left, picture: drawn }]);
    });
  }
  return found;
}
