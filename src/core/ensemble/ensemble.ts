import { derived } from '../derived';
import { inKey, partFor, type PartRequest, phrasingOf } from '../levels';
import { LEVELS } from '../instruments';
import {
  byOctaves,
  chroma,
  intervalBetweenTonics,
  type Key,
  sameKey,
  semitones,
  spellInKey,
  transpose,
} from '../pitch';
import { withProposedChords } from '../pools';
import {
  type Bar,
  barsByOctaves,
  isNote,
  type ScoreEvent,
  soundingNotes,
  type TogetherBar,
  type TogetherCell,
  type TogetherNotes,
  type Tune,
  withoutSecondPart,
  withoutTogether,
} from '../score';
import type { Ticks } from '../time';
import { levelTempo, type PhrasingStyle } from '../work';
import type { Ensemble, EnsembleVoice } from './arranged';
import { assignRoles, type Assignment } from './assign';
import { type Ground, groundOf, sectionAt, type Section, sectionsOf } from './ground';
import { asLine, lineNote, noteAt, notesIn, type VoiceLine } from './line';
import { type LeadSpan, movedLine } from './move';
import { type EnsemblePlayer, isFirstYear, reachOf } from './player';
import { barFinder, crossingsOf, faultsOf, isThirdOrSixth, measureEnsemble, strayPlaces } from './rules';
import { withSuspensions } from './suspend';
import { chooseSkeleton, hasLower, type OtherVoice } from './voice';
import { writtenTune } from './write';

/** What an arrangement is made for. */
export interface EnsembleRequest {
  readonly players: readonly EnsemblePlayer[];
  /** What a teacher decided; players are named by their ids. */
  readonly notes?: TogetherNotes;
}

/** More players than a group has are not written for. */
export const MAX_ENSEMBLE = 60;

/**
 * A tune for players who sound together: who has what, and a line for each. The same request gives the same notes.
 *
 * @throws RangeError for no players, more than 60, or roles for all of which none is the tune
 */
export function arrange(tune: Tune, { players, notes = {} }: EnsembleRequest): Ensemble {
  if (players.length === 0 || players.length > MAX_ENSEMBLE)
    throw new RangeError(`1 to ${MAX_ENSEMBLE} players can play together, and here are ${players.length}`);
  if (players.every(({ role }) => role !== undefined) && !players.some(({ role }) => role === 'tune'))
    throw new RangeError('everybody has a role and nobody has the tune: give one player the tune');
  const source = withChords(withoutTogether(tune));
  const key = notes.key ?? tune.key;
  const perMinute = notes.perMinute ?? slowest(tune, players);
  const keyed = keyedTune(source.tune, key);
  const ground = groundOf(keyed);
  const sections = sectionsOf(keyed);
  const style = phrasingOf(source.tune);
  const leads = players.map((player) => leadOf(ground, source.tune, player, key, perMinute));
  const absent = new Set(notes.absent ?? []);
  const assignment = assignRoles(ground, sections, players, (index) => leads[index]?.line() ?? [], {
    handing: notes.handing ?? 'in-turn',
    absent,
    cellOf: (section, id) => notes.cells?.[ground.tune.bars[sections[section]?.from ?? 0]?.id ?? '']?.[id],
  });
  const sectionOfBar = keyed.bars.map((_, bar) => sectionAt(sections, bar));
  const workshop: Workshop = {
    ground,
    sections,
    players,
    notes,
    style,
    leads,
    assignment,
    sectionOfBar,
    hushed: hushedBars(ground, players, leads, assignment.cells, sectionOfBar),
  };
  const lines = composed(workshop);
  const voices = players.map((player, index): EnsembleVoice => {
    const spans = leadsOf(workshop, index);
    const { tune: written, phrases } = writtenTune({
      ground,
      player,
      line: lines[index] ?? [],
      style,
      leads: spans,
      leadBars: spans.length > 0 ? (leads[index]?.bars() ?? []) : [],
      own: ownBars(workshop, player.id),
      choices: choicesOf(workshop, index),
    });
    return {
      player,
      role: assignment.roles[index] ?? 'pad',
      cells: assignment.cells.map((row) => row[index] ?? 'out'),
      leads: spans,
      line: lines[index] ?? [],
      tune: written,
      phrases,
    };
  });
  const measures = measureEnsemble(
    ground,
    voices.map(({ line }, index) => ({ line, cellAt: cellsOf(workshop, index) })),
  );
  return { ground, sections, voices, perMinute, measures, hasProposedChords: source.isProposed };
}

/** The tune alone, with chords. */
const withChords = derived((tune: Tune): { readonly tune: Tune; readonly isProposed: boolean } => {
  const alone: Tune = { ...tune, bars: withoutSecondPart(tune.bars) };
  const chorded = withProposedChords(alone);
  return { tune: chorded, isProposed: chorded !== alone };
});

const keyedTune = derived((tune: Tune, key: Key): Tune => ({ ...tune, ...inKey(tune, key) }), {
  by: (tune, key) => [tune, JSON.stringify(key)],
});

/** One tempo for all: the slowest of their levels'. */
function slowest(tune: Tune, players: readonly EnsemblePlayer[]): number {
  return Math.min(
    ...players.map(({ level, recipe }) => levelTempo(tune, level, recipe?.keyAndTempo?.perMinute).perMinute),
  );
}

/** A player's own bars of the tune: as their level has it, a first year in quarters, others as it is written. */
function leadBarsOf(tune: Tune, player: EnsemblePlayer, key: Key, perMinute: number): readonly Bar[] {
  const { level, instrument, known, recipe } = player;
  const { page: _page, form: _form, instrument: _instrument, custom: _custom, ...wishes } = recipe ?? {};
  const request: PartRequest = {
    ...wishes,
    level,
    instrument,
    keyAndTempo: { key, perMinute },
    ...(isFirstYear(player)
      ? { rhythm: { shortest: 'quarter', ...recipe?.rhythm } }
      : { melody: recipe?.melody ?? ('as written' as const) }),
    limits: {
      ...recipe?.limits,
      ...(known && { known: [...known].map((height) => spellInKey(height + 12, C_MAJOR)) }),
    },
  };
  return leadPart(tune, instrument, JSON.stringify(request), request);
}

/** How known notes are spelled does not matter: they are compared by their height. */
const C_MAJOR: Key = { tonic: { step: 'C', alter: 0 }, mode: 'major' };

/** How a player has the tune, worked out where somebody asks. */
interface Lead {
  readonly bars: () => readonly Bar[];
  readonly line: () => VoiceLine;
}

function leadOf(ground: Ground, tune: Tune, player: EnsemblePlayer, key: Key, perMinute: number): Lead {
  const bars = () => heardOnTop(ground, player, leadBarsOf(tune, player, key, perMinute));
  return { bars, line: () => lineOf(bars(), ground.tune) };
}

/** As far under where the tune is written it is lost among the others, in half steps. */
const LOST = 7;

/** A tune that lies an octave lower than it is written goes up, where the player's level has all of it there. */
function heardOnTop({ tune, notes }: Ground, player: EnsemblePlayer, bars: readonly Bar[]): readonly Bar[] {
  if (meanHeight(notes) - meanHeight(soundingNotes({ bars, meter: tune.meter })) < LOST) return bars;
  const isPlayable = reachOf(player);
  const higher = barsByOctaves(bars, 1);
  const fits = higher.every(({ events }) => events.every((event) => !isNote(event) || isPlayable(event.pitch)));
  return fits ? higher : bars;
}

/** Half steps above C0, long notes weighing more; `-Infinity` where nothing sounds. */
function meanHeight(notes: ReturnType<typeof soundingNotes>): number {
  const length = notes.reduce((sum, note) => sum + note.length, 0);
  return length === 0 ? -Infinity : notes.reduce((sum, note) => sum + semitones(note.pitch) * note.length, 0) / length;
}

/** Changing a cell asks for the same lines again. */
const leadPart = derived(
  (tune: Tune, _instrument: EnsemblePlayer['instrument'], _name: string, request: PartRequest): readonly Bar[] =>
    partFor(tune, request).value.soundingBars,
  { most: 24, by: (tune, instrument, name) => [tune, instrument, name] },
);

const lineOf = derived((bars: readonly Bar[], tune: Tune): VoiceLine =>
  asLine(soundingNotes({ bars, meter: tune.meter }), 'tune'),
);

/** All that composing needs. */
interface Workshop {
  readonly ground: Ground;
  readonly sections: readonly Section[];
  readonly players: readonly EnsemblePlayer[];
  readonly notes: TogetherNotes;
  readonly style: PhrasingStyle;
  readonly leads: readonly Lead[];
  readonly assignment: Assignment;
  /** The section of each bar. */
  readonly sectionOfBar: readonly number[];
  /** Bars in which a player who leads with another rests, since the two would rub: by player. */
  readonly hushed: readonly ReadonlySet<number>[];
}

/** What stands in a bar of a player beside what is written by hand. */
type PlainChoice = Exclude<TogetherBar['kind'], 'own' | 'simpler' | 'other'>;

function choicesOf({ ground, notes, hushed, players }: Workshop, index: number): ReadonlyMap<number, PlainChoice> {
  const bars = notes.bars?.[players[index]?.id ?? ''] ?? {};
  return new Map(
    ground.tune.bars.flatMap(({ id }, bar): readonly (readonly [number, PlainChoice])[] => {
      const kind = bars[id]?.kind ?? (hushed[index]?.has(bar) ? 'rest' : undefined);
      return kind === 'rest' || kind === 'octave-up' || kind === 'octave-down' ? [[bar, kind]] : [];
    }),
  );
}

/** Two who lead at once have the tune as their levels do; where that rubs on a strong beat, the easier one rests. */
function hushedBars(
  ground: Ground,
  players: readonly EnsemblePlayer[],
  leads: readonly Lead[],
  cells: Assignment['cells'],
  sectionOfBar: readonly number[],
): readonly ReadonlySet<number>[] {
  const hushed = players.map(() => new Set<number>());
  for (const { bar, from, isStrong, chord } of ground.slots) {
    const row = cells[sectionOfBar[bar] ?? 0] ?? [];
    if (!isStrong || row.filter((cell) => cell === 'tune').length < 2) continue;
    const there = players.flatMap(({ level }, index) => {
      const height = row[index] === 'tune' ? noteAt(leads[index]?.line() ?? [], from)?.height : undefined;
      return height === undefined ? [] : [{ index, height, rank: LEVELS.indexOf(level) }];
    });
    const bits = chord?.bits ?? 0;
    const isOfChord = (height: number) => (bits & (1 << (height % 12))) !== 0;
    there.forEach((one, k) => {
      for (const other of there.slice(k + 1)) {
        if (Math.abs(one.height - other.height) % 12 !== 1) continue;
        if (isOfChord(one.height) && isOfChord(other.height)) continue;
        hushed[one.rank < other.rank ? one.index : other.index]?.add(bar);
      }
    });
  }
  return hushed;
}

function cellsOf({ sectionOfBar, assignment }: Workshop, index: number): (bar: number) => TogetherCell {
  return (bar) => assignment.cells[sectionOfBar[bar] ?? 0]?.[index] ?? 'out';
}

function ownBars({ ground, notes }: Workshop, id: string): ReadonlyMap<number, readonly ScoreEvent[]> {
  const bars = notes.bars?.[id] ?? {};
  return new Map(
    ground.tune.bars.flatMap((bar, index) => {
      const choice = bars[bar.id];
      return choice?.kind === 'own' ? [[index, movedEvents(choice, ground.tune.key)] as const] : [];
    }),
  );
}

/** Events that were written in one key, in another, by the shortest way. */
function movedEvents({ events, key }: Extract<TogetherBar, { kind: 'own' }>, to: Key): readonly ScoreEvent[] {
  if (sameKey(key, to)) return events;
  const interval = intervalBetweenTonics(key.tonic, to.tonic);
  return events.map((event) => (isNote(event) ? { ...event, pitch: transpose(event.pitch, interval) } : event));
}

/** A pickup of so many of a section's notes at most is left to the new leader alone; of longer ones both have it. */
const PICKUP_SHARE = 0.1;

/**
 * Where a player has the tune: by sections, with the pickup before them. The leader before stops where the next phrase
 * begins, unless the pickup is long: then both play it.
 */
function leadsOf({ ground, sections, assignment, leads, players }: Workshop, index: number): readonly LeadSpan[] {
  const cells = assignment.cells.map((row) => row[index]);
  const spans: { from: Ticks; to: Ticks }[] = [];
  sections.forEach((section, k) => {
    if (cells[k] !== 'tune') return;
    const isNew = k === 0 || cells[k - 1] !== 'tune';
    const barStart = ground.spans[section.from]?.start ?? 0;
    const next = sections[k + 1];
    const nextStart = next ? (ground.spans[next.from]?.start ?? ground.end) : ground.end;
    const line = leads[index]?.line() ?? [];
    const player = players[index];
    const from =
      isNew && k > 0 && !canTakePickup(ground, line, player, section.starts, barStart) ? barStart : section.starts;
    const leaves = next !== undefined && cells[k + 1] !== 'tune';
    const isShort =
      next !== undefined &&
      notesIn(ground.notes.length > 0 ? asGroundLine(ground) : [], next.starts, nextStart).length <=
        PICKUP_SHARE * notesIn(asGroundLine(ground), barStart, nextStart).length;
    const taken = next !== undefined && pickupIsTaken({ ground, sections, assignment, leads, players }, k + 1);
    const to = leaves && isShort && taken ? (next?.starts ?? nextStart) : nextStart;
    const last = spans.at(-1);
    if (last && last.to >= from) last.to = to;
    else spans.push({ from, to });
  });
  return spans;
}

const asGroundLine = derived(({ notes }: Ground): VoiceLine => asLine(notes, 'tune'));

/** Whether some new leader of a section plays its pickup. */
function pickupIsTaken(
  {
    ground,
    sections,
    assignment,
    leads,
    players,
  }: Pick<Workshop, 'ground' | 'sections' | 'assignment' | 'leads' | 'players'>,
  k: number,
): boolean {
  const section = sections[k];
  if (!section) return false;
  const barStart = ground.spans[section.from]?.start ?? 0;
  if (section.starts >= barStart) return true;
  return players.some(
    (player, index) =>
      assignment.cells[k]?.[index] === 'tune' &&
      canTakePickup(ground, leads[index]?.line() ?? [], player, section.starts, barStart),
  );
}

/** The pickup lies in a bar where another leads still: there it has to stay in the level's range and off strong beats. */
function canTakePickup(
  ground: Ground,
  line: VoiceLine,
  player: EnsemblePlayer | undefined,
  from: Ticks,
  to: Ticks,
): boolean {
  if (from >= to || !player) return from < to;
  const isPlayable = reachOf(player);
  const isOnStrong = ground.slots.some((slot) => slot.isStrong && slot.from >= from && slot.from < to);
  return !isOnStrong && notesIn(line, from, to).every((note) => note.from >= from && isPlayable(note.pitch));
}

/** Who is written first is heard by who comes after. */
const ORDER: Readonly<Record<TogetherCell, number>> = {
  tune: 0,
  bass: 1,
  second: 2,
  counter: 3,
  pad: 4,
  rhythm: 5,
  out: 6,
};

/** Styles whose players double on purpose, and do not mind how a seventh goes on. */
const LOOSE: ReadonlySet<PhrasingStyle> = new Set(['dance', 'swing', 'tango']);

/** In a larger group players of one instrument, level and role share lines: two of each kind. */
const SHARING_FROM = 9;

function composed(workshop: Workshop): readonly VoiceLine[] {
  const { players, assignment, leads } = workshop;
  const desks = desksOf(workshop);
  const order = players
    .map((_, index) => index)
    .filter((index) => desks[index] === index)
    .toSorted((a, b) => ORDER[assignment.roles[a] ?? 'pad'] - ORDER[assignment.roles[b] ?? 'pad'] || a - b);
  const lines: VoiceLine[] = players.map((_, index) =>
    withChosenBars(
      workshop,
      index,
      leadsOf(workshop, index).flatMap(({ from, to }) => notesIn(leads[index]?.line() ?? [], from, to)),
    ),
  );
  const banned = players.map(() => new Set<string>());
  const mustSound = players.map(() => new Set<number>());
  const tune = leadingLine(workshop);
  const write = (index: number) => {
    lines[index] = voiceLine(
      workshop,
      index,
      desks,
      lines,
      tune,
      banned[index] ?? new Set(),
      mustSound[index] ?? new Set(),
    );
  };
  for (const index of order) {
    write(index);
    for (let round = 0; round < ROUNDS; round += 1) {
      const missing = missingRoots(workshop, index, lines[index] ?? []);
      if (missing.length === 0) break;
      missing.forEach((slot) => mustSound[index]?.add(slot));
      write(index);
    }
  }
  mended(workshop, order, lines, banned, mustSound, write);
  uncrossed(workshop, order, lines, banned, write);
  const suspended =
    workshop.style === 'swing' || workshop.style === 'dance'
      ? lines
      : withSuspensions(workshop.ground, soundingsOf(workshop, order, lines), order, players, lines);
  return players.map((_, index) => suspended[desks[index] ?? index] ?? []);
}

/** A bass has the root of at least so many of its chords. */
const ROOTS = 0.92;

/** Chords whose root a bass left out, as many as it has to have; none where it has enough. */
function missingRoots(workshop: Workshop, index: number, line: VoiceLine): readonly number[] {
  const { ground } = workshop;
  const cellAt = cellsOf(workshop, index);
  const starts = ground.slots.flatMap(({ isChordStart, chord, bar }, slot) =>
    isChordStart && chord && cellAt(bar) === 'bass' ? [slot] : [],
  );
  const missing = starts.filter((slot) => {
    const { from = 0, chord } = ground.slots[slot] ?? {};
    const note = noteAt(line, from);
    return !note || !chord || note.height % 12 !== chroma(chord.bass);
  });
  const wanted = Math.ceil(starts.length * ROOTS) - (starts.length - missing.length);
  return missing.slice(0, Math.max(0, wanted));
}

/** For each player, whose line they share: their own, or that of a player like them. */
function desksOf(workshop: Workshop): readonly number[] {
  const { players, assignment, notes } = workshop;
  if (players.length < SHARING_FROM) return players.map((_, index) => index);
  const known = new Map<string, number[]>();
  const count = new Map<string, number>();
  return players.map((player, index) => {
    const { instrument, level, known: notesKnown, id } = player;
    const row = assignment.cells.map((cells) => cells[index]).join();
    const range = instrument.range[level];
    const own = notes.bars?.[id] ? id : '';
    const name = JSON.stringify([instrument.id, level, range, notesKnown && [...notesKnown], row, own, player.recipe]);
    const turn = count.get(name) ?? 0;
    count.set(name, turn + 1);
    const leaders = known.get(name) ?? [];
    known.set(name, leaders);
    if (leaders.length < 2) {
      leaders.push(index);
      return index;
    }
    return leaders[turn % 2] ?? index;
  });
}

/** The tune as the others go by it: in each section the line of the first who leads there. */
function leadingLine(workshop: Workshop): VoiceLine {
  const { sections, ground, assignment, leads } = workshop;
  return sections.flatMap(({ from, to }, k) => {
    const leader = assignment.cells[k]?.indexOf('tune') ?? -1;
    const [begin, end] = [ground.spans[from]?.start ?? 0, ground.spans[to]?.start ?? ground.end];
    return notesIn(leads[leader]?.line() ?? [], begin, end)
      .filter((note) => note.from >= begin)
      .map((note) => ({ ...note, to: Math.min(note.to, end) }));
  });
}

function voiceLine(
  workshop: Workshop,
  index: number,
  desks: readonly number[],
  lines: readonly VoiceLine[],
  tune: VoiceLine,
  banned: ReadonlySet<string>,
  mustSound: ReadonlySet<number>,
): VoiceLine {
  const { ground, players, notes, style, leads } = workshop;
  const player = players[index];
  if (!player) return [];
  const cellAt = cellsOf(workshop, index);
  const spans = leadsOf(workshop, index);
  const lead = spans.length > 0 ? (leads[index]?.line() ?? []) : [];
  const others: readonly OtherVoice[] = players.flatMap((_, other) =>
    other !== index && desks[other] === other && (lines[other]?.length ?? 0) > 0
      ? [{ line: lines[other] ?? [], cellAt: cellsOf(workshop, other) }]
      : [],
  );
  const bars = notes.bars?.[player.id] ?? {};
  const choiceAt = (bar: number) => bars[ground.tune.bars[bar]?.id ?? ''];
  const skeleton = chooseSkeleton(
    ground,
    {
      player,
      cellAt,
      lead,
      rules: LOOSE.has(style) ? 'loose' : 'textbook',
      walks: style === 'swing' && !isFirstYear(player),
      seedAt: (bar) => {
        const choice = choiceAt(bar);
        return choice?.kind === 'other' ? choice.seed : (notes.seed ?? 0);
      },
      banned,
      mustSound,
      size: players.length,
    },
    others,
  );
  const line = movedLine({
    ground,
    player,
    cellAt,
    skeleton,
    style,
    leads: spans,
    lead,
    tune,
    others: others.map((other) => other.line),
    isPlain: (bar) => choiceAt(bar)?.kind === 'simpler',
  });
  return withChosenBars(workshop, index, line);
}

/** The line with the bars that were set by hand: other octaves, rests, and what was written. */
function withChosenBars(workshop: Workshop, index: number, line: VoiceLine): VoiceLine {
  const { ground, players } = workshop;
  const own = ownBars(workshop, players[index]?.id ?? '');
  const choices = choicesOf(workshop, index);
  if (own.size + choices.size === 0) return line;
  const barAt = barFinder(ground);
  const kept = line.flatMap((note) => {
    const bar = barAt(note.from);
    const choice = choices.get(bar);
    if (choice === 'rest' || own.has(bar)) return [];
    if (choice === undefined) return [note];
    const pitch = byOctaves(note.pitch, choice === 'octave-up' ? 1 : -1);
    return [{ ...note, pitch, height: semitones(pitch) }];
  });
  const written = [...own].flatMap(([bar, events]) => {
    let at = ground.spans[bar]?.start ?? 0;
    return events.flatMap((event) => {
      const from = at;
      at += event.length;
      return isNote(event) ? [lineNote(from, at, event.pitch, 'own')] : [];
    });
  });
  // What is held into a bar that was set by hand stops before it.
  const walls = [...own.keys(), ...choices.keys()].map((bar) => ground.spans[bar]?.start ?? 0);
  const closed = (note: VoiceLine[number]) => {
    const end = walls.find((start) => note.from < start && note.to > start);
    return end === undefined ? note : { ...note, to: end };
  };
  return [...kept.map(closed), ...written].toSorted((x, y) => x.from - y.from);
}

/** Parts that lie over the tune though an octave lower is there, or under the bass, are written once more without that. */
function uncrossed(
  workshop: Workshop,
  order: readonly number[],
  lines: VoiceLine[],
  banned: readonly Set<string>[],
  write: (index: number) => void,
): void {
  const { ground, players } = workshop;
  for (let round = 0; round < 2; round += 1) {
    const again = new Set<number>();
    for (const { part, bar, kind } of crossingsOf(ground, soundingsOf(workshop, order, lines))) {
      const index = order[part] ?? 0;
      const player = players[index];
      const cellAt = cellsOf(workshop, index);
      ground.slots.forEach((slot, k) => {
        const note = slot.bar >= bar && slot.bar <= bar + 2 ? noteAt(lines[index] ?? [], slot.from) : undefined;
        if (!note || !player || cellAt(slot.bar) === 'tune' || note.from < slot.from) return;
        const others = order.flatMap((other) => {
          const isRight = cellsOf(workshop, other)(slot.bar) === (kind === 'over the tune' ? 'tune' : 'bass');
          const there = isRight ? noteAt(lines[other] ?? [], slot.from) : undefined;
          return there ? [there.height] : [];
        });
        if (others.length === 0) return;
        const isOver = kind === 'over the tune' && note.height > Math.max(...others) && hasLower(player, note.pitch);
        const isUnder = kind === 'under the bass' && note.height < Math.min(...others);
        if (!isOver && !isUnder) return;
        banned[index]?.add(`${k}:${note.height}`);
        again.add(index);
      });
    }
    if (again.size === 0) return;
    order.filter((index) => again.has(index)).forEach(write);
  }
}

/** Half steps above C0 that anything sounds in. */
const HEIGHTS = 132;

/** How often parts with faults are written anew. */
const ROUNDS = 6;

/** Parts in which the whole shows a fault are written anew without the pitch that made it. */
function mended(
  workshop: Workshop,
  order: readonly number[],
  lines: VoiceLine[],
  banned: readonly Set<string>[],
  mustSound: readonly ReadonlySet<number>[],
  write: (index: number) => void,
): void {
  const { ground, notes, players } = workshop;
  const isByHand = (index: number, bar: number) =>
    notes.bars?.[players[index]?.id ?? '']?.[ground.tune.bars[bar]?.id ?? ''] !== undefined;
  for (let round = 0; round < ROUNDS; round += 1) {
    const sounding = soundingsOf(workshop, order, lines);
    const { parallels, clashes } = faultsOf(ground, sounding);
    const again = new Set<number>();
    for (const { parts, slot } of [...parallels, ...clashes]) {
      const bar = ground.slots[slot]?.bar ?? 0;
      const at = ground.slots[slot]?.from ?? 0;
      const [a = 0, b = 0] = parts.map((part) => order[part] ?? 0);
      const free = [b, a].find(
        (index) =>
          cellsOf(workshop, index)(bar) !== 'tune' && !isByHand(index, bar) && mustSound[index]?.has(slot) !== true,
      );
      if (free === undefined) continue;
      const note = notesIn(lines[free] ?? [], at, at + 1)[0];
      if (!note) continue;
      banned[free]?.add(`${slot}:${note.height}`);
      again.add(free);
    }
    // A second voice that strays has thirds and sixths in those places, or nothing.
    for (const part of seconds(workshop, order)) {
      const index = order[part] ?? 0;
      for (const { slot, tune } of strayPlaces(ground, sounding, part)) {
        if (isByHand(index, ground.slots[slot]?.bar ?? 0)) continue;
        for (let height = 0; height < HEIGHTS; height += 1)
          if (!isThirdOrSixth(height - tune)) banned[index]?.add(`${slot}:${height}`);
        again.add(index);
      }
    }
    if (again.size === 0) return;
    order.filter((index) => again.has(index)).forEach(write);
  }
}

/** Places in the order of parts that are second voices. */
function seconds({ assignment }: Workshop, order: readonly number[]): readonly number[] {
  return order.flatMap((index, part) => (assignment.roles[index] === 'second' ? [part] : []));
}

function soundingsOf(workshop: Workshop, order: readonly number[], lines: readonly VoiceLine[]) {
  return order.map((index) => ({ line: lines[index] ?? [], cellAt: cellsOf(workshop, index) }));
}
