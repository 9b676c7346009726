import {
  type BowedFingering,
  type Chart,
  chartOf,
  describeFingering,
  type Fingering,
  type FrettedFingering,
  type HolesFingering,
  keyName,
  type ValvesFingering,
} from '../core/fingering';
import type { Instrument } from '../core/instruments';
import { stringNames } from '../core/levels';
import { escapeXml } from '../core/formats';

/** A drawing of one fingering; sizes in its own units, about a sixth of a millimetre at the 12 mm it is made for. */
export interface FingerDiagram {
  readonly svg: string;
  readonly width: number;
  readonly height: number;
  /** In words, for who cannot see it. */
  readonly words: string;
}

/**
 * All drawings are as high as this, so that they stand in line; at 12 mm on paper the smallest figure is 1.9 mm high.
 */
export const DIAGRAM_HEIGHT = 72;
const INK = '#1d211f';
const SOFT = '#8b8d82';

/** Draws a fingering: holes and keys, valves, slide, strings with the fingers on them, bars or reeds. */
export function fingerDiagram(fingering: Fingering, instrument: Instrument): FingerDiagram {
  const { body, width } = drawing(fingering, instrument);
  const words = describeFingering(fingering, stringNames(instrument));
  return {
    svg: `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${DIAGRAM_HEIGHT}" width="${width}" height="${DIAGRAM_HEIGHT}" role="img" aria-label="${escapeXml(words)}" font-family="Commissioner Variable, Commissioner, sans-serif">${body}</svg>`,
    width,
    height: DIAGRAM_HEIGHT,
    words,
  };
}

function drawing(fingering: Fingering, instrument: Instrument): { readonly body: string; readonly width: number } {
  switch (fingering.kind) {
    case 'holes': {
      const chart = chartOf(instrument);
      return chart ? holes(fingering, chart) : { body: '', width: 40 };
    }
    case 'valves':
      return valves(fingering, instrument);
    case 'slide':
      return slide(fingering.position);
    case 'bowed':
      return bowed(fingering, instrument);
    case 'fretted':
      return fretted(fingering, instrument);
    case 'bar':
      return {
        body: `<rect x="12" y="6" width="20" height="60" rx="3" fill="${INK}"/>${text(22, 40, stringOfBar(fingering.name.step, fingering.name.alter), 13, 'white')}`,
        width: 44,
      };
    case 'reed':
      return reed(fingering.hole, fingering.breath === 'blow');
  }
}

function stringOfBar(step: string, alter: number): string {
  return `${step}${alter > 0 ? '♯' : alter < 0 ? '♭' : ''}`;
}

function text(
  x: number,
  y: number,
  content: string,
  size: number,
  fill = INK,
  anchor: 'middle' | 'start' | 'end' = 'middle',
): string {
  return `<text x="${x}" y="${y}" font-size="${size}" fill="${fill}" text-anchor="${anchor}" font-weight="600">${escapeXml(content)}</text>`;
}

/** A hole: open, shut, or half shut (its left half black). */
function hole(x: number, y: number, radius: number, state: 'open' | 'half' | 'shut'): string {
  const ring = `<circle cx="${x}" cy="${y}" r="${radius}" fill="${state === 'shut' ? INK : 'none'}" stroke="${INK}" stroke-width="1.2"/>`;
  return state === 'half'
    ? `${ring}<path d="M${x} ${y - radius}a${radius} ${radius} 0 0 0 0 ${2 * radius}z" fill="${INK}"/>`
    : ring;
}

const HANDS = ['1', '2', '3', '4', '5', '6', '7'] as const;

/**
 * The tube from the top: three holes of the left hand, a line, the right hand's; the thumb at the left, keys that are
 * pressed by name at the right.
 */
function holes({ keys }: HolesFingering, chart: Chart): { readonly body: string; readonly width: number } {
  const state = (name: string) => (keys.includes(name) ? 'shut' : keys.includes(`${name}h`) ? 'half' : 'open');
  const drawn = HANDS.filter((name) => name in chart.fingers);
  const step = drawn.length > 6 ? 9.2 : 10.6;
  const radius = drawn.length > 6 ? 3.7 : 4.2;
  const x = 20;
  const yOf = (index: number) => 6 + index * step + (index > 2 ? 4.5 : 0);
  const tube = drawn.map((name, index) => hole(x, yOf(index), radius, state(name))).join('');
  const bar = `<path d="M${x - 8} ${yOf(2) + (step + 4.5) / 2}h16" stroke="${INK}" stroke-width="1"/>`;
  const thumb = ['T', '8', 'R', 'W', '2nd', 'Tb'].filter((name) => name in chart.fingers);
  const left = thumb
    .filter((name) => name === 'T' || state(name) !== 'open')
    .map((name, index) =>
      name === 'T'
        ? hole(7, 8, 3.6, state(name))
        : `${`<rect x="1" y="${16 + index * 11}" width="12" height="9.4" rx="2" fill="${INK}"/>`}${text(7, 23.4 + index * 11, name === '2nd' ? '2' : name === 'Tb' ? '♭' : name, 8, 'white')}`,
    )
    .join('');
  const named = keys.filter((key) => !/^[1-7T]h?$/.test(key) && !thumb.includes(key));
  const isLeft = (key: string) => (chart.fingers[key] ?? '').startsWith('left');
  const place = (list: readonly string[], from: number) =>
    list
      .map((key, index) =>
        text(
          28,
          from + index * 9.4,
          keyName(key).replace(/^(left|right|low|palm|high|front|thumb) /, ''),
          8.6,
          INK,
          'start',
        ),
      )
      .join('');
  const width =
    named.length > 0
      ? 28 +
        6 +
        4.9 *
          Math.max(...named.map((key) => keyName(key).replace(/^(left|right|low|palm|high|front|thumb) /, '').length))
      : 32;
  return {
    body:
      tube +
      bar +
      left +
      place(named.filter(isLeft), 10) +
      place(
        named.filter((key) => !isLeft(key)),
        yOf(3) + 8,
      ),
    width: Math.round(width),
  };
}

function valves(
  { valves: pressed, thumb }: ValvesFingering,
  { mechanism }: Instrument,
): { readonly body: string; readonly width: number } {
  const count = mechanism.kind === 'valves' ? mechanism.valves : 3;
  const down = Array.from({ length: count }, (_, k) => {
    const isDown = pressed.includes(k + 1);
    const [x, y] = [12 + k * 18, isDown ? 34 : 24];
    return `<rect x="${x - 2}" y="${y}" width="4" height="${60 - y}" fill="${isDown ? INK : 'none'}" stroke="${INK}" stroke-width="1"/>${hole(x, y, 7, isDown ? 'shut' : 'open')}${text(x, y + 3.6, String(k + 1), 9.5, isDown ? 'white' : INK)}`;
  }).join('');
  return { body: down + (thumb ? text(4, 12, 'T', 11, INK, 'start') : ''), width: 6 + count * 18 };
}

function slide(position: number): { readonly body: string; readonly width: number } {
  const x = (place: number) => 10 + (place - 1) * 11;
  const ticks = Array.from(
    { length: 7 },
    (_, k) => `<path d="M${x(k + 1)} 44v6" stroke="${SOFT}" stroke-width="1"/>`,
  ).join('');
  return {
    body: `<path d="M4 40H${x(7) + 4}" stroke="${SOFT}" stroke-width="1.4"/>${ticks}<path d="M4 36H${x(position)}v8H4" fill="none" stroke="${INK}" stroke-width="2.4"/>${text(x(position), 30, String(position), 15)}`,
    width: 86,
  };
}

/** Strings from the lowest at the left, the nut on top; the finger as a disc with its number. */
function fingerboard(
  strings: number,
  rows: number,
  first: number,
  at: { readonly string: number; readonly row: number; readonly label: string } | undefined,
  openString: number | undefined,
  lines: boolean,
): { readonly body: string; readonly width: number } {
  const gap = strings > 4 ? 8.4 : 11;
  const x = (string: number) => 12 + (strings - string) * gap;
  const top = 12;
  const rowHeight = (DIAGRAM_HEIGHT - top - 6) / rows;
  const right = x(1);
  const left = x(strings);
  const grid =
    Array.from(
      { length: strings },
      (_, k) =>
        `<path d="M${x(k + 1)} ${top}V${DIAGRAM_HEIGHT - 4}" stroke="${INK}" stroke-width="${0.7 + 0.25 * k}"/>`,
    ).join('') +
    (lines
      ? Array.from(
          { length: rows },
          (_, k) => `<path d="M${left} ${top + (k + 1) * rowHeight}H${right}" stroke="${SOFT}" stroke-width=".9"/>`,
        ).join('')
      : '') +
    `<path d="M${left - 1} ${top}H${right + 1}" stroke="${INK}" stroke-width="${first === 1 ? 2.6 : 0.9}"/>`;
  const dot = at
    ? `<circle cx="${x(at.string)}" cy="${top + (at.row - 0.5) * rowHeight}" r="5.6" fill="${INK}"/>${text(x(at.string), top + (at.row - 0.5) * rowHeight + 3.3, at.label, 9, 'white')}`
    : '';
  const open =
    openString === undefined
      ? ''
      : `<circle cx="${x(openString)}" cy="6" r="3.4" fill="none" stroke="${INK}" stroke-width="1.3"/>`;
  const number = first > 1 ? text(right + 4, top + rowHeight / 2 + 3, String(first), 9.5, INK, 'start') : '';
  return { body: grid + dot + open + number, width: Math.round(right + (first > 1 ? 18 : 10)) };
}

const ROMAN = ['½', 'I', 'II', 'III', 'IV', 'V', 'VI', 'VII', 'VIII'] as const;

function bowed(
  { string, finger, above, position }: BowedFingering,
  { mechanism }: Instrument,
): { readonly body: string; readonly width: number } {
  const strings = mechanism.kind === 'bowed' ? mechanism.strings.length : 4;
  if (finger === 0) return fingerboard(strings, 8, 1, undefined, string, false);
  const first = Math.max(1, above > 8 ? above - 4 : 1);
  const board = fingerboard(
    strings,
    8,
    first === 1 ? 1 : 2,
    { string, row: above - first + 1, label: String(finger) },
    undefined,
    false,
  );
  // In higher positions the row's number means nothing to a string player; the position's does.
  const plain = first === 1 ? board.body : board.body.replace(/<text [^>]*>2<\/text>$/, '');
  return {
    body: plain + (position === 1 ? '' : text(2, 8, ROMAN[position] ?? String(position), 8.5, INK, 'start')),
    width: board.width,
  };
}

function fretted(
  { string, fret, finger, hand }: FrettedFingering,
  { mechanism }: Instrument,
): { readonly body: string; readonly width: number } {
  const strings = mechanism.kind === 'fretted' ? mechanism.strings.length : 6;
  const first = fret > 4 ? Math.max(1, Math.min(hand, fret)) : 1;
  return fret === 0
    ? fingerboard(strings, 4, 1, undefined, string, true)
    : fingerboard(
        strings,
        Math.max(4, fret - first + 1),
        first,
        { string, row: fret - first + 1, label: String(finger) },
        undefined,
        true,
      );
}

function reed(number: number, isBlow: boolean): { readonly body: string; readonly width: number } {
  const cells = Array.from(
    { length: 10 },
    (_, k) =>
      `<rect x="${4 + k * 9}" y="30" width="8" height="12" fill="${k + 1 === number ? INK : 'none'}" stroke="${INK}" stroke-width=".9"/>`,
  ).join('');
  const x = 8 + (number - 1) * 9;
  const arrow = isBlow
    ? `<path d="M${x} 58V46m-3 4l3-4 3 4" fill="none" stroke="${INK}" stroke-width="1.6"/>`
    : `<path d="M${x} 46v12m-3-4l3 4 3-4" fill="none" stroke="${INK}" stroke-width="1.6"/>`;
  return { body: `${cells}${text(x, 24, String(number), 12)}${arrow}`, width: 98 };
}
