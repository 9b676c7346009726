import { CAUSES, lineDifficulty } from '../core/analysis';
import {
  fileSlug,
  type FormatProblem,
  formatProblemText,
  writeAbc,
  writeJson,
  writeMidi,
  writeMusicXml,
  writeMxl,
} from '../core/formats';
import { type Instrument, type Level, LEVELS, toSounding } from '../core/instruments';
import { AIDS, describeChange, LINE_AIDS, type PageWishes, type Phrasing, PHRASINGS } from '../core/work';
import { bestRanked, rankKeys, suffererText, sufferersIn } from '../core/keys';
import { pageRequest, type Part, partFor } from '../core/levels';
import {
  type Interval,
  type Key,
  keyProblemText,
  parseKey,
  printKey,
  printPitch,
  readableInterval,
  transposeKey,
} from '../core/pitch';
import { TEMPO_LIMITS, type Tune, TUNE_SCHEMA } from '../core/score';
import { scoreWithOssias } from '../engrave/staves';
import { noMoreThan, parseArguments, required, UsageError, type Arguments } from './arguments';
import { inFolder, readInput, writeAll } from './files';
import { knownInstrument } from './instruments';

const FORMATS = ['musicxml', 'mxl', 'abc', 'midi', 'pdf', 'json'] as const;
type PartFormat = (typeof FORMATS)[number];

export const ENDINGS: Readonly<Record<PartFormat, string>> = {
  musicxml: 'musicxml',
  mxl: 'mxl',
  abc: 'abc',
  midi: 'mid',
  pdf: 'pdf',
  json: 'reed.json',
};

/** `reed parts INPUT --for ID[,ID…] --level LEVEL|all [--key KEY|best] [--tempo BPM] [--phrasing STYLE|none]
 * [--format …] [--out DIR]` */
export async function parts(words: readonly string[]): Promise<unknown> {
  const given = parseArguments(
    words,
    ['for', 'level', 'key', 'tempo', 'aids', 'phrasing', 'format', 'out'],
    ['written', 'tab'],
  );
  noMoreThan(given, 1);
  const input = required(given, 0, 'INPUT');
  const players = playersOf(given);
  checkTab(given, players);
  const levels = levelsOf(given);
  const format = formatOf(given);
  const perMinute = tempoOf(given);
  const aids = aidsOf(given);
  const phrasing = phrasingWish(given);
  const folder = given.options.get('out') ?? '.';
  const keyText = given.options.get('key');
  const wantsBest = keyText?.trim() === 'best';
  const toConcert = asWritten(given, players[0]);
  if (keyText !== undefined && !wantsBest) readKey(keyText, toConcert);
  const { tune, warnings } = readInput(input);
  const key = wantsBest
    ? bestForAll(tune, players, levels, perMinute)
    : keyText === undefined
      ? undefined
      : keyFor(tune, keyText, toConcert);
  warnings.forEach((warning) => process.stderr.write(`${warning}\n`));
  const made = players.flatMap((instrument) =>
    levels.map((level) => ({
      instrument,
      level,
      ...partFor(tune, {
        level,
        instrument,
        keyAndTempo: { key, perMinute },
        ...(phrasing && { articulation: { phrasing } }),
        page: pageRequest(pageOf(given, aids), instrument, level),
      }),
    })),
  );
  const toPdf = format === 'pdf' ? await pdfWriter() : undefined;
  const slug = fileSlug(tune.title);
  const files: { readonly path: string; readonly data: string | Uint8Array }[] = [];
  for (const { instrument, level, value } of made) {
    const path = inFolder(folder, `${slug}.${instrument.id}.${level}.${ENDINGS[format]}`);
    files.push({ path, data: toPdf ? await toPdf(value) : partFile(value, tune, format) });
  }
  writeAll(files);
  return made.map(({ instrument, level, value, changes }, index) => ({
    file: files[index]?.path,
    instrument: instrument.id,
    level,
    concertKey: printKey(value.concertKey),
    writtenKey: printKey(value.writtenKey),
    tempo: value.tempo.perMinute,
    bars: value.bars.length,
    lowest: value.lowest ? printPitch(value.lowest) : null,
    highest: value.highest ? printPitch(value.highest) : null,
    octave: value.octaves,
    difficulty: difficultyOf(value),
    fidelity: value.fidelity,
    changes: changes.map((change) => ({ bar: change.bar, ...describeChange(change, value.written) })),
    outOfRange: value.outside.map(({ bar, pitch }) => ({ bar, pitch: printPitch(pitch) })),
  }));
}

/** One key for all; who is much worse off in it than alone is named on standard error. */
function bestForAll(
  tune: Tune,
  instruments: readonly Instrument[],
  levels: readonly Level[],
  perMinute: number | undefined,
): Key | undefined {
  const players = instruments.flatMap((instrument) => levels.map((level) => ({ instrument, level })));
  const ranking = rankKeys(tune, players, perMinute === undefined ? {} : { perMinute });
  const best = bestRanked(ranking);
  for (const one of best ? sufferersIn(ranking, best) : [])
    process.stderr.write(`--key best: ${one.here.player.level} ${suffererText(one)}\n`);
  return best?.key;
}

/** The instruments after `--for`, each once. */
export function playersOf(given: Arguments): readonly Instrument[] {
  const ids = given.options.get('for');
  if (ids === undefined) throw new UsageError('--for is missing: name one or more instruments, like --for flute,viola');
  return [...new Set(ids.split(','))].map((id) => knownInstrument(id.trim()));
}

/** Two decimals: more would claim more than a rule of thumb knows. */
export function difficultyOf(part: Part) {
  const { total, causes } = lineDifficulty(part.difficulty);
  const rounded = (value: number) => Math.round(value * 100) / 100;
  return { total: rounded(total), factors: Object.fromEntries(CAUSES.map((cause) => [cause, rounded(causes[cause])])) };
}

/** The engraver is loaded for PDF alone: it takes a second that the other formats need not wait. */
export async function pdfWriter(): Promise<(part: Part) => Promise<Uint8Array>> {
  const [{ Engraver }, { partPdf }] = await Promise.all([import('../engrave/engraver'), import('../engrave/pdf')]);
  const engraver = await Engraver.start();
  return (part) => partPdf(engraver, part);
}

export function partFile(part: Part, tune: Tune, format: PartFormat): string | Uint8Array {
  switch (format) {
    case 'musicxml':
      return writeMusicXml(scoreWithOssias(part, tune.rights));
    case 'mxl':
      return writeMxl(writeMusicXml(scoreWithOssias(part, tune.rights)));
    // What a player reads, as in the printed part.
    case 'abc':
      return told(writeAbc({ ...tune, key: part.writtenKey, tempo: part.tempo, bars: part.bars }), ({ text }) => text);
    case 'midi':
      return told(writeMidi(asSounding(part, tune)), ({ data }) => data);
    // Our own document is in concert pitch by definition: the part as it sounds.
    case 'json':
      return writeJson(asSounding(part, tune));
    case 'pdf':
      throw new Error('PDF has a writer of its own');
  }
}

function asSounding(part: Part, tune: Tune): Tune {
  return { ...tune, schema: TUNE_SCHEMA, key: part.concertKey, tempo: part.tempo, bars: part.soundingBars };
}

/** What the format cannot hold is said on standard error. */
function told<Written extends { readonly warnings: readonly FormatProblem[] }, Data>(
  written: Written,
  pick: (written: Written) => Data,
): Data {
  written.warnings.forEach((warning) => process.stderr.write(`${formatProblemText(warning)}\n`));
  return pick(written);
}

export function levelsOf(given: Arguments): readonly Level[] {
  const text = given.options.get('level');
  if (text === 'all') return LEVELS;
  const level = LEVELS.find((known) => known === text);
  if (!level) throw new UsageError(`--level ${text ?? 'is missing'}: use ${LEVELS.join(', ')} or all`);
  return [level];
}

export function formatOf(given: Arguments): PartFormat {
  const text = given.options.get('format') ?? 'musicxml';
  const format = FORMATS.find((known) => known === text);
  if (!format) throw new UsageError(`--format ${text} is unknown: use ${FORMATS.join(', ')}`);
  return format;
}

export function tempoOf(given: Arguments): number | undefined {
  const text = given.options.get('tempo');
  if (text === undefined) return undefined;
  const tempo = Number(text);
  const { slowest, fastest } = TEMPO_LIMITS;
  if (!/^\d+(\.\d+)?$/.test(text) || tempo < slowest || tempo > fastest)
    throw new UsageError(`--tempo ${text}: give beats a minute from ${slowest} to ${fastest}`);
  return Math.round(tempo);
}

const AID_NAMES = ['fingering', ...AIDS] as const;
type AidName = (typeof AID_NAMES)[number];

/** The aids asked for; `undefined` leaves them to the level. */
export function aidsOf(given: Arguments): readonly AidName[] | undefined {
  const text = given.options.get('aids');
  if (text === undefined) return undefined;
  if (text.trim() === 'none') return [];
  const asked = text.split(',').map((word) => {
    const aid = AID_NAMES.find((known) => known === word.trim());
    if (!aid) throw new UsageError(`--aids ${word.trim() || text} is unknown: use ${AID_NAMES.join(', ')} or none`);
    return aid;
  });
  const [first, ...others] = LINE_AIDS.filter((aid) => asked.includes(aid)).toSorted(
    (x, y) => asked.indexOf(x) - asked.indexOf(y),
  );
  if (others.length > 0)
    process.stderr.write(
      `--aids: ${first ?? ''} stand under the notes; there is one line there, so ${others.join(' and ')} are left out\n`,
    );
  return asked.filter((aid) => !others.some((other) => other === aid));
}

/** The phrasing asked for; `undefined` leaves it to the tune's style. */
export function phrasingWish(given: Arguments): Phrasing | undefined {
  const text = given.options.get('phrasing');
  if (text === undefined) return undefined;
  const found = PHRASINGS.find((known) => known === text.trim());
  if (!found) throw new UsageError(`--phrasing ${text.trim() || 'is empty'}: use ${PHRASINGS.join(', ')}`);
  return found;
}

/** What is printed beside the notes, as the options say; a tablature only for who has frets. */
export function pageOf(given: Arguments, aids: readonly AidName[] | undefined): PageWishes {
  return { ...(aids !== undefined && pageWishes(aids)), ...(given.flags.has('tab') && { tab: true as const }) };
}

/** With `--tab` one of the instruments has to have frets. */
export function checkTab(given: Arguments, instruments: readonly Instrument[]): void {
  if (given.flags.has('tab') && !instruments.some(({ mechanism }) => mechanism.kind === 'fretted'))
    throw new UsageError(
      `--tab is for instruments with frets, and ${instruments.map(({ id }) => id).join(', ')} has none: use one like guitar, bass-guitar or ukulele, or leave it out`,
    );
}

/** Asked for by name, an aid stands everywhere. */
function pageWishes(asked: readonly AidName[]): PageWishes {
  const aids = Object.fromEntries(AIDS.filter((aid) => asked.includes(aid)).map((aid) => [aid, 'stays' as const]));
  return { aids, marks: asked.includes('fingering') ? 'all' : 'none' };
}

/**
 * With `--written`, from a key as the first named instrument reads it to the one that sounds; `undefined` where keys are
 * concert already.
 */
export function asWritten(given: Arguments, instrument: Instrument | undefined): Interval | undefined {
  if (!given.flags.has('written')) return undefined;
  if (!instrument) throw new UsageError('--written says how a player reads the key: name the instrument with --for');
  return toSounding(instrument);
}

/** A key as it sounds, the spelling with the fewest accidentals. */
export function soundingKey(key: Key, toConcert: Interval | undefined): Key {
  return toConcert ? transposeKey(key, readableInterval(key, toConcert)) : key;
}

export function readKey(text: string, toConcert?: Interval): Key {
  const parsed = parseKey(text);
  if (!parsed.ok) throw new UsageError(`--key ${keyProblemText(parsed.problem)}`);
  return soundingKey(parsed.value, toConcert);
}

/** The key asked for, in the tune's own mode; a bare tonic takes that mode. */
export function keyFor(tune: Tune, text: string, toConcert?: Interval): Key {
  const key = readKey(text);
  if (key.mode === tune.key.mode) return soundingKey(key, toConcert);
  const isBareTonic = /^\s*[A-Ga-g][#♯b♭]?\s*$/.test(text);
  if (!isBareTonic)
    throw new UsageError(
      `--key ${text}: the tune is in ${printKey(tune.key)}, so its mode stays ${tune.key.mode}; give the tonic alone`,
    );
  const own = parseKey(`${text.trim()} ${tune.key.mode}`);
  if (!own.ok) throw new UsageError(`--key ${keyProblemText(own.problem)}`);
  return soundingKey(own.value, toConcert);
}
