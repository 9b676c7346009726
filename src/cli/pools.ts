import { existsSync } from 'node:fs';
import {
  type ChordTone,
  chordTones,
  parseProgression,
  printChord,
  printScale,
  progressionChords,
  progressionProblemText,
  readForm,
  type Scale,
} from '../core/harmony';
import { LEVELS } from '../core/instruments';
import {
  chroma,
  type Interval,
  intervalBetweenTonics,
  type Key,
  type PitchClass,
  printKey,
  printPitchClass,
  readableInterval,
  transposeKey,
} from '../core/pitch';
import {
  changeWords,
  type ChordPool,
  type ChordPools,
  coloursOf,
  coverageWords,
  formIn,
  formOf,
  type ImprovisingForm,
  type LevelPools,
  poolOfScale,
  poolsFor,
  rubWords,
  type WholeFormSet,
  withProposedChords,
} from '../core/pools';
import { styleOfChords } from '../core/analysis';
import { evenBars, type FormBar, formBarsOf } from '../core/solos';
import type { Tune } from '../core/score';
import { barTicks, beatNumberAt, type Meter } from '../core/time';
import { noMoreThan, parseArguments, required, UsageError } from './arguments';
import { readInput } from './files';
import { knownInstrument } from './instruments';
import { asWritten, keyFor, readKey } from './parts';

const METER: Meter = { count: 4, unit: 4 };

/** `reed pools INPUT|"CHORDS" --for ID --level LEVEL [--key KEY]` */
export function pools(words: readonly string[]): unknown {
  const given = parseArguments(words, ['for', 'level', 'key'], ['written']);
  noMoreThan(given, 1);
  const input = required(given, 0, 'INPUT or "CHORDS"');
  const id = given.options.get('for');
  if (id === undefined) throw new UsageError('--for is missing: name an instrument, like --for alto-sax');
  const instrument = knownInstrument(id.trim());
  const levelText = given.options.get('level');
  const level = LEVELS.find((known) => known === levelText);
  if (!level) throw new UsageError(`--level ${levelText ?? 'is missing'}: use ${LEVELS.join(', ')}`);
  const keyText = given.options.get('key');
  const { form: concertForm, proposed } = improvisingForm(input, keyText, asWritten(given, instrument));
  const interval = readableInterval(concertForm.key, instrument.transposition);
  const concert = poolsFor(concertForm, level);
  const written = poolsFor(formIn(concertForm, interval), level);
  return {
    instrument: instrument.id,
    level,
    concertKey: printKey(concertForm.key),
    writtenKey: printKey(transposeKey(concertForm.key, interval)),
    style: { name: concertForm.style, because: concertForm.because },
    ...(proposed && { proposed: true }),
    bars: concertForm.bars.length,
    patterns: concertForm.reading.patterns.map(({ kind, from, to, key }) => ({
      kind,
      fromBar: concertForm.places[from]?.bar ?? 0,
      toBar: concertForm.places[to - 1]?.bar ?? 0,
      concertKey: printKey(key),
    })),
    overall: written.overall.map((set, index) => setFacts(set, concert.overall[index])),
    growing: written.stages.map(({ words: said, notes }) => ({ stage: said, notes: notes.map(printPitchClass) })),
    chords: written.chords.map((chord, index) => chordFacts(chord, written, concert, index)),
  };
}

/** The chords of a file, or those that stand on the command line. */
export function improvisingForm(
  input: string,
  keyText: string | undefined,
  toConcert: Interval | undefined,
): {
  readonly form: ImprovisingForm;
  readonly proposed: boolean;
  /** Bars in time, a pickup left out. */
  readonly bars: readonly FormBar[];
  readonly tune?: Tune;
} {
  const stated = keyText === undefined ? undefined : readKey(keyText, toConcert);
  if (!existsSync(input) && looksLikeChords(input)) {
    const form = bareForm(input, stated);
    return { form, proposed: false, bars: evenBars(form.bars.length, METER, barTicks(METER)) };
  }
  const { tune, warnings } = readInput(input);
  warnings.forEach((warning) => process.stderr.write(`${warning}\n`));
  const harmonised = withProposedChords(tune);
  if (harmonised !== tune)
    process.stderr.write(`${input} has no chord symbols: the chords are proposals that fit the melody\n`);
  const form = formOf(harmonised);
  const key = keyText === undefined ? tune.key : keyFor(tune, keyText, toConcert);
  return {
    form: formIn(form, intervalBetweenTonics(form.key.tonic, key.tonic)),
    proposed: harmonised !== tune,
    bars: formBarsOf(tune),
    tune,
  };
}

/** A path that does not exist is told as one, unless it can only be chords. */
export function looksLikeChords(input: string): boolean {
  return input.includes('|') || parseProgression(input).ok || !/[/\\]|\.[A-Za-z0-9]{2,8}$/.test(input);
}

function bareForm(text: string, stated: Key | undefined): ImprovisingForm {
  const parsed = parseProgression(text);
  if (!parsed.ok) {
    const [first] = parsed.problem;
    throw new UsageError(`CHORDS ${first ? progressionProblemText(first) : 'cannot be read'}`);
  }
  const chords = progressionChords(parsed.value, METER);
  const reading = readForm(chords, { bars: parsed.value.length, ...(stated && { key: stated }) });
  const { style, because } = styleOfChords(reading, parsed.value.length);
  return {
    key: stated ?? reading.home,
    meter: METER,
    places: chords.map(({ bar, at }) => ({ bar: bar + 1, barIndex: bar, beat: beatNumberAt(METER, at) })),
    reading,
    style,
    because,
    bars: parsed.value.map((_, index) => index + 1),
  };
}

const names = (notes: readonly PitchClass[]) => notes.map(printPitchClass);

function namedScale(scale: Scale) {
  return { name: printScale(scale), tonic: printPitchClass(scale.tonic), set: scale.name, notes: names(scale.notes) };
}

function setFacts(set: WholeFormSet, concert: WholeFormSet | undefined) {
  return {
    ...namedScale(set.scale),
    otherNames: set.alsoCalled ? [printScale(set.alsoCalled)] : [],
    fit: Math.round(set.fit * 100) / 100,
    bars: set.bars,
    restsOn: set.restsIn,
    rubs: set.rubsIn.map(({ bar, note, wayOut }) => ({
      bar,
      note: printPitchClass(note),
      to: printPitchClass(wayOut),
    })),
    words: coverageWords(set),
    concert: concert ? namedScale(concert.scale) : null,
  };
}

/** `{ "1": "D", "3": "F", … }`; a degree that stands twice, as in an altered chord, keeps its signs. */
function tonesByDegree(tones: readonly ChordTone[]): Readonly<Record<string, string>> {
  const twice = new Set(tones.map(({ degree }) => degree).filter((degree, k, all) => all.indexOf(degree) !== k));
  return Object.fromEntries(
    tones.map(({ degree, pitchClass }) => [
      twice.has(degree) ? `${signOf(pitchClass, degree, tones)}${degree}` : String(degree),
      printPitchClass(pitchClass),
    ]),
  );
}

function signOf(note: PitchClass, degree: number, tones: readonly ChordTone[]): string {
  const root = tones.find((tone) => tone.degree === 1)?.pitchClass;
  const above = root ? (chroma(note) - chroma(root) + 12) % 12 : 0;
  const natural = ([0, 2, 4, 5, 7, 9, 11][(degree - 1) % 7] ?? 0) % 12;
  return above === natural ? '' : (above - natural + 12) % 12 === 1 ? '#' : 'b';
}

function poolFacts(pool: ChordPool, concert: ChordPool | undefined) {
  return {
    kind: pool.kind,
    name: pool.scale ? printScale(pool.scale) : asPlain(pool.name),
    notes: names(pool.notes.map(({ note }) => note)),
    roles: Object.fromEntries(pool.notes.map(({ note, role }) => [printPitchClass(note), role])),
    degrees: Object.fromEntries(pool.notes.map(({ note, degree }) => [printPitchClass(note), asPlain(degree)])),
    waysOut: Object.fromEntries(
      pool.notes.flatMap(({ note, wayOut }) => (wayOut ? [[printPitchClass(note), printPitchClass(wayOut)]] : [])),
    ),
    bends: pool.bends.map(({ from, to }) => ({ from: printPitchClass(from), to: printPitchClass(to) })),
    change: changeWords(pool) ?? null,
    ...(pool.adds !== undefined && { adds: pool.adds }),
    concert: concert
      ? {
          name: concert.scale ? printScale(concert.scale) : asPlain(concert.name),
          notes: names(concert.notes.map(({ note }) => note)),
        }
      : null,
  };
}

function asPlain(text: string): string {
  return text.replaceAll('♭', 'b').replaceAll('♯', '#');
}

function chordFacts(chord: ChordPools, written: LevelPools, concert: LevelPools, index: number) {
  const place = written.form.places[index];
  const sounding = concert.chords[index];
  const { symbol } = chord.reading.chord;
  const concertSymbol = sounding?.reading.chord.symbol;
  const also = alternatives(chord.pools, sounding?.pools, chord, sounding);
  return {
    bar: place?.bar ?? 0,
    beat: place?.beat ?? 1,
    symbol: printChord(symbol),
    concertSymbol: concertSymbol ? printChord(concertSymbol) : null,
    numeral: chord.reading.numeral,
    function: chord.reading.function,
    concertKey: sounding ? printKey(sounding.reading.key) : null,
    chordTones: tonesByDegree(chord.tones),
    guideTones: [chord.guide.lower, chord.guide.upper].flatMap((note) => (note ? [printPitchClass(note)] : [])),
    colour: names(coloursOf(chord.reading, written.form)),
    sets: [...chord.pools.map((pool, k) => poolFacts(pool, sounding?.pools[k])), ...also],
    bridges: names(chord.bridges),
    halfSteps: chord.halfSteps.map(({ from, to }) => [printPitchClass(from), printPitchClass(to)]),
    ...(chord.waysIn.length > 0 && {
      waysIn: chord.waysIn.map(({ to, below, above }) => ({
        to: printPitchClass(to),
        below: printPitchClass(below),
        above: printPitchClass(above),
      })),
    }),
    ...(chord.cell.length > 0 && { cell: names(chord.cell) }),
    advice: rubWords(chord),
    concert: {
      symbol: concertSymbol ? printChord(concertSymbol) : null,
      chordTones: concertSymbol ? tonesByDegree(chordTones(concertSymbol)) : {},
    },
  };
}

/** The usual alternatives of a chord scale, as sets of their own. */
function alternatives(
  pools: readonly ChordPool[],
  soundingPools: readonly ChordPool[] | undefined,
  chord: ChordPools,
  sounding: ChordPools | undefined,
) {
  return pools.flatMap((pool, k) =>
    pool.others.map(({ scale, adds }, other) =>
      poolFacts(
        poolOfScale(scale, adds, chord),
        sounding && poolOfScale(soundingPools?.[k]?.others[other]?.scale ?? scale, adds, sounding),
      ),
    ),
  );
}
