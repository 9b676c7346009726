import { barDifficulties, lineDifficulty } from '../../analysis/difficulty';
import { phrasesOf, type Phrase } from '../../analysis/phrases';
import { LEVELS, outsideBy, type Instrument, type Level } from '../../instruments/instrument';
import { printKey, type Key } from '../../pitch/key';
import { byOctaves, semitones, type Pitch } from '../../pitch/pitch';
import { transpose } from '../../pitch/transpose';
import { soundingNotes } from '../../score/sounding';
import {
  isNote,
  mapNotes,
  quartersPerMinute,
  secondPartBars,
  withoutSecondPart,
  type EventId,
  type ScoreEvent,
  type Tempo,
  type Tune,
} from '../../score/tune';
import { TICKS_PER_QUARTER, type Ticks } from '../../time/ticks';
import { articulated, type Manner } from './articulate';
import type { Change } from '../change';
import { withOctavesChosen, withOwnBars } from '../bars/chosenBars';
import type { Device } from '../embellish/devices';
import { dress, type Dressed } from '../embellish/embellish';
import { eventsOutOfReach, fit, type KnownNotes, type NoteOutside } from '../fit/fit';
import { inKey } from '../fit/inKey';
import { withinLeap } from '../fit/leaps';
import { noteWeights } from '../simplify/noteWeight';
import { LEVEL_DEFAULTS, levelTempo, type MelodyWishes, type Remedy } from '../recipe/recipe';
import { joined, phrasesIn, shape, type Shaped } from './shape';
import { FIRST_WORDS, type Shortest } from '../simplify/slots';

/** What decides a level's line. */
export interface LineRequest {
  readonly level: Level;
  readonly instrument: Instrument;
  /** Concert; its mode must be the tune's. The tune's own key by default. */
  readonly key?: Key;
  /** In the tune's own beat. By default the level's share of the tune's tempo. */
  readonly perMinute?: number;
  readonly remedies?: Readonly<Record<EventId, Remedy>>;
  /** Written heights the player knows; without it, all of the range. */
  readonly known?: KnownNotes;
  readonly melody?: MelodyWishes;
  /** The tune's second part is played. */
  readonly ofSecond?: true;
  /** As written by default. */
  readonly manner?: Manner;
  /** `none` leaves the line as it is, whatever the level does: only key, octave and written pitch are worked out. */
  readonly shape?: 'level' | 'none';
}

/** A level's line in concert pitch, as it sounds, with the tune it was made of. */
export function levelLine(tune: Tune, request: LineRequest): { readonly source: Source; readonly line: LevelLine } {
  const { key = tune.key, level, instrument, perMinute, melody = {} } = request;
  if (key.mode !== tune.key.mode) throw new RangeError(`a tune in ${tune.key.mode} cannot be put in ${key.mode}`);
  const source = sourceOf(request.ofSecond ? secondOf(tune) : tune, key);
  return {
    source,
    line: spoken(
      isPlainly(request, melody)
        ? usualLine(source, level, instrument, perMinute, melody.seed ?? 0).line
        : lineFor(source, request),
      source,
      request,
    ),
  };
}

/** Whether nobody says otherwise than the level does, but for the throw. */
function isPlainly({ shape: shaping, known, remedies = {} }: LineRequest, melody: MelodyWishes): boolean {
  return (
    shaping !== 'none' &&
    !known &&
    Object.keys(melody).every((name) => name === 'seed') &&
    Object.keys(remedies).length === 0
  );
}

/** One line with some bars of another. */
function spliced(whole: LevelLine, other: LevelLine, taken: ReadonlySet<number>): LevelLine {
  const bars = joined(whole.tune.bars.map((bar, index) => (taken.has(index) ? (other.tune.bars[index] ?? bar) : bar)));
  const pick = <Placed extends { readonly barIndex: number }>(mine: readonly Placed[], theirs: readonly Placed[]) => [
    ...mine.filter(({ barIndex }) => !taken.has(barIndex)),
    ...theirs.filter(({ barIndex }) => taken.has(barIndex)),
  ];
  return {
    ...whole,
    tune: { ...whole.tune, bars },
    changes: pick(whole.changes, other.changes),
    outside: pick(whole.outside, other.outside),
  };
}

/** The line within its leaps and in its manner. */
function spoken(
  line: LevelLine,
  source: Source,
  { melody = {}, manner = 'as-written', instrument, level, known }: LineRequest,
): LevelLine {
  if (melody.leap === undefined && manner === 'as-written') return line;
  const phrases = phrasesIn(line.tune, source.tune, source.phrases);
  const near =
    melody.leap === undefined
      ? { tune: line.tune, changes: [] }
      : withinLeap(line.tune, phrases, melody.leap, isPlayable(instrument, level, known));
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

/** The tune as every level starts from it. */
export interface Source {
  readonly tune: Tune;
  readonly phrases: readonly Phrase[];
}

/**
 * What was worked out for a tune as long as the tune itself is there: equal values in, the same values out, so that three
 * levels and ten instruments do not each begin from nothing.
 */
interface Kept {
  readonly source: Source;
  /** The tune thinned or eased, by what it was done for. */
  readonly shapes: Map<string, Shaped>;
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
  const made: Kept = { source: freshSource(tune, key), shapes: new Map(), lines: new WeakMap() };
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

function usualLine(
  source: Source,
  level: Level,
  instrument: Instrument,
  perMinute: number | undefined,
  seed: number,
): MeasuredLine {
  const lines = keptBySource.get(source)?.lines;
  const byName = lines?.get(instrument) ?? new Map<string, MeasuredLine>();
  lines?.set(instrument, byName);
  const name = `${level}/${perMinute ?? ''}/${seed}`;
  const known = byName.get(name);
  if (known) return known;
  const line = lineFor(source, {
    level,
    instrument,
    ...(perMinute !== undefined && { perMinute }),
    ...(seed !== 0 && { melody: { seed } }),
  });
  const measured = measuredLine(line, instrument, levelTempo(source.tune, level, perMinute));
  if (byName.size >= MOST_LINES) byName.clear();
  byName.set(name, measured);
  return measured;
}

function measuredLine(line: LevelLine, instrument: Instrument, tempo: Tempo): MeasuredLine {
  const { base } = line;
  const notes = base.bars.reduce(
    (sum, { events }) => sum + events.filter((event, k) => isNote(event) && !isHeld(events[k - 1])).length,
    0,
  );
  return {
    line,
    total: lineDifficulty(
      barDifficulties({ bars: base.bars, key: base.key, meter: base.meter, tempo }, instrument, 'sounding', line.shift),
    ).total,
    notes,
  };
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
export interface LevelLine {
  readonly tune: Tune;
  readonly octaves: number;
  readonly outside: readonly NoteOutside[];
  readonly changes: readonly Change[];
  readonly fidelity: number;
  /** The same line as it was before it was moved by `shift` octaves; notes have the same names. */
  readonly base: Tune;
  readonly shift: number;
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

/** Densities that are tried in turn until a level stands off from the one below. */
const DENSER = [20, 35, 60, 100] as const;
/** Beyond this the tune drowns; it is gone past only where the levels would else be equal. */
const DENSE_ENOUGH = 35;
/** How much harder than the level below a level should be: what people tell apart without measuring. Ours. */
export const APART = 1.1;

function lineFor(source: Source, request: LineRequest): LevelLine {
  const {
    level,
    instrument,
    perMinute,
    remedies = {},
    known: knownNotes,
    melody = {},
    shape: shaping = 'level',
  } = request;
  const defaults = LEVEL_DEFAULTS[level];
  const kind = shaping === 'none' ? 'as written' : (melody.melody ?? defaults.melody);
  const tempo = levelTempo(source.tune, level, perMinute);
  const chosen = new Map(
    shaping === 'none'
      ? []
      : source.tune.bars.flatMap(({ id }, index) => {
          const choice = melody.bars?.[id];
          return choice ? [[index, choice] as const] : [];
        }),
  );
  const outOfReach: ReadonlySet<EventId> =
    kind === 'thinned' ? eventsOutOfReach(source.tune, instrument, level, source.phrases, knownNotes) : new Set();
  const shaped = shapedFor(source, {
    melody: kind,
    shortest: melody.shortest ?? FIRST_WORDS.shortest,
    syncopation: shaping === 'none' ? undefined : melody.syncopation,
    ties: shaping === 'none' ? undefined : melody.ties,
    dotted: melody.dotted,
    fastest: shaping === 'none' || kind === 'as written' ? undefined : defaults.fastest,
    tempo,
    chosen,
    outOfReach,
  });
  const fitted = withOwnBars(
    withOctavesChosen(fit(shaped.tune, instrument, level, shaped.phrases, remedies, knownNotes), chosen, instrument),
    chosen,
  );
  // What was done to a bar before the teacher's own took its place is not to be seen.
  const isOwn = new Set(
    fitted.changes.flatMap(({ barIndex, detail }) =>
      detail.kind === 'chosen' && detail.variant === 'own' ? [barIndex] : [],
    ),
  );
  const told = [...shaped.changes, ...fitted.changes].filter(
    ({ barIndex, detail }) => !isOwn.has(barIndex) || (detail.kind === 'chosen' && detail.variant === 'own'),
  );
  const plain: LevelLine = {
    ...fitted,
    ...baseOf(shaped.tune, fitted.tune),
    changes: told,
    fidelity: shaped.fidelity,
    rounds: [],
  };
  const own = new Map(
    [...chosen].flatMap(([index, choice]) => (choice.kind === 'dressed' ? [[index, choice.seed] as const] : [])),
  );
  if (shaping === 'none' || (kind !== 'dressed' && own.size === 0)) return plain;
  const isFree = isPlayable(instrument, level, knownNotes);
  // A strong note that comes early leans over the beat, perhaps over the barline.
  const leans = melody.syncopation !== false;
  const isCalm = !leans || melody.ties === false;
  const isShared = own.size === 0 && chosen.size === 0 && Object.keys(remedies).length === 0;
  const dressedOn = (line: LevelLine, wished: Round): LevelLine => {
    const round = isCalm
      ? { ...wished, devices: wished.devices.filter((device) => device !== 'anticipation') }
      : wished;
    const isFreeThere = (pitch: Pitch) => isFree(line.shift === 0 ? pitch : byOctaves(pitch, line.shift));
    const make = (isFreeOf: (pitch: Pitch) => boolean): DressedBase => {
      const phrases = line.rounds.length === 0 ? shaped.phrases : phrasesIn(line.base, plain.base, shaped.phrases);
      const done = dress(line.base, phrases, {
        ...round,
        round: line.rounds.length + 1,
        seed: melody.seed ?? 0,
        own: line.rounds.length === 0 ? own : new Map(),
        silent: new Set(Object.keys(remedies)),
        leans,
        isFree: isFreeOf,
        locked: new Set([...chosen.keys()].filter((index) => !own.has(index))),
      });
      return { done, pushed: done.early.size === 0 ? 1 : pushedShare(done.tune, phrases, done.early) };
    };
    const { done, pushed } = isShared
      ? sharedDress(
          line.base,
          `${leans}/${melody.seed ?? 0}/${line.rounds.length}/${JSON.stringify(round)}`,
          isFreeThere,
          make,
        )
      : make(isFreeThere);
    return {
      ...line,
      base: done.tune,
      tune: raised(done.tune, line.shift),
      changes: [...line.changes, ...done.changes],
      rounds: [...line.rounds, round],
      fidelity: pushed === 1 ? line.fidelity : Math.round(line.fidelity * pushed),
    };
  };
  const usual: Round = {
    devices: melody.devices ?? defaults.devices,
    units: unitsFor(melody.shortest ?? defaults.shortest, defaults.fastest, tempo),
    density: kind === 'dressed' ? (melody.density ?? defaults.density) : 0,
    isPressed: false,
    varies: level === 'advanced',
  };
  const below = LEVELS[LEVELS.indexOf(level) - 1];
  const isByHand = melody.density !== undefined || melody.devices !== undefined;
  // Bars set by hand leave the others as they were: those are taken from the line that the level has without them.
  if (chosen.size > 0) {
    const { bars: _, ...free } = melody;
    const whole = isPlainly(request, free)
      ? usualLine(source, level, instrument, perMinute, free.seed ?? 0).line
      : lineFor(source, { ...request, melody: free });
    return spliced(whole, own.size > 0 ? dressedOn(plain, { ...usual, density: 0 }) : plain, new Set(chosen.keys()));
  }
  const fuller = (line: LevelLine) =>
    melody.more === undefined ? line : dressedOn(line, { ...usual, density: melody.more });
  if (kind !== 'dressed' || !below || isByHand) return fuller(dressedOn(plain, usual));
  const under = usualLine(source, below, instrument, perMinute, melody.seed ?? 0);
  // What the level below was given comes here too, and more.
  const begun = under.line.rounds.reduce(dressedOn, plain);
  let best = measuredLine(dressedOn(begun, usual), instrument, tempo);
  const isAbove = ({ total, notes }: MeasuredLine) => total > under.total + LEAST_RISE && notes >= under.notes;
  const offer = (line: LevelLine) => {
    const next = measuredLine(line, instrument, tempo);
    if (isAbove(next) === isAbove(best) ? next.total > best.total : isAbove(next)) best = next;
  };
  for (const density of DENSER)
    if (density > usual.density && (!isAbove(best) || (density <= DENSE_ENOUGH && best.total < under.total * APART)))
      offer(dressedOn(begun, { ...usual, density }));
  for (let more = 0; more < MOST_MORE && !isAbove(best); more += 1) {
    const devices = [...new Set([...usual.devices, ...MORE_DEVICES.slice(0, more === 0 ? -1 : undefined)])];
    offer(dressedOn(best.line, { ...usual, devices, density: 100, isPressed: more > 0 }));
  }
  return fuller(best.line);
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
  const wanted =
    shortest === '16th'
      ? [TICKS_PER_QUARTER / 2, TICKS_PER_QUARTER / 4]
      : [shortest === 'eighth' ? TICKS_PER_QUARTER / 2 : TICKS_PER_QUARTER];
  const playable = wanted.filter((unit) => perSecond(unit) <= (fastest ?? FASTEST_ADDED));
  return playable.length > 0 ? playable : [TICKS_PER_QUARTER];
}

/** Nobody is given more notes a second than this unasked. */
const FASTEST_ADDED = 9;

/** What is left of a line's fidelity: a note that comes early is half kept. */
function pushedShare(tune: Tune, phrases: readonly Phrase[], early: ReadonlySet<EventId>): number {
  const notes = soundingNotes(tune);
  const weights = noteWeights(tune, notes, phrases);
  const sum = (some: (id: EventId) => boolean) =>
    weights.reduce((total, weight, index) => total + (some(notes[index]?.first.id ?? '') ? weight : 0), 0);
  return (
    1 -
    sum((id) => early.has(id)) /
      2 /
      Math.max(
        1,
        sum(() => true),
      )
  );
}

/** The tune thinned or eased; made once for all who want the same. */
function shapedFor(source: Source, wishes: Parameters<typeof shape>[2]): Shaped {
  const shapes = keptBySource.get(source)?.shapes;
  if (wishes.chosen.size > 0 || !shapes) return shape(source.tune, source.phrases, wishes);
  const { melody, shortest, fastest, tempo, syncopation, ties, dotted, outOfReach } = wishes;
  const name = `${melody}/${shortest}/${fastest ?? ''}/${melody === 'thinned' ? '' : quartersPerMinute(tempo)}/${syncopation ?? ''}/${ties ?? ''}/${dotted ?? ''}/${[...outOfReach].join()}`;
  const made = shapes.get(name) ?? shape(source.tune, source.phrases, wishes);
  if (shapes.size >= MOST_LINES) shapes.clear();
  shapes.set(name, made);
  return made;
}

interface DressedBase {
  readonly done: Dressed;
  readonly pushed: number;
}

/** A dress with what was asked for it: whether the player has these pitches. Whoever answers alike gets the same. */
interface SharedDress {
  readonly asked: ReadonlyMap<number, { readonly pitch: Pitch; readonly isFree: boolean }>;
  readonly made: DressedBase;
}

/** Dresses of a line, kept as long as the line: players of many instruments have the same line in other octaves. */
const dresses = new WeakMap<Tune, Map<string, SharedDress[]>>();

function sharedDress(
  base: Tune,
  name: string,
  isFree: (pitch: Pitch) => boolean,
  make: (isFree: (pitch: Pitch) => boolean) => DressedBase,
): DressedBase {
  const byName = dresses.get(base) ?? new Map<string, SharedDress[]>();
  dresses.set(base, byName);
  const known = byName.get(name) ?? [];
  const found = known.find(({ asked }) => [...asked.values()].every((one) => isFree(one.pitch) === one.isFree));
  if (found) return found.made;
  const asked = new Map<number, { readonly pitch: Pitch; readonly isFree: boolean }>();
  const made = make((pitch) => {
    const height = semitones(pitch);
    const before = asked.get(height);
    if (before) return before.isFree;
    const answer = isFree(pitch);
    asked.set(height, { pitch, isFree: answer });
    return answer;
  });
  if (byName.size >= MOST_LINES * 4) byName.clear();
  byName.set(name, [...known.slice(-MOST_LINES), { asked, made }]);
  return made;
}

/** The line before it was moved, and by how many octaves it was, where all of it moved alike; else the line as it lies. */
function baseOf(shaped: Tune, fitted: Tune): Pick<LevelLine, 'base' | 'shift'> {
  let shift: number | undefined;
  const isAlike = shaped.bars.every((bar, index) =>
    bar.events.every((event, k) => {
      const there = fitted.bars[index]?.events[k];
      if (!there || there.id !== event.id || there.kind !== event.kind) return false;
      if (!isNote(event) || !isNote(there)) return true;
      shift ??= there.pitch.octave - event.pitch.octave;
      return (
        there.pitch.octave - event.pitch.octave === shift &&
        there.pitch.step === event.pitch.step &&
        there.pitch.alter === event.pitch.alter &&
        event.slurStarts === there.slurStarts &&
        event.slurEnds === there.slurEnds &&
        event.tied === there.tied
      );
    }),
  );
  return isAlike ? { base: shaped, shift: shift ?? 0 } : { base: fitted, shift: 0 };
}

function raised(base: Tune, octaves: number): Tune {
  if (octaves === 0) return base;
  return {
    ...base,
    bars: mapNotes(base.bars, (note) => ({
      ...note,
      pitch: byOctaves(note.pitch, octaves),
      ...(note.graces && {
        graces: note.graces.map((grace) => ({ ...grace, pitch: byOctaves(grace.pitch, octaves) })),
      }),
    })),
  };
}
