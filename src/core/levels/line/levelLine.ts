import { derived } from '../../derived';
import { type Instrument, type Level, LEVELS, profileOf } from '../../instruments';
import { lineByOctaves, type Tune } from '../../score';
import { withinLeap } from '../fit/leaps';
import { type ArticulationStyle, LEVEL_DEFAULTS, levelTempo, type PhrasingStyle } from '../../work';
import { broadens, phrased } from '../phrasing/phrasing';
import { phrasingOf } from '../phrasing/styles';
import { articulated, slurredAdditions } from './articulate';
import { embellisher, type Embellisher } from './embellishLine';
import { fittedLine, type PlainLine } from './fittedLine';
import { spliced } from './splice';
import { phrasesIn } from '../bars/versions';
import { type Source, sourceOf } from './source';
import { isPlayable, type LevelLine, type LineRequest, type MeasuredLine } from './lineRequest';
import { ensureHarderThan, measured, MORE_DEVICES } from './ensureHarderThan';

/**
 * A level's line in concert pitch, as it sounds, with the tune it was made of:
 * shaped → fitted → embellished, until it is harder than the level below → bars set by hand → leaps and articulation.
 */
export function levelLine(tune: Tune, request: LineRequest): { readonly source: Source; readonly line: LevelLine } {
  const source = sourceOf(tune, request.keyAndTempo?.key ?? tune.key, request.ofSecond === true);
  return { source, line: inStyle(beforeArticulation(source, request), source, request) };
}

/** The line before leaps and articulation. What nobody asked otherwise is worked out once for an instrument. */
function beforeArticulation(source: Source, request: LineRequest): LevelLine {
  return isAsUsual(request) ? usualLine(source, request).line : freshLine(source, request);
}

/**
 * Whether nobody says otherwise than the level does, but for key, tempo and the variation. Leaps and articulation come
 * later.
 */
function isAsUsual({ shape, melody, rhythm, embellish = {}, limits = {}, bars = {}, more }: LineRequest): boolean {
  const { seed: _, ...embellishing } = embellish;
  const asked = [melody, more, limits.known, ...[rhythm, embellishing, limits.remedies, bars.chosen].map(said)];
  return shape !== 'none' && asked.every((one) => one === undefined);
}

const said = (group: object | undefined) => (group && Object.keys(group).length > 0 ? group : undefined);

function usualLine(source: Source, { level, instrument, keyAndTempo, embellish }: LineRequest): MeasuredLine {
  return lineOfLevel(source, instrument, level, keyAndTempo?.perMinute, embellish?.seed ?? 0);
}

/** Each level asks for the one below, and ten instruments for the same source. */
const lineOfLevel = derived(
  (source: Source, instrument: Instrument, level: Level, perMinute: number | undefined, seed: number): MeasuredLine => {
    const plain: LineRequest = {
      level,
      instrument,
      keyAndTempo: { ...(perMinute !== undefined && { perMinute }) },
      embellish: { seed },
    };
    return measured(freshLine(source, plain), instrument, levelTempo(source.tune, level, perMinute));
  },
  // Tempos and seeds of one instrument.
  { most: 24 },
);

function freshLine(source: Source, request: LineRequest): LevelLine {
  const plain = fittedLine(source, request);
  if (request.shape === 'none' || (plain.melody !== 'embellished' && plain.embellishedBars.size === 0))
    return plain.line;
  const add = embellisher(source, plain, request);
  if (plain.chosen.size > 0) return withBarsByHand(source, request, plain, add);
  const line = embellishedLine(source, request, plain, add);
  return request.more === undefined ? line : secondTime(line, add, request.more);
}

/** The second time is more than the first: where the usual ways find nothing, signs on short notes and ends do. */
function secondTime(line: LevelLine, add: Embellisher, density: number): LevelLine {
  const more = add.on(line, { ...add.usual, density });
  if (more.changes.length > line.changes.length) return more;
  return add.on(line, { ...add.usual, devices: [...add.usual.devices, ...MORE_DEVICES], density, isPressed: true });
}

/** Bars set by hand leave the others as they were: those are taken from the line that the level has without them. */
function withBarsByHand(source: Source, request: LineRequest, plain: PlainLine, add: Embellisher): LevelLine {
  const { bars: _, ...free } = request;
  const byHand = plain.embellishedBars.size > 0 ? add.on(plain.line, { ...add.usual, density: 0 }) : plain.line;
  return spliced(beforeArticulation(source, free), byHand, new Set(plain.chosen.keys()));
}

/** As dense as the recipe says; else with all that the level below was given, and more until it is harder than that. */
function embellishedLine(source: Source, request: LineRequest, plain: PlainLine, add: Embellisher): LevelLine {
  const { level, instrument, embellish = {} } = request;
  const below = LEVELS[LEVELS.indexOf(level) - 1];
  const isByHand = embellish.density !== undefined || embellish.devices !== undefined;
  if (plain.melody !== 'embellished' || !below || isByHand) return add.on(plain.line, add.usual);
  const under = usualLine(source, { level: below, instrument, keyAndTempo: request.keyAndTempo, embellish });
  return ensureHarderThan(under, plain.line, add, instrument);
}

/** The line within its leaps, with its articulation and phrasing. */
function inStyle(unslurred: LevelLine, source: Source, request: LineRequest): LevelLine {
  const { leap } = request.limits ?? {};
  const { style = 'as-written', phrasing } = request.articulation ?? {};
  const near = leap === undefined ? unslurred : nearLine(unslurred, source, request, leap);
  const spoken = style === 'as-written' ? near : spokenLine(near, source, style);
  if (phrasing !== 'none' && request.shape !== 'none')
    return phrasedLine(spoken, source, request, phrasing ?? phrasingOf(source.tune), style !== 'as-written');
  const isBowed = style === 'as-written' && request.instrument.family === 'strings' && unslurred.rounds.length > 0;
  return isBowed ? { ...spoken, tune: slurredAdditions(spoken.tune) } : spoken;
}

function nearLine(line: LevelLine, source: Source, request: LineRequest, leap: number): LevelLine {
  const phrases = phrasesIn(line.tune, source.tune, source.phrases);
  const near = withinLeap(line.tune, phrases, leap, isPlayable(request));
  return { ...line, tune: near.tune, changes: [...line.changes, ...near.changes] };
}

function spokenLine(line: LevelLine, source: Source, style: Exclude<ArticulationStyle, 'as-written'>): LevelLine {
  const spoken = articulated(line.tune, phrasesIn(line.tune, source.tune, source.phrases), style);
  return { ...line, tune: spoken.tune, changes: [...line.changes, ...spoken.changes] };
}

/** What a player would pencil in; worked out for the line as all have it, where it was only moved by octaves. */
function phrasedLine(
  line: LevelLine,
  source: Source,
  { level, instrument, bars = {}, melody, embellish = {} }: LineRequest,
  style: PhrasingStyle,
  isSpoken: boolean,
): LevelLine {
  const isMoved = line.tune === lineByOctaves(line.base, line.shift);
  const plain = isMoved ? line.base : line.tune;
  const closed = source.tune.bars.flatMap(({ id }, index) => (bars.chosen?.[id]?.kind === 'own' ? [index] : []));
  const devices = embellish.devices ?? LEVEL_DEFAULTS[level].devices;
  const adorns =
    profileOf(level).embellishing.varies &&
    (melody ?? LEVEL_DEFAULTS[level].melody) === 'embellished' &&
    embellish.density !== 0 &&
    devices.includes('turn');
  const made = phrased(plain, linePhrases(plain, source), source, {
    style,
    level,
    instrument,
    isSpoken,
    adorns,
    closed,
  });
  const changes = made.changes.length > 0 ? [...line.changes, ...made.changes] : line.changes;
  const end = broadens(source.tune, style, level) ? { broadens: true as const } : {};
  return isMoved
    ? { ...line, base: made.tune, tune: lineByOctaves(made.tune, line.shift), changes, ...end }
    : { ...line, tune: made.tune, changes, ...end };
}

const linePhrases = derived((line: Tune, source: Source) => phrasesIn(line, source.tune, source.phrases));
