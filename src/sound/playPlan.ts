import { type Level, LEVELS } from '../core/instruments';
import { firstNotes, formedPartOfLevel, type Part, partOfLevel, underPart } from '../core/levels';
import { ensembleOfGroup, performedPart } from '../core/ensemble';
import type { Group } from '../core/keys';
import { instrumentOf, recipesOf, type Work } from '../core/work';
import { type Key, nameKey, printKey } from '../core/pitch';
import {
  type Bar,
  barSpans,
  type EventId,
  hasSecondPart,
  quartersPerMinute,
  secondPartBars,
  type Swing,
  type Tempo,
  type Tune,
  unfold,
} from '../core/score';
import { barTicks, beatsOf, type Ticks } from '../core/time';
import { backingFor, type Feel } from './backing';
import { clicksOf, countIn, type ClickWishes } from './metronome';
import { perform, type Sounded } from './perform';
import { TimeMap, type PlayedBar } from './timeMap';
import { BASS_VOICE, CHORD_VOICE, SECOND_VOICE, TUNE_VOICE, voiceOf } from './voices';

/** Who is heard: a group that plays together, one lane, tune and second part, the levels together, or the easier part under the tune. */
export type Heard = 'tune' | 'second' | 'both' | Level | 'together' | 'under' | 'group';

/** A player of a group that plays together, by place: `v1` is the first who has an instrument. */
export type VoiceLane = `v${number}`;

/** Who of a group is heard. */
export interface GroupWishes {
  readonly group: Group;
  /** What the group plays, where the line is a work of its own: the others play behind it. */
  readonly of?: Work;
  /** The place of a player, from 0, who is heard alone, or who is not heard. */
  readonly only?: number;
  readonly without?: number;
}

/** Who plays along in a band: levels, and the easier part. */
export type BandMember = Level | 'under';

export interface PlayWishes extends ClickWishes {
  readonly heard: Heard;
  readonly backing: Feel | 'none';
  readonly click: boolean;
  readonly countIn: boolean;
  /** In the tune's own beat; by default as the lane's tempo is. */
  readonly perMinute?: number;
  /** Index of the bar that playing begins with. */
  readonly from: number;
  /** From the start of that bar, when it begins within it. */
  readonly at?: Ticks;
  /** Plays from the first to this bar (its index) again and again, as they stand on the page. */
  readonly loopTo?: number;
  /** Plays bars (their indices, the last one too) as they stand so many times, and ends. */
  readonly stretch?: { readonly from: number; readonly to: number; readonly times: number };
  /** Bars of clicks before the music, instead of what `countIn` would give. */
  readonly countInBars?: number;
  /** Bars that go round are heard once and then kept silent for as long, for an answer. */
  readonly hasAnswers?: boolean;
  /**
   * With answers: bars (their indices on the page) with which another call begins, so that it goes phrase by phrase.
   */
  readonly callStarts?: readonly number[];
  /** With answers: the line is heard as the answer, not as the call. */
  readonly isAnswering?: boolean;
  /** Backing and clicks alone: the line is not heard. */
  readonly isSilent?: boolean;
  /** Sound of the bank for the tune's own lane, from 0. */
  readonly tuneProgram?: number;
  /** Levels (and the easier part) that play along, each its own part, where they are in the same key; once through then, without a form. */
  readonly band?: readonly BandMember[];
  /** With `group` heard: the players, and which of them. As a band, they play behind the line. */
  readonly group?: GroupWishes;
  /** How loud each is, 0 to 1, against what is usual (1). */
  readonly volumes?: Volumes;
  /** Eighths as they are written by default. */
  readonly swing?: Swing | 'even';
}

/** Who can be louder or softer than the others. */
export type Mixed = 'line' | 'bass' | 'chords' | 'click' | BandMember | VoiceLane;
export type Volumes = Readonly<Partial<Record<Mixed, number>>>;

type SoundedLane = 'tune' | 'second' | BandMember | VoiceLane;

/** A lane that is always there; players of a group have channels as they come. */
type FixedLane = Exclude<SoundedLane, VoiceLane>;

/** One instrument of the plan. */
interface Voice {
  readonly who: Mixed;
  /** MIDI channel, from 0; 9 is the drums'. */
  readonly channel: number;
  /** General MIDI program, from 0. */
  readonly program: number;
  /** 0–127. */
  readonly volume: number;
  /** 0 left, 64 middle, 127 right. */
  readonly pan: number;
  readonly notes: readonly Sounded[];
}

export interface LaneMark {
  readonly lane: SoundedLane;
  readonly id: EventId;
  readonly start: number;
  readonly end: number;
}

/** All that is heard and lit, in seconds from the first click of the count-in. */
export interface PlayPlan {
  readonly voices: readonly Voice[];
  /** By their start. */
  readonly marks: readonly LaneMark[];
  readonly bars: readonly PlayedBar[];
  /** Beats of each bar of the page, by its index. */
  readonly beats: readonly number[];
  /** Where the music begins, after the count-in. */
  readonly lead: number;
  readonly seconds: number;
  readonly loops: boolean;
  readonly tempo: Tempo;
  /** Why something is not heard, in words. */
  readonly messages: readonly string[];
}

const DRUMS = 9;
const CHANNELS: Readonly<Record<FixedLane, number>> = {
  tune: 0,
  second: 1,
  beginner: 2,
  intermediate: 3,
  advanced: 4,
  under: 7,
};
const PANS: Readonly<Record<FixedLane, number>> = {
  tune: 60,
  second: 74,
  beginner: 40,
  intermediate: 64,
  advanced: 88,
  under: 50,
};
const [BASS_CHANNEL, CHORD_CHANNEL] = [5, 6];

/** Channels that a group's players may have: all but those of drums and backing. Beyond them, two share one. */
const VOICE_CHANNELS = [0, 1, 2, 3, 4, 7, 8, 10, 11, 12, 13, 14, 15] as const;

interface Line {
  readonly lane: SoundedLane;
  /** Where it is one of a group: its place, and among how many. */
  readonly seat?: { readonly place: number; readonly of: number; readonly isBehind: boolean };
  readonly key: Key;
  readonly bars: readonly Bar[];
  readonly tempo: Tempo;
  readonly program: number;
  readonly swing: Swing | undefined;
}

/** What is played through, and what of the page each bar and event of it is. */
interface Course {
  readonly lines: readonly Line[];
  /** Bars with their signs and tempos. */
  readonly tune: Tune;
  readonly pageBar: (bar: number) => number;
  readonly pageEvent: (id: EventId) => EventId;
}

/** Works out what is played when a lane, or all of them, is to be heard. */
export function planPlaying(work: Work, wishes: PlayWishes): PlayPlan {
  const { lines: written, tune, pageBar, pageEvent } = courseOf(work, wishes);
  const all = written.map((line) => swungAsAsked(line, wishes.swing));
  const [first] = all;
  const heard = all.filter(({ key }) => !first || printKey(key) === printKey(first.key));
  const messages = all
    .filter((line) => !heard.includes(line))
    .map(({ lane, key }) => `The ${lane} part is in ${nameKey(key)} and is not heard with the others.`);
  const slowest = heard.reduce<Tempo>(
    (slow, { tempo }) => (quartersPerMinute(tempo) < quartersPerMinute(slow) ? tempo : slow),
    first?.tempo ?? tune.tempo,
  );
  const tempo = wishes.perMinute === undefined ? slowest : { ...tune.tempo, perMinute: wishes.perMinute };
  const once = orderFor(tune, wishes, pageBar);
  const calls = wishes.hasAnswers ? callsIn(once, wishes.callStarts ?? [], pageBar) : [];
  const order = wishes.hasAnswers ? calls.flatMap((call) => [...call, ...call]) : once;
  // Lines may swing each in its own way; bars are as long for all.
  const mapOf = ({ swing }: Pick<Line, 'swing'>) => {
    const { swing: _, ...even } = tune;
    return new TimeMap(swing ? { ...even, swing } : even, order, tempo);
  };
  const map = mapOf({ swing: first?.swing });
  const begin = wishes.at === undefined || wishes.loopTo !== undefined ? 0 : map.at(0, wishes.at);
  const counted =
    (wishes.countIn || wishes.countInBars) && order.length > 0 ? countIn(tune, map, wishes.countInBars) : [];
  const lead = counted.length > 0 ? (counted.at(-1)?.end ?? 0) : 0;
  const moved = <Timed extends { readonly start: number; readonly end: number }>(
    timed: readonly Timed[],
  ): readonly Timed[] =>
    timed
      .filter(({ start }) => start >= begin - 1e-6)
      .map((one) => ({
        ...one,
        start: Math.max(0, one.start - begin + lead),
        end: Math.max(0.01, Math.min(one.end, map.seconds) - begin + lead),
      }));
  const voices: Voice[] = [];
  const marks: LaneMark[] = [];
  const isBand = (line: Line) =>
    line.seat?.isBehind === true || (line !== first && wishes.band?.some((level) => level === line.lane) === true);
  for (const line of wishes.isSilent ? heard.filter(isBand) : heard) {
    const performed = perform({ bars: line.bars, meter: tune.meter, key: line.key }, mapOf(line));
    const isKept = isBand(line) ? () => true : heardWithAnswers(calls, map, wishes.isAnswering === true);
    const notes = moved(performed.notes.filter(({ start }) => isKept(start)));
    voices.push(lineVoice(line, notes, { isBand: isBand(line), isAlone: heard.length === 1 }, wishes));
    if (!isBand(line))
      marks.push(...moved(performed.marks).map((mark) => ({ ...mark, id: pageEvent(mark.id), lane: line.lane })));
  }
  if (wishes.backing !== 'none' && first) {
    const { bass, chords } = backingFor({ bars: first.bars, meter: tune.meter, key: first.key }, map, wishes.backing);
    if (bass.length === 0) messages.push('There are no chord symbols here to make a backing from.');
    voices.push(
      {
        ...{ who: 'bass', channel: BASS_CHANNEL, program: BASS_VOICE, pan: 58 },
        volume: volumeOf('bass', LOUD.bass, wishes),
        notes: moved(bass),
      },
      {
        ...{ who: 'chords', channel: CHORD_CHANNEL, program: CHORD_VOICE, pan: 78 },
        volume: volumeOf('chords', LOUD.chords, wishes),
        notes: moved(chords),
      },
    );
  }
  const clicks = [...counted, ...(wishes.click ? moved(clicksOf(tune, map, wishes)) : [])];
  if (clicks.length > 0)
    voices.push({
      who: 'click',
      channel: DRUMS,
      program: 0,
      volume: volumeOf('click', LOUD.click, wishes),
      pan: 64,
      notes: clicks,
    });
  return {
    voices,
    marks: marks.toSorted((a, b) => a.start - b.start),
    bars: map.bars.map((bar) => ({ ...bar, bar: pageBar(bar.bar), start: bar.start - begin + lead })),
    beats: beatCounts(tune, pageBar),
    lead,
    seconds: map.seconds - begin + lead,
    loops: wishes.loopTo !== undefined,
    tempo,
    messages,
  };
}

/** How loud each usually is, 0–127: alone, with others, and behind a line. */
const LOUD = { alone: 108, together: 92, band: 80, bass: 96, chords: 84, click: 100 } as const;

function volumeOf(who: Mixed, usual: number, { volumes }: PlayWishes): number {
  return Math.round(usual * Math.max(0, Math.min(1, volumes?.[who] ?? 1)));
}

/** Players of a group sit from left to right; nobody is louder than the tune by being many. */
function seatVoice(
  { lane, program, seat }: Line & { readonly seat: NonNullable<Line['seat']> },
  notes: readonly Sounded[],
  wishes: PlayWishes,
): Voice {
  const { place, of, isBehind } = seat;
  const who = lane as VoiceLane;
  const spread = of === 1 ? 64 : Math.round(34 + (60 * place) / (of - 1));
  const usual =
    of === 1 ? LOUD.alone : Math.round((isBehind ? LOUD.band : LOUD.together) * Math.min(1, 1.9 / Math.sqrt(of)));
  const channel = VOICE_CHANNELS[place % VOICE_CHANNELS.length] ?? 0;
  return {
    who,
    channel: isBehind && channel === 0 ? SPARE_CHANNEL : channel,
    program,
    volume: volumeOf(who, usual, wishes),
    pan: spread,
    notes,
  };
}

/** Behind a line on the first channel, the first player has another. */
const SPARE_CHANNEL = 8;

function lineVoice(
  line: Line,
  notes: readonly Sounded[],
  { isBand, isAlone }: { readonly isBand: boolean; readonly isAlone: boolean },
  wishes: PlayWishes,
): Voice {
  const { lane, program, seat } = line;
  if (seat) return seatVoice({ ...line, seat }, notes, wishes);
  if (isVoiceLane(lane)) throw new RangeError(`no seat for ${lane}`);
  const who: Mixed = isBand && lane !== 'tune' && lane !== 'second' ? lane : 'line';
  return {
    who,
    channel: CHANNELS[lane],
    program,
    volume: volumeOf(who, isBand ? LOUD.band : isAlone ? LOUD.alone : LOUD.together, wishes),
    pan: isAlone ? 64 : PANS[lane],
    notes,
  };
}

function isVoiceLane(lane: SoundedLane): lane is VoiceLane {
  return /^v\d+$/.test(lane);
}

function swungAsAsked(line: Line, asked: PlayWishes['swing']): Line {
  return asked === undefined ? line : { ...line, swing: asked === 'even' ? undefined : asked };
}

function courseOf(work: Work, wishes: PlayWishes): Course {
  const { heard, tuneProgram = TUNE_VOICE, band = [] } = wishes;
  const { tune } = work;
  if (heard === 'group') return groupCourse(work, wishes);
  const source: Line = {
    lane: 'tune',
    key: tune.key,
    bars: tune.bars,
    tempo: tune.tempo,
    program: tuneProgram,
    swing: tune.swing,
  };
  const asIs = { tune, pageBar: (bar: number) => bar, pageEvent: (id: EventId) => id };
  const second: Line = { ...source, lane: 'second', bars: secondPartBars(tune.bars), program: SECOND_VOICE };
  const lineFor = (level: Level) => lineOf(level, partOfLevel(tune, level, work.recipes).value);
  const keyOfHeard = recipesOf(work)[LEVELS.find((level) => level === heard) ?? LEVELS[0]].keyAndTempo?.key;
  const key = heard === 'tune' || heard === 'second' || heard === 'both' ? tune.key : (keyOfHeard ?? tune.key);
  const under = () => underLine(work, key);
  const others = [
    ...band.filter((one) => one !== heard).map((one) => (one === 'under' ? under() : lineFor(one))),
    ...(wishes.group?.of ? groupLines(wishes.group.of, wishes.group, true).lines : []),
  ];
  if (heard === 'under') return { ...asIs, lines: [under(), ...others] };
  if (heard === 'tune' || (!hasSecondPart(tune) && (heard === 'second' || heard === 'both')))
    return { ...asIs, lines: [source, ...others] };
  if (heard === 'second' || heard === 'both') return { ...asIs, lines: heard === 'both' ? [source, second] : [second] };
  // Together they are heard once through; alone a level plays its form.
  if (heard === 'together') return { ...asIs, lines: LEVELS.map(lineFor) };
  if (others.length > 0) return { ...asIs, lines: [lineFor(heard), ...others] };
  const { part, source: places, origin } = formedPartOfLevel(tune, heard, work.recipes);
  return {
    lines: [lineOf(heard, part)],
    tune: { ...tune, bars: part.soundingBars },
    pageBar: (bar) => places[bar]?.bar ?? bar,
    pageEvent: (id) => origin.get(id)?.id ?? id,
  };
}

/** A group's parts through the form in which they are played. */
function groupCourse(work: Work, { group: wanted }: PlayWishes): Course {
  const { tune } = work;
  const { lines, bars, key, source } = wanted ? groupLines(work, wanted, false) : NO_LINES;
  return {
    lines,
    tune: bars && key ? { ...tune, key, bars } : tune,
    pageBar: (bar) => source[bar] ?? (source.length > 0 ? 0 : bar),
    pageEvent: (id) => id.replace(/[~].*$/, ''),
  };
}

interface GroupLines {
  readonly lines: readonly Line[];
  /** Bars as the first of them plays them, and the key of all. */
  readonly bars?: readonly Bar[];
  readonly key?: Key;
  /** Which bar of the tune each bar stands for. */
  readonly source: readonly (number | undefined)[];
}
const NO_LINES: GroupLines = { lines: [], source: [] };

/** @param isBehind they play behind somebody's line */
function groupLines(work: Work, wanted: GroupWishes, isBehind: boolean): GroupLines {
  const ensemble = ensembleOfGroup(work, wanted.group);
  if (!ensemble) return NO_LINES;
  const places = ensemble.voices.flatMap(({ cells }, place) =>
    cells.some((cell) => cell !== 'out') &&
    (wanted.only === undefined || wanted.only === place) &&
    wanted.without !== place
      ? [place]
      : [],
  );
  const made = places.map((place) => ({ place, ...performedPart(ensemble, place, work.tune.together ?? {}) }));
  const [first] = made;
  if (!first) return NO_LINES;
  return {
    lines: made.map(({ place, part }, k): Line => ({
      lane: `v${place + 1}`,
      seat: { place: k, of: made.length, isBehind },
      key: part.concertKey,
      bars: part.soundingBars,
      tempo: part.tempo,
      program: voiceOf(part.instrument),
      swing: part.swing,
    })),
    bars: first.part.soundingBars,
    key: first.part.concertKey,
    source: first.source,
  };
}

/** The easier part of who begins, in the key of what it is played under. */
function underLine({ tune, recipes }: Work, key: Key): Line {
  const instrument = instrumentOf(recipesOf({ recipes })[LEVELS[0]]);
  const { part } = underPart(tune, instrument, firstNotes(instrument, 3), 'bar', key);
  return {
    lane: 'under',
    key: part.concertKey,
    bars: part.soundingBars,
    tempo: part.tempo,
    program: voiceOf(instrument),
    swing: undefined,
  };
}

function lineOf(level: Level, part: Part): Line {
  return {
    lane: level,
    key: part.concertKey,
    bars: part.soundingBars,
    tempo: part.tempo,
    program: voiceOf(part.instrument),
    swing: part.swing,
  };
}

/**
 * The bars in the order of playing, from the one asked for: with all repeats, or as they stand where a stretch is
 * looped.
 */
function orderFor(
  tune: Tune,
  { heard, from, loopTo, stretch }: PlayWishes,
  pageBar: Course['pageBar'],
): readonly { readonly bar: number; readonly pass: number }[] {
  if (stretch) {
    const bars = tune.bars.flatMap((_, bar) =>
      pageBar(bar) >= stretch.from && pageBar(bar) <= stretch.to ? [bar] : [],
    );
    return Array.from({ length: stretch.times }, () => bars.map((bar) => ({ bar, pass: 1 }))).flat();
  }
  if (loopTo !== undefined) {
    // In a form, the first time through is what stands on the page.
    const times = tune.bars.findIndex((_, bar) => bar > 0 && pageBar(bar) < pageBar(bar - 1));
    return tune.bars
      .slice(0, times < 0 ? undefined : times)
      .flatMap((_, bar) => (pageBar(bar) >= from && pageBar(bar) <= loopTo ? [{ bar, pass: 1 }] : []));
  }
  const { order, passes } = unfold(tune.bars);
  // An introduction stands before the first bar of the page.
  const isWhole = heard === 'group' && from === 0;
  const first = isWhole
    ? 0
    : Math.max(
        0,
        order.findIndex((bar) => pageBar(bar) === from),
      );
  return order.slice(first).map((bar, index) => ({ bar, pass: passes[first + index] ?? 1 }));
}

interface OrderedBar {
  readonly bar: number;
  readonly pass: number;
}

/** The bars in the order of playing, cut where another call begins. */
function callsIn(
  order: readonly OrderedBar[],
  starts: readonly number[],
  pageBar: Course['pageBar'],
): readonly (readonly OrderedBar[])[] {
  const calls: OrderedBar[][] = [];
  order.forEach((one, k) => {
    if (k === 0 || starts.includes(pageBar(one.bar))) calls.push([]);
    calls.at(-1)?.push(one);
  });
  return calls;
}

/**
 * Whether a note that begins at a moment is heard: each call is heard once and then kept silent for as long, or the
 * other way round.
 */
function heardWithAnswers(
  calls: readonly (readonly OrderedBar[])[],
  map: TimeMap,
  isAnswering: boolean,
): (start: number) => boolean {
  let place = 0;
  const answers = calls.map(({ length }) => {
    const from = map.at(place + length, 0);
    place += 2 * length;
    return { from, to: map.at(place, 0) };
  });
  return (start) =>
    calls.length === 0 || answers.some(({ from, to }) => start >= from - 1e-6 && start < to - 1e-6) === isAnswering;
}

/** So many beats has each bar as it stands on the page. */
function beatCounts(tune: Tune, pageBar: Course['pageBar']): readonly number[] {
  const counts: number[] = [];
  barSpans(tune).forEach(({ meter, length }, bar) => {
    const full = barTicks(meter);
    counts[pageBar(bar)] = Math.max(1, Math.round((beatsOf(meter).length * length) / full));
  });
  return counts;
}
