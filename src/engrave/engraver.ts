import createVerovioModule from 'verovio/wasm';
import { enableLog, enableLogToBuffer, LOG_ERROR, VerovioToolkit } from 'verovio/esm';
import { writeMusicXml, type Staff } from '../core/formats/musicxml/writeMusicXml';
import type { Line } from './lines';
import { readGeometry, type RowGeometry } from './geometry';

/** One line of lanes as a picture: SVG with a `viewBox` in CSS pixels, to be scaled to the width it was drawn for. */
export interface EngravedRow {
  readonly from: number;
  readonly to: number;
  readonly svg: string;
  readonly geometry: RowGeometry;
}

export interface RowRequest {
  readonly staves: readonly Staff[];
  readonly line: Line;
  /** CSS pixels. */
  readonly width: number;
  /** Height of a staff space in CSS pixels; printed music is read at about 7 at arm's length on a screen. */
  readonly staffSpace: number;
  /** Tells the glyph names of one row from another's on the same page. */
  readonly seed: number;
}

/** The engraving library, warmed up once and used for one thing after another; it keeps the score last loaded. */
export class Engraver {
  private constructor(private readonly toolkit: VerovioToolkit) {}

  static async start(): Promise<Engraver> {
    const library = await createVerovioModule();
    const toolkit = new VerovioToolkit(library);
    // Errors alone, and to its buffer: a line of bars without inner breaks is what is wanted, not a warning.
    enableLog(LOG_ERROR, library);
    enableLogToBuffer(true, library);
    return new Engraver(toolkit);
  }

  /** The MusicXML of a row: equal text means an equal picture, so this is what is compared before drawing again. */
  static rowSource({ staves, line }: Pick<RowRequest, 'staves' | 'line'>): string {
    return writeMusicXml({ title: '', staves }, { forEngraver: true, from: line.from, to: line.to });
  }

  row(request: RowRequest, source = Engraver.rowSource(request)): EngravedRow {
    // At scale 100 a staff space is 18 pixels; the library takes whole numbers only.
    const scale = Math.round((request.staffSpace / 18) * 100);
    this.toolkit.setOptions({
      ...COMMON, xmlIdSeed: request.seed, scale, pageWidth: Math.round((request.width * 100) / scale), pageHeight: 60_000, adjustPageHeight: true,
      breaks: 'line', minLastJustification: 0, pageMarginLeft: 0, pageMarginRight: 0, pageMarginTop: 16, pageMarginBottom: 16,
      spacingStaff: 9, spacingSystem: 0,
    });
    this.load(source);
    const svg = this.toolkit.renderToSVG(1);
    return { from: request.line.from, to: request.line.to, svg: plainSvg(svg), geometry: readGeometry(svg, request.staves.length) };
  }

  /** A whole part as one tall picture, broken into systems where the score says so; sizes in a tenth of a millimetre. */
  systems(musicXml: string, { width, staffSpace }: { readonly width: number; readonly staffSpace: number }): string {
    // The page is laid out at scale 100, where a staff space is 18 units; here a unit is a tenth of a millimetre.
    const factor = staffSpace / 18;
    this.toolkit.setOptions({
      ...COMMON, xmlIdSeed: 1, scale: 100, pageWidth: Math.round(width / factor), pageHeight: 60_000, adjustPageHeight: true,
      breaks: 'line', minLastJustification: 0.4, pageMarginLeft: 0, pageMarginRight: 0, pageMarginTop: 40, pageMarginBottom: 40,
      spacingStaff: 9, spacingSystem: 6,
    });
    this.load(musicXml);
    return this.toolkit.renderToSVG(1);
  }

  private load(source: string): void {
    if (!this.toolkit.loadData(source)) throw new Error(`the engraver refused a score: ${this.toolkit.getLog().slice(0, 400)}`);
  }
}

/** Options of every picture. The music font's text glyphs are shipped by the app, never fetched. */
const COMMON = {
  inputFrom: 'musicxml', header: 'none', footer: 'none', font: 'Leipzig', smuflTextFont: 'none', svgViewBox: true, svgFormatRaw: true, svgRemoveXlink: true,
  mnumInterval: 0, lyricSize: 4, breaksNoWidow: false, systemDivider: 'none',
} as const;

/** Without the library's own style block (the app styles the music) and description. */
function plainSvg(svg: string): string {
  return svg.replace(/<style[^>]*>[\s\S]*?<\/style>/g, '').replace(/<desc>[\s\S]*?<\/desc>/g, '');
}
