import { capitalised } from '../core/plainText';
import SVGtoPDF from 'svg-to-pdfkit';
import type { HeadNote, HeadScore } from '../core/formats/musicxml/writeHeads';
import { writeHeads } from '../core/formats/musicxml/writeHeads';
import { markOf } from '../core/fingering/fingering';
import { waysFor, isFingered } from '../core/fingering/options';
import { SCALE_DICTIONARY } from '../core/harmony/scaleDictionary';
import {
  nameDegree,
  nameOfSet,
  nameScale,
  readableScale,
  scaleDegrees,
  type Scale,
  type ScaleName,
} from '../core/harmony/scales';
import { toSounding, type Instrument, type Level } from '../core/instruments/instrument';
import type { PlayerPools } from '../core/levels/levelPools';
import { nameKey } from '../core/pitch/key';
import { chroma, namePitchClass, type Pitch, type PitchClass } from '../core/pitch/pitch';
import { withoutDoubleAccidental } from '../core/pitch/respell';
import { transposeClass } from '../core/pitch/transpose';
import { backingWords, MEMORY_STEPS, rubWords, sheetAdvice } from '../core/pools/advice';
import { keyForSet, setLine, type Extent } from '../core/pools/setLine';
import { presetFor, type ImprovisingWishes } from '../core/pools/wishes';
import type { Engraver } from './engraver';
import { fingerDiagram } from './fingerDiagram';
import { drawPoolRows, type PoolRow } from './poolRows';
import { HEAD_OF_ROLE, poolScore, type SheetWords } from './poolSheet';
import {
  bottomOf,
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

/** A staff 7.6 mm high, as in parts. */
const STAFF_SPACE = 5.4;
const BODY: TextStyle = { font: 'sans', size: 10.5 };
const SMALL: TextStyle = { font: 'sans', size: 9, colour: '#333333' };
const HEADING: TextStyle = { font: 'serif-bold', size: 12 };

/** The engraver marks a picture's glyphs with the number it was given; pages of one document share none. */
const SEED = { set: 81, map: 82, symbols: 83, keys: 84 } as const;

export interface PoolSheet {
  readonly made: PlayerPools;
  readonly title: string;
  readonly composer?: string;
  readonly playerName?: string;
  readonly wishes?: ImprovisingWishes;
  readonly words?: SheetWords;
  readonly paper?: Paper;
}

/**
 * A pool sheet: for whom and in which keys, what to do and what to ask the backing for, the level's set with fingerings, the map of the
 * form with its pools, and the ways out of what rubs. With the names covered: the heads alone, then the chord symbols alone.
 */
export async function poolSheetPdf(engraver: Engraver, sheet: PoolSheet): Promise<Uint8Array> {
  const { made, title, composer, words = 'names', paper = 'a4', wishes = {} } = sheet;
  const page = new Page(`${title}: notes to improvise with`, composer, paper);
  page.title(
    title || 'Untitled',
    words === 'covered' ? 'notes to improvise with, names covered' : 'notes to improvise with',
  );
  page.player(made.level, playerWords(sheet));
  page.space(4);
  for (const line of words === 'covered' ? coveredWords() : adviceWords(made, wishes)) page.paragraph(line, BODY);
  page.legend();
  const { pools, instrument, level } = made;
  const [set] = pools.overall;
  if (set && words === 'names' && (pools.kinds.includes('whole') || pools.kinds.includes('bent'))) {
    page.heading(nameScale(set.scale));
    page.set(engraver, { scale: set.scale, instrument, level, extent: '1', seed: SEED.set, open: pools.open });
  }
  if (pools.chords.length > 0) {
    if (words === 'names') page.heading('Over the chords');
    const score = poolScore({ pools, instrument, level, bars: made.tune.bars, title: level, words });
    page.rows(drawPoolRows(engraver, score, { width: page.inside, staffSpace: STAFF_SPACE, seed: SEED.map }), score);
  }
  if (words === 'covered' && pools.chords.length > 0) {
    page.heading('And now the chords alone');
    const score = poolScore({ pools, instrument, level, bars: made.tune.bars, title: level, words });
    const bare: HeadScore = {
      ...score,
      staves: score.staves.slice(0, 1).map((staff) => ({ ...staff, name: '' })),
      columns: score.columns.map((column) => ({ ...column, staves: [[]] })),
    };
    page.rows(drawPoolRows(engraver, bare, { width: page.inside, staffSpace: STAFF_SPACE, seed: SEED.symbols }), bare);
  }
  if (words === 'names') {
    const rubs = [...new Set(pools.chords.flatMap((chord) => rubWords(chord)))];
    if (rubs.length > 0) {
      page.heading('What rubs, and where it goes');
      page.columns(rubs.map((text) => `${text}.`));
    }
    if (level === 'advanced') {
      const ways = [
        ...new Map(
          pools.chords
            .filter(({ waysIn }) => waysIn.length > 0)
            .map(({ reading, waysIn }) => {
              const { symbol } = reading.chord;
              const name = symbol.kind === 'chord' ? namePitchClass(symbol.root) : '';
              return [
                `${name}${waysIn.map(({ to }) => namePitchClass(to)).join('')}`,
                waysIn
                  .map(
                    ({ to, below, above }) => `${namePitchClass(above)} ${namePitchClass(below)} ${namePitchClass(to)}`,
                  )
                  .join('   '),
              ] as const;
            }),
        ).values(),
      ];
      if (ways.length > 0) {
        page.heading('Into each chord tone: the step above, the half step below, the tone');
        page.columns(ways);
      }
    }
  }
  return page.end(`${title} · ${playerWords(sheet)}`);
}

/** The same sheet as a file for other programs. */
export function poolSheetXml({ made, title, composer, words = 'names' }: PoolSheet, rights?: string): string {
  const { pools, instrument, level, tune } = made;
  const score = poolScore({
    pools,
    instrument,
    level,
    bars: tune.bars,
    title: `${title}: notes to improvise with`,
    words,
  });
  return writeHeads({ ...score, ...(composer && { composer }), ...(rights && { rights }) });
}

function playerWords({ made, playerName }: PoolSheet): string {
  const { instrument, level, concertKey, writtenKey } = made;
  const written = nameKey(writtenKey);
  const keys =
    instrument.transposition.chromatic % 12 === 0 ? written : `for you: ${written} · sounding: ${nameKey(concertKey)}`;
  return `${playerName ? `${playerName} · ` : ''}${instrument.name} · ${capitalised(level)} · ${keys}`;
}

function adviceWords(made: PlayerPools, wishes: ImprovisingWishes): readonly string[] {
  return [
    ...(wishes.advice ? [wishes.advice] : []),
    presetFor(made.level, wishes.school).words,
    ...sheetAdvice(made.pools),
    `${capitalised(backingWords(made.concertKey, made.tempo.perMinute))}.`,
  ];
}

function coveredWords(): readonly string[] {
  return [`For each chord: ${MEMORY_STEPS.join(', ')}. The degree of each note comes before its name.`];
}

/** A set in all twelve keys of one instrument, in the order of fourths from a tonic, as far as the level's range goes. */
export async function setsPdf(
  engraver: Engraver,
  {
    name,
    from,
    instrument,
    level,
    extent,
    paper = 'a4',
    playerName,
  }: {
    readonly name: ScaleName;
    /** Concert tonic with which the page begins. */
    readonly from: PitchClass;
    readonly instrument: Instrument;
    readonly level: Level;
    readonly extent: Extent;
    readonly paper?: Paper;
    readonly playerName?: string;
  },
): Promise<Uint8Array> {
  const title = `${capitalised(nameOfSet(name))} in twelve keys`;
  const page = new Page(title, undefined, paper);
  page.title(title, SCALE_DICTIONARY[name].built);
  page.player(
    level,
    `${playerName ? `${playerName} · ` : ''}${instrument.name} · ${capitalised(level)} · round the fourths`,
  );
  page.space(6);
  let tonic = from;
  for (let k = 0; k < 12; k += 1) {
    const concert = readableScale(tonic, name);
    const written = readableScale(transposeClass(concert.tonic, instrument.transposition), name);
    const sounding =
      chroma(written.tonic) === chroma(concert.tonic) ? '' : `   sounding ${namePitchClass(concert.tonic)}`;
    page.heading(`${nameScale(written)}${sounding}`, SET_ROOM);
    page.set(engraver, { scale: written, instrument, level, extent, seed: SEED.keys + k });
    tonic = readableScale(transposeClass(tonic, { diatonic: 3, chromatic: 5 }), 'major').tonic;
  }
  return page.end(`${title} · ${instrument.name}`);
}

/** One concert set for everybody of a group: a line for each player. */
export async function groupSetPdf(
  engraver: Engraver,
  {
    scale,
    players,
    paper = 'a4',
  }: {
    /** Concert pitch. */
    readonly scale: Scale;
    readonly players: readonly { readonly name: string; readonly instrument: Instrument; readonly level: Level }[];
    readonly paper?: Paper;
  },
): Promise<Uint8Array> {
  const title = `${nameScale(scale)} for everybody`;
  const page = new Page(title, undefined, paper);
  page.title(title, 'concert pitch; each line as its player reads it');
  page.space(8);
  players.forEach(({ name, instrument, level }, k) => {
    const written = readableScale(transposeClass(scale.tonic, instrument.transposition), scale.name);
    page.heading(`${name ? `${name} · ` : ''}${instrument.name}: ${nameScale(written)}`, SET_ROOM);
    page.set(engraver, { scale: written, instrument, level, extent: '1', seed: SEED.keys + k });
  });
  return page.end(title);
}

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
class Page {
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

  /** Words broken into lines. */
  paragraph(text: string, style: TextStyle): void {
    for (const line of this.broken(text, style, this.inside)) {
      this.need(style.size * 1.35);
      drawText(this.document, line, MARGIN.side, this.y + style.size, this.inside, style);
      this.y += style.size * 1.35;
    }
  }

  private broken(text: string, style: TextStyle, most: number): readonly string[] {
    const lines: string[] = [];
    let line = '';
    for (const word of text.split(' ')) {
      const longer = line === '' ? word : `${line} ${word}`;
      if (line !== '' && measure(this.document, longer, style) > most) {
        lines.push(line);
        line = word;
      } else line = longer;
    }
    return [...lines, line];
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

  rows(rows: readonly PoolRow[], score: HeadScore): void {
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
        ? waysFor(instrument, withoutDoubleAccidental(pitch)).toSorted((a, b) => a.cost - b.cost)[0]?.fingering
        : undefined,
    );
    const drawn = instrument.mechanism.kind === 'holes';
    const heads = pitches.map((pitch, k): HeadNote => {
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
    const score: HeadScore = {
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
const SET_ROOM = 165;
const DIAGRAM_SCALE = 0.72;
const DIAGRAM_ROOM = 64;

/** Ink and fonts as the paper has them. */
function forPaper(svg: string): string {
  return svg
    .replace(/<g [^>]*class="mNum[^"]*"[^>]*>.*?<\/g>/gs, '')
    .replace('<svg ', '<svg color="black" font-family="Times" ');
}
