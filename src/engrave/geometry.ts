/** Where bars and staves lie in a row's picture, in its own CSS pixels. */
export interface RowGeometry {
  readonly width: number;
  readonly height: number;
  readonly bars: readonly { readonly x: number; readonly width: number }[];
  /** Top and bottom line of each staff. */
  readonly staves: readonly {
    readonly top: number;
    readonly bottom: number;
    /** Top line of the small staff that stands over it, where there is one. */
    readonly smallTop?: number;
  }[];
}

/**
 * Reads bar and staff places from the engraver's picture: the first and last staff line of each staff in each measure.
 * The lines are the first five paths of a staff, the only ones drawn as `M x y L x y`.
 */
export function readGeometry(svg: string, staffCount: number): RowGeometry {
  const outer = /viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(svg);
  const inner = /class="definition-scale"[^>]*viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(svg);
  const margin = /class="page-margin" transform="translate\((-?[\d.]+), (-?[\d.]+)\)"/.exec(svg);
  const width = Number(outer?.[1] ?? 0);
  const height = Number(outer?.[2] ?? 0);
  const ratio = inner ? width / Number(inner[1]) : 1;
  const [left, top] = [Number(margin?.[1] ?? 0), Number(margin?.[2] ?? 0)];
  const px = (value: number, shift: number) => Math.round((value + shift) * ratio * 10) / 10;
  const bars: { x: number; width: number }[] = [];
  const staves: { top: number; bottom: number }[] = [];
  for (const measure of svg.split(/<g [^>]*class="measure[^"]*"[^>]*>/).slice(1)) {
    const found = [
      ...measure.matchAll(
        /class="staff"[^>]*>\s*<path d="M(-?[\d.]+) (-?[\d.]+) L(-?[\d.]+) -?[\d.]+"[^>]*\/>\s*(?:<path[^>]*\/>\s*){3}<path d="M-?[\d.]+ (-?[\d.]+)/g,
      ),
    ].slice(0, staffCount);
    const [first] = found;
    if (!first) continue;
    bars.push({ x: px(Number(first[1]), left), width: px(Number(first[3]) - Number(first[1]), 0) });
    if (staves.length === 0)
      staves.push(...found.map((staff) => ({ top: px(Number(staff[2]), top), bottom: px(Number(staff[4]), top) })));
  }
  return { width, height, bars, staves };
}
