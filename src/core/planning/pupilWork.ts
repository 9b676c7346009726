import type { ScaleName } from '../harmony';
import type { Instrument, Level } from '../instruments';
import type { Key, PitchClass } from '../pitch';
import type { CalendarDate, Weekday } from './dates';

/** Each step mastered before the next, or all open works gone through every week. */
export const SCHOOLS = ['mastered', 'revisited'] as const;
export type School = (typeof SCHOOLS)[number];

/** How a drill goes through its keys. */
export const PACES = ['as-mastered', 'key-a-day', 'key-a-week'] as const;
export type Pace = (typeof PACES)[number];

/** Some bars of a part that are learned by themselves; bars as they are numbered on the page, both included. */
export interface WorkChunk {
  readonly fromBar: number;
  readonly toBar: number;
  /** 0–10. */
  readonly difficulty: number;
}

interface CommonWork {
  readonly id: string;
  readonly title: string;
  /** Beats a minute. Without a goal nothing is climbed. */
  readonly goal?: number;
  readonly start?: number;
  readonly by?: CalendarDate;
  /** The pupil's school holds where absent. */
  readonly school?: School;
  readonly byHeart?: boolean;
}

/** A work with what its steps are made of. Keys are concert keys. */
export type PlannedWork = CommonWork &
  (
    | { readonly kind: 'tune' | 'ear'; readonly chunks: readonly WorkChunk[]; readonly key?: Key }
    | {
        readonly kind: 'drill';
        readonly set: ScaleName;
        /** As people say it: `thirds`. */
        readonly patternName: string;
        /** Notes of one group of the pattern: longer groups take longer to learn. */
        readonly groupSize: number;
        readonly keys: readonly PitchClass[];
        readonly pace: Pace;
      }
    | { readonly kind: 'rounds'; readonly order: readonly PitchClass[] }
    | { readonly kind: 'memory' | 'pool'; readonly tonic: PitchClass; readonly set: ScaleName }
  );
export type WorkKind = PlannedWork['kind'];

/** Who says that something was practised. */
export const LOG_SOURCES = ['pupil', 'teacher', 'stand', 'listener'] as const;
type LogSource = (typeof LOG_SOURCES)[number];

/** An entry of the practice log. Minutes, good rounds and others are whole numbers from 0. */
export interface LogEntry {
  readonly date: CalendarDate;
  readonly work: string;
  readonly step: string;
  readonly minutes: number;
  readonly tempo?: number;
  readonly good: number;
  readonly again: number;
  readonly by: LogSource;
  readonly note: string;
}

/** What a teacher says of a day: something that stands there whatever the plan finds, or that does not. */
export interface Pin {
  readonly date: CalendarDate;
  readonly work: string;
  readonly step?: string;
  /** 0: not on this day. */
  readonly minutes: number;
}

/** From goals, days and log to a schedule. */
export interface PlanRequest {
  readonly pupil: { readonly name: string; readonly instrument: Instrument; readonly level: Level };
  readonly from: CalendarDate;
  /** Included. */
  readonly to: CalendarDate;
  readonly today: CalendarDate;
  /** Minutes by weekday; none where absent. */
  readonly practice: Readonly<Partial<Record<Weekday, number>>>;
  readonly lesson?: Weekday;
  /** Days off, both ends included. */
  readonly off: readonly { readonly from: CalendarDate; readonly to: CalendarDate }[];
  readonly school: School;
  readonly work: readonly PlannedWork[];
  readonly log: readonly LogEntry[];
  readonly pins?: readonly Pin[];
}

/** A step before anything is known of the log. */
export interface StepIdea {
  readonly step: string;
  /** A sentence for the pupil. */
  readonly what: string;
  readonly kind: StepKind;
  readonly key?: string;
  readonly tempo?: number;
  readonly fromBar?: number;
  readonly toBar?: number;
  /** Minutes, a multiple of `QUANTUM`. */
  readonly estimate: number;
}
export type StepKind = 'new' | 'repeat' | 'moved' | 'own';
export type ItemKind = 'warm-up' | StepKind | 'recall';

/** Minutes that nothing is shorter than, and in which all time is given: so no remainder too short for an item is left. */
export const QUANTUM = 3;

/** A drill that goes a key a day or a week: its pace goes before the school. */
export function isPaced(work: PlannedWork): boolean {
  return work.kind === 'drill' && work.pace !== 'as-mastered';
}
