import { fileSlug, writeMusicXml, writeMxl } from '../core/formats';
import {
  arrange,
  type Ensemble,
  type EnsemblePlayer,
  MAX_ENSEMBLE,
  partOfVoice,
  performedPart,
} from '../core/ensemble';
import { LEVELS } from '../core/instruments';
import { bestRanked, rankKeys, suffererText, sufferersIn } from '../core/keys';
import type { Part } from '../core/levels';
import { type Key, printKey, printPitch } from '../core/pitch';
import { barNumbers, isNote, PART_ROLES, type PartRole, type Tune } from '../core/score';
import { nameChord } from '../core/harmony';
import { groupScore } from '../engrave/scorePdf';
import { noMoreThan, parseArguments, required, UsageError, type Arguments } from './arguments';
import { seedOf } from './drill';
import { inFolder, readInput, writeAll } from './files';
import { knownInstrument } from './instruments';
import { asWritten, difficultyOf, ENDINGS, keyFor, partFile, readKey, tempoOf } from './parts';

const FORMATS = ['musicxml', 'mxl', 'pdf', 'json'] as const;
type EnsembleFormat = (typeof FORMATS)[number];

/** `reed ensemble INPUT --players ID:LEVEL[:ROLE][,…] [--key KEY|best] [--tempo BPM] [--seed N] [--format …] [--out DIR]` */
export async function ensemble(words: readonly string[]): Promise<unknown> {
  const given = parseArguments(words, ['players', 'key', 'tempo', 'seed', 'format', 'out'], ['written']);
  noMoreThan(given, 1);
  const input = required(given, 0, 'INPUT');
  const players = playersOf(given);
  const format = formatOf(given);
  const perMinute = tempoOf(given);
  const seed = seedOf(given);
  const folder = given.options.get('out') ?? '.';
  const keyText = given.options.get('key');
  const wantsBest = keyText?.trim() === 'best';
  const toConcert = asWritten(given, players[0]?.instrument);
  if (keyText !== undefined && !wantsBest) readKey(keyText, toConcert);
  const { tune, warnings: readWarnings } = readInput(input);
  if (tune.drill)
    throw new UsageError(`INPUT ${input} is a drill, which everybody plays alike: give a tune, or use reed drill`);
  if (!tune.bars.some(({ events }) => events.some(isNote)))
    throw new UsageError(`INPUT ${input} has no notes: give a tune with a melody`);
  const key = wantsBest
    ? bestForAll(tune, players, perMinute)
    : keyText === undefined
      ? undefined
      : keyFor(tune, keyText, toConcert);
  const made = arrange(tune, {
    players,
    notes: { ...(key && { key }), ...(perMinute !== undefined && { perMinute }), ...(seed > 0 && { seed }) },
  });
  const warnings = [...readWarnings, ...warningsOf(made)];
  warnings.forEach((warning) => process.stderr.write(`${warning}\n`));
  return answer(made, tune, warnings, await filesOf(made, tune, format, folder));
}

/** Writes everybody's part and the score. @returns their paths, and the score's */
async function filesOf(made: Ensemble, tune: Tune, format: EnsembleFormat, folder: string) {
  const parts = made.voices.map((_, index) => ({
    ...partOfVoice(made, index),
    // With a word where the tune is handed on.
    part: performedPart(made, index, {}).part,
  }));
  const bare = made.voices.map((_, index) => performedPart(made, index, {}, 'bare').part);
  const slug = fileSlug(tune.title);
  const pdf = format === 'pdf' ? await pdfWriters() : undefined;
  const files: { readonly path: string; readonly data: string | Uint8Array }[] = [];
  for (const [index, { part }] of parts.entries()) {
    const { instrument, level } = part;
    const name = `${slug}.${String(index + 1).padStart(2, '0')}-${instrument.id}.${level}.${ENDINGS[format]}`;
    files.push({ path: inFolder(folder, name), data: pdf ? await pdf.part(part) : partFile(part, tune, format) });
  }
  const score = pdf ? await pdf.score(bare) : scoreFile(bare, tune, format);
  const path = inFolder(folder, `${slug}.score.${format === 'json' ? 'musicxml' : ENDINGS[format]}`);
  writeAll([...files, { path, data: score }]);
  return { parts, paths: files.map((file) => file.path), score: path };
}

/** Our own document holds one line, so the score of documents is MusicXML. */
function scoreFile(parts: readonly Part[], tune: Tune, format: EnsembleFormat): string | Uint8Array {
  const xml = writeMusicXml(groupScore(parts, 'written', tune.rights));
  return format === 'mxl' ? writeMxl(xml) : xml;
}

/** The engraver is loaded for PDF alone, and once for parts and score. */
async function pdfWriters() {
  const [{ Engraver }, { partPdf }, { scorePdf }] = await Promise.all([
    import('../engrave/engraver'),
    import('../engrave/pdf'),
    import('../engrave/scorePdf'),
  ]);
  const engraver = await Engraver.start();
  return {
    part: (part: Part) => partPdf(engraver, part),
    score: (parts: readonly Part[]) => scorePdf(engraver, parts, 'written'),
  };
}

function answer(
  made: Ensemble,
  tune: Tune,
  warnings: readonly string[],
  { parts, paths, score }: Awaited<ReturnType<typeof filesOf>>,
): unknown {
  const { ground, sections, voices, measures } = made;
  const numbers = barNumbers(ground.tune);
  return {
    score,
    key: printKey(ground.tune.key),
    tempo: made.perMinute,
    bars: ground.tune.bars.length,
    warnings,
    roles: sections.map(({ from, to }, k) => ({
      fromBar: numbers[from] ?? 0,
      toBar: numbers[to - 1] ?? 0,
      lead: voices.flatMap(({ cells }, index) => (cells[k] === 'tune' ? [index + 1] : [])),
    })),
    players: parts.map(({ part, reasons }, index) => ({
      file: paths[index],
      instrument: part.instrument.id,
      level: part.level,
      role: voices[index]?.role,
      concertKey: printKey(part.concertKey),
      writtenKey: printKey(part.writtenKey),
      lowest: part.lowest ? printPitch(part.lowest) : null,
      highest: part.highest ? printPitch(part.highest) : null,
      difficulty: difficultyOf(part),
      changes: reasons.map(({ bar, what, why }) => ({ bar, what, why })),
    })),
    measures: {
      parallels: measures.parallels.length,
      crossings: measures.crossings.length,
      bassRoots: rounded(measures.bassRoots),
      chordCover: rounded(measures.chordCover),
    },
  };
}

const rounded = (share: number) => Math.round(share * 1_000) / 1_000;

function warningsOf({ ground, hasProposedChords }: Ensemble): readonly string[] {
  if (!hasProposedChords) return [];
  const chords = ground.chords.map(({ symbol }) => nameChord(symbol));
  return [
    chords.length > 0
      ? `the tune has no chords; these are proposed, and the score has them: ${chords.join(' ')}`
      : 'the tune has no chords, and none could be proposed: only the tune is played',
  ];
}

function bestForAll(tune: Tune, players: readonly EnsemblePlayer[], perMinute: number | undefined): Key | undefined {
  const ranking = rankKeys(tune, players, perMinute === undefined ? {} : { perMinute });
  const best = bestRanked(ranking);
  for (const one of best ? sufferersIn(ranking, best) : [])
    process.stderr.write(`--key best: ${one.here.player.level} ${suffererText(one)}\n`);
  return best?.key;
}

function playersOf(given: Arguments): readonly EnsemblePlayer[] {
  const text = given.options.get('players');
  if (text === undefined)
    throw new UsageError(
      '--players is missing: name players as INSTRUMENT:LEVEL or INSTRUMENT:LEVEL:ROLE, like --players flute:advanced:tune,cello:beginner',
    );
  const players = text.split(',').map((one, index) => playerOf(one.trim(), index));
  if (players.length > MAX_ENSEMBLE)
    throw new UsageError(`--players names ${players.length} players: ${MAX_ENSEMBLE} can play together at most`);
  if (players.every(({ role }) => role !== undefined) && !players.some(({ role }) => role === 'tune'))
    throw new UsageError(
      '--players gives everybody a role and nobody the tune: give one player the role tune, or leave a role out',
    );
  return players;
}

function playerOf(text: string, index: number): EnsemblePlayer {
  const [id = '', levelText, roleText, ...rest] = text.split(':');
  if (rest.length > 0 || levelText === undefined)
    throw new UsageError(
      `--players "${text}": write each as INSTRUMENT:LEVEL or INSTRUMENT:LEVEL:ROLE, like flute:beginner:pad`,
    );
  const instrument = knownInstrument(id);
  const level = LEVELS.find((known) => known === levelText);
  if (!level)
    throw new UsageError(`--players "${text}": the level "${levelText}" is unknown; use ${LEVELS.join(', ')}`);
  const role: PartRole | undefined = PART_ROLES.find((known) => known === roleText);
  if (roleText !== undefined && !role)
    throw new UsageError(`--players "${text}": the role "${roleText}" is unknown; use ${PART_ROLES.join(', ')}`);
  return { id: `p${index + 1}`, instrument, level, ...(role && { role }) };
}

function formatOf(given: Arguments): EnsembleFormat {
  const text = given.options.get('format') ?? 'musicxml';
  const format = FORMATS.find((known) => known === text);
  if (!format) throw new UsageError(`--format ${text} is unknown: use ${FORMATS.join(', ')}`);
  return format;
}
