import { barDifficulties, lineDifficulty, type Difficulty } from '../analysis/difficulty';
import { phrasesOf, type Phrase } from '../analysis/phrases';
import { LEVELS, outsideBy, toSounding, type Instrument, type Level } from '../instruments/instrument';
import type { Interval } from '../pitch/interval';
import { printKey, type Key } from '../pitch/key';
import { byOctaves, pitchClassOf, semitones, type Pitch } from '../pitch/pitch';
import { readableInterval, withoutDoubleAccidental } from '../pitch/respell';
import { transpose } from '../pitch/transpose';
import { withTrueTies } from '../score/balance';
import { barSpans, soundingNotes } from '../score/sounding';
import { barNumbers, isNote, mapNotes, quartersPerMinute, secondPartBars, withoutSecondPart, type Bar, type EventId, type ScoreEvent, type Swing, type Tempo, type Tune } from '../score/tune';
import type { Meter } from '../time/meter';
import { TICKS_PER_QUARTER, type Ticks } from '../time/ticks';
import { withAids, type AidWishes } from './aids';
import { articulated, type Manner } from './articulate';
import type { Change } from './change';
import type { Device } from './devices';
import { dress } from './dress';
import { fingerPart, type FingeredPart, type FingerWishes } from './fingerPart';
import { eventsOutOfReach, extremesOf, fit, type Fitted, type KnownNotes, type NoteOutside } from './fit';
import { inKey, transposeBars } from './inKey';
import { withinLeap } from './leaps';
import { runsLeftOut, withCues, withRests, type BarRun, type LeaveOut } from './leaveOut';
import { noteWeights } from './noteWeight';
import { LEVEL_DEFAULTS, levelTempo, type BarChoice, type MelodyWishes, type Remedy } from './recipe';
import { joined, phrasesIn, shape, type Shaped } from './shape';
import { FIRST_WORDS, type Shortest } from './slots';
import type { SyllableSchool } from './syllables';

/** What one player reads, computed from tune, level and instrument; never stored. */
export interface Part {
  readonly level: Level;
  readonly instrument: Instrument;
  readonly title: string;
  readonly composer?: string;
  /** For whom, where it is written for one player of a group. */
  readonly playerName?: string;
  readonly concertKey: Key;
  readonly writtenKey: Key;
  readonly meter: Meter;
  readonly tempo: Tempo;
  readonly swing?: Swing;
  /** Written pitch. */
  readonly bars: readonly Bar[];
  /** Passages that are left out, and printed as rests. */
  readonly leftOut?: readonly BarRun[];
  readonly ossias?: readonly Ossia[];
  /** The same bars as they sound. */
  readonly soundingBars: readonly Bar[];
  /** Added to a concert pitch (or chord) to get the written one, spelling included. */
  readonly written: Interval;
  /** Octaves by which the line was moved against the tune, apart from the instrument's own. */
  readonly octaves: number;
  readonly lowest?: Pitch;
  readonly highest?: Pitch;
  readonly outside: readonly NoteOutside[];
  readonly fidelity: number;
  /** How the line is fingered and what of it is printed; none where no marks are wanted. */
  readonly fingered?: FingeredPart;
  /** For each bar as it is read; see `lineDifficulty` for the whole. */
  readonly difficulty: readonly Difficulty[];
}

/** Another version of some bars, for a small staff over them. */
export interface Ossia {
  /** Index of the part's bar over which it begins. */
  readonly at: number;
  /** Written pitch. */
  readonly bars: readonly Bar[];
}

export interface PartRequest {
  readonly level: Level;
  readonly instrument: Instrument;
  /** Concert; its mode must be the tune's. The tune's own key by default. */
  readonly key?: Key;
  /** In the tune's own beat. By default the level's share of the tune's tempo. */
  readonly perMinute?: number;
  /** How the part is fingered; without it, it is not. */
  readonly fingers?: FingerWishes;
  /** What else is printed to help; nothing by default. */
  readonly aids?: AidWishes;
  readonly syllables?: SyllableSchool;
  readonly remedies?: Readonly<Record<EventId, Remedy>>;
  /** Written heights the player knows; without it, all of the range. */
  readonly known?: KnownNotes;
  readonly melody?: MelodyWishes;
  /** The tune's second part is played. */
  readonly ofSecond?: true;
  /** In a bracket by default. */
  readonly leaveOut?: LeaveOut;
  /** As written by default. */
  readonly manner?: Manner;
  /** As the tune's by default. */
  readonly swing?: Swing | 'straight';
  /** `none` leaves the line as it is, whatever the level does: only key, octave and written pitch are worked out. */
  readonly shape?: 'level' | 'none';
}

/** The part of one level for one instrument, with a word for everything that is not as in the tune. */
export function partFor(tune: Tune, request: PartRequest): { readonly value: Part; readonly changes: readonly Change[] } {
  const { key = tune.key } = request;
  if (key.mode !== tune.key.mode) throw new RangeError(`a tune in ${tune.key.mode} cannot be put in ${key.mode}`);
  const source = sourceOf(request.ofSecond ? secondOf(tune) : tune, key);
  const { level, instrument, perMinute, melody = {} } = request;
  return finished(source, request, spoken(isPlainly(request, melody) ? usualLine(source, level, instrument, perMinute, melody.seed ?? 0).line : lineFor(source, request), source, request));
}

/** Whether nobody says otherwise than the level does, but for the throw. */
function isPlainly({ shape: shaping, known, remedies = {} }: LineRequest, melody: MelodyWishes): boolean {
  return shaping !== 'none' && !known && Object.keys(melody).every((name) => name === 'seed') && Object.keys(remedies).length === 0;
}

/** One line with some bars of another. */
function spliced(whole: LevelLine, other: LevelLine, taken: ReadonlySet<number>): LevelLine {
  const bars = joined(whole.tune.bars.map((bar, index) => (taken.has(index) ? (other.tune.bars[index] ?? bar) : bar)));
  const pick = <Placed extends { readonly barIndex: number }>(mine: readonly Placed[], theirs: readonly Placed[]) => [...mine.filter(({ barIndex }) => !taken.has(barIndex)), ...theirs.filter(({ barIndex }) => taken.has(barIndex))];
  return { ...whole, tune: { ...whole.tune, bars }, changes: pick(whole.changes, other.changes), outside: pick(whole.outside, other.outside) };
}

/** The line within its leaps and in its manner. */
function spoken(line: LevelLine, source: Source, { melody = {}, manner = 'as-written', instrument, level, known }: PartRequest): LevelLine {
  if (melody.leap === undefined && manner === 'as-written') return line;
  const phrases = phrasesIn(line.tune, source.tune, source.phrases);
  const near = melody.leap === undefined ? { tune: line.tune, changes: [] } : withinLeap(line.tune, phrases, melody.leap, isPlayable(instrument, level, known));
  const said = articulated(near.tune, phrases, manner);
  return { ...line, tune: said.tune, changes: [...line.changes, ...near.changes, ...said.changes] };
}

/** Whether a concert pitch is one that a player of the level has. */
function isPlayable(instrument: Instrument, level: Level, known: KnownNotes | undefined): (pitch: Pitch) => boolean {
  return (pitch) => {
    const read = transpose(pitch, instrument.transposition);
    return outsideBy(read, instrument.range[level]) === 0 && (!known || known.has(semitones(read)));
  };
}

/** A tune whose melody is the second part; kept as long as the tune itself. */
const seconds = new WeakMap<Tune, Tune>();

function secondOf(tune: Tune): Tune {
  const known = seconds.get(tune);
  if (known) return known;
  const made: Tune = { ...tune, bars: secondPartBars(tune.bars) };
  seconds.set(tune, made);
  return made;
}

/** A line that is made already, in concert pitch and where it shall lie, as a part: only written out, with marks and aids as asked. */
export function partOfLine(line: Tune, request: Pick<PartRequest, 'level' | 'instrument' | 'perMinute' | 'fingers' | 'aids' | 'syllables'>): Part {
  return finished({ tune: line, phrases: phrasesOf(line) }, request, { tune: line, octaves: 0, outside: [], changes: [], fidelity: 0, rounds: [] }).value;
}

/** The tune as every level starts from it. */
interface Source {
  readonly tune: Tune;
  readonly phrases: readonly Phrase[];
}

/**
 * What was worked out for a tune as long as the tune itself is there: equal values in, the same values out, so that three
 * levels and ten instruments do not each begin from nothing.
 */
interface Kept {
  readonly source: Source;
  /** The tune thinned for whoever has all its notes. */
  thinned?: Shaped;
  readonly lines: WeakMap<Instrument, Map<string, MeasuredLine>>;
}
const kept = new WeakMap<Tune, Map<string, Kept>>();
const keptBySource = new WeakMap<Source, Kept>();
/** Tempos and seeds of one instrument that are remembered at a time. */
const MOST_LINES = 24;

function sourceOf(tune: Tune, key: Key): Source {
  const byKey = kept.get(tune) ?? new Map<string, Kept>();
  kept.set(tune, byKey);
  const known = byKey.get(printKey(key));
  if (known) return known.source;
  const made: Kept = { source: freshSource(tune, key), lines: new WeakMap() };
  byKey.set(printKey(key), made);
  keptBySource.set(made.source, made);
  return made.source;
}

/** A level's line as it is when nobody says otherwise, and how hard it is. */
interface MeasuredLine {
  readonly line: LevelLine;
  readonly total: number;
  /** Struck notes. */
  readonly notes: number;
}

function usualLine(source: Source, level: Level, instrument: Instrument, perMinute: number | undefined, seed: number): MeasuredLine {
  const lines = keptBySource.get(source)?.lines;
  const byName = lines?.get(instrument) ?? new Map<string, MeasuredLine>();
  lines?.set(instrument, byName);
  const name = `${level}/${perMinute ?? ''}/${seed}`;
  const known = byName.get(name);
  if (known) return known;
  const line = lineFor(source, { level, instrument, ...(perMinute !== undefined && { perMinute }), ...(seed !== 0 && { melody: { seed } }) });
  const measured = measuredLine(line, instrument, levelTempo(source.tune, level, perMinute));
  if (byName.size >= MOST_LINES) byName.clear();
  byName.set(name, measured);
  return measured;
}

function measuredLine(line: LevelLine, instrument: Instrument, tempo: Tempo): MeasuredLine {
  const notes = line.tune.bars.reduce((sum, { events }) => sum + events.filter((event, k) => isNote(event) && !isHeld(events[k - 1])).length, 0);
  return { line, total: lineDifficulty(barDifficulties({ bars: line.tune.bars, key: line.tune.key, meter: line.tune.meter, tempo }, instrument, 'sounding')).total, notes };
}

function isHeld(before: ScoreEvent | undefined): boolean {
  return before !== undefined && isNote(before) && before.tied === true;
}

function freshSource(tune: Tune, key: Key): Source {
  const line: Tune = { ...tune, bars: withoutSecondPart(tune.bars) };
  const keyed: Tune = { ...line, ...inKey(line, key) };
  return { tune: keyed, phrases: phrasesOf(keyed) };
}

/** A level's line in concert pitch, as it sounds. */
interface LevelLine {
  readonly tune: Tune;
  readonly octaves: number;
  readonly outside: readonly NoteOutside[];
  readonly changes: readonly Change[];
  readonly fidelity: number;
  /** How it was dressed, time by time; the level above begins with the same. */
  readonly rounds: readonly Round[];
}

interface Round {
  readonly devices: readonly Device[];
  readonly units: readonly Ticks[];
  readonly density: number;
  readonly isPressed: boolean;
  readonly varies: boolean;
}

type LineRequest = Pick<PartRequest, 'level' | 'instrument' | 'perMinute' | 'remedies' | 'known' | 'melody' | 'shape'>;

/** Densities that are tried in turn until a level stands off from the one below. */
const DENSER = [20, 35, 60, 100] as const;
/** Beyond this the tune drowns; it is gone past only where the levels would else be equal. */
const DENSE_ENOUGH = 35;
/** How much harder than the level below a level should be: what people tell apart without measuring. Ours. */
export const APART = 1.1;

function lineFor(source: Source, request: LineRequest): LevelLine {
  const { level, instrument, perMinute, remedies = {}, known: knownNotes, melody = {}, shape: shaping = 'level' } = request;
  const defaults = LEVEL_DEFAULTS[level];
  const kind = shaping === 'none' ? 'as written' : (melody.melody ?? defaults.melody);
  const tempo = levelTempo(source.tune, level, perMinute);
  const chosen = new Map(shaping === 'none' ? [] : source.tune.bars.flatMap(({ id }, index) => { const choice = melody.bars?.[id]; return choice ? [[index, choice] as const] : []; }));
  const outOfReach: ReadonlySet<EventId> = kind === 'thinned' ? eventsOutOfReach(source.tune, instrument, level, source.phrases, knownNotes) : new Set();
  const isPlainest = kind === 'thinned' && outOfReach.size === 0 && chosen.size === 0 && (melody.shortest ?? FIRST_WORDS.shortest) === FIRST_WORDS.shortest && !melody.syncopation && melody.ties !== false;
  const known = keptBySource.get(source);
  const shaped = (isPlainest && known?.thinned) || shape(source.tune, source.phrases, {
    melody: kind, shortest: melody.shortest ?? FIRST_WORDS.shortest, syncopation: shaping === 'none' ? undefined : melody.syncopation, ties: shaping === 'none' ? undefined : melody.ties, fastest: shaping === 'none' || kind === 'as written' ? undefined : defaults.fastest, tempo, chosen, outOfReach,
  });
  if (isPlainest && known) known.thinned = shaped;
  const fitted = withOwnBars(withOctavesChosen(fit(shaped.tune, instrument, level, shaped.phrases, remedies, knownNotes), chosen, instrument), chosen);
  // What was done to a bar before the teacher's own took its place is not to be seen.
  const isOwn = new Set(fitted.changes.flatMap(({ barIndex, detail }) => (detail.kind === 'chosen' && detail.variant === 'own' ? [barIndex] : [])));
  const told = [...shaped.changes, ...fitted.changes].filter(({ barIndex, detail }) => !isOwn.has(barIndex) || (detail.kind === 'chosen' && detail.variant === 'own'));
  const plain: LevelLine = { ...fitted, changes: told, fidelity: shaped.fidelity, rounds: [] };
  const own = new Map([...chosen].flatMap(([index, choice]) => (choice.kind === 'dressed' ? [[index, choice.seed] as const] : [])));
  if (shaping === 'none' || (kind !== 'dressed' && own.size === 0)) return plain;
  const isFree = isPlayable(instrument, level, knownNotes);
  // A strong note that comes early leans over the beat, perhaps over the barline.
  const isCalm = melody.syncopation === false || melody.ties === false;
  const dressedOn = (line: LevelLine, wished: Round): LevelLine => {
    const round = isCalm ? { ...wished, devices: wished.devices.filter((device) => device !== 'anticipation') } : wished;
    const phrases = line.rounds.length === 0 ? shaped.phrases : phrasesIn(line.tune, fitted.tune, shaped.phrases);
    const done = dress(line.tune, phrases, {
      ...round, round: line.rounds.length + 1, seed: melody.seed ?? 0, own: line.rounds.length === 0 ? own : new Map(), silent: new Set(Object.keys(remedies)),
      isFree, locked: new Set([...chosen.keys()].filter((index) => !own.has(index))),
    });
    const next = { ...line, tune: done.tune, changes: [...line.changes, ...done.changes], rounds: [...line.rounds, round] };
    return done.early.size === 0 ? next : { ...next, fidelity: pushedFidelity(next, phrases, done.early) };
  };
  const usual: Round = { devices: melody.devices ?? defaults.devices, units: unitsFor(melody.shortest ?? defaults.shortest, defaults.fastest, tempo), density: kind === 'dressed' ? (melody.density ?? defaults.density) : 0, isPressed: false, varies: level === 'advanced' };
  const below = LEVELS[LEVELS.indexOf(level) - 1];
  const isByHand = melody.density !== undefined || melody.devices !== undefined;
  // Bars set by hand leave the others as they were: those are taken from the line that the level has without them.
  if (chosen.size > 0) {
    const { bars: _, ...free } = melody;
    const whole = isPlainly(request, free) ? usualLine(source, level, instrument, perMinute, free.seed ?? 0).line : lineFor(source, { ...request, melody: free });
    return spliced(whole, own.size > 0 ? dressedOn(plain, { ...usual, density: 0 }) : plain, new Set(chosen.keys()));
  }
  if (kind !== 'dressed' || !below || isByHand) return dressedOn(plain, usual);
  const under = usualLine(source, below, instrument, perMinute, melody.seed ?? 0);
  // What the level below was given comes here too, and more.
  const begun = under.line.rounds.reduce(dressedOn, plain);
  let best = measuredLine(dressedOn(begun, usual), instrument, tempo);
  const isAbove = ({ total, notes }: MeasuredLine) => total > under.total + LEAST_RISE && notes >= under.notes;
  const offer = (line: LevelLine) => {
    const next = measuredLine(line, instrument, tempo);
    if (isAbove(next) === isAbove(best) ? next.total > best.total : isAbove(next)) best = next;
  };
  for (const density of DENSER) if (density > usual.density && (!isAbove(best) || (density <= DENSE_ENOUGH && best.total < under.total * APART))) offer(dressedOn(begun, { ...usual, density }));
  for (let more = 0; more < MOST_MORE && !isAbove(best); more += 1) {
    const devices = [...new Set([...usual.devices, ...MORE_DEVICES.slice(0, more === 0 ? -1 : undefined)])];
    offer(dressedOn(best.line, { ...usual, devices, density: 100, isPressed: more > 0 }));
  }
  return best.line;
}

/** However plain the tune, it is dressed no more often than so beyond what is usual. */
const MOST_MORE = 3;
/** What comes in, for any level above the first, where its own devices find nothing to do. */
const MORE_DEVICES: readonly Device[] = ['approach', 'anticipation', 'grace', 'turn'];

/** Two totals this near print as the same figure. */
const LEAST_RISE = 0.02;

/** The shortest notes that may be added at a tempo, longest first: eighths, and sixteenths where the level has them and time is left. */
function unitsFor(shortest: Shortest, fastest: number | undefined, tempo: Tempo): readonly Ticks[] {
  const perSecond = (unit: Ticks) => (quartersPerMinute(tempo) * TICKS_PER_QUARTER) / 60 / unit;
  const wanted = shortest === '16th' ? [TICKS_PER_QUARTER / 2, TICKS_PER_QUARTER / 4] : [shortest === 'eighth' ? TICKS_PER_QUARTER / 2 : TICKS_PER_QUARTER];
  const playable = wanted.filter((unit) => perSecond(unit) <= (fastest ?? FASTEST_ADDED));
  return playable.length > 0 ? playable : [TICKS_PER_QUARTER];
}

/** Nobody is given more notes a second than this unasked. */
const FASTEST_ADDED = 9;

/** A note that comes early is half kept. */
function pushedFidelity({ tune, fidelity }: LevelLine, phrases: readonly Phrase[], early: ReadonlySet<EventId>): number {
  const notes = soundingNotes(tune);
  const weights = noteWeights(tune, notes, phrases);
  const sum = (some: (id: EventId) => boolean) => weights.reduce((total, weight, index) => total + (some(notes[index]?.first.id ?? '') ? weight : 0), 0);
  return Math.round(fidelity * (1 - sum((id) => early.has(id)) / 2 / Math.max(1, sum(() => true))));
}

/** Bars that a teacher wants an octave away, where the instrument goes there. */
function withOctavesChosen(fitted: Fitted, chosen: ReadonlyMap<number, BarChoice>, instrument: Instrument): Fitted {
  const numbers = barNumbers(fitted.tune);
  const changes: Change[] = [];
  const bars = fitted.tune.bars.map((bar, index) => {
    const kind = chosen.get(index)?.kind;
    if (kind !== 'octave-up' && kind !== 'octave-down') return bar;
    const by = kind === 'octave-up' ? 1 : -1;
    const [moved] = mapNotes([bar], (note) => {
      const pitch = byOctaves(note.pitch, by);
      if (outsideBy(transpose(pitch, instrument.transposition), instrument.range.full) !== 0) return note;
      return { ...note, pitch, ...(note.graces && { graces: note.graces.map((grace) => ({ ...grace, pitch: byOctaves(grace.pitch, by) })) }) };
    });
    changes.push({ bar: numbers[index] ?? 0, barIndex: index, detail: { kind: 'chosen', variant: kind }, events: bar.events.filter(isNote).map(({ id }) => id) });
    return moved ?? bar;
  });
  return changes.length === 0 ? fitted : { ...fitted, tune: { ...fitted.tune, bars: withTrueTies(bars).bars }, changes: [...fitted.changes, ...changes] };
}

/** Bars that a teacher wrote: in the key and octave of the part. One that does not fill its bar any more is left and said. */
function withOwnBars(fitted: Fitted, chosen: ReadonlyMap<number, BarChoice>): Fitted {
  const own = [...chosen].flatMap(([index, choice]) => (choice.kind === 'own' ? [[index, choice] as const] : []));
  if (own.length === 0) return fitted;
  const { tune } = fitted;
  const numbers = barNumbers(tune);
  const spans = barSpans(tune);
  const bars = [...tune.bars];
  const changes: Change[] = [];
  for (const [index, { events, key, octaves }] of own) {
    const bar = bars[index];
    if (!bar) continue;
    const place = { bar: numbers[index] ?? 0, barIndex: index };
    if (events.reduce((sum, { length }) => sum + length, 0) !== spans[index]?.length) {
      changes.push({ ...place, events: [], detail: { kind: 'chosen', variant: 'own-too-long' } });
      continue;
    }
    const [moved] = mapNotes(inKey({ ...tune, key, bars: [{ id: bar.id, events, chords: [] }] }, tune.key).bars, (note) => {
      const by = fitted.octaves - octaves;
      return by === 0 ? note : { ...note, pitch: byOctaves(note.pitch, by), ...(note.graces && { graces: note.graces.map((grace) => ({ ...grace, pitch: byOctaves(grace.pitch, by) })) }) };
    });
    bars[index] = { ...bar, events: moved?.events ?? bar.events };
    changes.push({ ...place, events: events.filter(isNote).map(({ id }) => id), detail: { kind: 'chosen', variant: 'own' } });
  }
  return { ...fitted, tune: { ...tune, bars: joined(bars) }, changes: [...fitted.changes, ...changes] };
}

function finished({ tune, phrases }: Source, { level, instrument, perMinute, fingers, aids = {}, syllables = 'counting', swing, leaveOut = 'bracket' }: PartRequest, line: LevelLine): { readonly value: Part; readonly changes: readonly Change[] } {
  const written = readableInterval(line.tune.key, instrument.transposition);
  const onPage = transposeBars(line.tune, instrument.transposition);
  const plain = level === 'beginner' ? withoutDoubles(line.tune, onPage.bars) : { bars: onPage.bars, changes: [] };
  const extremes = extremesOf(plain.bars);
  const tempo = levelTempo(tune, level, perMinute);
  const whole = closed(plain.bars);
  const leftOut = leaveOut === 'rests' ? runsLeftOut(whole) : [];
  const bars = withRests({ bars: whole, meter: tune.meter }, leftOut);
  const cued = (played: readonly Bar[]) => (leftOut.length === 0 ? played : withCues(played, leftOut, transposeBars({ key: tune.key, bars: mapNotes(tune.bars, (note) => ({ ...note, pitch: byOctaves(note.pitch, line.octaves) })) }, instrument.transposition).bars));
  const fingered = fingers && fingers.marks !== 'none' ? fingerPart({ bars, meter: tune.meter }, tempo, instrument, fingers) : undefined;
  const helped = Object.keys(aids).length === 0 ? bars : withAids(bars, aids, { key: onPage.key, meter: tune.meter, tempo, instrument, syllables, phrases: phrasesIn({ ...line.tune, bars }, tune, phrases) });
  return {
    value: {
      level, instrument, title: tune.title,
      ...(tune.composer && { composer: tune.composer }),
      concertKey: line.tune.key, writtenKey: onPage.key, meter: tune.meter, tempo, ...swingOf(swing ?? tune.swing),
      bars: cued(helped), soundingBars: withRests({ bars: closed(transposeBars({ key: onPage.key, bars: plain.bars }, toSounding(instrument)).bars), meter: tune.meter }, leftOut),
      ...(leftOut.length > 0 && { leftOut }),
      written, octaves: line.octaves, ...extremes, outside: line.outside, fidelity: line.fidelity, ...(fingered && { fingered }),
      difficulty: barDifficulties({ bars, key: onPage.key, meter: tune.meter, tempo }, instrument),
    },
    changes: [...line.changes, ...plain.changes].toSorted((a, b) => a.barIndex - b.barIndex),
  };
}

function swingOf(swing: Swing | 'straight' | undefined): { readonly swing?: Swing } {
  return swing === undefined || swing === 'straight' ? {} : { swing };
}

/** A part ends with a final line even where its source has none. */
function closed(bars: readonly Bar[]): readonly Bar[] {
  const last = bars.at(-1);
  if (!last || last.barline || last.repeatEnd !== undefined) return bars;
  return [...bars.slice(0, -1), { ...last, barline: 'final' }];
}

function withoutDoubles(concert: Tune, written: readonly Bar[]): { readonly bars: readonly Bar[]; readonly changes: readonly Change[] } {
  const numbers = barNumbers(concert);
  const changes: Change[] = [];
  const bars = mapNotes(written, (note, barIndex) => {
    const pitch = withoutDoubleAccidental(note.pitch);
    if (pitch === note.pitch) return note;
    changes.push({ bar: numbers[barIndex] ?? 0, barIndex, events: [note.id], detail: { kind: 'respelled', from: pitchClassOf(note.pitch), to: pitchClassOf(pitch) } });
    return { ...note, pitch };
  });
  return { bars, changes };
}
