import {
  nameChord,
  nameOfSet,
  nameScale,
  readableScale,
  type Scale,
  SCALE_OF_MODE,
  transposeChord,
  withReadableRoot,
} from '../harmony';
import { type Instrument, type Level, toSounding, profileOf } from '../instruments';
import {
  chroma,
  intervalBetweenTonics,
  type Key,
  nameKey,
  namePitchClass,
  type Pitch,
  type PitchClass,
  readableInterval,
  sameKey,
  signatureOf,
  transpose,
  transposeClass,
  transposeKey,
} from '../pitch';
import { capitalised } from '../plainText';
import { keyForSet } from '../pools';
import {
  type Bar,
  DRILL_LIMITS,
  type DrillForm,
  type DrillIdea,
  type DrillRhythm,
  type Exercise,
  isNote,
  type PlacedChord,
  type Tune,
  TUNE_SCHEMA,
} from '../score';
import { barTicks, type Meter, sameMeter } from '../time';
import { chordPairs, type PairedLine } from './chordPairs';
import { dateOfKey } from './dates';
import { canReach, handAt, shapeThrough, type Hand } from './hand';
import { inversionPath } from './inversions';
import { groupsThrough } from './oneGroup';
import { tonicsInOrder } from './keyOrder';
import { articulated, formBars, Names, roomIn, sectionBars, slotsOf } from './layOut';
import { DRILL_DEFAULTS, easiestKeys, usualRhythm, type DrillWishes } from './levelDrill';
import { partialsOn } from './lipSlurs';
import { lineOverForm, type Stretch } from './overForm';
import { groupSize, parsePattern, PATTERNS, type Pattern } from './pattern';
import { chordLine, narrowed, sectionOf, type SectionRequest } from './section';
import type { SectionLine } from './sectionLine';
import { nameSpan, type Message } from './message';

/** Who plays a drill, and what was decided for them. */
export interface DrillRequest {
  readonly level: Level;
  /** Its range is the player's already. */
  readonly instrument: Instrument;
  readonly wishes?: DrillWishes;
  /** Beats a minute; by the level where nothing is said. */
  readonly perMinute?: number;
}

/** One key of one exercise. */
interface DrillSection {
  /** Index of the exercise. */
  readonly step: number;
  /** Concert. */
  readonly key: Key;
  readonly writtenKey: Key;
  /** The signature under which it stands, where that is not its key's. */
  readonly signature?: Key;
  /** As it is headed in the part, and where it is read as it sounds. */
  readonly name: string;
  readonly concertName: string;
  /** The set alone, without exercise and date: written, and as it sounds. */
  readonly set: string;
  readonly concertSet: string;
  /** Indices of its bars: `from` up to but without `to`. */
  readonly from: number;
  readonly to: number;
  /** Written pitches in playing order. */
  readonly notes: readonly Pitch[];
  /** Where the hand stays on strings, if it does. */
  readonly hand?: Hand;
}

/** A drill laid out for a level of an instrument. */
export interface DrillLine {
  /** In concert pitch, as it sounds there. */
  readonly tune: Tune;
  readonly sections: readonly DrillSection[];
  /** What is not as the idea says, by the index of its bar. */
  readonly messages: readonly (Message & { readonly bar: number })[];
}

/**
 * A name for the whole, by what tells it from others: `Thirds in major`, `A ladder of five steps in minor pentatonic`,
 * `Thirds in major, down, round the fourths`.
 */
export function drillTitle(idea: Pick<DrillIdea, 'steps' | 'over' | 'keys' | 'start'>): string {
  const { steps, over, keys, start } = idea;
  const [first] = steps;
  const isOver = over !== undefined && isOverForm(first.pattern);
  const where = isOver ? `over ${over.title || 'a form'}` : `in ${nameOfSet(first.set)}`;
  const name = steps.length > 1 ? `a ladder of ${steps.length} steps` : patternName(first.pattern);
  const apart = [
    steps.length === 1 && first.direction ? TITLE_WORDS[first.direction] : '',
    steps.length === 1 && first.extent ? EXTENT_TITLES[first.extent] : '',
    typeof keys === 'object' ? `${keys.length === 1 ? 'on' : 'in'} ${keys.map(namePitchClass).join(' ')}` : '',
    typeof keys === 'string' ? ORDER_TITLES[keys] : '',
    start && typeof keys !== 'object' ? `from ${namePitchClass(start)}` : '',
  ].filter(Boolean);
  return [`${capitalised(name)} ${where}`, ...apart].join(', ');
}

/** Directions and orders as a title says them; what is usual is not said. */
const TITLE_WORDS = {
  'up-down': '',
  up: 'up',
  down: 'down',
  'down-up': 'down and up',
  alternate: 'one up, one down',
  melodic: 'natural coming down',
  nearest: 'from the nearest tone',
} as const;
const EXTENT_TITLES = {
  five: 'five notes',
  octave: 'an octave',
  two: 'two octaves',
  three: 'three octaves',
  full: 'the full range',
} as const;
const ORDER_TITLES = {
  fourths: 'round the fourths',
  fifths: 'round the fifths',
  semitones: 'by half steps',
  'whole-tones': 'by whole steps',
  'minor-thirds': 'in rounds of four',
  easiest: 'easiest first',
} as const;

/** `thirds`, `cell 1 2 3 5`; what cannot be read is named as it stands. */
export function patternName(text: string): string {
  const entry = PATTERNS.find(({ id }) => id === text);
  if (entry) return entry.name;
  const parsed = parsePattern(text);
  return parsed.ok && parsed.value.kind === 'group' ? parsed.value.name : text.replace(/^\s*cell:\s*/, 'cell ');
}

export function isOverForm(pattern: string): boolean {
  const parsed = parsePattern(pattern);
  return parsed.ok && (parsed.value.kind === 'chords' || parsed.value.kind === 'guide-tones');
}

/**
 * Lays a drill out for a level of an instrument: every exercise through its keys, in bars, in concert pitch. What would
 * leave the range is folded or left out, and said. A drill of which nothing remains has no sections.
 * @throws RangeError for a pattern that cannot be read; documents are checked for that where they come in
 */
export function layDrill(idea: DrillIdea, request: DrillRequest): DrillLine {
  const { instrument, level, wishes = {} } = request;
  const names = new Names();
  const bars: Bar[] = [];
  const sections: DrillSection[] = [];
  const messages: (Message & { bar: number })[] = [];
  let meter: Meter | undefined;
  let key: Key | undefined;
  let firstMeter: Meter = { count: 4, unit: 4 };
  const rhythmOf = (step: Exercise) => wishes.rhythm ?? step.rhythm ?? usualRhythm(level, patternOf(step));
  const take = (made: MadeSection & Pick<DrillSection, 'name' | 'concertName'>, step: number) => {
    if (made.bars.length === 0 || bars.length + made.bars.length > DRILL_LIMITS.bars) return;
    const from = bars.length;
    const signature = made.signature ?? made.writtenKey;
    const sounding = readableInterval(signature, toSounding(instrument));
    const concertKey = transposeKey(signature, sounding);
    made.bars.forEach((bar, k) => {
      const isFirst = k === 0;
      const isLast = k === made.bars.length - 1;
      bars.push({
        ...bar,
        events: bar.events.map((event) =>
          isNote(event) ? { ...event, pitch: transpose(event.pitch, sounding) } : event,
        ),
        chords: bar.chords.map((chord) => ({
          ...chord,
          symbol: withReadableRoot(transposeChord(chord.symbol, sounding)),
        })),
        ...(isFirst && { section: made.name }),
        ...(isFirst && key && !sameKey(key, concertKey) && { key: concertKey }),
        ...(isFirst && meter && !sameMeter(meter, made.meter) && { meter: made.meter }),
        ...(isLast && { barline: 'double' as const }),
      });
    });
    if (!meter) firstMeter = made.meter;
    meter = made.meter;
    key = concertKey;
    sections.push({
      step,
      key: made.key,
      writtenKey: made.writtenKey,
      ...(made.signature && { signature: made.signature }),
      name: made.name,
      concertName: made.concertName,
      set: made.set,
      concertSet: made.concertSet,
      from,
      to: bars.length,
      notes: made.notes,
      ...(made.hand && { hand: made.hand }),
    });
    messages.push(...made.messages.map((one) => ({ what: one.what, why: one.why, bar: from + (one.bar ?? 0) })));
  };
  let date = 0;
  idea.steps.forEach((step, index) => {
    const pattern = patternOf(step);
    for (const made of sectionsOf(idea, step, pattern, rhythmOf(step), request, names)) {
      if (!('bars' in made)) {
        messages.push({ what: made.what, why: made.why, bar: Math.max(0, bars.length - 1) });
        continue;
      }
      const head = idea.steps.length > 1 ? `${index + 1}. ${capitalised(patternName(step.pattern))} · ` : '';
      const day = idea.dates ? ` · ${dateOfKey(idea.dates, date)}` : '';
      date += 1;
      take({ ...made, name: `${head}${made.set}${day}`, concertName: `${head}${made.concertSet}${day}` }, index);
    }
  });
  const [first] = sections;
  const ends = bars.at(-1);
  return {
    tune: {
      schema: TUNE_SCHEMA,
      title: drillTitle(idea),
      rights: 'own',
      key: first ? soundingKey(first.signature ?? first.writtenKey, instrument) : NO_SIGNATURE,
      meter: firstMeter,
      tempo: { beat: { type: 'quarter', dots: 0 }, perMinute: request.perMinute ?? DRILL_DEFAULTS[level].perMinute },
      ...(idea.steps.some((step) => rhythmOf(step) === 'swing') && { swing: { unit: 'eighth' as const, ratio: 2 } }),
      bars: ends ? [...bars.slice(0, -1), { ...ends, barline: 'final' }] : [restBar(names, firstMeter)],
    },
    sections,
    messages,
  };
}

const NO_SIGNATURE: Key = { tonic: { step: 'C', alter: 0 }, mode: 'major' };

function soundingKey(written: Key, instrument: Instrument): Key {
  return transposeKey(written, readableInterval(written, toSounding(instrument)));
}

/** What stands where nothing of a drill remains: a document has a bar. */
function restBar(names: Names, meter: Meter): Bar {
  return {
    id: names.bar(),
    events: [{ kind: 'rest', id: names.event(), length: barTicks(meter) }],
    chords: [],
    barline: 'final',
  };
}

interface MadeSection {
  readonly key: Key;
  readonly writtenKey: Key;
  readonly signature?: Key | undefined;
  readonly set: string;
  readonly concertSet: string;
  readonly meter: Meter;
  readonly bars: readonly Bar[];
  readonly notes: readonly Pitch[];
  readonly hand?: Hand | undefined;
  readonly messages: readonly (Message & { readonly bar?: number })[];
}

function patternOf(step: Exercise): Pattern {
  const parsed = parsePattern(step.pattern);
  if (!parsed.ok) throw new RangeError(`no pattern ${step.pattern}`);
  return parsed.value;
}

/** The concert tonics of a drill for a level of an instrument, in their order. */
function drillTonics(
  idea: DrillIdea,
  step: Exercise,
  { level, instrument, wishes = {} }: DrillRequest,
): readonly PitchClass[] {
  const most = wishes.keys ?? (idea.keys === undefined ? DRILL_DEFAULTS[level].keys : DRILL_LIMITS.keys);
  const easiest = () => easiestKeys(instrument, level, step.set, patternOf(step));
  const start = () => idea.start ?? easiest()[0] ?? { step: 'C' as const, alter: 0 };
  const ordered = (): readonly PitchClass[] => {
    if (typeof idea.keys === 'object') return idea.keys;
    if (idea.keys === undefined && idea.over) return [idea.over.key.tonic];
    if (idea.keys === 'easiest') return idea.start ? startingWith(easiest(), idea.start) : easiest();
    if (idea.keys) return tonicsInOrder(idea.keys, start());
    // A beginner's two or three keys are the easiest there are; those who play all of them go round the fourths.
    return profileOf(level).drill.order === 'fourths'
      ? tonicsInOrder('fourths', start())
      : idea.start
        ? startingWith(easiest(), idea.start)
        : easiest();
  };
  return ordered().slice(0, most);
}

/**
 * The concert tonics that an idea's first exercise goes through, for a player.
 * @throws RangeError where the idea has no exercise, or its pattern is none
 */
export function keysOfDrill(
  idea: DrillIdea,
  player: Pick<DrillRequest, 'level' | 'instrument'>,
): readonly PitchClass[] {
  const [step] = idea.steps;
  if (!step) throw new RangeError('a drill has an exercise');
  return drillTonics(idea, step, player);
}

function startingWith(tonics: readonly PitchClass[], first: PitchClass): readonly PitchClass[] {
  return [first, ...tonics.filter((tonic) => chroma(tonic) !== chroma(first))];
}

function sectionsOf(
  idea: DrillIdea,
  step: Exercise,
  pattern: Pattern,
  rhythm: DrillRhythm,
  request: DrillRequest,
  names: Names,
): readonly (MadeSection | Message)[] {
  const { level, instrument, wishes = {} } = request;
  const tonics = drillTonics(idea, step, request);
  const range = instrument.range[level];
  const direction = step.direction ?? 'up-down';
  const asked = wishes.extent ?? step.extent;
  const extent = asked ?? DRILL_DEFAULTS[level].extent;
  const slots = slotsOf(rhythm, idea.borrowed);
  if (idea.over && (pattern.kind === 'chords' || pattern.kind === 'guide-tones'))
    return tonics.map((tonic) =>
      overSection(idea, pattern.kind as 'chords' | 'guide-tones', { tonic, slots, direction, request, rhythm, names }),
    );
  const scales = tonics.map((tonic) => readableScale(transposeClass(tonic, instrument.transposition), step.set));
  const meter = meterFor(pattern, rhythm, step);
  const shape = step.hand === 'shape' && instrument.mechanism.kind === 'fretted';
  const hands = shape ? shapeThrough(instrument, range, scales) : [];
  const fixed = wishes.hand === undefined ? undefined : handAt(instrument, range, wishes.hand, false);
  const joined =
    pattern.kind === 'group'
      ? joinedGroups(idea, pattern.offsets, scales, { range, extent }, { instrument, hand: fixed })
      : joinedChords(idea, step, pattern, scales, { range, extent, direction });
  return scales.map((scale, k): MadeSection | Message => {
    const concert = readableScale(tonics[k] ?? scale.tonic, step.set);
    const hand = shape ? hands[k] : fixed;
    if (shape && !hand)
      return { what: `${nameScale(scale)} left out`, why: `its shape lies nowhere between ${nameSpan(range)}` };
    const inside = hand ? narrowed(range, hand.range) : range;
    const wanted: SectionRequest = {
      scale,
      range: inside,
      pattern,
      direction,
      extent,
      isUsual: asked === undefined,
      ...(step.mirrored !== undefined && { mirrored: step.mirrored }),
    };
    const line: PairedLine | undefined = joined
      ? joined[k]
      : pattern.kind === 'lip-slurs'
        ? partialsOn(instrument, scale, range)
        : pattern.kind === 'chord-pairs'
          ? chordPairs(scale, inside, pattern.tones, instrument, hand)
          : sectionOf(wanted);
    if (!line || line.notes.length === 0)
      return {
        what: `${nameScale(scale)} left out`,
        why:
          pattern.kind === 'lip-slurs'
            ? `no length of tube has the partials of ${namePitchClass(scale.tonic)} between ${nameSpan(range)}`
            : `no group of ${pattern.name} fits between ${nameSpan(inside)}`,
      };
    const plain = sectionBars(line.notes, slots, meter, names, pattern.kind === 'group' ? 'rests' : 'held');
    const kept = hand ?? line.hand;
    const place = kept && instrument.mechanism.kind === 'fretted' ? ` · hand at fret ${kept.hand}` : '';
    return {
      hand: kept,
      key: keyForSet(concert, idea.signature),
      writtenKey: keyForSet(scale, idea.signature),
      // A signature that changes with every bar is not read: accidentals are.
      signature: pattern.kind === 'group' ? NO_SIGNATURE : undefined,
      set: `${nameScale(scale)}${place}`,
      concertSet: `${nameScale(concert)}${place}`,
      meter,
      bars: articulated(plain, pattern.kind === 'lip-slurs' ? 'slurred-4' : (idea.articulation ?? 'plain'), line.group),
      notes: line.notes,
      messages: line.messages,
    };
  });
}

/** One group a key, in the inversions that move least. */
function joinedGroups(
  { seed = 0 }: DrillIdea,
  offsets: readonly number[],
  scales: readonly Scale[],
  { range, extent }: Pick<SectionRequest, 'range' | 'extent'>,
  { instrument, hand }: { readonly instrument: Instrument; readonly hand: Hand | undefined },
): readonly (SectionLine | undefined)[] {
  const isSpan = typeof extent === 'object';
  const inside = isSpan ? narrowed(range, extent) : range;
  const groups = groupsThrough(scales, offsets, {
    range: hand ? narrowed(inside, hand.range) : inside,
    keepsToMiddle: !isSpan && !hand,
    seed,
    ...(hand && { isHeld: (pitch: Pitch) => canReach(instrument, pitch, hand) }),
  });
  return groups.map((notes) => notes && { notes, group: offsets.length, messages: [] });
}

/** One chord a key, each in the inversion that moves least; where a span is given, or another path is asked for. */
function joinedChords(
  { seed = 0 }: DrillIdea,
  step: Exercise,
  pattern: Pattern,
  scales: readonly Scale[],
  { range, extent, direction }: Pick<SectionRequest, 'range' | 'extent' | 'direction'>,
): readonly (SectionLine | undefined)[] | undefined {
  const isChordKind = (scales[0]?.notes.length ?? 7) < 5;
  if (pattern.kind !== 'stack' || !isChordKind || scales.length < 2 || (typeof extent !== 'object' && seed === 0))
    return undefined;
  const size = Math.min(pattern.offsets.length, scales[0]?.notes.length ?? 3);
  const inside = typeof extent === 'object' ? narrowed(range, extent) : range;
  const path = inversionPath(scales, size, inside, seed);
  return path.map(
    (voicing, k) => voicing && { notes: chordLine(voicing, direction, k % 2 === 1), group: size, messages: [] },
  );
}

/** Quarters in groups of three stand in bars of three; all else in bars of four. */
function meterFor(pattern: Pattern, rhythm: DrillRhythm, { pattern: text }: Exercise): Meter {
  const isThrees = rhythm === 'quarter' && groupSize(pattern) === 3 && text !== 'scale';
  return { count: isThrees ? 3 : 4, unit: 4 };
}

function overSection(
  idea: DrillIdea,
  kind: 'chords' | 'guide-tones',
  {
    tonic,
    slots,
    direction,
    request,
    rhythm,
    names,
  }: {
    readonly tonic: PitchClass;
    readonly slots: ReturnType<typeof slotsOf>;
    readonly direction: NonNullable<Exercise['direction']>;
    readonly request: DrillRequest;
    readonly rhythm: DrillRhythm;
    readonly names: Names;
  },
): MadeSection | Message {
  const { over } = idea;
  const { instrument, level, wishes = {} } = request;
  if (!over) throw new RangeError('a drill over a form without a form');
  const full = instrument.range[level];
  const range = typeof wishes.extent === 'object' ? narrowed(full, wishes.extent) : full;
  const toKey = intervalBetweenTonics(over.key.tonic, tonic);
  const concertKey = transposeKey(over.key, readableInterval(over.key, toKey));
  const toConcert = intervalBetweenTonics(over.key.tonic, concertKey.tonic);
  const toWritten = readableInterval(concertKey, instrument.transposition);
  const writtenKey = transposeKey(concertKey, toWritten);
  const form = chordsOf(over).map(({ symbol, ...place }) => ({
    ...place,
    symbol: withReadableRoot(transposeChord(withReadableRoot(transposeChord(symbol, toConcert)), toWritten)),
  }));
  // Guide tones are held as long as their chord.
  const held = kind === 'guide-tones' && rhythm === 'half' && wishes.rhythm === undefined;
  const changes = withoutRepeats(form);
  const rooms = held ? changes.map(({ symbol }) => (symbol.kind === 'chord' ? 1 : 0)) : roomIn(changes, slots);
  const stretches = changes.map(({ symbol }, k): Stretch => ({
    symbol,
    name: nameChord(symbol),
    room: symbol.kind === 'chord' ? (rooms[k] ?? 0) : 0,
  }));
  const line = lineOverForm(stretches, kind, direction, range, writtenKey.tonic);
  const full4 = barTicks(over.meter);
  const made = changes.map(({ start, length }, k) => ({ start, length, notes: line.notes[k] ?? [] }));
  const laid = held
    ? formBars(made, [{ length: Number.MAX_SAFE_INTEGER }], over.meter, names)
    : formBars(made, slots, over.meter, names);
  const bars = laid.map((bar, k) => ({
    ...bar,
    chords: form
      .filter(({ start, isPlaced }) => isPlaced && Math.floor(start / full4) === k)
      .map(({ start, symbol }): PlacedChord => ({ at: start % full4, symbol })),
  }));
  const notes = line.notes.flat();
  if (notes.length === 0)
    return { what: `${nameKey(writtenKey)} left out`, why: `no chord tone lies between ${nameSpan(range)}` };
  return {
    key: concertKey,
    writtenKey,
    set: nameKey(writtenKey),
    concertSet: nameKey(concertKey),
    meter: over.meter,
    bars: articulated(bars, idea.articulation ?? 'plain', 4),
    notes,
    messages: line.messages.map(({ stretch, ...one }) => ({
      ...one,
      bar: Math.floor((changes[stretch]?.start ?? 0) / full4),
    })),
  };
}

/** A symbol that is written again is the same chord going on. */
function withoutRepeats<Placed extends { readonly symbol: PlacedChord['symbol']; readonly length: number }>(
  chords: readonly Placed[],
): readonly Placed[] {
  return chords.reduce<readonly Placed[]>((found, next) => {
    const last = found.at(-1);
    return last && nameChord(last.symbol) === nameChord(next.symbol)
      ? [...found.slice(0, -1), { ...last, length: last.length + next.length }]
      : [...found, next];
  }, []);
}

/** The chords of a form, one after the other, each until the next; what is before the first is without a chord. */
function chordsOf({ bars, meter }: DrillForm) {
  const full = barTicks(meter);
  const end = bars.length * full;
  const placed = bars.flatMap(({ chords }, index) =>
    chords.map(({ at, symbol }) => ({ start: index * full + at, symbol, isPlaced: true })),
  );
  const [first] = placed;
  const all =
    first && first.start > 0
      ? [{ start: 0, symbol: { kind: 'no chord' as const }, isPlaced: false }, ...placed]
      : placed;
  return all
    .map((chord, k) => ({ ...chord, length: (all[k + 1]?.start ?? end) - chord.start }))
    .filter(({ length }) => length > 0);
}

/**
 * A tune's chords as the form of a drill; a pickup stays out, and so does what stands in another meter than the first.
 */
export function formOfTune(tune: Tune): DrillForm | undefined {
  const full = barTicks(tune.meter);
  const bars = tune.bars
    .filter((bar, k) => !(k === 0 && bar.partial !== undefined && bar.partial < full))
    .filter((bar) => (bar.partial ?? full) === full && (bar.meter === undefined || sameMeter(bar.meter, tune.meter)))
    .map(({ chords }) => ({ chords }));
  if (bars.every(({ chords }) => chords.length === 0)) return undefined;
  return { title: tune.title, key: tune.key, meter: tune.meter, bars };
}

/** The set of a key: its mode's scale. */
export function setOfKey({ mode }: Key) {
  return SCALE_OF_MODE[mode];
}

/** Sharps or flats of a section as read, for its head: `2 sharps`. */
export function signsText(key: Key): string {
  const signature = signatureOf(key);
  if (signature === 0) return 'no sharps or flats';
  const count = Math.abs(signature);
  return `${count} ${signature > 0 ? 'sharp' : 'flat'}${count === 1 ? '' : 's'}`;
}
