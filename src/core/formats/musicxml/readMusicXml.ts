import { nameKey, type Key } from '../../pitch/key';
import { RIGHTS, TUNE_SCHEMA, type Tempo, type Tune } from '../../score/tune';
import { usualTempo } from '../../score/usualTempo';
import { scoreProblems } from '../../score/validate';
import { assembleBars } from '../assemble';
import { LONGEST_TEXT, MOST_BARS, MOST_NOTES } from '../limits';
import { fromScoreProblem, type FormatProblem } from '../problem';
import { fewWarnings, unreadable, type ReadResult } from '../readResult';
import { readMeasures } from './measures';
import { child, childrenOf, readXml, textOf, type XmlElement } from './xmlTree';

export interface MusicXmlOptions {
  /** Which part, counted from 1. The first by default. */
  readonly part?: number;
}

/**
 * Reads one part and one voice of a MusicXML score (3.0 to 4.0, partwise or timewise) as a tune in concert pitch.
 * Of several voices the one with most notes is taken. What is not kept is named in the warnings.
 */
export function readMusicXml(text: string, options: MusicXmlOptions = {}): ReadResult {
  const xml = readXml(text);
  if (!xml.ok) return unreadable(xml.problem);
  const { root } = xml;
  if (root.name !== 'score-partwise' && root.name !== 'score-timewise') {
    return unreadable({ code: 'not-musicxml', place: { line: root.line }, found: `<${root.name}>`, right: 'it begins with <score-partwise>' });
  }
  const parts = partsOf(root);
  const warnings: FormatProblem[] = [];
  const wanted = options.part ?? 1;
  const part = parts[wanted - 1];
  if (!part) {
    return parts.length === 0
      ? unreadable({ code: 'not-musicxml', place: { line: root.line }, found: 'no <part>', right: 'a score has at least one part' })
      : unreadable({ code: 'no-such-tune', place: {}, found: String(wanted), right: `it holds ${parts.length} parts` });
  }
  if (parts.length > 1) warnings.push({ code: 'other-voices', place: {}, found: `${parts.length} parts`, right: `"${part.name}" was taken` });
  if (part.measures.length > MOST_BARS) return unreadable({ code: 'too-many-notes', place: {}, found: `${part.measures.length} bars`, right: `at most ${MOST_BARS} are read` });
  const music = readMeasures(part.measures, warnings);
  const noteCount = music.bars.reduce((sum, bar) => sum + bar.events.length, 0);
  if (noteCount > MOST_NOTES) return unreadable({ code: 'too-many-notes', place: {}, found: `${noteCount} notes`, right: `at most ${MOST_NOTES} are read` });
  if (music.problems.length > 0) return { ok: false, problems: music.problems };
  const meter = music.bars[0]?.meter;
  if (!music.bars.some((bar) => bar.events.length > 0)) return unreadable({ code: 'no-tune', place: { line: root.line }, found: 'a part without notes', right: 'choose another part' });
  if (!meter) return unreadable({ code: 'bar-without-meter', place: { line: part.measures[0]?.line ?? root.line, bar: 1 }, right: 'the first measure needs a <time> element' });
  const assembled = assembleBars(music.bars, meter);
  if (assembled.problems.length > 0) return { ok: false, problems: assembled.problems };
  const tune = tuneOf(root, music.bars[0]?.key ?? { tonic: { step: 'C', alter: 0 }, mode: 'major' }, music.tempo ?? usualTempo(meter), { ...assembled, meter }, warnings);
  const broken = scoreProblems(tune);
  if (broken.length > 0) return { ok: false, problems: broken.map(fromScoreProblem) };
  return { ok: true, tune, warnings: fewWarnings([...warnings, ...assembled.warnings]) };
}

function tuneOf(root: XmlElement, key: Key, tempo: Tempo, music: { readonly bars: Tune['bars']; readonly meter: Tune['meter'] }, warnings: FormatProblem[]): Tune {
  const cut = (text: string | undefined, what: string) => {
    if (text === undefined || text.length <= LONGEST_TEXT) return text;
    warnings.push({ code: 'not-kept', place: {}, found: `the end of a ${what} of ${text.length} characters`, right: `${LONGEST_TEXT} are kept` });
    return text.slice(0, LONGEST_TEXT);
  };
  const identification = child(root, 'identification');
  const creators = childrenOf(identification, 'creator');
  const composer = cut(creators.find((one) => one.attributes['type'] === 'composer')?.text.trim(), 'composer');
  const source = cut(textOf(identification, 'source'), 'source');
  const status = childrenOf(child(identification, 'miscellaneous'), 'miscellaneous-field').find((one) => one.attributes['name'] === 'rights-status')?.text.trim();
  const rights = RIGHTS.find((known) => known === status) ?? 'unknown';
  const printedRights = textOf(identification, 'rights');
  if (printedRights) warnings.push({ code: 'not-kept', place: {}, found: `the rights line "${printedRights}"`, right: 'set the rights status by hand' });
  if (Math.abs(key.tonic.alter) > 1) warnings.push({ code: 'not-kept', place: { bar: 1 }, found: `the key ${nameKey(key)}`, right: 'check the key signature' });
  return {
    schema: TUNE_SCHEMA,
    title: cut(textOf(root, 'work', 'work-title') ?? textOf(root, 'movement-title'), 'title') ?? '',
    ...(composer && { composer }),
    ...(source && { source }),
    rights, key, meter: music.meter, tempo, bars: music.bars,
  };
}

interface PartFound {
  readonly name: string;
  readonly measures: readonly XmlElement[];
}

function partsOf(root: XmlElement): readonly PartFound[] {
  const names = new Map(childrenOf(child(root, 'part-list'), 'score-part').map((one) => [one.attributes['id'] ?? '', textOf(one, 'part-name') ?? one.attributes['id'] ?? 'part']));
  if (root.name === 'score-partwise') {
    return childrenOf(root, 'part').map((part) => ({ name: names.get(part.attributes['id'] ?? '') ?? 'part', measures: childrenOf(part, 'measure') }));
  }
  // Timewise: each measure holds all parts; turned round here.
  const byPart = new Map<string, XmlElement[]>();
  for (const measure of childrenOf(root, 'measure')) {
    for (const part of childrenOf(measure, 'part')) {
      const id = part.attributes['id'] ?? '';
      byPart.set(id, [...(byPart.get(id) ?? []), { ...part, name: 'measure', attributes: measure.attributes }]);
    }
  }
  return [...byPart].map(([id, measures]) => ({ name: names.get(id) ?? 'part', measures }));
}
