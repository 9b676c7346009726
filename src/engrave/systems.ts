import { escapeXml, readXml, type XmlElement } from '../core/formats';

/** One system cut out of a tall picture. */
export interface SystemPicture {
  /** The system's own group, in the picture's inner units. */
  readonly markup: string;
  /** Inner units from the top of the picture to the first and last staff line. */
  readonly top: number;
  readonly bottom: number;
  /** From one line of its first staff to the next. */
  readonly space: number;
  /** Left and right edge of each bar, inner units. */
  readonly bars: readonly { readonly left: number; readonly right: number }[];
}

export interface TallPicture {
  /** Glyph definitions that the systems use. */
  readonly definitions: string;
  /** Inner units across. */
  readonly width: number;
  readonly height: number;
  readonly systems: readonly SystemPicture[];
}

/** Cuts the engraver's tall picture into systems, so that pages can be made where we want them. */
export function cutSystems(svg: string): TallPicture {
  const xml = readXml(svg);
  if (!xml.ok) throw new Error(`the engraver's picture is not XML: ${xml.problem.found}`);
  const inner = find(xml.value, (element) => element.attributes['class'] === 'definition-scale');
  const margin = find(xml.value, (element) => element.attributes['class'] === 'page-margin');
  const definitions = find(xml.value, (element) => element.name === 'defs');
  if (!inner || !margin) throw new Error("the engraver's picture has no page");
  const [, , width = 0, height = 0] = (inner.attributes['viewBox'] ?? '').split(' ').map(Number);
  const systems = margin.children
    .filter((element) => element.attributes['class'] === 'system')
    .map((system): SystemPicture => {
      const lines = staffLines(system);
      const first = find(system, (one) => one.attributes['class'] === 'staff');
      const own = first ? staffLines(first) : lines;
      return {
        markup: print(system),
        top: Math.min(...lines),
        bottom: Math.max(...lines),
        space: (Math.max(...own) - Math.min(...own)) / 4,
        bars: measuresOf(system),
      };
    });
  return { definitions: definitions ? print(definitions) : '', width, height, systems };
}

/** Where each bar begins and ends, by the staff lines drawn in it. */
function measuresOf(element: XmlElement): SystemPicture['bars'] {
  if (!/^measure\b/.test(element.attributes['class'] ?? '')) return element.children.flatMap(measuresOf);
  const staff = find(element, (one) => one.attributes['class'] === 'staff');
  const line = staff?.children
    .map(({ attributes }) => /^M(-?[\d.]+) (-?[\d.]+) L(-?[\d.]+) \2$/.exec(attributes['d'] ?? ''))
    .find((match) => match !== null);
  return line ? [{ left: Number(line[1]), right: Number(line[3]) }] : [];
}

/** Heights of all staff lines: the paths that are direct children of a staff and lie level. */
function staffLines(element: XmlElement): readonly number[] {
  const own =
    element.attributes['class'] === 'staff'
      ? element.children.flatMap(({ name, attributes }) => {
          const match =
            name === 'path' ? /^M-?[\d.]+ (-?[\d.]+) L-?[\d.]+ (-?[\d.]+)$/.exec(attributes['d'] ?? '') : null;
          return match && match[1] === match[2] ? [Number(match[1])] : [];
        })
      : [];
  return [...own, ...element.children.flatMap(staffLines)];
}

function find(element: XmlElement, wanted: (element: XmlElement) => boolean): XmlElement | undefined {
  if (wanted(element)) return element;
  for (const one of element.children) {
    const found = find(one, wanted);
    if (found) return found;
  }
  return undefined;
}

/**
 * Prints an element again, for the PDF writer: the engraver's style rule (`stroke: currentColor` on every shape)
 * becomes an attribute, which that writer reads; shapes inside a glyph are filled only.
 */
function print(element: XmlElement, inGlyph = false): string {
  const isShape = ['ellipse', 'path', 'polygon', 'polyline', 'rect'].includes(element.name);
  const stroke = isShape && !inGlyph && element.attributes['stroke'] === undefined ? ' stroke="black"' : '';
  const attributes = Object.entries(element.attributes)
    .map(([name, value]) => ` ${name}="${escapeXml(value)}"`)
    .join('');
  const glyph = inGlyph || element.name === 'defs';
  const weight = fontOf(element.attributes['class']);
  return `<${element.name}${attributes}${stroke}${weight}>${escapeXml(element.text)}${element.children.map((one) => print(one, glyph)).join('')}</${element.name}>`;
}

/** The rest of the engraver's style rules. */
function fontOf(className: string | undefined): string {
  if (className === 'ending' || className === 'reh' || className === 'tempo') return ' font-weight="bold"';
  return className === 'dir' || className === 'dynam' ? ' font-style="italic"' : '';
}
