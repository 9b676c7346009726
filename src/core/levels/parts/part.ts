import { barDifficulties, type Difficulty, type Phrase, phrasesOf } from '../../analysis';
import { type Instrument, type Level, toSounding, profileOf } from '../../instruments';
import {
  type Interval,
  type Key,
  type Pitch,
  pitchClassOf,
  readableInterval,
  withoutDoubleAccidental,
} from '../../pitch';
import {
  type Bar,
  barNumbers,
  keysOf,
  lineByOctaves,
  mapNotes,
  soundingNotes,
  type Swing,
  type Tablature,
  type Tempo,
  type Tune,
  withFinalBarline,
} from '../../score';
import type { Meter } from '../../time';
import { aidsFor, withAids } from '../page/aids';
import { breathsOf, breathTooLong, type Breaths } from '../page/breaths';
import { type Change, type FormWishes, levelTempo, type PageSize } from '../../work';
import { fingerPart, type FingeredPart, tablatureOf } from '../page/fingerPart';
import { extremesOf, type NoteOutside } from '../fit/fit';
import { transposeBars, type KeyedBars } from '../fit/inKey';
import { runsLeftOut, withCues, withRests, type BarRun } from '../bars/leaveOut';
import { fidelityTo } from '../line/fidelity';
import type { PageRequest } from '../page/pageRequest';
import { phrasesIn } from '../bars/versions';
import type { Source } from '../line/source';
import type { LevelLine, LineRequest } from '../line/lineRequest';

/** What one player reads, computed from tune, level and instrument; never stored. */
export interface Part {
  readonly level: Level;
  readonly instrument: Instrument;
  readonly title: string;
  readonly composer?: string;
  /** For whom, where it is written for one player of a group. */
  readonly playerName?: string;
  readonly concertKey: Key;
  readonly writtenKey: Key;
  readonly meter: Meter;
  readonly tempo: Tempo;
  readonly swing?: Swing;
  /** Written pitch. */
  readonly bars: readonly Bar[];
  /** Passages that are left out, and printed as rests. */
  readonly leftOut?: readonly BarRun[];
  readonly ossias?: readonly Ossia[];
  /** The same bars as they sound. */
  readonly soundingBars: readonly Bar[];
  /** Added to a concert pitch (or chord) to get the written one, spelling included. */
  readonly written: Interval;
  /** Octaves by which the line was moved against the tune, apart from the instrument's own. */
  readonly octaves: number;
  readonly lowest?: Pitch;
  readonly highest?: Pitch;
  readonly outside: readonly NoteOutside[];
  readonly fidelity: number;
  /** How the line is fingered and what of it is printed; none where no marks are wanted. */
  readonly fingered?: FingeredPart;
  /** Where a fretted line is stopped, for a tablature under the notes. */
  readonly tab?: Tablature;
  /** What a drill is in, where that is not one key: the set, or how many keys; as it is read, and as it sounds. */
  readonly called?: { readonly written: string; readonly sounding: string };
  /** A staff under the part's own with nothing on it, to be written into. */
  readonly below?: { readonly key: Key; readonly title: string };
  /** Stretches that stand for themselves under a heading, and between which pages are turned: the keys of a drill. */
  readonly sections?: readonly PartSection[];
  /** Bars that are left empty, to be written into, by index. */
  readonly blank?: ReadonlySet<number>;
  /** A word over the beginning of a bar, by index. */
  readonly words?: ReadonlyMap<number, string>;
  /** Sentences that are printed before the music. */
  readonly lead?: readonly string[];
  /** How large it is printed; usual for its level where nothing is said. */
  readonly size?: PageSize;
  /** For each bar as it is read; see `lineDifficulty` for the whole. */
  readonly difficulty: readonly Difficulty[];
}

/** Bars `from` up to but without `to` under a heading. */
interface PartSection extends BarRun {
  readonly heading: string;
}

/** Another version of some bars, for a small staff over them. */
interface Ossia {
  /** Index of the part's bar over which it begins. */
  readonly at: number;
  /** Written pitch. */
  readonly bars: readonly Bar[];
}

export interface PartRequest extends LineRequest {
  /** Nothing is printed over the notes by default. */
  readonly page?: PageRequest;
  readonly form?: FormWishes;
}

/**
 * A line that is made already, in concert pitch and where it shall lie, as a part: only written out, with marks and
 * aids as asked.
 * @param phrases where they are known; else they are looked for
 */
export function partOfLine(
  line: Tune,
  request: Pick<PartRequest, 'level' | 'instrument' | 'keyAndTempo' | 'page'>,
  phrases: readonly Phrase[] = phrasesOf(line),
): Part {
  return finished({ tune: line, phrases }, request, {
    tune: line,
    base: line,
    shift: 0,
    octaves: 0,
    outside: [],
    changes: [],
    rounds: [],
  }).value;
}

/** A level's line as the player reads it: written pitch, tempo, marks and aids, and what is said of it. */
export function finished(
  { tune, phrases }: Source,
  { level, instrument, keyAndTempo = {}, articulation = {}, form = {}, page = {} }: PartRequest,
  line: LevelLine,
): { readonly value: Part; readonly changes: readonly Change[] } {
  const { fingers, size, tab } = page;
  const written = readableInterval(line.tune.key, instrument.transposition);
  const onPage = transposeBars(line.tune, instrument.transposition);
  const plain = profileOf(level).readsDoubleAccidentals
    ? { bars: onPage.bars, changes: [] }
    : withoutDoubles(line.tune, onPage.bars);
  const extremes = extremesOf(plain.bars);
  const tempo = levelTempo(tune, level, keyAndTempo.perMinute);
  const whole = withFinalBarline(plain.bars);
  const leftOut = form.leaveOut === 'rests' ? runsLeftOut(whole) : [];
  const bars = withRests({ bars: whole, meter: tune.meter }, leftOut);
  const cued = (played: readonly Bar[]) =>
    leftOut.length === 0
      ? played
      : withCues(played, leftOut, transposeBars(lineByOctaves(tune, line.octaves), instrument.transposition).bars);
  const fingered =
    fingers && fingers.marks !== 'none'
      ? fingerPart({ bars, meter: tune.meter }, tempo, instrument, fingers)
      : undefined;
  const tablature = tab && tablatureOf({ bars, meter: tune.meter }, tempo, instrument, fingered ?? fingers);
  const phrasesHere = () => phrasesIn({ ...line.tune, bars }, tune, phrases);
  const helped = aided(tune, { key: onPage.key, bars, phrasesHere }, { tempo, instrument, level }, page);
  const heard =
    plain.bars === onPage.bars
      ? heardBars(line.tune, onPage, instrument)
      : transposeBars({ key: onPage.key, bars: plain.bars }, toSounding(instrument)).bars;
  const soundingBars = withRests({ bars: withFinalBarline(heard), meter: tune.meter }, leftOut);
  return {
    value: {
      level,
      instrument,
      title: tune.title,
      ...(tune.composer && { composer: tune.composer }),
      concertKey: line.tune.key,
      writtenKey: onPage.key,
      meter: tune.meter,
      tempo,
      ...swingOf(articulation.swing ?? tune.swing),
      bars: cued(helped.bars),
      soundingBars,
      ...(leftOut.length > 0 && { leftOut }),
      written,
      octaves: line.octaves,
      ...extremes,
      outside: line.outside,
      fidelity: fidelityTo(
        { tune, phrases },
        { bars: leftOut.length > 0 ? soundingBars : plainOf(line).bars, meter: tune.meter },
      ),
      ...(fingered && { fingered }),
      ...(tablature && { tab: tablature }),
      ...(size && size !== 'usual' && { size }),
      ...wordsOver(line, articulation.style === 'each' ? eachNoteWords(instrument) : undefined),
      difficulty: barDifficulties({ bars, key: onPage.key, meter: tune.meter, tempo }, instrument),
    },
    changes: [...line.changes, ...plain.changes, ...helped.changes].toSorted((a, b) => a.barIndex - b.barIndex),
  };
}

/** Words over the beginning of bars: how notes are struck, and where the end grows broader. */
function wordsOver({ tune, broadens }: LevelLine, first: string | undefined): Pick<Part, 'words'> {
  const end: readonly (readonly [number, string])[] = broadens ? [[tune.bars.length - 2, 'rit.']] : [];
  const words = new Map<number, string>([...(first === undefined ? [] : [[0, first] as const]), ...end]);
  return words.size > 0 ? { words } : {};
}

/** What stands over a line in which nothing is slurred, so that a player does not do it either. */
function eachNoteWords({ family }: Instrument): string {
  switch (family) {
    case 'strings':
      return 'a bow for every note';
    case 'fretted':
      return 'every note plucked';
    case 'voice':
    case 'percussion':
      return 'every note by itself';
    default:
      return 'every note tongued';
  }
}

/** The bars with the aids that are wanted over and under them, and a word where the breath does not last. */
function aided(
  tune: Tune,
  { key, bars, phrasesHere }: KeyedBars & { readonly phrasesHere: () => readonly Phrase[] },
  player: { readonly tempo: Tempo; readonly instrument: Instrument; readonly level: Level },
  { aids = {}, barAids = {}, syllables = 'counting' }: PageRequest,
): { readonly bars: readonly Bar[]; readonly changes: readonly Change[] } {
  if (Object.keys(aids).length + Object.keys(barAids).length === 0) return { bars, changes: [] };
  const { meter } = tune;
  const context = { key, meter, syllables, phrases: phrasesHere(), ...player };
  const breaths =
    wantsBreaths(aids, barAids) && aidsFor(player.instrument).includes('breaths')
      ? breathsOf(soundingNotes({ bars, meter }), bars, context)
      : undefined;
  return {
    bars: withAids(bars, aids, { ...context, breaths, barAids }),
    changes: breaths && aids.breaths ? longBreath(tune, breaths) : [],
  };
}

/** What sounds when a page is played: the line itself, unless a stretch of it is written in an enharmonic twin. */
function heardBars(line: Tune, onPage: KeyedBars, instrument: Instrument): readonly Bar[] {
  const { transposition } = instrument;
  const isExact = [...new Set(keysOf(line))].every((key) => readableInterval(key, transposition) === transposition);
  return isExact ? line.bars : transposeBars(onPage, toSounding(instrument)).bars;
}

/**
 * The line in the octave that all players have it from, where it was only moved; octaves of the whole do not count in
 * what is left of a tune.
 */
function plainOf({ tune, base, shift }: LevelLine): Tune {
  return tune === lineByOctaves(base, shift) ? base : tune;
}

function wantsBreaths(aids: NonNullable<PageRequest['aids']>, barAids: NonNullable<PageRequest['barAids']>): boolean {
  return aids.breaths !== undefined || Object.values(barAids).some((own) => own.includes('breaths'));
}

/** A word for the stretch that the player's breath does not last for. */
function longBreath(tune: Tune, breaths: Breaths): readonly Change[] {
  const found = breathTooLong(breaths);
  if (!found) return [];
  const { seconds, barIndex } = found;
  const detail = { kind: 'long-breath' as const, seconds, lasts: breaths.lasts };
  return [{ bar: barNumbers(tune)[barIndex] ?? 0, barIndex, events: [], detail }];
}

function swingOf(swing: Swing | 'straight' | undefined): { readonly swing?: Swing } {
  return swing === undefined || swing === 'straight' ? {} : { swing };
}

function withoutDoubles(
  concert: Tune,
  written: readonly Bar[],
): { readonly bars: readonly Bar[]; readonly changes: readonly Change[] } {
  const numbers = barNumbers(concert);
  const changes: Change[] = [];
  const bars = mapNotes(written, (note, barIndex) => {
    const pitch = withoutDoubleAccidental(note.pitch);
    if (pitch === note.pitch) return note;
    changes.push({
      bar: numbers[barIndex] ?? 0,
      barIndex,
      events: [note.id],
      detail: { kind: 'respelled', from: pitchClassOf(note.pitch), to: pitchClassOf(pitch) },
    });
    return { ...note, pitch };
  });
  return { bars, changes };
}
