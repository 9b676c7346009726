import { FOR_ENGRAVER, type ScoreFile, type Staff, writeMusicXml } from '../core/formats';
import type { Part } from '../core/levels';
import { type Bar, clefFor, isNote } from '../core/score';
import { lyricMargin, type Engraver } from './engraver';
import { barWidths, goodLineStarts, planLines } from './lines';
import { partScore } from './staves';
import {
  bottomOf,
  collect,
  drawPicture,
  drawText,
  finish,
  MARGIN,
  measure,
  newDocument,
  PAPER_SIZE,
  type Paper,
} from './sheet';
import { cutSystems, type SystemPicture } from './systems';

/** As each player reads it, or as all of it sounds. */
export type ScorePitch = 'written' | 'concert';

/** Bars after which a tune without sections gets a letter. */
const BARS_TO_A_LETTER = 8;
const LETTERS = 'ABCDEFGHJKLMNOPQRSTUVWXYZ';

/**
 * All parts of a group under one another, for the teacher: each once through, bar by bar together, with bar numbers and
 * rehearsal letters; no aids.
 * @param parts bar by bar with the tune; at least one
 */
export function groupScore(parts: readonly Part[], pitch: ScorePitch, rights?: string): ScoreFile {
  const [first] = parts;
  return {
    title: first?.title ?? '',
    ...(first?.composer && { composer: first.composer }),
    ...(rights && { rights }),
    ...(first?.swing && { swing: first.swing }),
    staves: parts.flatMap((part, index): readonly Staff[] => {
      const [staff] = partScore({ ...part, leftOut: [] }).staves;
      if (!staff) return [];
      const { fingers: _, tempo, toSounding: _sounding, ...plain } = staff;
      const isTop = index === 0;
      const bars = (pitch === 'written' ? part.bars : part.soundingBars).map((bar, k) =>
        forScore(bar, k, isTop, part.bars),
      );
      return [
        {
          ...plain,
          id: `P${index + 1}`,
          name: part.playerName || part.instrument.name,
          bars,
          ...(isTop ? { tempo } : { hideChords: true }),
          ...(pitch === 'written'
            ? staff.toSounding && { toSounding: staff.toSounding }
            : {
                key: part.concertKey,
                clef: clefFor(
                  bars.flatMap(({ events }) => events.flatMap((event) => (isNote(event) ? [event.pitch] : []))),
                  ['treble', 'bass', 'alto'],
                ),
              }),
        },
      ];
    }),
  };
}

/** A bar without what is printed to help; the top staff alone has chords, signs and letters. */
function forScore({ counts: _, ...bar }: Bar, index: number, isTop: boolean, all: readonly Bar[]): Bar {
  if (!isTop) {
    const { section: _section, tempos: _tempos, jumps: _jumps, ...plain } = bar;
    return { ...plain, chords: [] };
  }
  if (all.some(({ section }) => section !== undefined)) return bar;
  const from = all[0]?.partial === undefined ? 0 : 1;
  const letter = LETTERS[(index - from) / BARS_TO_A_LETTER];
  return index >= from && (index - from) % BARS_TO_A_LETTER === 0 && letter ? { ...bar, section: letter } : bar;
}

/** A staff 5.5 mm high: as scores are read, from the conductor's desk. */
const STAFF_SPACE = 3.9;
const SPACES_PER_QUARTER = 3.8;
const HEAD = 62;
/** Room above and below a system, in staff spaces. */
const AIR = { above: 6, below: 5 };
/** Inner units of the engraver's picture to a staff space. */
const UNITS_PER_SPACE = 180;

/** The score as PDF. */
export async function scorePdf(
  engraver: Engraver,
  parts: readonly Part[],
  pitch: ScorePitch,
  paper: Paper = 'a4',
): Promise<Uint8Array> {
  const [width, height] = PAPER_SIZE[paper];
  const inside = width - 2 * MARGIN.side;
  const score = groupScore(parts, pitch);
  const [top] = score.staves;
  if (!top) throw new RangeError('a score needs a part');
  const room = inside / (STAFF_SPACE * SPACES_PER_QUARTER) - 5;
  const lines = planLines(barWidths(score.staves), room, goodLineStarts(top));
  const xml = writeMusicXml(score, {
    target: FOR_ENGRAVER,
    lineStarts: new Set(lines.slice(1).map(({ from }) => from)),
  });
  const picture = cutSystems(
    engraver.systems(xml, { width: inside, staffSpace: STAFF_SPACE, lyricMargin: lyricMargin(score.staves) }),
  );
  const scale = inside / picture.width;
  const heightOf = ({ top: from, bottom }: SystemPicture) =>
    (bottom - from + (AIR.above + AIR.below) * UNITS_PER_SPACE) * scale;
  const pages: SystemPicture[][] = [];
  let left = 0;
  for (const system of picture.systems) {
    const needs = heightOf(system);
    if (pages.length === 0 || (needs > left && (pages.at(-1)?.length ?? 0) > 0)) {
      pages.push([]);
      left = bottomOf(height) - MARGIN.top - (pages.length === 1 ? HEAD : 0);
    }
    pages.at(-1)?.push(system);
    left -= needs;
  }
  const document = newDocument(`${score.title}: score`, score.composer, paper);
  const bytes = collect(document);
  pages.forEach((systems, page) => {
    document.addPage({ size: [width, height], margin: 0 });
    let y = MARGIN.top;
    if (page === 0) {
      drawText(document, score.title || 'Untitled', MARGIN.side, y + 20, inside, { font: 'serif-bold', size: 18 });
      const words = `Score for ${parts.length === 1 ? 'one player' : `${parts.length} players`}, ${pitch === 'written' ? 'as each reads it' : 'as it sounds'}${togetherWords(parts)}`;
      drawText(document, words, MARGIN.side, y + 40, inside, { font: 'sans', size: 9.5 });
      y += HEAD;
    }
    for (const system of systems) {
      const [viewTop, viewHeight] = [system.top - AIR.above * UNITS_PER_SPACE, heightOf(system) / scale];
      const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 ${viewTop} ${picture.width} ${viewHeight}" color="black" font-family="Times" overflow="visible">${picture.definitions}${system.markup}</svg>`;
      drawPicture(document, svg, MARGIN.side, y, inside, viewHeight * scale);
      y += viewHeight * scale;
    }
    const number = `${page + 1} of ${pages.length}`;
    const style = { font: 'sans', size: 8, colour: '#333333' } as const;
    drawText(
      document,
      number,
      width - MARGIN.side - measure(document, number, style),
      height - MARGIN.bottom + 6,
      80,
      style,
    );
  });
  finish(document);
  return bytes;
}

/** Where parts cannot sound at once as they are, the score says so. */
function togetherWords(parts: readonly Part[]): string {
  const keys = new Set(parts.map(({ concertKey: { tonic } }) => `${tonic.step}${tonic.alter}`));
  const tempos = new Set(parts.map(({ tempo }) => tempo.perMinute));
  if (keys.size > 1) return '; not all in one key: they cannot play at once';
  return tempos.size > 1 ? '; not all at one tempo' : '';
}
