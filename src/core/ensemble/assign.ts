import { LEVELS } from '../instruments';
import { chroma, semitones } from '../pitch';
import type { Handing, PartRole, TogetherCell } from '../score';
import type { Ground, Section } from './ground';
import { noteAt, notesIn, type VoiceLine } from './line';
import { type EnsemblePlayer, isFirstYear, reachOf, soundingRange } from './player';

/** Who does what in which section. */
export interface Assignment {
  /** What each player does where they do not lead, in the players' order. */
  readonly roles: readonly PartRole[];
  /** By section, then by player. */
  readonly cells: readonly (readonly TogetherCell[])[];
}

/** What was asked of the table. */
export interface AssignmentWishes {
  readonly handing: Handing;
  /** Whether players that are not there today are in the list; their places are given to others. */
  readonly absent: ReadonlySet<string>;
  /** Set by hand: the cell of a section and player. */
  readonly cellOf: (section: number, player: string) => TogetherCell | undefined;
}

/** The line with which a player would lead. */
export type LeadOf = (player: number) => VoiceLine;

/** A bass that is lowest at fewer of its chords than this is none. */
const REACHES = 0.95;

/**
 * Who has what: the tune to whoever plays it best, one bass where somebody reaches it, beginners what they can hold;
 * the tune is handed round by sections. What was asked stays. Who is absent leaves the leads of the others as they are.
 *
 * @param players one at least; if all have a role, one of them has the tune
 */
export function assignRoles(
  ground: Ground,
  sections: readonly Section[],
  players: readonly EnsemblePlayer[],
  leadOf: LeadOf,
  { handing, absent, cellOf }: AssignmentWishes,
): Assignment {
  const { roles, leaders } = givenRoles(ground, players, leadOf);
  const isThere = (index: number) => !absent.has(players[index]?.id ?? '');
  const asked = players.flatMap(({ role }, index) => (role === 'tune' ? [index] : []));
  const turns =
    asked.length > 0 || handing === 'one'
      ? leaders.slice(0, 1)
      : turnsOf(ground, players, roles, leaders, leadOf, handing);
  const settled = standIn(ground, players, roles, leadOf, isThere, turns[0] ?? 0);
  let last = -1;
  const byLetter = new Map<number, number>();
  const cells = sections.map(({ letter }, section): readonly TogetherCell[] => {
    // What comes again is played again by whoever had it; what is new goes on to the next.
    const known = handing === 'everybody' ? undefined : byLetter.get(letter);
    const turn = known ?? (last + 1) % turns.length;
    if (known === undefined) last = turn;
    byLetter.set(letter, turn);
    const leading = asked.length > 0 ? asked : [turns[turn] ?? 0];
    const there = leading.filter(isThere);
    const instead = there.length > 0 ? there : [nextLeader(players, leaders, leading, isThere)];
    return players.map(({ id }, index): TogetherCell => {
      if (!isThere(index)) return 'out';
      const own = cellOf(section, id);
      if (own !== undefined) return own;
      if (instead.includes(index)) return 'tune';
      const role = settled[index] ?? 'pad';
      // Whoever has the tune elsewhere accompanies here.
      return role === 'tune' ? 'second' : role;
    });
  });
  const isLeaderAlways = (index: number) => cells.every((row) => row[index] === 'tune' || row[index] === 'out');
  return {
    roles: settled.map((role, index) =>
      isThere(index) && isLeaderAlways(index) ? 'tune' : role === 'tune' ? 'second' : role,
    ),
    cells: withSomebodyLeading(cells, players, leaders, isThere),
  };
}

/** A table in which nobody leads for a section: whoever leads best does. */
function withSomebodyLeading(
  cells: Assignment['cells'],
  players: readonly EnsemblePlayer[],
  leaders: readonly number[],
  isThere: (index: number) => boolean,
): Assignment['cells'] {
  return cells.map((row) => {
    if (row.includes('tune')) return row;
    const lead = leaders.find((index) => isThere(index) && row[index] !== 'bass' && row[index] !== 'out');
    const any = lead ?? players.findIndex((_, index) => isThere(index));
    return row.map((cell, index) => (index === any ? 'tune' : cell));
  });
}

/** Roles for all, and everybody in the order in which they would lead. */
function givenRoles(
  ground: Ground,
  players: readonly EnsemblePlayer[],
  leadOf: LeadOf,
): { readonly roles: readonly PartRole[]; readonly leaders: readonly number[] } {
  const roles: (PartRole | undefined)[] = players.map(({ role }) => role);
  const free = () => roles.flatMap((role, index) => (role === undefined ? [index] : []));
  // Who is a level below the best is asked how well they keep the tune only where they come to lead.
  const top = Math.max(...players.map(({ level }) => LEVELS.indexOf(level)));
  const worths = players.map(
    (player, index) =>
      leadWorth(players, index) -
      (LEVELS.indexOf(player.level) === top ? LOST_NOTES * (1 - kept(ground, leadOf(index))) : 0),
  );
  const worth = (index: number) => worths[index] ?? 0;
  const order = players.map((_, index) => index).toSorted((a, b) => worth(b) - worth(a));
  const hasTune = roles.includes('tune');
  const best = order.find((index) => roles[index] === undefined);
  const lead = hasTune ? roles.indexOf('tune') : (best ?? 0);
  if (!roles.includes('bass')) {
    const others = free().filter((index) => hasTune || index !== lead);
    const bass = lowestFirst(players, others).find((index) => reachesUnder(ground, players, index, leadOf(lead)));
    if (bass !== undefined) roles[bass] = 'bass';
  }
  if (!hasTune) roles[lead] = 'tune';
  accompany(players, roles);
  const given = roles.map((role) => role ?? 'pad');
  return {
    roles: given,
    leaders: [
      lead,
      ...order.filter((index) => index !== lead && given[index] !== 'bass'),
      ...order.filter((index) => index !== lead && given[index] === 'bass'),
    ],
  };
}

/** Roles for those who have none yet: a second and a counter-melody for who can move, long notes for beginners. */
function accompany(players: readonly EnsemblePlayer[], roles: (PartRole | undefined)[]): void {
  const free = roles
    .flatMap((role, index) => (role === undefined ? [index] : []))
    .toSorted(
      (a, b) =>
        LEVELS.indexOf(players[b]?.level ?? 'beginner') - LEVELS.indexOf(players[a]?.level ?? 'beginner') || a - b,
    );
  const has = (role: PartRole) => roles.includes(role);
  free.forEach((index, turn) => {
    const player = players[index];
    if (!player) return;
    const isAlone = free.length === 1;
    if (isFirstYear(player)) {
      const knowsFew = (player.known?.size ?? Infinity) <= FEW_NOTES;
      roles[index] = knowsFew ? 'rhythm' : isAlone && !has('second') && players.length === 2 ? 'second' : 'pad';
    } else if (!has('second')) roles[index] = 'second';
    else if (!has('counter') && (has('pad') || free.length - turn > 1 || players.length > 4)) roles[index] = 'counter';
    else roles[index] = has('pad') && turn % 2 === 1 ? 'second' : 'pad';
  });
}

/** Who knows no more notes than these is in a first term. */
const FEW_NOTES = 3;

/** What it costs to have none of the tune's first notes in their bars, against levels that are 40 apart. */
const LOST_NOTES = 120;
/** Who keeps fewer of them does not lead in turn. */
const KEEPS = 0.8;

/** Share of bars whose first note a leader plays. */
function kept({ notes }: Ground, lead: VoiceLine): number {
  const firsts = notes.filter((note, k) => note.bar !== notes[k - 1]?.bar);
  const there = firsts.filter(({ start, pitch }) => {
    const note = noteAt(lead, start);
    return note?.from === start && note.height % 12 === chroma(pitch);
  });
  return firsts.length === 0 ? 1 : there.length / firsts.length;
}

/** How well somebody leads: by level, then by height, since a tune is heard best on top. */
function leadWorth(players: readonly EnsemblePlayer[], index: number): number {
  const player = players[index];
  if (!player) return -Infinity;
  const [low, high] = soundingRange(player);
  return LEVELS.indexOf(player.level) * 40 + Math.min(72, (low + high) / 2) - (player.known ? 25 : 0) - index / 100;
}

function lowestFirst(players: readonly EnsemblePlayer[], among: readonly number[]): readonly number[] {
  const low = (index: number) => {
    const player = players[index];
    return player ? soundingRange(player)[0] : Infinity;
  };
  return among.toSorted((a, b) => low(a) - low(b) || a - b);
}

/** Whether a player has the root of nearly every chord, below all that the leader plays over it. */
function reachesUnder(ground: Ground, players: readonly EnsemblePlayer[], index: number, lead: VoiceLine): boolean {
  const player = players[index];
  if (!player) return false;
  const isPlayable = reachOf(player);
  const starts = ground.slots.filter(({ isChordStart, chord }) => isChordStart && chord);
  const reached = starts.filter(({ chord, from, to }) => {
    const over = notesIn(lead, from, to).reduce((least, { height }) => Math.min(least, height), Infinity);
    return OCTAVES.some((octave) => {
      const pitch = chord && { ...chord.bass, octave };
      return pitch !== undefined && semitones(pitch) < over && isPlayable(pitch);
    });
  });
  return starts.length > 0 && reached.length >= starts.length * REACHES;
}

const OCTAVES = [0, 1, 2, 3, 4, 5, 6] as const;

/** At most so many have the tune in turn, where not everybody shall. */
const MAX_TURNS = 3;

/** Those who have the tune in turn, the best first: not the bass, nor who is a level below the best. */
function turnsOf(
  ground: Ground,
  players: readonly EnsemblePlayer[],
  roles: readonly PartRole[],
  leaders: readonly number[],
  leadOf: LeadOf,
  handing: Handing,
): readonly number[] {
  const [first = 0] = leaders;
  if (handing === 'everybody') return leaders;
  const bass = roles.indexOf('bass');
  // Nobody leads so low that the bass cannot lie under it.
  const isOver = (index: number) => bass < 0 || reachesUnder(ground, players, bass, leadOf(index));
  if (players.length < 3) return [first];
  const level = (index: number) => players[index]?.level;
  const able = leaders.filter(
    (index) =>
      index === first ||
      (players[index]?.role === undefined &&
        roles[index] !== 'bass' &&
        roles[index] !== 'rhythm' &&
        isOver(index) &&
        kept(ground, leadOf(index)) >= KEEPS &&
        (level(index) === level(first) || level(index) === 'intermediate' || level(index) === 'advanced')),
  );
  return able.slice(0, MAX_TURNS);
}

/** Who leads where the leader is ill: the next who is there and does not lead already. */
function nextLeader(
  players: readonly EnsemblePlayer[],
  leaders: readonly number[],
  leading: readonly number[],
  isThere: (index: number) => boolean,
): number {
  return (
    leaders.find((index) => isThere(index) && !leading.includes(index)) ??
    Math.max(
      0,
      players.findIndex((_, index) => isThere(index)),
    )
  );
}

/** Roles with those who are absent left out: where the bass is missing, somebody who reaches it takes it. */
function standIn(
  ground: Ground,
  players: readonly EnsemblePlayer[],
  roles: readonly PartRole[],
  leadOf: LeadOf,
  isThere: (index: number) => boolean,
  lead: number,
): readonly PartRole[] {
  const isMissing = roles.some((role, index) => role === 'bass' && !isThere(index));
  const hasOther = roles.some((role, index) => role === 'bass' && isThere(index));
  if (!isMissing || hasOther) return roles;
  const others = roles.flatMap((role, index) =>
    isThere(index) && role !== 'tune' && index !== lead && players[index]?.role === undefined ? [index] : [],
  );
  const bass = lowestFirst(players, others).find((index) => reachesUnder(ground, players, index, leadOf(lead)));
  return bass === undefined ? roles : roles.map((role, index) => (index === bass ? 'bass' : role));
}
