import { nameOfSet, nameScale, readableScale, type Scale, scaleBeside, SCALE_DICTIONARY } from '../core/harmony';
import type { Instrument, Level } from '../core/instruments';
import { capitalised } from '../core/plainText';
import { chroma, namePitchClass, type PitchClass, transposeClass } from '../core/pitch';
import type { Extent } from '../core/pools';
import type { Engraver } from './engraver';
import type { Paper } from './sheet';
import { BODY, Page, SET_ROOM } from './sheetPage';

/** Pictures of one document share no number; above those of the pool pages. */
const FIRST_SEED = 120;

/** A scale as it is said, fingered and played by one player. */
interface SheetOfScales {
  readonly set: Scale['name'];
  /** Concert; a page for each. */
  readonly tonics: readonly PitchClass[];
  readonly instrument: Instrument;
  readonly level: Level;
  readonly extent: Extent;
  readonly paper?: Paper;
}

/**
 * A sheet a scale, or a booklet of them: the names large, to be said aloud; a line under which the rest is covered; the
 * notes with degrees and fingerings; and the three steps, to be ticked. The steps are those of `MEMORY_STEPS`: say,
 * finger silently, play.
 */
export function scaleSheetPdf(
  engraver: Engraver,
  { set, tonics, instrument, level, extent, paper = 'a4' }: SheetOfScales,
): Promise<Uint8Array> {
  const [first] = tonics;
  const title =
    tonics.length === 1 && first
      ? nameScale(readableScale(transposeClass(first, instrument.transposition), set))
      : `${capitalised(nameOfSet(set))}, ${tonics.length} sheets`;
  const page = new Page(title, undefined, paper);
  tonics.forEach((tonic, k) => {
    const concert = readableScale(tonic, set);
    const written = readableScale(transposeClass(concert.tonic, instrument.transposition), set);
    if (k > 0) page.turnOver();
    const sounding =
      chroma(written.tonic) === chroma(concert.tonic) ? '' : ` · sounding ${namePitchClass(concert.tonic)}`;
    page.title(nameScale(written), SCALE_DICTIONARY[set].built);
    page.player(level, `${instrument.name} · ${capitalised(level)}${sounding}`);
    page.heading('1   Say the names aloud, up and down');
    page.space(6);
    page.paragraph([...written.notes, written.tonic].map(namePitchClass).join('   '), { font: 'serif-bold', size: 26 });
    // The schools play melodic minor natural coming down: those notes are said as well.
    const down = set === 'melodic minor' ? scaleBeside(written.tonic, 'natural minor') : undefined;
    if (down)
      page.paragraph(`coming down: ${[down.tonic, ...down.notes.toReversed()].map(namePitchClass).join('   ')}`, {
        font: 'serif-bold',
        size: 14,
      });
    page.space(4);
    page.boxes(ROUNDS);
    page.coverLine('cover what is below with a sheet of paper');
    page.heading('2   Finger silently, and say the names', SET_ROOM);
    page.set(engraver, { scale: written, instrument, level, extent, seed: FIRST_SEED + k });
    if (down) page.set(engraver, { scale: down, instrument, level, extent, seed: FIRST_SEED + tonics.length + k });
    page.boxes(ROUNDS);
    page.heading('3   Play: first looking, then with the notes covered');
    page.boxes(ROUNDS);
    page.space(6);
    page.paragraph('Rest between the rounds. Stop when something hurts, and tell your teacher.', BODY);
  });
  return page.end(`${title} · ${instrument.name}`);
}

/** Boxes to tick for each step. */
const ROUNDS = 5;
