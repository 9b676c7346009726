import { nameValue } from '../core/time';
import { FOR_ENGRAVER, type Staff, writeMusicXml } from '../core/formats';
import { accidentalsFor, isNote, keysOf, metersOf, type Tempo } from '../core/score';
import { legendOf, type Part } from '../core/levels';

import { lyricMargin, type Engraver } from './engraver';
import { fullPage } from './fullPage';
import { withWholeRests, type Line } from './lines';
import { ossiaPictures, roomAbove, type Ossias } from './ossias';
import { partScore, playerLine } from './staves';
import {
  bottomOf,
  collect,
  drawLevelSign,
  drawPicture,
  drawText,
  finish,
  FOOTER_HEIGHT,
  MARGIN,
  measure,
  newDocument,
  PAPER_SIZE,
  type Paper,
  type TextStyle,
} from './sheet';
import { cutSystems, type SystemPicture, type TallPicture } from './systems';

const HEADER_HEIGHT = 86;
/**
 * A part as PDF: vector music, title, player line with both keys, level sign and tempo, page numbers. Lines begin with
 * sections and groups of four bars where they can; a page ends where the player rests, if one of its last systems does.
 * The same part gives the same bytes.
 */
export function partPdf(engraver: Engraver, part: Part, paper: Paper = 'a4'): Promise<Uint8Array> {
  return partsPdf(engraver, [part], paper);
}

/** Several parts in one document, in the order given, each from a new page on: for printing in one go. */
export function partsPdf(engraver: Engraver, parts: readonly Part[], paper: Paper = 'a4'): Promise<Uint8Array> {
  const [first] = parts;
  const document = newDocument(first?.title ?? '', first?.composer, paper);
  const bytes = collect(document);
  for (const part of parts) drawPart(document, engraver, part, paper);
  finish(document);
  return bytes;
}

/** Parts as a book: a page of contents with the number of the page on which each begins, then the parts. */
export function bookPdf(
  engraver: Engraver,
  title: string,
  parts: readonly Part[],
  paper: Paper = 'a4',
): Promise<Uint8Array> {
  const document = newDocument(title, undefined, paper, { bufferPages: true });
  const bytes = collect(document);
  const [width, height] = PAPER_SIZE[paper];
  const inside = width - 2 * MARGIN.side;
  document.addPage({ size: [width, height], margin: 0 });
  const begins = parts.map((part) => {
    const { count } = document.bufferedPageRange();
    drawPart(document, engraver, part, paper);
    return count + 1;
  });
  document.switchToPage(0);
  drawText(document, title, MARGIN.side, MARGIN.top + 20, inside, { font: 'serif-bold', size: 20 });
  const [first] = parts;
  if (first) drawText(document, playerLine(first), MARGIN.side, MARGIN.top + 45, inside, { font: 'sans', size: 10.5 });
  parts.forEach((part, index) => {
    const y = MARGIN.top + 90 + index * 24;
    const page = String(begins[index] ?? '');
    const style: TextStyle = { font: 'serif', size: 13 };
    const wide = measure(document, page, style);
    drawText(document, part.title || 'Untitled', MARGIN.side, y, inside - wide - 20, style);
    drawText(document, page, MARGIN.side + inside - wide, y, wide + 1, style);
  });
  finish(document);
  return bytes;
}

/** The same part with the headings of its sections covered: the player names the keys. */
export function withCoveredNames(part: Part): Part {
  return { ...part, ...(part.sections && { sections: part.sections.map((one) => ({ ...one, heading: COVERED })) }) };
}

/** A line to write the name of a key on. */
const COVERED = 'Key: ____________________';

function drawPart(document: PDFKit.PDFDocument, engraver: Engraver, part: Part, paper: Paper): void {
  const [width, height] = PAPER_SIZE[paper];
  const { picture, lines, headings, staff, staffSpace, width: inside } = partPicture(engraver, part, paper);
  const scale = inside / picture.width;
  const ossias = ossiaPictures(engraver, part, staff, lines, picture, staffSpace);
  const above: Above = { ossias, headings };
  const pages = paginate(picture, lines, part, height / scale, scale, above);
  let spread = 0;
  pages.forEach((systems, page) => {
    document.addPage({ size: [width, height], margin: 0 });
    if (page === 0) drawHeader(document, part, width);
    const head = page === 0 ? headerHeight(part) : 0;
    spread = drawSystems(document, picture, systems, above, {
      top: MARGIN.top + head,
      left: MARGIN.side,
      width: inside,
      room: bottomOf(height) - MARGIN.top - head,
      most: pages.length > 1 && page === pages.length - 1 ? spread : MAX_SPREAD * staffSpace,
    });
    drawFooter(document, part, page + 1, pages.length, width, height);
  });
}

/** What the engraver is given for a part on its paper: the score, where its lines begin, and sizes in points. */
export function partSource(part: Part, paper: Paper = 'a4', isOfSections = false) {
  const [width, height] = PAPER_SIZE[paper];
  const inside = width - 2 * MARGIN.side;
  const score = partScore(part);
  const [staff, ...under] = score.staves;
  if (!staff) throw new Error('a part has one staff');
  const withSigns: Staff = { ...staff, accidentals: accidentalsFor(staff) };
  const { tempo: _, ...untimed } = withSigns;
  const available = bottomOf(height) - MARGIN.top - headerHeight(part);
  const { lines: planned, staffSpace } = fullPage(part, withSigns, inside, isOfSections ? 0 : available);
  const lines = withWholeRests(planned, staff.restRuns ?? new Map());
  const xml = writeMusicXml(
    // The tempo stands at the head of the page, where nothing can come in its way.
    { ...score, staves: [{ ...untimed, name: '' }, ...under.map((one) => ({ ...one, name: '' }))] },
    { target: FOR_ENGRAVER, lineStarts: new Set(lines.slice(1).map(({ from }) => from)) },
  );
  return { xml, lines, staff, staffSpace, width: inside };
}

/** What stands above systems and takes room there: small staves, and the headings of sections. */
interface Above {
  readonly ossias: Ossias;
  readonly headings: ReadonlyMap<SystemPicture, string>;
}

/** Room for a heading, in staff spaces. */
const HEADING_SPACES = 3.4;

function roomOver(system: SystemPicture | undefined, { ossias, headings }: Above): number {
  const heading = system && headings.has(system) ? system.space * HEADING_SPACES : 0;
  return heading + roomAbove(system, ossias);
}

/**
 * A part's systems as one tall picture. Sections are engraved each for itself: none warns of the next one's signature.
 */
function partPicture(engraver: Engraver, part: Part, paper: Paper) {
  const { sections = [], ...whole } = part;
  const draw = (one: Part) => {
    const source = partSource(one, paper, sections.length > 0);
    const { xml, width, staffSpace, staff } = source;
    const picture = cutSystems(engraver.systems(xml, { width, staffSpace, lyricMargin: lyricMargin([staff]) }));
    return { ...source, picture };
  };
  if (sections.length === 0) return { ...draw(whole), headings: new Map<SystemPicture, string>() };
  const [keys, meters] = [
    keysOf({ key: part.writtenKey, bars: part.bars }),
    metersOf({ meter: part.meter, bars: part.bars }),
  ];
  const drawn = sections.map(({ from, to, heading }) => {
    const bars = part.bars.slice(from, to).map(({ section: _, ...bar }, index) => {
      const { key: _key, meter: _meter, ...first } = bar;
      return index === 0 ? first : bar;
    });
    const own = draw({ ...whole, bars, writtenKey: keys[from] ?? part.writtenKey, meter: meters[from] ?? part.meter });
    return { ...own, from, heading };
  });
  const pictures = stacked(drawn.map(({ picture }) => picture));
  const headings = new Map<SystemPicture, string>();
  let first = 0;
  const lines = drawn.flatMap(({ lines: own, from, heading, picture }) => {
    const system = pictures.systems[first];
    if (system) headings.set(system, heading);
    first += picture.systems.length;
    return own.map((line) => ({ from: line.from + from, to: line.to + from }));
  });
  const [{ staff, staffSpace, width }] = [drawn[0] ?? draw(whole)];
  return { picture: pictures, lines, headings, staff, staffSpace, width };
}

/** Pictures of one width under one another. */
function stacked(pictures: readonly TallPicture[]): TallPicture {
  let height = 0;
  const systems = pictures.flatMap((picture) => {
    const down = height;
    height += picture.height;
    return picture.systems.map((system) => ({
      ...system,
      markup: `<g transform="translate(0 ${down})">${system.markup}</g>`,
      top: system.top + down,
      bottom: system.bottom + down,
    }));
  });
  return {
    definitions: pictures.map(({ definitions }) => definitions).join(''),
    width: pictures[0]?.width ?? 1,
    height,
    systems,
  };
}

/** Height of a line of words before the music, points. */
const LEAD_HEIGHT = 15;

function headerHeight({ lead = [] }: Pick<Part, 'lead'>): number {
  return HEADER_HEIGHT + lead.length * LEAD_HEIGHT;
}

/** Room above and below a system's staff lines, in staff spaces, for chord symbols and ledger lines. */
const AIR = { above: 5, below: 4 };

function heightOf(picture: TallPicture, index: number): number {
  const system = picture.systems[index];
  const next = picture.systems[index + 1];
  if (!system) return 0;
  // The engraver has kept systems apart by what they hold; its distance is the least we give.
  return next ? next.top - system.top : system.bottom - system.top + system.space * AIR.below;
}

/**
 * Fills pages with systems. Of the last two that fit, the page ends after one whose music ends with a rest, for the
 * turn.
 */
function paginate(
  picture: TallPicture,
  lines: readonly Line[],
  part: Part,
  pageHeight: number,
  scale: number,
  above: Above,
): readonly (readonly SystemPicture[])[] {
  const pages: SystemPicture[][] = [];
  const endsWithRest = (index: number) => {
    const last = part.bars[(lines[index]?.to ?? 0) - 1]?.events.at(-1);
    return last !== undefined && !isNote(last);
  };
  for (let next = 0; next < picture.systems.length;) {
    const header = pages.length === 0 ? headerHeight(part) / scale : 0;
    let room = pageHeight - (MARGIN.top + MARGIN.bottom + FOOTER_HEIGHT) / scale - header;
    let end = next;
    const needs = (index: number) => heightOf(picture, index) + roomOver(picture.systems[index], above);
    while (end < picture.systems.length && (end === next || needs(end) <= room)) {
      room -= needs(end);
      end += 1;
    }
    if (end < picture.systems.length && end - next > 3 && !endsWithRest(end - 1) && endsWithRest(end - 2)) end -= 1;
    // A key that does not fit whole goes over to the next page, where that leaves this one more than half full.
    const begun = part.sections?.findLast(({ from }) => from < (lines[end]?.from ?? 0));
    const isCut = end < picture.systems.length && begun !== undefined && begun.to > (lines[end]?.from ?? 0);
    const first = isCut ? lines.findIndex(({ from }) => from === begun.from) : -1;
    if (first > next && first - next >= (end - next) / 2) end = first;
    // A last page with a single system looks forgotten.
    if (!part.sections && picture.systems.length - end === 1 && end - next > 3) end -= 1;
    pages.push(picture.systems.slice(next, end));
    next = end;
  }
  return pages;
}

/** Systems of a page that is not full are moved apart by so many staff spaces at most; more, and they fall asunder. */
const MAX_SPREAD = 13;

interface Frame {
  readonly top: number;
  readonly left: number;
  readonly width: number;
  readonly room: number;
  /** How far systems may be moved apart, points. */
  readonly most: number;
}

function drawSystems(
  document: PDFKit.PDFDocument,
  picture: TallPicture,
  systems: readonly SystemPicture[],
  over: Above,
  frame: Frame,
): number {
  const { ossias, headings } = over;
  const scale = frame.width / picture.width;
  const first = systems[0];
  const last = systems.at(-1);
  if (!first || !last) return 0;
  const above = first.space * AIR.above;
  const natural =
    (last.bottom -
      first.top +
      above +
      first.space * AIR.below +
      systems.reduce((sum, system) => sum + roomOver(system, over), 0)) *
    scale;
  // The page is filled: staves are spread over it; a last page keeps the distances of the one before.
  const spare = systems.length < 2 ? 0 : Math.min(frame.most, Math.max(0, frame.room - natural) / (systems.length - 1));
  let raised = 0;
  systems.forEach((system, index) => {
    raised += roomOver(system, over);
    const y = frame.top + (system.top - first.top + above + raised) * scale + index * spare;
    const heading = headings.get(system);
    if (heading !== undefined)
      drawText(document, heading, frame.left, y - above * scale, frame.width, {
        font: 'serif-bold',
        size: 12,
      });
    const viewTop = system.top - above;
    const viewHeight = first.space * 4 * 4;
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 ${viewTop} ${picture.width} ${viewHeight}" color="black" font-family="Times" overflow="visible">${picture.definitions}${system.markup}</svg>`;
    drawPicture(document, svg, frame.left, y - above * scale, frame.width, viewHeight * scale);
    for (const { left, width, picture: small } of ossias.get(system) ?? []) {
      const [staffPicture] = small.systems;
      if (!staffPicture) continue;
      const smallScale = (width * scale) / small.width;
      const smallAbove = ((staffPicture.bottom - staffPicture.top) / 4) * AIR.above;
      const smallSvg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 ${staffPicture.top - smallAbove} ${small.width} ${(staffPicture.bottom - staffPicture.top) * 4}" color="black" font-family="Times" overflow="visible">${small.definitions}${staffPicture.markup}</svg>`;
      const smallTop = y - above * scale - roomAbove(system, ossias) * scale + smallAbove * smallScale;
      drawPicture(
        document,
        smallSvg,
        frame.left + left * scale,
        smallTop - smallAbove * smallScale,
        width * scale,
        (staffPicture.bottom - staffPicture.top) * 4 * smallScale,
      );
      drawText(document, 'or', frame.left + left * scale - 14, smallTop + 8, 14, { font: 'sans', size: 8.5 });
    }
  });
  return spare;
}

function drawHeader(document: PDFKit.PDFDocument, part: Part, width: number): void {
  const left = MARGIN.side;
  const inside = width - 2 * MARGIN.side;
  const composer = part.composer ?? '';
  const composerWidth = Math.min(inside / 3, measure(document, composer, { font: 'sans', size: 9 }));
  drawText(document, part.title || 'Untitled', left, MARGIN.top + 20, inside - composerWidth - 24, {
    font: 'serif-bold',
    size: 20,
  });
  if (composer)
    drawText(document, composer, left + inside - composerWidth, MARGIN.top + 20, composerWidth + 1, {
      font: 'sans',
      size: 9,
    });
  // In a ring, so that the sign is not read as a note value.
  document
    .circle(left + 7.5, MARGIN.top + 41.5, 9)
    .lineWidth(0.6)
    .strokeColor('#777777')
    .stroke();
  drawLevelSign(document, part.level, left + 3, MARGIN.top + 34);
  const tempoWidth = drawTempo(document, part.tempo, left + inside, MARGIN.top + 45);
  drawText(document, playerLine(part), left + 22, MARGIN.top + 45, inside - 34 - tempoWidth, {
    font: 'sans',
    size: 10.5,
  });
  part.lead?.forEach((text, index) =>
    drawText(document, text, left, MARGIN.top + 66 + index * LEAD_HEIGHT, inside, { font: 'sans', size: 10.5 }),
  );
}

/** The music font's notes for metronome marks, and their dot (SMuFL, Metronome marks). */
const BEAT_SIGNS: Readonly<Partial<Record<string, string>>> = { half: '\uECA3', quarter: '\uECA5', eighth: '\uECA7' };
const BEAT_DOT = '\uECB7';

/** The tempo, with its words, ending at `right`; its width. */
function drawTempo(
  document: PDFKit.PDFDocument,
  { beat, perMinute, words }: Tempo,
  right: number,
  baseline: number,
): number {
  const sign = BEAT_SIGNS[beat.type];
  const figure = `${sign === undefined ? `${nameValue(beat)} ` : ''}= ${perMinute}`;
  const style: TextStyle = { font: 'serif-bold', size: 12 };
  const figureWidth = measure(document, figure, style) + 1;
  const music = sign === undefined ? '' : sign + BEAT_DOT.repeat(beat.dots);
  document.font('music').fontSize(17);
  const musicWidth = music === '' ? 0 : document.widthOfString(music) + 3;
  const said = words ? `${words}  ` : '';
  const wordsWidth = said === '' ? 0 : measure(document, said, style) + 4;
  drawText(document, figure, right - figureWidth, baseline, figureWidth + 2, style);
  if (music !== '')
    document
      .font('music')
      .fontSize(17)
      .fillColor('#000000')
      .text(music, right - figureWidth - musicWidth, baseline, { baseline: 'alphabetic', lineBreak: false });
  if (said !== '') drawText(document, said, right - figureWidth - musicWidth - wordsWidth, baseline, wordsWidth, style);
  return figureWidth + musicWidth + wordsWidth;
}

function drawFooter(
  document: PDFKit.PDFDocument,
  part: Part,
  page: number,
  pages: number,
  width: number,
  height: number,
): void {
  const style: TextStyle = { font: 'sans', size: 8, colour: '#333333' };
  const baseline = height - MARGIN.bottom + 6;
  const number = `${page} of ${pages}`;
  // The first page says what its signs mean; the others whose they are.
  const left =
    page === 1 ? legendOf(part.fingered, part.instrument).join('  ·  ') : `${part.title} · ${playerLine(part)}`;
  const numberWidth = measure(document, number, style);
  if (left) drawText(document, left, MARGIN.side, baseline, width - 2 * MARGIN.side - numberWidth - 20, style);
  drawText(document, number, width - MARGIN.side - numberWidth, baseline, numberWidth + 1, style);
}
