import { PDFDocument } from 'pdf-lib';
import type { Level } from '../core/instruments';
import {
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

/** One sheet of a pack, as it is made by itself. */
export interface PackChapter {
  /** What it is about: a tune's title. Chapters with the same one stand together on the cover. */
  readonly title: string;
  /** What it is: `Part`. */
  readonly words: string;
  readonly pdf: Uint8Array;
}

/** What stands on the cover of a pack, but for the contents. */
export interface PackCover {
  readonly name: string;
  /** Instrument and time. */
  readonly under: string;
  readonly level: Level;
  /** What the week is about, a line each. */
  readonly goals: readonly string[];
  /** The teacher's own line. */
  readonly note?: string;
  readonly caution: string;
  /** Where the same is found with its sounds: an address, and as a square to scan. */
  readonly link?: { readonly address: string; readonly square: string };
  readonly paper: Paper;
}

const NAME: TextStyle = { font: 'serif-bold', size: 30 };
const HEADING: TextStyle = { font: 'serif-bold', size: 13 };
const TITLE: TextStyle = { font: 'serif-bold', size: 11.5 };
const LINE: TextStyle = { font: 'sans', size: 10.5 };
const SMALL: TextStyle = { font: 'sans', size: 8.5, colour: '#333333' };
const SQUARE = 92;
/** Between lines, from a title to its first line, over a heading. Points. */
const STEP = { line: 15, title: 20, heading: 30 } as const;

/**
 * A pack: a cover with what is in it and on which page, then its sheets, their pages counted through. The same sheets
 * give the same bytes.
 */
export async function packPdf(cover: PackCover, chapters: readonly PackChapter[]): Promise<Uint8Array> {
  const sheets = await Promise.all(chapters.map(({ pdf }) => PDFDocument.load(pdf, { updateMetadata: false })));
  const counts = sheets.map((sheet) => sheet.getPageCount());
  const begins = (covers: number) =>
    counts.map((_, k) => covers + 1 + counts.slice(0, k).reduce((sum, count) => sum + count, 0));
  // How many pages the cover takes does not depend on the numbers that stand on it.
  const tried = await PDFDocument.load(await coverPdf(cover, chapters, begins(1)));
  const front = await PDFDocument.load(await coverPdf(cover, chapters, begins(tried.getPageCount())));
  const whole = await emptyDocument(cover.name);
  for (const sheet of [front, ...sheets])
    for (const page of await whole.copyPages(sheet, sheet.getPageIndices())) whole.addPage(page);
  const sizes = whole.getPages().map((page) => page.getSize());
  const numbers = await whole.embedPdf(await numberPages(cover.name, sizes), whole.getPageIndices());
  whole.getPages().forEach((page, k) => {
    const number = numbers[k];
    if (k > 0 && number) page.drawPage(number);
  });
  return whole.save();
}

/** Packs one after another, each from a front side on: for a printer that prints on both sides. */
export async function packsPdf(title: string, packs: readonly Uint8Array[]): Promise<Uint8Array> {
  const whole = await emptyDocument(title);
  for (const [k, bytes] of packs.entries()) {
    const pack = await PDFDocument.load(bytes, { updateMetadata: false });
    for (const page of await whole.copyPages(pack, pack.getPageIndices())) whole.addPage(page);
    const [first] = pack.getPages();
    if (first && k < packs.length - 1 && pack.getPageCount() % 2 === 1) {
      const { width, height } = first.getSize();
      whole.addPage([width, height]);
    }
  }
  return whole.save();
}

async function emptyDocument(title: string): Promise<PDFDocument> {
  const document = await PDFDocument.create({ updateMetadata: false });
  document.setTitle(title);
  document.setCreator('Reed Hook');
  document.setProducer('Reed Hook');
  document.setCreationDate(new Date(0));
  document.setModificationDate(new Date(0));
  return document;
}

/** Pages with nothing but whose they are and their number at the top right, to be laid over others. */
function numberPages(
  name: string,
  sizes: readonly { readonly width: number; readonly height: number }[],
): Promise<Uint8Array> {
  const document = newDocument(name, undefined, 'a4');
  const bytes = collect(document);
  sizes.forEach(({ width, height }, k) => {
    document.addPage({ size: [width, height], margin: 0 });
    const words = `${name ? `${name} · ` : ''}${k + 1} of ${sizes.length}`;
    const wide = measure(document, words, SMALL);
    drawText(document, words, width - MARGIN.side - wide, 27, wide + 1, SMALL);
  });
  finish(document);
  return bytes;
}

function coverPdf(cover: PackCover, chapters: readonly PackChapter[], begins: readonly number[]): Promise<Uint8Array> {
  const document = newDocument(cover.name, undefined, cover.paper);
  const bytes = collect(document);
  new CoverPages(document, cover).draw(chapters, begins);
  finish(document);
  return bytes;
}

class CoverPages {
  private y = 0;
  private readonly size: readonly [number, number];
  private readonly inside: number;

  constructor(
    private readonly document: PDFKit.PDFDocument,
    private readonly cover: PackCover,
  ) {
    this.size = PAPER_SIZE[cover.paper];
    this.inside = this.size[0] - 2 * MARGIN.side;
  }

  draw(chapters: readonly PackChapter[], begins: readonly number[]): void {
    this.turn();
    this.head();
    const { goals, note } = this.cover;
    if (note) this.lines([note], { font: 'serif', size: 13 });
    if (goals.length > 0) {
      this.heading('This week');
      this.lines(goals, LINE);
    }
    this.heading('In this pack');
    chapters.forEach(({ title, words }, k) => {
      const isNew = title !== chapters[k - 1]?.title;
      if (isNew && title !== '') {
        this.need(STEP.title + STEP.line);
        this.y += STEP.title;
        this.text(title, 0, TITLE);
      }
      this.need(STEP.line);
      this.y += title === '' ? STEP.title : STEP.line;
      this.entry(words, String(begins[k] ?? ''), title === '' ? 0 : 14, title === '' ? TITLE : LINE);
    });
    const { caution } = this.cover;
    drawText(this.document, caution, MARGIN.side, this.size[1] - MARGIN.bottom + 6, this.inside, SMALL);
  }

  private turn(): void {
    this.document.addPage({ size: [...this.size], margin: 0 });
    this.y = MARGIN.top;
  }

  private need(height: number): void {
    if (this.y + height > this.size[1] - MARGIN.bottom - 24) this.turn();
  }

  private text(words: string, indent: number, style: TextStyle, most = this.inside - indent): void {
    drawText(this.document, words, MARGIN.side + indent, this.y, most, style);
  }

  /** Who it is for, and where it is found with its sounds. */
  private head(): void {
    const { name, under, level, link } = this.cover;
    const most = this.inside - (link ? SQUARE + 20 : 0);
    this.y += 56;
    this.text(name || 'Pack', 0, NAME, most);
    this.y += 22;
    drawLevelSign(this.document, level, MARGIN.side, this.y - 10);
    this.text(under, 14, LINE, most - 14);
    if (link) {
      const right = MARGIN.side + this.inside;
      drawPicture(this.document, link.square, right - SQUARE, MARGIN.top + 6, SQUARE, SQUARE);
      this.y += 18;
      this.text('To listen and play along, scan the square, or open:', 0, SMALL, most);
      this.y += 12;
      this.text(link.address, 0, { ...SMALL, colour: 'black' }, this.inside);
    }
    this.y += 16;
    this.document
      .moveTo(MARGIN.side, this.y)
      .lineTo(MARGIN.side + this.inside, this.y)
      .lineWidth(1.2)
      .stroke('black');
    this.y += 6;
  }

  private heading(words: string): void {
    this.need(STEP.heading + STEP.title);
    this.y += STEP.heading;
    this.text(words, 0, HEADING);
    this.y += 3;
  }

  /** Lines of words, broken where they are too long. */
  private lines(texts: readonly string[], style: TextStyle): void {
    for (const line of texts.flatMap((text) => brokenLines(this.document, text, style, this.inside))) {
      this.need(style.size * 1.5);
      this.y += style.size * 1.5;
      this.text(line, 0, style);
    }
  }

  /** A line of the contents: dots lead to the page. */
  private entry(words: string, page: string, indent: number, style: TextStyle): void {
    const { document } = this;
    const wide = measure(document, page, style);
    const most = this.inside - indent - wide - 30;
    this.text(words, indent, style, most);
    const from = MARGIN.side + indent + Math.min(most, measure(document, words, style)) + 6;
    document
      .save()
      .dash(0.8, { space: 4 })
      .moveTo(from, this.y - 0.5)
      .lineTo(MARGIN.side + this.inside - wide - 6, this.y - 0.5)
      .lineWidth(0.6)
      .stroke('#777777')
      .restore();
    this.text(page, this.inside - wide, style, wide + 1);
  }
}
