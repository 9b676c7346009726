import { FOR_ENGRAVER, type Staff, writeMusicXml } from '../core/formats';
import createVerovioModule from 'verovio/wasm';
import { enableLog, enableLogToBuffer, LOG_ERROR, VerovioToolkit } from 'verovio/esm';
import type { Line } from './lines';
import { readGeometry, type RowGeometry } from './geometry';
import { withOpenEnds } from './openEnds';
import { withoutEmptyOssias } from './emptyOssias';
import { withoutGroups } from './svgGroups';
import { stepsBelowStaff } from '../core/score';

/** One line of lanes as a picture: SVG with a `viewBox` in CSS pixels, to be scaled to the width it was drawn for. */
export interface EngravedRow {
  readonly from: number;
  readonly to: number;
  readonly svg: string;
  readonly geometry: RowGeometry;
}

/** On what systems are drawn: sizes in points. */
export interface SystemsPage {
  readonly width: number;
  readonly staffSpace: number;
  /** See `lyricMargin`. */
  readonly lyricMargin?: number;
  /** The picture holds the box of every sign, for looking for collisions. */
  readonly boxes?: boolean;
}

/** Between the staff and words under it, in half staff spaces: what the engraver takes, and the most it can. */
const LYRIC_MARGIN = { least: 2, most: 8, underNote: 3 } as const;

/** Room between the staff and the words under it, so that they clear the lowest note that has one. */
export function lyricMargin(staves: readonly Pick<Staff, 'bars' | 'clef'>[]): number {
  let lowest = 0;
  for (const { bars, clef } of staves)
    for (const { events } of bars)
      for (const event of events)
        if (event.kind === 'note' && event.lyrics) lowest = Math.max(lowest, stepsBelowStaff(event.pitch, clef));
  return lowest === 0 ? LYRIC_MARGIN.least : Math.min(LYRIC_MARGIN.most, lowest + LYRIC_MARGIN.underNote);
}

/** On what a row is drawn. */
export interface RowPage {
  /** CSS pixels. */
  readonly width: number;
  /** Height of a staff space in CSS pixels; printed music is read at about 7 at arm's length on a screen. */
  readonly staffSpace: number;
  /** Tells the glyph names of one row from another's on the same page. */
  readonly seed: number;
}

export interface RowRequest extends RowPage {
  readonly staves: readonly Staff[];
  readonly line: Line;
}

/** The engraving library, warmed up once and used for one thing after another; it keeps the score last loaded. */
export class Engraver {
  /** The spacing that filled each row the last time. */
  private readonly spacings = new Map<string, number>();

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
    return writeMusicXml({ title: '', staves }, { target: FOR_ENGRAVER, from: line.from, to: line.to });
  }

  /**
   * Draws a row that fills its width. The engraver's own justification lays a row out several times over; laying it out
   * once, with the spacing that this row took the last time, is twice as fast, and a second time only where that
   * misses.
   */
  row(request: RowRequest, source = Engraver.rowSource(request)): EngravedRow {
    const { line, width, staves, seed } = request;
    const name = `${line.from}-${line.to}/${width}`;
    const svg = this.spread(source, name, { width, seed, staffSpace: request.staffSpace }, lyricMargin(staves));
    const picture = withWidth(svg, Math.max(width, pictureWidth(svg)), 1 + SPACING.near);
    const geometry = readGeometry(picture, staves.length);
    const lanes = staves.filter(({ ossiaBars, tab }) => !ossiaBars && !tab);
    return {
      from: line.from,
      to: line.to,
      svg: withOpenEnds(withoutEmptyOssias(plainSvg(picture), staves, line), lanes, line),
      geometry: { ...geometry, staves: lanePlaces(geometry.staves, staves) },
    };
  }

  /**
   * A row of heads (pools) that fills its width; a measure is a chord. `name` tells rows whose spacing is alike from
   * others.
   */
  heads(source: string, name: string, staffCount: number, page: RowPage): Omit<EngravedRow, 'from' | 'to'> {
    const svg = this.spread(source, `heads ${name}/${page.width}`, page);
    const picture = withWidth(svg, Math.max(page.width, pictureWidth(svg)), 1 + SPACING.near);
    return { svg: plainSvg(picture), geometry: readGeometry(picture, staffCount) };
  }

  /** Lays a row out with the spacing that fills its width. */
  private spread(
    source: string,
    name: string,
    { width, staffSpace, seed }: RowPage,
    margin: number = LYRIC_MARGIN.least,
  ): string {
    // At scale 100 a staff space is 18 pixels; the library takes whole numbers only.
    const scale = Math.round((staffSpace / 18) * 100);
    let spacing = this.spacings.get(name) ?? SPACING.first;
    let svg = '';
    for (let attempt = 0; attempt < 3; attempt += 1) {
      this.toolkit.setOptions({
        ...COMMON,
        xmlIdSeed: seed,
        scale,
        breaks: 'none',
        spacingLinear: spacing,
        pageWidth: 60_000,
        pageHeight: 60_000,
        adjustPageHeight: true,
        pageMarginLeft: 0,
        pageMarginRight: 0,
        pageMarginTop: 16,
        pageMarginBottom: 16,
        spacingStaff: 9,
        spacingSystem: 0,
        svgBoundingBoxes: false,
        bottomMarginHarm: 1,
        fingeringScale: 0.75,
        lyricTopMinMargin: margin,
      });
      this.load(source);
      svg = asWanted(this.toolkit.renderToSVG(1));
      const ratio = width / pictureWidth(svg);
      if (Math.abs(ratio - 1) < SPACING.near) break;
      const next = Math.min(SPACING.widest, Math.max(SPACING.narrowest, spacing * (1 + (ratio - 1) / SPACING.share)));
      if (next === spacing) break;
      spacing = next;
    }
    this.spacings.set(name, spacing);
    if (this.spacings.size > MAX_SPACINGS) this.spacings.delete(this.spacings.keys().next().value ?? '');
    return svg;
  }

  /**
   * A whole part as one tall picture, broken into systems where the score says so; sizes in a tenth of a millimetre.
   */
  systems(
    musicXml: string,
    { width, staffSpace, lyricMargin: margin = LYRIC_MARGIN.least, boxes = false }: SystemsPage,
  ): string {
    // The page is laid out at scale 100, where a staff space is 18 units; here a unit is a tenth of a millimetre.
    const factor = staffSpace / 18;
    this.toolkit.setOptions({
      ...COMMON,
      xmlIdSeed: 1,
      scale: 100,
      pageWidth: Math.round(width / factor),
      pageHeight: 60_000,
      adjustPageHeight: true,
      breaks: 'line',
      minLastJustification: 0.4,
      pageMarginLeft: 0,
      pageMarginRight: 0,
      pageMarginTop: 40,
      pageMarginBottom: 40,
      spacingStaff: 9,
      spacingSystem: 6,
      svgBoundingBoxes: boxes,
      bottomMarginHarm: 2,
      fingeringScale: 0.68,
      lyricTopMinMargin: margin,
    });
    this.load(musicXml);
    return asWanted(this.toolkit.renderToSVG(1));
  }

  private load(source: string): void {
    if (!this.toolkit.loadData(source))
      throw new Error(`the engraver refused a score: ${this.toolkit.getLog().slice(0, 400)}`);
  }
}

/** The places of the lanes: a small staff over one, and a tablature under it, are no lanes, but belong to it. */
function lanePlaces(places: RowGeometry['staves'], staves: readonly Staff[]): RowGeometry['staves'] {
  return places.flatMap((place, index) => {
    if (staves[index]?.ossiaBars || staves[index]?.tab) return [];
    const small = staves[index - 1]?.ossiaBars ? places[index - 1] : undefined;
    return [small ? { ...place, smallTop: small.top } : place];
  });
}

/**
 * How a row's spacing is found. `share`: the part of a row's width that follows the spacing, measured at several
 * settings.
 */
const SPACING = { first: 0.3, narrowest: 0.06, widest: 0.9, share: 0.72, near: 0.02 } as const;
const MAX_SPACINGS = 2_000;

function pictureWidth(svg: string): number {
  return Number(/viewBox="0 0 ([\d.]+)/.exec(svg)?.[1] ?? 1);
}

/**
 * A picture that is nearly as wide as wanted is shown as it is, a hair larger; one that is clearly narrower (a last
 * line of a bar or two) keeps its size and ends early, as in print.
 */
function withWidth(svg: string, width: number, most: number): string {
  const ratio = width / pictureWidth(svg);
  if (ratio <= most) return svg;
  return svg.replace(
    /viewBox="0 0 ([\d.]+) ([\d.]+)"/g,
    (_, across: string, down: string) => `viewBox="0 0 ${Math.round(Number(across) * ratio)} ${down}"`,
  );
}

/** Options of every picture. The music font's text glyphs are shipped by the app, never fetched. */
const COMMON = {
  inputFrom: 'musicxml',
  header: 'none',
  footer: 'none',
  font: 'Leipzig',
  smuflTextFont: 'none',
  svgViewBox: true,
  svgFormatRaw: true,
  svgRemoveXlink: true,
  mnumInterval: 0,
  lyricSize: 4,
  breaksNoWidow: false,
  systemDivider: 'none',
  // Grace notes, and what others play, are plainly smaller than the part's own.
  graceFactor: 0.65,
} as const;

/**
 * How counted beats differ from fingerings: lower, smaller, in the face of words. In the picture's units, a tenth of
 * which is a tenth of a staff space.
 */
const COUNTS = { lower: 70, size: 300 } as const;

/** The rhythm of a tablature is read in the staff over it. */
function asWanted(svg: string): string {
  return withCountsApart(withoutGroups(svg, 'tabDurSym'));
}

/** Counts of beats (directions of digits alone) apart from the staff and in another face. */
function withCountsApart(svg: string): string {
  return svg.replace(
    /(class="dir"><text x="-?\d+" y=")(-?\d+)("[^>]*>(?:<tspan[^>]*>)*?)<tspan font-size="\d+px">(\d{1,2})<\/tspan>/g,
    (_, before: string, y: string, between: string, count: string) =>
      `${before}${Number(y) + COUNTS.lower}${between}<tspan font-size="${COUNTS.size}px" font-family="Commissioner">${count}</tspan>`,
  );
}

/** Without the library's own style block (the app styles the music) and description. */
function plainSvg(svg: string): string {
  return svg.replace(/<style[^>]*>[\s\S]*?<\/style>/g, '').replace(/<desc>[\s\S]*?<\/desc>/g, '');
}
