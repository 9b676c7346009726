import type { Staff } from '../core/formats';
import type { Line } from './lines';
import { endOfGroup } from './svgGroups';

/**
 * Takes small staves out of a row's picture where they have nothing to show. The engraver draws a staff through its
 * whole row; another version of a bar is printed over that bar alone.
 */
export function withoutEmptyOssias(svg: string, staves: readonly Staff[], { from }: Line): string {
  if (!staves.some(({ ossiaBars }) => ossiaBars)) return svg;
  return svg
    .split(/(?=<g [^>]*class="measure[^"]*"[^>]*>)/)
    .map((measure, place) => {
      // What stands before the first measure belongs to the row.
      const bar = from + place - 1;
      if (place === 0) return measure;
      return staves.reduceRight(
        (drawn, { ossiaBars }, index) =>
          ossiaBars && !ossiaBars.has(bar) ? withoutBarLine(withoutStaff(drawn, index), index) : drawn,
        measure,
      );
    })
    .join('');
}

function withoutStaff(measure: string, index: number): string {
  const start = [...measure.matchAll(/<g [^>]*class="staff"[^>]*>/g)][index]?.index;
  return start === undefined ? measure : measure.slice(0, start) + measure.slice(endOfGroup(measure, start));
}

/** The line at a measure's end has a path for each staff. */
function withoutBarLine(measure: string, index: number): string {
  const line = measure.search(/<g [^>]*class="barLine"[^>]*>/);
  if (line < 0) return measure;
  const path = [...measure.slice(line, measure.indexOf('</g>', line)).matchAll(/<path [^>]*>/g)][index];
  if (!path) return measure;
  const at = line + path.index;
  return measure.slice(0, at) + measure.slice(at + path[0].length);
}
