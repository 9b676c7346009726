import { capitalised } from '../core/plainText';
import { type StemlessScore, writeStemless } from '../core/formats';
import { nameOfSet, nameScale, readableScale, type Scale, SCALE_DICTIONARY, type ScaleName } from '../core/harmony';
import { type Instrument, type Level, profileOf } from '../core/instruments';
import type { PlayerPools } from '../core/levels';
import { chroma, nameKey, namePitchClass, type PitchClass, transposeClass } from '../core/pitch';
import {
  backingWords,
  type Extent,
  type ImprovisingWishes,
  MEMORY_STEPS,
  presetFor,
  rubWords,
  sheetAdvice,
} from '../core/pools';
import type { Engraver } from './engraver';
import { drawPoolRows } from './poolRows';
import { poolScore, type SheetWords } from './poolSheet';
import { type Paper } from './sheet';
import { BODY, Page, SET_ROOM, STAFF_SPACE } from './sheetPage';

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
 * A pool sheet: for whom and in which keys, what to do and what to ask the backing for, the level's set with
 * fingerings, the map of the form with its pools, and the ways out of what rubs. With the names covered: the heads
 * alone, then the chord symbols alone.
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
    const bare: StemlessScore = {
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
    if (profileOf(level).pools.hasApproaches) {
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
  return writeStemless({ ...score, ...(composer && { composer }), ...(rights && { rights }) });
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

/**
 * A set in all twelve keys of one instrument, in the order of fourths from a tonic, as far as the level's range goes.
 */
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
