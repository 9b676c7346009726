import { type Instrument, profileOf } from '../../instruments';
import { byOctaves, type Pitch, readableInterval, transpose } from '../../pitch';
import { lineByOctaves, quartersPerMinute, type Tempo } from '../../score';
import { type Ticks, TICKS_PER_QUARTER } from '../../time';
import { formOf } from '../../pools';
import { UNHURRIED } from '../embellish/candidates';
import { embellish, type Embellished, type Round } from '../embellish/embellish';
import { LEVEL_DEFAULTS, levelTempo, type Shortest } from '../../work';
import { sharedEmbellishing } from './lineCache';
import type { PlainLine } from './fittedLine';
import { phrasesIn } from '../bars/versions';
import type { Source } from './source';
import { isPlayable, type LevelLine, type LineRequest } from './lineRequest';

/** Adds to lines of one request, time by time. */
export interface Embellisher {
  readonly tempo: Tempo;
  /** As the recipe says, or the level's default. */
  readonly usual: Round;
  readonly on: (line: LevelLine, round: Round) => LevelLine;
}

export function embellisher(source: Source, plain: PlainLine, request: LineRequest): Embellisher {
  const { level, limits = {}, rhythm = {}, keyAndTempo = {}, embellish: wishes = {} } = request;
  const { chosen, embellishedBars: own, shaped } = plain;
  const defaults = LEVEL_DEFAULTS[level];
  const tempo = levelTempo(source.tune, level, keyAndTempo.perMinute);
  const isInReach = isPlayable(request);
  // What is added is read without a double sharp or flat.
  const written = readableInterval(source.tune.key, request.instrument.transposition);
  const isFree = (pitch: Pitch) => isInReach(pitch) && Math.abs(transpose(pitch, written).alter) <= 1;
  const silent = new Set(Object.keys(limits.remedies ?? {}));
  // A strong note that comes early leans over the beat, perhaps over the barline.
  const leans = rhythm.offBeat !== false;
  const isCalm = !leans || rhythm.ties === false;
  const isShared = chosen.size === 0 && silent.size === 0;
  const seed = wishes.seed ?? 0;
  const { style } = formOf(source.tune);
  const unhurried = (quartersPerMinute(tempo) * TICKS_PER_QUARTER) / 60 / UNHURRIED;

  const on = (line: LevelLine, wished: Round): LevelLine => {
    const round = isCalm
      ? { ...wished, devices: wished.devices.filter((device) => device !== 'anticipation') }
      : wished;
    const isFreeThere = (pitch: Pitch) => isFree(line.shift === 0 ? pitch : byOctaves(pitch, line.shift));
    const make = (isFreeOf: (pitch: Pitch) => boolean): Embellished => {
      const isFirst = line.rounds.length === 0;
      const phrases = isFirst ? shaped.phrases : phrasesIn(line.base, plain.line.base, shaped.phrases);
      return embellish(line.base, phrases, {
        ...round,
        style,
        round: line.rounds.length + 1,
        seed,
        own: isFirst ? own : new Map(),
        silent,
        leans,
        unhurried,
        isFree: isFreeOf,
        locked: new Set([...chosen.keys()].filter((index) => !own.has(index))),
      });
    };
    const name = JSON.stringify({ leans, unhurried, seed, rounds: line.rounds.length, round });
    const done = isShared ? sharedEmbellishing(line.base, name, isFreeThere, make) : make(isFreeThere);
    return {
      ...line,
      base: done.tune,
      tune: lineByOctaves(done.tune, line.shift),
      changes: [...line.changes, ...done.changes],
      rounds: [...line.rounds, round],
    };
  };
  const ticksASecond = (quartersPerMinute(tempo) * TICKS_PER_QUARTER) / 60;
  const fastest = fastestOn(request.instrument, defaults.fastest);
  const usual: Round = {
    devices: wishes.devices ?? defaults.devices,
    units: unitsFor(rhythm.shortest ?? defaults.shortest, fastest, tempo),
    quickest: Math.max(TICKS_PER_QUARTER / 4, ticksASecond / (fastest ?? FASTEST_ADDED)),
    density: plain.melody === 'embellished' ? (wishes.density ?? defaults.density) : 0,
    isPressed: false,
    ...(wishes.devices && { isAsked: true as const }),
    varies: profileOf(level).embellishing.varies,
  };
  return { tempo, usual, on };
}

/**
 * The shortest notes that may be added at a tempo, longest first: eighths, and sixteenths where the level has them and
 * time is left.
 */
function unitsFor(shortest: Shortest, fastest: number | undefined, tempo: Tempo): readonly Ticks[] {
  const perSecond = (unit: Ticks) => (quartersPerMinute(tempo) * TICKS_PER_QUARTER) / 60 / unit;
  const wanted =
    shortest === '16th'
      ? [TICKS_PER_QUARTER / 2, TICKS_PER_QUARTER / 4]
      : [shortest === 'eighth' ? TICKS_PER_QUARTER / 2 : TICKS_PER_QUARTER];
  const playable = wanted.filter((unit) => perSecond(unit) <= (fastest ?? FASTEST_ADDED));
  return playable.length > 0 ? playable : [TICKS_PER_QUARTER];
}

/** Notes a second that a slide makes without smearing them (common practice: sixteenths at about 90). */
const FASTEST_SLIDE = 6;

/** How fast added notes may be: what the level plays, and on a slide no more than it makes. */
function fastestOn({ mechanism }: Pick<Instrument, 'mechanism'>, ofLevel: number | undefined): number | undefined {
  return mechanism.kind === 'slide' ? Math.min(FASTEST_SLIDE, ofLevel ?? FASTEST_SLIDE) : ofLevel;
}

/** Nobody is given more notes a second than this unasked. */
const FASTEST_ADDED = 9;
