import { readXml, type XmlElement } from '../src/core/formats/musicxml/xmlTree';

/** A sign on an engraved page. */
interface Box {
  readonly kind: string;
  readonly text: string;
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

/** What must not touch anything of `SOLID`, nor one another. */
const TEXTS = new Set(['harm', 'fing', 'dir', 'tempo', 'breath', 'mNum', 'syl']);
/** Slanting beams are left out: their boxes are mostly air. */
const SOLID = new Set(['meterSig', 'note', 'stem', 'flag', 'accid', 'artic', 'clef', 'keySig']);

/**
 * The engraver measures text in its own face, with room for accents and tails; our face is a little wider, its figures
 * lower.
 */
const INK = { wider: 1.15, above: 0.14, below: 0.24 } as const;
/** Overlaps smaller than this (a staff space is 180) are not seen. */
const SLACK = 14;

/**
 * Signs that lie on one another in the engraver's picture (made with `boxes`), in words: `harm B7sus4 on harm B7`; none
 * on a clean page.
 */
export function collisionsIn(svg: string): readonly string[] {
  const xml = readXml(svg);
  if (!xml.ok) throw new Error(xml.problem.found);
  const systems = elementsOf(xml.value, 'system');
  return systems.flatMap((system) => {
    const boxes = boxesIn(system, undefined);
    const texts = boxes.filter(({ kind }) => TEXTS.has(kind));
    const solids = boxes.filter(({ kind }) => SOLID.has(kind));
    const found: string[] = [];
    texts.forEach((one, k) => {
      for (const other of [...texts.slice(k + 1), ...solids])
        if (touches(one, other) && !belongTogether(one, other))
          found.push(`${one.kind} ${one.text} on ${other.kind} ${other.text}`.trim());
    });
    return found;
  });
}

/** The parts of one tempo mark; and a bar's number in the empty corner of the clef's box. */
function belongTogether(a: Box, b: Box): boolean {
  return (a.kind === b.kind && a.kind === 'tempo') || (a.kind === 'mNum' && (b.kind === 'clef' || b.kind === 'mNum'));
}

function touches(a: Box, b: Box): boolean {
  return (
    Math.min(a.right, b.right) - Math.max(a.left, b.left) > SLACK &&
    Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > SLACK
  );
}

function elementsOf(element: XmlElement, kind: string): readonly XmlElement[] {
  if (element.attributes['class'] === kind) return [element];
  return element.children.flatMap((one) => elementsOf(one, kind));
}

/** Half the height and the width of a note head; heads have no box of their own. */
const HEAD = { half: 90, width: 212 } as const;

function boxesIn(element: XmlElement, inside: string | undefined): readonly Box[] {
  if (element.attributes['class'] === 'notehead') {
    const place = /translate\((-?[\d.]+), (-?[\d.]+)\)/.exec(element.children[0]?.attributes['transform'] ?? '');
    const [left, middle] = [Number(place?.[1]), Number(place?.[2])];
    return place
      ? [
          {
            kind: 'note',
            text: '',
            left,
            right: left + HEAD.width,
            top: middle - HEAD.half,
            bottom: middle + HEAD.half,
          },
        ]
      : [];
  }
  // Words under the notes have none either: theirs is reckoned from their letters.
  if (inside === 'syl' && element.name === 'text') {
    const [left, baseline] = [Number(element.attributes['x']), Number(element.attributes['y'])];
    const size = largestFont(element);
    const text = textOf(element);
    return [
      {
        kind: 'syl',
        text,
        left,
        right: left + LETTER.width * size * text.length,
        top: baseline - LETTER.height * size,
        bottom: baseline,
      },
    ];
  }
  const name = (element.attributes['class'] ?? '').split(' ')[0] ?? '';
  const isBox = /bounding-box/.test(element.attributes['class'] ?? '');
  if (isBox) {
    const kind = inside ?? name;
    if (!TEXTS.has(kind) && !SOLID.has(kind)) return [];
    const rect = element.children.find((one) => one.name === 'rect');
    if (!rect) return [];
    const [x, y, width, height] = ['x', 'y', 'width', 'height'].map((key) => Number(rect.attributes[key])) as [
      number,
      number,
      number,
      number,
    ];
    const isText = TEXTS.has(kind) && kind !== 'breath';
    return [
      {
        kind,
        text: '',
        left: x,
        right: x + width * (isText ? INK.wider : 1),
        top: y + (isText ? height * INK.above : 0),
        bottom: y + height * (isText ? 1 - INK.below : 1),
      },
    ];
  }
  const own = TEXTS.has(name) || SOLID.has(name) ? name : inside;
  const text = textOf(element);
  return element.children.flatMap((one) => boxesIn(one, own)).map((box) => (box.text === '' ? { ...box, text } : box));
}

/** A letter's width and height in parts of its size, on average. */
const LETTER = { width: 0.55, height: 0.72 } as const;

function largestFont(element: XmlElement): number {
  const own = Number(/^(\d+)px$/.exec(element.attributes['font-size'] ?? '')?.[1] ?? 0);
  return Math.max(own, ...element.children.map(largestFont));
}

function textOf(element: XmlElement): string {
  return `${element.text}${element.children.map(textOf).join('')}`.trim();
}
