import { fileSlug } from '../core/formats';
import {
  nameScale,
  parseScale,
  printDegree,
  printScale,
  readableScale,
  type Scale,
  SCALE_DICTIONARY,
  scaleDegrees,
  scaleProblemText,
} from '../core/harmony';
import { type Instrument, type Level, LEVELS, toSounding } from '../core/instruments';
import { pageRequest, partOfLine } from '../core/levels';
import { printPitch, printPitchClass, readableInterval, semitones, transposeClass, transposeKey } from '../core/pitch';
import { EXTENTS, keyForSet, MINOR_SCHOOLS, movedLine, setLine, type SetLine, setTune } from '../core/pools';
import { noMoreThan, parseArguments, required, UsageError, type Arguments } from './arguments';
import { inFolder, writeAll } from './files';
import { tonicsInOrder } from '../core/drills';
import { KEY_ORDERS } from '../core/score';
import { aidsOf, asWritten, ENDINGS, formatOf, checkTab, pageOf, partFile, playersOf } from './parts';

/** What a booklet goes through the keys by. */
const ORDERS = KEY_ORDERS.filter((order) => order !== 'easiest');

/** Beats a minute of a scale in quarters: slow enough to be said aloud. */
const PER_MINUTE = 60;

interface MadeScale {
  readonly instrument: Instrument;
  readonly written: Scale;
  readonly line: SetLine;
}

/**
 * `reed scale "SET" --for ID[,ID…] [--octaves 1|2|full] [--level LEVEL] [--down natural|same] [--keys ORDER] [--aids LIST] [--format
 * …] [--out DIR]`
 */
export async function scale(words: readonly string[]): Promise<unknown> {
  const given = parseArguments(
    words,
    ['for', 'octaves', 'level', 'down', 'keys', 'aids', 'format', 'out'],
    ['written', 'tab'],
  );
  noMoreThan(given, 1);
  const text = required(given, 0, 'SET');
  const parsed = parseScale(text);
  if (!parsed.ok) throw new UsageError(`SET ${scaleProblemText(parsed.problem)}`);
  const instruments = playersOf(given);
  checkTab(given, instruments);
  const extent = oneOf(given, 'octaves', EXTENTS, '1');
  const level: Level = oneOf(given, 'level', LEVELS, 'advanced');
  const minor = oneOf(given, 'down', MINOR_SCHOOLS, 'natural');
  const format = formatOf(given);
  const aids = aidsOf(given);
  const wantsFile = given.options.has('format') || given.options.has('out');
  const toConcert = asWritten(given, instruments[0]);
  const { tonic, name } = parsed.value;
  const concert = readableScale(toConcert ? transposeClass(tonic, toConcert) : tonic, name);
  const made = instruments.map((instrument): MadeScale => {
    const written = readableScale(transposeClass(concert.tonic, instrument.transposition), concert.name);
    const line = setLine(written, instrument.range[level], extent, minor);
    if (!line)
      throw new UsageError(
        `SET ${printScale(concert)}: the ${instrument.shortName} has no ${printPitchClass(written.tonic)} with a note above it between ${printPitch(instrument.range[level].low)} and ${printPitch(instrument.range[level].high)} (${level}): give a higher --level or another tonic`,
      );
    if (line.isShortened)
      process.stderr.write(
        `${instrument.id}: the ${level} range ends at ${printPitch(instrument.range[level].high)}, so the set stops short of ${extent === '1' ? 'an octave' : 'two octaves'}\n`,
      );
    return { instrument, written, line };
  });
  const files: { readonly path: string; readonly data: string | Uint8Array }[] = [];
  const orderText = given.options.get('keys');
  if (orderText !== undefined && format !== 'pdf')
    throw new UsageError('--keys makes a booklet of sheets: ask for --format pdf');
  const order = orderText === undefined ? undefined : oneOf(given, 'keys', ORDERS, 'fourths');
  const tonics = order ? tonicsInOrder(order, concert.tonic) : [concert.tonic];
  if (wantsFile && format === 'pdf') {
    const [{ Engraver }, { scaleSheetPdf }] = await Promise.all([
      import('../engrave/engraver'),
      import('../engrave/scaleSheet'),
    ]);
    const engraver = await Engraver.start();
    for (const { instrument } of made) {
      const name = fileSlug(printScale(concert).replace('#', ' sharp'));
      files.push({
        path: inFolder(
          given.options.get('out') ?? '.',
          `${name}${tonics.length > 1 ? '.all-keys' : ''}.${instrument.id}.${level}.pdf`,
        ),
        data: await scaleSheetPdf(engraver, { set: concert.name, tonics, instrument, level, extent }),
      });
    }
    writeAll(files);
  } else if (wantsFile) {
    for (const { instrument, written, line } of made) {
      const played = [...line.up, ...line.down.slice(1)];
      const sounding = readableInterval(keyForSet(written), toSounding(instrument));
      const tune = setTune(
        nameScale(concert),
        movedLine(played, sounding),
        transposeKey(keyForSet(written), sounding),
        PER_MINUTE,
      );
      const page = pageRequest(pageOf(given, aids), instrument, level);
      const part = partOfLine(tune, { level, instrument, keyAndTempo: { perMinute: PER_MINUTE }, page });
      const path = inFolder(
        given.options.get('out') ?? '.',
        `${fileSlug(printScale(concert).replace('#', ' sharp'))}.${instrument.id}.${level}.${ENDINGS[format]}`,
      );
      files.push({ path, data: partFile(part, tune, format) });
    }
    writeAll(files);
  }
  const facts = made.map(({ instrument, written, line }, index) => {
    const all = [...line.up, ...line.down].toSorted((a, b) => semitones(a) - semitones(b));
    const [lowest, highest] = [all[0], all.at(-1)];
    return {
      set: printScale(concert),
      otherNames: SCALE_DICTIONARY[concert.name].also ?? [],
      built: SCALE_DICTIONARY[concert.name].built,
      instrument: instrument.id,
      level,
      concertTonic: printPitchClass(concert.tonic),
      writtenTonic: printPitchClass(written.tonic),
      notes: written.notes.map(printPitchClass),
      degrees: scaleDegrees(written.name).map(printDegree),
      up: line.up.map(printPitch),
      down: line.down.map(printPitch),
      lowest: lowest ? printPitch(lowest) : null,
      highest: highest ? printPitch(highest) : null,
      concert: { notes: concert.notes.map(printPitchClass) },
      ...(wantsFile && { file: files[index]?.path }),
    };
  });
  return facts.length === 1 ? facts[0] : facts;
}

/** The value of an option from a list, or the usual one. */
export function oneOf<Value extends string>(
  given: Arguments,
  name: string,
  values: readonly Value[],
  usual: Value,
): Value {
  const text = given.options.get(name);
  if (text === undefined) return usual;
  const value = values.find((known) => known === text);
  if (value === undefined) throw new UsageError(`--${name} ${text} is unknown: use ${values.join(', ')}`);
  return value;
}
