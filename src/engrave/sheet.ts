import { join } from 'node:path';
import PDFDocument from 'pdfkit';
import SVGtoPDF from 'svg-to-pdfkit';
import { type Level, LEVELS } from '../core/instruments';
import { isPlainLatin, textFontFiles, textRuns, type Face } from './textFonts';

/** What all printed sheets share: paper, fonts, text, pictures, the sign of a level. */

export const PAPERS = ['a4', 'letter'] as const;
export type Paper = (typeof PAPERS)[number];

/** What a week of practice is printed on besides: it lies in an instrument case. */
export const WEEK_PAPERS = ['a5', ...PAPERS] as const;
export type WeekPaper = (typeof WEEK_PAPERS)[number];

/** Points, 1/72 inch. */
export const PAPER_SIZE: Readonly<Record<WeekPaper, readonly [number, number]>> = {
  a5: [419.53, 595.28],
  a4: [595.28, 841.89],
  letter: [612, 792],
};
export const MARGIN = { side: 48, top: 44, bottom: 44 };
export const FOOTER_HEIGHT = 20;
export function bottomOf(height: number): number {
  return height - MARGIN.bottom - FOOTER_HEIGHT;
}

/** An empty document with its fonts; the same content gives the same bytes. */
export function newDocument(
  title: string,
  composer: string | undefined,
  paper: WeekPaper,
  options: Pick<PDFKit.PDFDocumentOptions, 'bufferPages'> = {},
): PDFKit.PDFDocument {
  const document = new PDFDocument({
    ...options,
    size: [...PAPER_SIZE[paper]],
    margin: 0,
    autoFirstPage: false,
    compress: true,
    info: {
      Title: title,
      ...(composer && { Author: composer }),
      Creator: 'Reed Hook',
      Producer: 'Reed Hook',
      CreationDate: new Date(0),
      ModDate: new Date(0),
    },
  });
  registerFonts(document);
  return document;
}

/**
 * What the signs of the music font are in plain text (Unicode, Miscellaneous Symbols and Musical Symbols); SMuFL gives
 * them private places.
 */
const PLAIN_SIGNS: Readonly<Record<number, number>> = {
  0xe260: 0x266d,
  0xe261: 0x266e,
  0xe262: 0x266f,
  0xe263: 0x1d12a,
  0xe264: 0x1d12b,
  0xea63: 0x1d12b,
  0xea64: 0x266d,
  0xea65: 0x266e,
  0xea66: 0x266f,
  0xea67: 0x1d12a,
  0xed60: 0x266d,
  0xed61: 0x266e,
  0xed62: 0x266f,
  0xeca3: 0x1d15e,
  0xeca5: 0x2669,
  0xeca7: 0x266a,
  0xecb7: 0x2e,
};

/** A font as the document holds it: the characters of each glyph that was used. */
interface UsedFont {
  readonly unicode?: number[][];
}

/** Ends a document. Flats, sharps and notes read back, or copied, as the signs they are. */
export function finish(document: PDFKit.PDFDocument): void {
  const fonts = (document as unknown as { readonly _fontFamilies?: Readonly<Record<string, UsedFont>> })._fontFamilies;
  for (const font of Object.values(fonts ?? {}))
    font.unicode?.forEach((characters, glyph, all) => {
      if (characters.some((one) => PLAIN_SIGNS[one] !== undefined))
        all[glyph] = characters.map((one) => PLAIN_SIGNS[one] ?? one);
    });
  document.end();
}

export function collect(document: PDFKit.PDFDocument): Promise<Uint8Array> {
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = [];
    document.on('data', (chunk: Buffer) => chunks.push(chunk));
    document.on('end', () => resolve(Buffer.concat(chunks)));
    document.on('error', reject);
  });
}

export function drawPicture(
  document: PDFKit.PDFDocument,
  svg: string,
  x: number,
  y: number,
  width: number,
  height: number,
): void {
  SVGtoPDF(document, inOtherScripts(svg), x, y, {
    width,
    height,
    assumePt: true,
    preserveAspectRatio: 'xMinYMin meet',
    fontCallback: (family, bold) =>
      family.includes('Leipzig')
        ? 'music'
        : family.includes('Commissioner')
          ? 'sans:latin'
          : family.includes(':')
            ? family
            : bold
              ? 'serif-bold:latin'
              : 'serif:latin',
  });
}

/** Accidentals of the music font beside letters, in parts of the letters' size. */
const SIGN = { larger: 1.5, raised: 0.34 } as const;

/** Words under the notes in a font that has them; the drawing takes one font for each piece of text. */
function inOtherScripts(svg: string): string {
  return svg.replace(/<tspan([^>]*)>([^<]+)<\/tspan>/g, (whole, attributes: string, text: string) => {
    if (isPlainLatin(text) || /Leipzig/.test(attributes)) return whole;
    const bare = attributes.replace(/\sfont-family="[^"]*"/, '');
    const size = Number(/font-size="([\d.]+)px"/.exec(attributes)?.[1] ?? 0);
    // The music font's signs hang about their line: beside letters they stand higher and larger, and what follows comes
    // down again.
    let raised = 0;
    const runs = textRuns(text, 'serif').map(({ font, text: words }) => {
      const wanted = font === 'music' ? Math.round(size * SIGN.raised) : 0;
      const moved = raised - wanted;
      raised = wanted;
      const shift = moved === 0 ? '' : ` dy="${moved}"`;
      return font === 'music'
        ? `<tspan font-family="Leipzig" font-size="${Math.round(size * SIGN.larger)}px"${shift}>${words}</tspan>`
        : `<tspan${bare} font-family="${font}"${shift}>${words}</tspan>`;
    });
    return runs.join('') + (raised === 0 ? '' : `<tspan${bare} dy="${raised}">\u200a</tspan>`);
  });
}

function registerFonts(document: PDFKit.PDFDocument): void {
  for (const { name, path, family } of textFontFiles()) document.registerFont(name, path, family);
  // Both the server and the command line run in the project's folder; a bundler must not follow this.
  const music = join(
    /* turbopackIgnore: true */ process.cwd(),
    'node_modules',
    '@vexflow-fonts',
    'leipzig',
    'leipzig.otf',
  );
  document.registerFont('music', music);
}

export interface TextStyle {
  readonly font: Face;
  readonly size: number;
  readonly colour?: string;
}

export function measure(document: PDFKit.PDFDocument, text: string, { font, size }: TextStyle): number {
  return textRuns(text, font).reduce(
    (sum, run) => sum + document.font(run.font).fontSize(sizeOf(run.font, size)).widthOfString(run.text),
    0,
  );
}

function sizeOf(font: string, size: number): number {
  return font === 'music' ? size * SIGN.larger : size;
}

/** Words as lines no wider than so much. */
export function brokenLines(
  document: PDFKit.PDFDocument,
  text: string,
  style: TextStyle,
  most: number,
): readonly string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of text.split(' ')) {
    const longer = line === '' ? word : `${line} ${word}`;
    if (line !== '' && measure(document, longer, style) > most) {
      lines.push(line);
      line = word;
    } else line = longer;
  }
  return [...lines, line];
}

/** One line of text from a baseline; too long a one is cut with an ellipsis. */
export function drawText(
  document: PDFKit.PDFDocument,
  text: string,
  x: number,
  baseline: number,
  most: number,
  style: TextStyle,
): void {
  let shown = text;
  while (measure(document, shown, style) > most && shown.length > 1)
    shown = `${[...shown.replace(/…$/, '')].slice(0, -1).join('')}…`;
  let at = x;
  for (const run of textRuns(shown, style.font)) {
    // The music font's signs hang about their line, and are drawn for a staff: beside letters they stand higher and
    // larger.
    const raised = run.font === 'music' ? baseline - style.size * SIGN.raised : baseline;
    document
      .font(run.font)
      .fontSize(sizeOf(run.font, style.size))
      .fillColor(style.colour ?? 'black')
      .text(run.text, at, raised, { lineBreak: false, baseline: 'alphabetic' });
    at += document.widthOfString(run.text);
  }
}

/** The sign of the level: a note stem with one, two or three hooks. Drawn, so that it prints in black at any size. */
export function drawLevelSign(document: PDFKit.PDFDocument, level: Level, x: number, y: number): void {
  const hooks = LEVELS.indexOf(level) + 1;
  document.save().translate(x, y).lineWidth(0.9).strokeColor('black').fillColor('black');
  document.ellipse(2.6, 11.6, 2.9, 2.1).fill();
  document.moveTo(5.2, 11.4).lineTo(5.2, 0).stroke();
  for (let hook = 0; hook < hooks; hook += 1) document.path(`M5.2 ${hook * 2.7} c0.4 1.8 3.4 1.9 2.6 4.6`).stroke();
  document.restore();
}
