import { knownDay } from './dates';
import type { PlanWork } from './plan';
import type { LogEntry, WorkChunk } from './pupilWork';
import { barWords } from './steps';

/** One member of a group at the tune that all of it plays. */
export interface GroupMember {
  readonly name: string;
  readonly work: PlanWork;
  readonly goal?: number;
  readonly chunks: readonly WorkChunk[];
  /** Entries of this work. */
  readonly log: readonly LogEntry[];
}

/** How far a member is. */
export interface MemberState {
  readonly name: string;
  readonly done: number;
  readonly steps: number;
  /** The fastest good tempo of late. */
  readonly tempo?: number;
  readonly goal?: number;
  readonly ready: string | null;
  readonly isReady: boolean;
}

/** Bars where members stumble, and who. */
export interface Stumble {
  readonly fromBar: number;
  readonly toBar: number;
  /** Rounds that had to come again, of all rounds on these bars. */
  readonly again: number;
  readonly rounds: number;
  readonly who: readonly string[];
  readonly difficulty: number;
}

/** A stretch of a rehearsal. */
export interface RehearsalItem {
  readonly minutes: number;
  readonly what: string;
  readonly who: string;
  readonly why: string;
  readonly fromBar?: number;
  readonly toBar?: number;
  readonly tempo?: number;
}

export function memberStates(members: readonly GroupMember[]): readonly MemberState[] {
  return members.map(({ name, work, goal, log }) => {
    const tempo = bestTempo(log);
    return {
      name,
      done: work.steps.filter(({ state }) => state === 'done').length,
      steps: work.steps.length,
      ...(tempo !== undefined && { tempo }),
      ...(goal !== undefined && { goal }),
      ready: work.ready,
      isReady: work.needed === 0,
    };
  });
}

function bestTempo(log: readonly LogEntry[]): number | undefined {
  const tempos = log.flatMap(({ tempo, good }) => (tempo !== undefined && good > 0 ? [tempo] : []));
  return tempos.length > 0 ? Math.max(...tempos) : undefined;
}

/** The bars where rounds had to come again, over everybody's logs; where nobody logged any, by difficulty. */
export function stumblesOf(members: readonly GroupMember[]): readonly Stumble[] {
  const found = new Map<string, { -readonly [Field in keyof Stumble]: Stumble[Field] }>();
  for (const { name, chunks, log } of members)
    for (const { fromBar, toBar, difficulty } of chunks) {
      const id = `${fromBar}-${toBar}`;
      const entries = log.filter(({ step }) => step === `bars-${id}` || step === `find-${id}`);
      const again = entries.reduce((sum, entry) => sum + entry.again, 0);
      const rounds = again + entries.reduce((sum, entry) => sum + entry.good, 0);
      const before = found.get(id);
      found.set(id, {
        fromBar,
        toBar,
        again: again + (before?.again ?? 0),
        rounds: rounds + (before?.rounds ?? 0),
        who: [...(before?.who ?? []), ...(again > 0 ? [name] : [])],
        difficulty: Math.max(difficulty, before?.difficulty ?? 0),
      });
    }
  const weight = ({ again, rounds, who, difficulty }: Stumble) =>
    (rounds === 0 ? 0 : again / rounds) * 10 + who.length + difficulty / 5;
  return [...found.values()].toSorted((a, b) => weight(b) - weight(a) || a.fromBar - b.fromBar);
}

/** Shares of a rehearsal's minutes. */
const SHARES = { warmUp: 0.12, hard: 0.4, joined: 0.23, whole: 0.25 } as const;
/** Hard spots of one rehearsal: more are not remembered until the next. */
const MAX_SPOTS = 3;

/**
 * What to rehearse in so many minutes: hard bars first, while all are fresh; then longer stretches; at last all of it,
 * at a tempo that everybody can play. @param minutes 10 to 240
 */
export function rehearsalPlan(members: readonly GroupMember[], minutes: number): readonly RehearsalItem[] {
  if (members.length === 0) return [];
  const all = members.map(({ name }) => name);
  const slowest = members
    .flatMap(({ name, log, work }) => {
      const tempo = bestTempo(log) ?? work.steps.find(({ tempo: first }) => first !== undefined)?.tempo;
      return tempo === undefined ? [] : [{ name, tempo }];
    })
    .toSorted((a, b) => a.tempo - b.tempo)[0];
  const pace = slowest && { tempo: slowest.tempo };
  const spots = stumblesOf(members).slice(0, Math.min(MAX_SPOTS, Math.max(1, Math.floor(minutes / 12))));
  const each = Math.max(3, Math.floor((minutes * SHARES.hard) / Math.max(1, spots.length)));
  const warmUp = Math.max(3, Math.round(minutes * SHARES.warmUp));
  const joined = Math.max(3, Math.round(minutes * SHARES.joined));
  const items: RehearsalItem[] = [
    {
      minutes: warmUp,
      what: 'Tune, then the scale of the piece together, slowly',
      who: 'all',
      why: 'to hear one another first',
    },
    ...spots.map((spot): RehearsalItem => ({
      minutes: each,
      what: `${barWords(spot.fromBar, spot.toBar)}, slowly; first ${spot.who.length > 0 && spot.who.length < all.length ? listWords(spot.who) : 'each section'}, then all`,
      who: spot.who.length > 0 ? listWords(spot.who) : 'all',
      why:
        spot.rounds > 0
          ? `${spot.again} of ${spot.rounds} rounds had to come again`
          : `the hardest bars (${spot.difficulty.toFixed(1)} of 10); nobody has logged them`,
      fromBar: spot.fromBar,
      toBar: spot.toBar,
    })),
    {
      minutes: joined,
      what: `From the bars before ${spots[0] ? lowerFirst(barWords(spots[0].fromBar, spots[0].toBar)) : 'the hard bars'} into those after them`,
      who: 'all',
      why: 'what was worked at alone has to hold in its place',
      ...pace,
    },
  ];
  const used = items.reduce((sum, item) => sum + item.minutes, 0);
  const rest = minutes - used;
  if (rest < 3) return items;
  return [
    ...items,
    {
      minutes: rest,
      what: `All of it${slowest ? ` at ${slowest.tempo}` : ''}, twice; the second time without stopping`,
      who: 'all',
      why: slowest ? `${slowest.name} has played it well at ${slowest.tempo} so far` : 'to end with the music',
      ...pace,
    },
  ];
}

const lowerFirst = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

function listWords(names: readonly string[]): string {
  const each = [...new Set(names)];
  return each.length < 2 ? (each[0] ?? '') : `${each.slice(0, -1).join(', ')} and ${each.at(-1) ?? ''}`;
}

/** Entries of the last weeks alone: what went wrong in spring is not rehearsed in autumn. */
export function lately(log: readonly LogEntry[], today: string, days = 42): readonly LogEntry[] {
  const first = knownDay(today) - days;
  return log.filter(({ date }) => knownDay(date) >= first);
}
