import SVGtoPDF from 'svg-to-pdfkit';
import type { StemlessNote, StemlessScore } from '../core/formats';
import { fingeringsFor, isFingered, markOf } from '../core/fingering';
import { nameDegree, type Scale, scaleDegrees } from '../core/harmony';
import { type Instrument, type Level, toSounding } from '../core/instruments';
import { chroma, namePitchClass, type Pitch, type PitchClass, withoutDoubleAccidental } from '../core/pitch';
import { type Extent, keyForSet, setLine } from '../core/pools';
import type { Engraver } from './engraver';
import { fingerDiagram } from './fingerDiagram';
import { drawPoolRows, type PoolRow } from './poolRows';
import { HEAD_OF_ROLE } from './poolSheet';
import {
  bottomOf,
  brokenLines,
  collect,
  drawLevelSign,
  drawPicture,
  drawText,
  finish,
  MARGIN,
  measure,
  newDocument,
  PAPER_SIZE,
  type Paper,
  type TextStyle,
} from './sheet';

/** A staff 7.6 mm high, as method books have it. */
export const STAFF_SPACE = 5.4;
export const BODY: TextStyle = { font: 'sans', size: 10.5 };
const SMALL: TextStyle = { font: 'sans', size: 9, colour: '#333333' };
const HEADING: TextStyle = { font: 'serif-bold', size: 12 };

interface SetRequest {
  readonly scale: Scale;
  readonly instrument: Instrument;
  readonly level: Level;
  readonly extent: Extent;
  readonly seed: number;
  /** Notes that are open so far; the others are left out. */
  readonly open?: readonly PitchClass[];
}

/** A page being filled from the top. */
export class Page {
  private readonly document: PDFKit.PDFDocument;
  private readonly bytes: Promise<Uint8Array>;
  private readonly size: readonly [number, number];
  private y: number = MARGIN.top;
  private pages = 0;
  readonly inside: number;

  constructor(title: string, composer: string | undefined, paper: Paper) {
    this.size = PAPER_SIZE[paper];
    this.inside = this.size[0] - 2 * MARGIN.side;
    this.document = newDocument(title, composer, paper);
    this.bytes = collect(this.document);
    this.turn();
  }

  private turn(): void {
    this.document.addPage({ size: [...this.size], margin: 0 });
    this.pages += 1;
    this.y = MARGIN.top;
  }

  /** Turns the page where so much does not fit. */
  private need(height: number): void {
    if (this.y + height > bottomOf(this.size[1])) this.turn();
  }

  title(text: string, under: string): void {
    drawText(this.document, text, MARGIN.side, this.y + 20, this.inside, { font: 'serif-bold', size: 20 });
    drawText(this.document, under, MARGIN.side, this.y + 34, this.inside, SMALL);
    this.y += 42;
  }

  player(level: Level, words: string): void {
    drawLevelSign(this.document, level, MARGIN.side + 3, this.y);
    drawText(this.document, words, MARGIN.side + 18, this.y + 11, this.inside - 18, BODY);
    this.y += 22;
  }

  space(height: number): void {
    this.y += height;
  }

  /** @param below what at least stands under it on the same page */
  heading(text: string, below = 90): void {
    this.need(below);
    this.y += 8;
    drawText(this.document, text, MARGIN.side, this.y + 11, this.inside, HEADING);
    this.y += 16;
  }

  /** A new page, whatever room is left. */
  turnOver(): void {
    this.turn();
  }

  /** Boxes to be ticked. */
  boxes(count: number): void {
    this.need(20);
    for (let k = 0; k < count; k += 1)
      this.document
        .rect(MARGIN.side + k * 20, this.y + 4, 11, 11)
        .lineWidth(0.8)
        .stroke('black');
    this.y += 22;
  }

  /** A dashed line across the page, with a word at its end. */
  coverLine(words: string): void {
    this.need(30);
    this.y += 14;
    const wide = measure(this.document, words, SMALL);
    const right = MARGIN.side + this.inside;
    this.document
      .save()
      .dash(4, { space: 3 })
      .moveTo(MARGIN.side, this.y)
      .lineTo(right - wide - 8, this.y)
      .lineWidth(0.8)
      .stroke('black')
      .restore();
    drawText(this.document, words, right - wide, this.y + 3, wide + 2, SMALL);
    this.y += 14;
  }

  /** Words broken into lines. */
  paragraph(text: string, style: TextStyle, most = this.inside): void {
    for (const line of brokenLines(this.document, text, style, most)) {
      this.need(style.size * 1.35);
      drawText(this.document, line, MARGIN.side, this.y + style.size, this.inside, style);
      this.y += style.size * 1.35;
    }
  }

  /** Short lines side by side. */
  columns(texts: readonly string[]): void {
    const widest = Math.max(...texts.map((text) => measure(this.document, text, SMALL))) + 18;
    const count = Math.max(1, Math.floor(this.inside / widest));
    for (let k = 0; k < texts.length; k += count) {
      this.need(13);
      texts.slice(k, k + count).forEach((text, column) => {
        drawText(
          this.document,
          text,
          MARGIN.side + (column * this.inside) / count,
          this.y + 9,
          this.inside / count - 6,
          SMALL,
        );
      });
      this.y += 13;
    }
  }

  /** What the heads mean. */
  legend(): void {
    this.need(20);
    let x = MARGIN.side;
    const baseline = this.y + 13;
    for (const [role, words] of [
      ['home', 'rests'],
      ['colour', 'leans'],
      ['rub', 'rubs'],
    ] as const) {
      const look = HEAD_OF_ROLE[role];
      const [rx, ry] = look === 'small' ? [2.6, 1.9] : [4, 2.9];
      this.document
        .save()
        .translate(x + 5, baseline - 3.4)
        .rotate(-18);
      const shape = this.document.ellipse(0, 0, rx, ry);
      if (look === 'open') shape.lineWidth(1.2).stroke('black');
      else shape.fill('black');
      this.document.restore();
      drawText(this.document, words, x + 14, baseline, 60, SMALL);
      x += 56;
    }
    this.y += 20;
  }

  rows(rows: readonly PoolRow[], score: StemlessScore): void {
    for (const { svg, geometry, from } of rows) {
      const scale = Math.min(1, this.inside / geometry.width);
      const height = geometry.height * scale;
      this.need(height);
      drawPicture(this.document, forPaper(svg), MARGIN.side, this.y, geometry.width * scale, height);
      const number = score.columns[from]?.number;
      if (number !== undefined && score.columns.length > 1)
        drawText(this.document, number, MARGIN.side - 16, this.y + (geometry.staves[0]?.top ?? 0) * scale, 16, SMALL);
      this.y += height + 2;
    }
  }

  /** A picture that is to keep its shape, so wide at most. */
  picture(svg: string, shape: { readonly width: number; readonly height: number }, most = this.inside): void {
    const scale = Math.min(1, most / shape.width);
    this.need(shape.height * scale + 4);
    drawPicture(this.document, forPaper(svg), MARGIN.side, this.y, shape.width * scale, shape.height * scale);
    this.y += shape.height * scale + 4;
  }

  /** The heights of some notes as a line at the right edge, beside what was written last, without saying which they are. */
  contour(heights: readonly number[], room: { readonly width: number; readonly height: number }): void {
    const [low, high] = [Math.min(...heights), Math.max(...heights)];
    const left = MARGIN.side + this.inside - room.width;
    const points = heights.map((value, k) => ({
      x: left + (k * room.width) / Math.max(1, heights.length - 1),
      y: this.y - (high === low ? 0.5 : (value - low) / (high - low)) * room.height,
    }));
    points.forEach(({ x, y }, k) => (k === 0 ? this.document.moveTo(x, y) : this.document.lineTo(x, y)));
    this.document.lineWidth(1).stroke('black');
    for (const { x, y } of points) this.document.circle(x, y, 1.6).fill('black');
  }

  /** A set up from its lowest tonic (or note), with degrees, and fingerings as marks or drawn. */
  set(engraver: Engraver, { scale, instrument, level, extent, seed, open }: SetRequest): void {
    const line = setLine(scale, instrument.range[level], extent);
    if (!line) {
      this.paragraph(`Not in the range of the ${instrument.shortName} at this level.`, SMALL);
      return;
    }
    const isOpen = (pitch: Pitch) => !open || open.some((note) => chroma(note) === chroma(pitch));
    const pitches = line.up.filter(isOpen);
    const degrees = scaleDegrees(scale.name);
    const fingerings = pitches.map((pitch) =>
      isFingered(instrument)
        ? fingeringsFor(instrument, withoutDoubleAccidental(pitch)).toSorted((a, b) => a.cost - b.cost)[0]?.fingering
        : undefined,
    );
    const drawn = instrument.mechanism.kind === 'holes';
    const heads = pitches.map((pitch, k): StemlessNote => {
      const place = scale.notes.findIndex((note) => chroma(note) === chroma(pitch));
      const degree = degrees[place];
      const fingering = fingerings[k];
      return {
        id: `n${k}`,
        pitch,
        head: 'filled',
        words: [namePitchClass(pitch), degree ? nameDegree(degree) : '', fingering && !drawn ? markOf(fingering) : ''],
      };
    });
    const score: StemlessScore = {
      title: scale.name,
      staves: [
        {
          id: 'P1',
          name: '',
          clef: instrument.clef,
          key: keyForSet(scale),
          ...(instrument.transposition.chromatic !== 0 && { toSounding: toSounding(instrument) }),
        },
      ],
      columns: [{ id: 'c0', number: '1', line: 'final', staves: [heads] }],
    };
    const width = Math.min(this.inside, (heads.length * 4.4 + 12) * STAFF_SPACE);
    const rows = drawPoolRows(engraver, score, { width, staffSpace: STAFF_SPACE, seed });
    const strip = drawn ? DIAGRAM_ROOM : 0;
    this.need((rows[0]?.geometry.height ?? 0) + strip);
    this.rows(rows, score);
    if (!drawn) return;
    let x = MARGIN.side;
    for (const [k, fingering] of fingerings.entries()) {
      if (!fingering) continue;
      const diagram = fingerDiagram(fingering, instrument);
      const size = { width: diagram.width * DIAGRAM_SCALE, height: diagram.height * DIAGRAM_SCALE };
      if (x + size.width > MARGIN.side + this.inside) {
        x = MARGIN.side;
        this.y += DIAGRAM_ROOM;
        this.need(DIAGRAM_ROOM);
      }
      // Without its own size it takes the one given; the typeface of the labels has no accidentals.
      const svg = diagram.svg
        .replace(/(<svg [^>]*?) width="[\d.]+" height="[\d.]+"/, '$1')
        .replaceAll('♭', 'b')
        .replaceAll('♯', '#');
      SVGtoPDF(this.document, svg, x, this.y, { ...size, assumePt: true, fontCallback: () => 'sans:latin' });
      const pitch = pitches[k];
      if (pitch)
        drawText(this.document, namePitchClass(pitch), x + size.width / 2 - 4, this.y + size.height + 7, 30, SMALL);
      x += Math.max(26, size.width + 8);
    }
    this.y += DIAGRAM_ROOM;
  }

  end(footer: string): Promise<Uint8Array> {
    const { document, size, pages } = this;
    if (pages === 1)
      drawText(document, footer, MARGIN.side, size[1] - MARGIN.bottom + 6, this.inside, { ...SMALL, size: 8 });
    finish(document);
    return this.bytes;
  }
}

/** A set's staff, its words and the fingerings under it, in points. */
export const SET_ROOM = 165;
const DIAGRAM_SCALE = 0.72;
const DIAGRAM_ROOM = 64;

/** Ink and fonts as the paper has them. */
export function forPaper(svg: string): string {
  return svg
    .replace(/<g [^>]*class="mNum[^"]*"[^>]*>.*?<\/g>/gs, '')
    .replace('<svg ', '<svg color="black" font-family="Times" ');
}
