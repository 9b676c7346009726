import { success } from '../../result';
import { nameKey, parseKey, type Key } from '../../pitch/key';
import { RIGHTS, SWING_UNITS, TUNE_SCHEMA, type Swing, type Tempo, type Tune } from '../../score/tune';
import { usualTempo } from '../../score/usualTempo';
import { scoreProblems } from '../../score/validate';
import { assembleBars, withSecondPart } from '../assemble';
import { LONGEST_TEXT, MOST_BARS, MOST_NOTES } from '../limits';
import { fromScoreProblem, type FormatProblem } from '../problem';
import { fewWarnings, lineOf, unreadable, type LineFound, type ReadOptions, type ReadResult } from '../readResult';
import { RECORDING_FIELD, SECOND_PART_FIELD, SWING_FIELD } from './marks';
import { PartReader, type MeasuresRead } from './measures';
import { barsOfVoice, voicesIn } from './voices';
import { child, childrenOf, readXml, textOf, type XmlElement } from './xmlTree';

/**
 * Reads a line of a MusicXML score (3.0 to 4.0, partwise or timewise) as a tune in concert pitch: of the first part the voice
 * with most notes, or the one asked for. What is not kept is named in the warnings.
 */
export function readMusicXml(text: string, options: ReadOptions = {}): ReadResult {
  const readers = new Map<string, PartReader>();
  const xml = readXml(text, (element, parent) => {
    if (element.name !== 'measure' || parent.name !== 'part') return false;
    readerOf(readers, parent.attributes['id'] ?? '').add(element);
    return true;
  });
  if (!xml.ok) return unreadable(xml.problem);
  const { value: root } = xml;
  if (root.name !== 'score-partwise' && root.name !== 'score-timewise') {
    return unreadable({
      code: 'not-musicxml',
      place: { line: root.line },
      found: `<${root.name}>`,
      right: 'it begins with <score-partwise>',
    });
  }
  if (root.name === 'score-timewise') turnRound(root, readers);
  const parts = [...readers].map(([id, reader]) => ({ name: partName(root, id), ...reader.result() }));
  if (parts.length === 0)
    return unreadable({
      code: 'not-musicxml',
      place: { line: root.line },
      found: 'no <part>',
      right: 'a score has at least one part',
    });
  const longest = Math.max(...parts.map(({ count }) => count));
  if (longest > MOST_BARS)
    return unreadable({
      code: 'too-many-notes',
      place: {},
      found: `${longest} bars`,
      right: `at most ${MOST_BARS} are read`,
    });
  const staves: readonly StaffRead[] = parts;
  const lines = linesOf(staves);
  const said = saidSecond(root, lines);
  const chosen = options.line === undefined ? melodyOf(lines) : lines[options.line - 1];
  const second = options.second === 'none' ? undefined : lines[(options.second ?? said ?? 0) - 1];
  const missing = [options.line, options.second].find((number) => typeof number === 'number' && !lines[number - 1]);
  if (missing !== undefined)
    return unreadable({
      code: 'no-such-tune',
      place: {},
      found: String(missing),
      right: `it holds ${lines.length} lines`,
    });
  const problems = (
    chosen ? [chosen.staff, ...(second && second.staff !== chosen.staff ? [second.staff] : [])] : staves
  ).flatMap((staff) => staff.problems);
  if (problems.length > 0) return { ok: false, problem: problems };
  if (!chosen || !staves.some(({ measures }) => measures.some(({ placed }) => placed.length > 0))) {
    return unreadable({
      code: 'no-tune',
      place: { line: root.line },
      found: 'a score without notes',
      right: 'it needs at least one note or rest',
    });
  }
  const warnings = [...chosen.staff.warnings];
  const others = lines.filter((line) => line !== chosen && line !== second && line.found.notes > 0);
  if (others.length > 0)
    warnings.push({
      code: 'other-voices',
      place: {},
      found: `${lines.length} lines`,
      right: `"${chosen.found.name}" was taken`,
    });
  const music = barsOfVoice(chosen.staff.measures, chosen.voice);
  if (music.lostHairpins > 0) warnings.push({ code: 'hairpin-dropped', place: {}, right: 'it was left out' });
  const noteCount = music.bars.reduce((sum, bar) => sum + bar.events.length, 0);
  if (noteCount > MOST_NOTES)
    return unreadable({
      code: 'too-many-notes',
      place: {},
      found: `${noteCount} notes`,
      right: `at most ${MOST_NOTES} are read`,
    });
  const meter = music.bars[0]?.meter;
  if (!meter)
    return unreadable({
      code: 'bar-without-meter',
      place: { line: chosen.staff.line, bar: 1 },
      right: 'the first measure needs a <time> element',
    });
  const assembled = assembleBars(music.bars, meter);
  const under = second && withSecondPart(assembled.bars, barsOfVoice(second.staff.measures, second.voice).bars, meter);
  const faults = [...assembled.problems, ...(under?.problems ?? [])];
  if (faults.length > 0) return { ok: false, problem: faults };
  warnings.push(...assembled.warnings, ...(under?.warnings ?? []));
  const key = music.bars[0]?.key ?? { tonic: { step: 'C', alter: 0 }, mode: 'major' };
  const tune = tuneOf(
    root,
    key,
    chosen.staff.tempo ?? staves.find(({ tempo }) => tempo)?.tempo ?? usualTempo(meter),
    { bars: under?.bars ?? assembled.bars, meter },
    warnings,
  );
  const broken = scoreProblems(tune);
  if (broken.length > 0) return { ok: false, problem: broken.map(fromScoreProblem) };
  return success({
    tune,
    warnings: fewWarnings(warnings),
    choices: {
      tunes: [tune.title],
      tune: 1,
      lines: lines.map(({ found }) => found),
      line: chosen.found.number,
      ...(second && { second: second.found.number }),
    },
  });
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
    const counts = voicesIn(staff.measures);
    const resting = staff.measures.find(({ placed }) => placed.length > 0)?.placed[0]?.voice ?? '1/1';
    const voices = counts.size > 0 ? [...counts.keys()] : [resting];
    for (const voice of voices) {
      const [number, staffNumber] = voice.split('/');
      const name =
        voices.length > 1
          ? `${staff.name}, voice ${number}${staffNumber !== '1' ? `, staff ${staffNumber}` : ''}`
          : staff.name;
      const pitches = staff.measures.flatMap(({ placed }) =>
        placed.flatMap(({ voice: own, event }) => (own === voice && event.pitch ? [event.pitch] : [])),
      );
      lines.push({ staff, voice, found: lineOf(lines.length + 1, name, pitches) });
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

function tuneOf(
  root: XmlElement,
  key: Key,
  tempo: Tempo,
  music: { readonly bars: Tune['bars']; readonly meter: Tune['meter'] },
  warnings: FormatProblem[],
): Tune {
  const cut = (text: string | undefined, what: string) => {
    if (text === undefined || text.length <= LONGEST_TEXT) return text;
    warnings.push({
      code: 'left-out',
      place: {},
      found: `the end of a ${what} of ${text.length} characters`,
      right: `${LONGEST_TEXT} are kept`,
    });
    return text.slice(0, LONGEST_TEXT);
  };
  const identification = child(root, 'identification');
  const creators = childrenOf(identification, 'creator');
  const composer = cut(creators.find((one) => one.attributes['type'] === 'composer')?.text.trim(), 'composer');
  const source = cut(textOf(identification, 'source'), 'source');
  const status = fieldOf(root, 'rights-status');
  const swing = swingOf(fieldOf(root, SWING_FIELD));
  const recordingText = fieldOf(root, RECORDING_FIELD);
  const recording = recordingText === undefined ? undefined : parseKey(recordingText);
  const rights = RIGHTS.find((known) => known === status) ?? 'unknown';
  const printedRights = textOf(identification, 'rights');
  if (printedRights)
    warnings.push({
      code: 'left-out',
      place: {},
      found: `the rights line "${printedRights}"`,
      right: 'set the rights status by hand',
    });
  if (Math.abs(key.tonic.alter) > 1)
    warnings.push({
      code: 'left-out',
      place: { bar: 1 },
      found: `the key ${nameKey(key)}`,
      right: 'check the key signature',
    });
  return {
    schema: TUNE_SCHEMA,
    title: cut(textOf(root, 'work', 'work-title') ?? textOf(root, 'movement-title'), 'title') ?? '',
    ...(composer && { composer }),
    ...(source && { source }),
    rights,
    key,
    meter: music.meter,
    tempo,
    ...(swing && { swing }),
    ...(recording?.ok && { recordingKey: recording.value }),
    bars: music.bars,
  };
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
