import { failure, success, type Result } from '../../result';
import { RIGHTS, type Swing, SWING_UNITS, type Tune, usualTempo } from '../../score';
import { finishedTune, sizeProblems, type FoundMusic } from '../finish';
import type { FormatProblem } from '../problem';
import { lineOf, unreadable, type LineFound, type ReadOptions, type ReadResult } from '../readResult';
import { type Key, nameKey, parseKey } from '../../pitch';
import { HARMONY_FIELD, RECORDING_FIELD, SECOND_PART_FIELD, SWING_FIELD } from './marks';
import { readHarmony } from './harmonyField';
import { PartReader, type MeasuresRead } from './measures';
import { barsOfVoice, voicesIn } from './voices';
import { child, childrenOf, readXml, textOf, type XmlElement } from './xmlTree';

/**
 * Reads a line of a MusicXML score (3.0 to 4.0, partwise or timewise) as a tune in concert pitch: of the first part the
 * voice with most notes, or the one asked for. What is not kept is named in the warnings.
 */
export function readMusicXml(text: string, options: ReadOptions = {}): ReadResult {
  const score = readScore(text);
  if (!score.ok) return score;
  const { root, staves, ossias } = score.value;
  const lines = linesOf(staves);
  const many = sizeProblems({ bars: 0, notes: 0, lines: lines.length });
  if (many.length > 0) return failure(many);
  const chosen = chosenLines(root, staves, lines, options);
  if (!chosen.ok) return chosen;
  const { line, second } = chosen.value;
  const warnings = [...line.staff.warnings];
  if (ossias > 0)
    warnings.push({
      code: 'left-out',
      place: {},
      found: 'other versions of bars on a small staff',
      right: 'the staff under it was taken',
    });
  const others = lines.filter((one) => one !== line && one !== second && one.found.notes > 0);
  if (others.length > 0)
    warnings.push({
      code: 'other-voices',
      place: {},
      found: `${lines.length} lines`,
      right: `"${line.found.name}" was taken`,
    });
  const music = barsOfVoice(line.staff.measures, line.voice);
  if (music.lostHairpins > 0) warnings.push({ code: 'hairpin-dropped', place: {}, right: 'it was left out' });
  const notes = music.bars.reduce((sum, { events }) => sum + events.length, 0);
  const size = sizeProblems({ bars: music.bars.length, notes });
  if (size.length > 0) return failure(size);
  const meter = music.bars[0]?.meter;
  if (!meter)
    return unreadable({
      code: 'bar-without-meter',
      place: { line: line.staff.line, bar: 1 },
      right: 'the first measure needs a <time> element',
    });
  const finished = finishedTune(
    {
      ...headOf(root, warnings),
      key: keyOf(music.bars[0]?.key, warnings),
      meter,
      tempo: line.staff.tempo ?? staves.find(({ tempo }) => tempo)?.tempo ?? usualTempo(meter),
      bars: music.bars,
      second: second && barsOfVoice(second.staff.measures, second.voice).bars,
    },
    warnings,
  );
  if (!finished.ok) return finished;
  const tune = withHarmony(withRecording(finished.value.tune, root), root);
  return success({
    tune,
    warnings: finished.value.warnings,
    choices: {
      tunes: [tune.title],
      tune: 1,
      lines: lines.map(({ found }) => found),
      line: line.found.number,
      ...(second && { second: second.found.number }),
    },
  });
}

interface ScoreRead {
  readonly root: XmlElement;
  readonly staves: readonly StaffRead[];
  /** Small staves with other versions of bars, which are not read. */
  readonly ossias: number;
}

/** The parts of a score, each read measure by measure as the file goes by. */
function readScore(text: string): Result<ScoreRead, readonly FormatProblem[]> {
  const readers = new Map<string, PartReader>();
  const xml = readXml(text, (element, parent) => {
    if (element.name !== 'measure' || parent.name !== 'part') return false;
    readerOf(readers, parent.attributes['id'] ?? '').add(element);
    return true;
  });
  if (!xml.ok) return failure([xml.problem]);
  const { value: root } = xml;
  const noScore = (found: string, right: string) =>
    failure([{ code: 'not-musicxml' as const, place: { line: root.line }, found, right }]);
  if (root.name !== 'score-partwise' && root.name !== 'score-timewise')
    return noScore(`<${root.name}>`, 'it begins with <score-partwise>');
  if (root.name === 'score-timewise') turnRound(root, readers);
  const many = sizeProblems({ bars: 0, notes: 0, lines: readers.size });
  if (many.length > 0) return failure(many);
  const parts = [...readers].map(([id, reader]) => ({ name: partName(root, id), ...reader.result() }));
  if (parts.length === 0) return noScore('no <part>', 'a score has at least one part');
  const size = sizeProblems({ bars: parts.reduce((most, { count }) => Math.max(most, count), 0), notes: 0 });
  if (size.length > 0) return failure(size);
  const played = parts.filter(({ isOssia }) => !isOssia);
  return success({
    root,
    staves: played.length > 0 ? played : parts,
    ossias: played.length > 0 ? parts.length - played.length : 0,
  });
}

/** The line that is read, and the second part under it. */
function chosenLines(
  root: XmlElement,
  staves: readonly StaffRead[],
  lines: readonly LineRead[],
  options: ReadOptions,
): Result<{ readonly line: LineRead; readonly second: LineRead | undefined }, readonly FormatProblem[]> {
  const line = options.line === undefined ? melodyOf(lines) : lines[options.line - 1];
  const second = options.second === 'none' ? undefined : lines[(options.second ?? saidSecond(root, lines) ?? 0) - 1];
  const missing = [options.line, options.second].find((number) => typeof number === 'number' && !lines[number - 1]);
  if (missing !== undefined)
    return failure([
      { code: 'no-such-tune', place: {}, found: String(missing), right: `it holds ${lines.length} lines` },
    ]);
  const read = new Set(line ? [line.staff, second?.staff ?? line.staff] : staves);
  const problems = [...read].flatMap((staff) => staff.problems);
  if (problems.length > 0) return failure(problems);
  if (!line || !staves.some(({ measures }) => measures.some(({ placed }) => placed.length > 0)))
    return failure([
      {
        code: 'no-tune',
        place: { line: root.line },
        found: 'a score without notes',
        right: 'it needs at least one note or rest',
      },
    ]);
  return success({ line, second });
}

interface StaffRead extends MeasuresRead {
  readonly name: string;
}

function readerOf(readers: Map<string, PartReader>, id: string): PartReader {
  const known = readers.get(id);
  if (known) return known;
  const reader = new PartReader();
  readers.set(id, reader);
  return reader;
}

function partName(root: XmlElement, id: string): string {
  const found = childrenOf(child(root, 'part-list'), 'score-part').find((one) => one.attributes['id'] === id);
  return textOf(found, 'part-name') ?? (id || 'part');
}

/** In a timewise score each measure holds all parts. */
function turnRound(root: XmlElement, readers: Map<string, PartReader>): void {
  for (const measure of childrenOf(root, 'measure')) {
    for (const part of childrenOf(measure, 'part')) {
      readerOf(readers, part.attributes['id'] ?? '').add({ ...part, name: 'measure', attributes: measure.attributes });
    }
  }
}

interface LineRead {
  readonly staff: StaffRead;
  readonly voice: string;
  readonly found: LineFound;
}

/** Every voice of every part, in the file's order; a part that only rests is one line too. */
function linesOf(staves: readonly StaffRead[]): readonly LineRead[] {
  const lines: LineRead[] = [];
  for (const staff of staves) {
    const pitchesOf = voicesIn(staff.measures);
    const resting = staff.measures.find(({ placed }) => placed.length > 0)?.placed[0]?.voice ?? '1/1';
    const voices = pitchesOf.size > 0 ? [...pitchesOf.keys()] : [resting];
    for (const voice of voices) {
      const [number, staffNumber] = voice.split('/');
      const name =
        voices.length > 1
          ? `${staff.name}, voice ${number}${staffNumber !== '1' ? `, staff ${staffNumber}` : ''}`
          : staff.name;
      lines.push({ staff, voice, found: lineOf(lines.length + 1, name, pitchesOf.get(voice) ?? []) });
    }
  }
  return lines;
}

/** The voice with most notes in the first part that has any. */
function melodyOf(lines: readonly LineRead[]): LineRead | undefined {
  const staff = (lines.find(({ found }) => found.notes > 0) ?? lines[0])?.staff;
  return lines
    .filter((line) => line.staff === staff)
    .reduce<LineRead | undefined>(
      (best, next) => (!best || next.found.notes > best.found.notes ? next : best),
      undefined,
    );
}

/** A file of our own says which of its parts is the second one. */
function saidSecond(root: XmlElement, lines: readonly LineRead[]): number | undefined {
  const name = fieldOf(root, SECOND_PART_FIELD);
  return name === undefined ? undefined : lines.find(({ staff }) => staff.name === name)?.found.number;
}

/** What stands at the head of a score. */
function headOf(
  root: XmlElement,
  warnings: FormatProblem[],
): Pick<FoundMusic, 'title' | 'composer' | 'source' | 'rights' | 'swing'> {
  const identification = child(root, 'identification');
  const creators = childrenOf(identification, 'creator');
  const printedRights = textOf(identification, 'rights');
  if (printedRights)
    warnings.push({
      code: 'left-out',
      place: {},
      found: `the rights line "${printedRights}"`,
      right: 'set the rights status by hand',
    });
  const status = fieldOf(root, 'rights-status');
  return {
    title: textOf(root, 'work', 'work-title') ?? textOf(root, 'movement-title'),
    composer: creators.find((one) => one.attributes['type'] === 'composer')?.text.trim(),
    source: textOf(identification, 'source'),
    rights: RIGHTS.find((known) => known === status),
    swing: swingOf(fieldOf(root, SWING_FIELD)),
  };
}

function keyOf(found: Key | undefined, warnings: FormatProblem[]): Key {
  const key = found ?? { tonic: { step: 'C', alter: 0 }, mode: 'major' };
  if (Math.abs(key.tonic.alter) > 1)
    warnings.push({
      code: 'left-out',
      place: { bar: 1 },
      found: `the key ${nameKey(key)}`,
      right: 'check the key signature',
    });
  return key;
}

/** The key of a recording, which files of our own tell. */
function withRecording(tune: Tune, root: XmlElement): Tune {
  const text = fieldOf(root, RECORDING_FIELD);
  const key = text === undefined ? undefined : parseKey(text);
  return key?.ok ? { ...tune, recordingKey: key.value } : tune;
}

function withHarmony(tune: Tune, root: XmlElement): Tune {
  const text = fieldOf(root, HARMONY_FIELD);
  const harmony = text === undefined ? undefined : readHarmony(text, tune.bars);
  return harmony ? { ...tune, harmony } : tune;
}

/** A field of our own files. */
function fieldOf(root: XmlElement, name: string): string | undefined {
  return childrenOf(child(child(root, 'identification'), 'miscellaneous'), 'miscellaneous-field')
    .find((one) => one.attributes['name'] === name)
    ?.text.trim();
}

function swingOf(text: string | undefined): Swing | undefined {
  const match = /^(eighth|16th) ([1-4](?:\.\d+)?)$/.exec(text ?? '');
  const unit = SWING_UNITS.find((known) => known === match?.[1]);
  const ratio = Number(match?.[2]);
  return unit && ratio >= 1 && ratio <= 4 ? { unit, ratio } : undefined;
}
