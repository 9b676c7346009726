import type { Level } from '../core/instruments';
import type { Pace, School, Weekday } from '../core/planning';

/** How a pupil of the scenario practises: shares from 0 to 1. */
interface DemoHabits {
  /** Of the planned minutes that are played, on a day on which anything is. */
  readonly minutes: number;
  /** Of the planned days on which nothing is played. */
  readonly missed: number;
  /** Of rounds that go well. */
  readonly good: number;
  /** Above this tempo the first work does not go well. */
  readonly ceiling?: number;
  /** Weeks before today, counted from 1, in which nothing is played. */
  readonly weeksAway?: readonly number[];
}

export interface DemoPupil {
  readonly id: string;
  readonly name: string;
  readonly instrument: string;
  readonly level: Level;
  /** Written. */
  readonly high?: string;
  readonly known?: string;
  readonly marks?: 'change';
  readonly second?: { readonly instrument: string; readonly level: Level };
  readonly lesson: { readonly weekday: Weekday; readonly time: string; readonly minutes: number };
  readonly practice: Readonly<Partial<Record<Weekday, number>>>;
  readonly school: School;
  readonly habits: DemoHabits;
  /** How many weeks ago each work was set, where not as usual. */
  readonly since?: readonly number[];
  readonly work: readonly (
    | {
        readonly tune: string;
        readonly goal: number;
        readonly start?: number;
        readonly inWeeks?: number;
        readonly ear?: true;
      }
    /** Of the shelf, or thirds through all major keys. */
    | { readonly drill: string; readonly goal: number; readonly start?: number; readonly pace: Pace }
    | {
        readonly scale: string;
        readonly set: 'major' | 'minor pentatonic' | 'blues scale';
        readonly use: 'memory' | 'pool';
      }
    | { readonly rounds: true }
  )[];
  /** What the teacher wrote after lessons, the last one last. */
  readonly notes: readonly string[];
}

const WEEKDAYS_20 = { monday: 20, tuesday: 20, wednesday: 20, friday: 20 } as const;

/**
 * The Thursday room's eight pupils, made up like the room: one steady, one stuck at a tempo, one who misses weeks, one
 * far ahead, and four between them.
 */
export const DEMO_PUPILS: readonly DemoPupil[] = [
  {
    id: 'pell',
    name: 'Pell',
    instrument: 'clarinet-bb',
    level: 'beginner',
    high: 'A4',
    lesson: { weekday: 'thursday', time: '15:30', minutes: 30 },
    practice: WEEKDAYS_20,
    school: 'mastered',
    habits: { minutes: 0.95, missed: 0.08, good: 0.85 },
    work: [
      { tune: 'lamps-on-the-mole', goal: 60, start: 40, inWeeks: 5 },
      { tune: 'kelp-on-the-slipway', goal: 84, start: 56 },
      { tune: 'lantern-for-the-last-boat', goal: 72, start: 48 },
      { scale: 'F', set: 'major', use: 'memory' },
    ],
    notes: ['Left hand first, then all of it.', 'Sounds like a clarinet now. Watch the breath before bar 5.'],
  },
  {
    id: 'oda',
    name: 'Oda',
    instrument: 'flute',
    level: 'beginner',
    lesson: { weekday: 'thursday', time: '16:00', minutes: 30 },
    practice: { monday: 15, wednesday: 15, friday: 15, sunday: 20 },
    school: 'revisited',
    habits: { minutes: 0.8, missed: 0.2, good: 0.75 },
    work: [
      { tune: 'lamps-on-the-mole', goal: 60, start: 40, inWeeks: 5 },
      { tune: 'tin-bucket-twelve', goal: 88, start: 60, ear: true },
      { scale: 'G', set: 'minor pentatonic', use: 'pool' },
    ],
    notes: ['Long notes were steady today.', 'Ask her to sing it first.'],
  },
  {
    id: 'bram',
    name: 'Bram',
    instrument: 'violin',
    level: 'beginner',
    marks: 'change',
    lesson: { weekday: 'thursday', time: '16:30', minutes: 30 },
    practice: { ...WEEKDAYS_20, saturday: 25 },
    school: 'mastered',
    habits: { minutes: 0.9, missed: 0.1, good: 0.8, ceiling: 66 },
    since: [9, 14, 18],
    work: [
      { tune: 'the-gannets-turn', goal: 92, start: 52, inWeeks: 4 },
      { tune: 'kelp-on-the-slipway', goal: 96, start: 60 },
      { scale: 'D', set: 'major', use: 'memory' },
    ],
    notes: ['Stuck at 66: the string crossing in bar 4.', 'Bowing alone on open strings, then left hand.'],
  },
  {
    id: 'wick',
    name: 'Wick',
    instrument: 'recorder-descant',
    level: 'beginner',
    known: 'G4 A4 B4 C5 D5',
    lesson: { weekday: 'thursday', time: '17:00', minutes: 20 },
    practice: { tuesday: 10, thursday: 10, saturday: 15 },
    school: 'mastered',
    habits: { minutes: 0.7, missed: 0.3, good: 0.7, weeksAway: [2, 3, 8, 9, 14] },
    work: [
      { tune: 'lamps-on-the-mole', goal: 60, start: 44, inWeeks: 3 },
      { tune: 'slack-water', goal: 66, start: 44 },
    ],
    notes: ['Was away again; we played it together.'],
  },
  {
    id: 'sefa',
    name: 'Sefa',
    instrument: 'cello',
    level: 'intermediate',
    lesson: { weekday: 'friday', time: '15:00', minutes: 45 },
    practice: { monday: 30, tuesday: 30, thursday: 30, saturday: 40 },
    school: 'revisited',
    habits: { minutes: 0.9, missed: 0.12, good: 0.8 },
    work: [
      { tune: 'kelp-on-the-slipway', goal: 92, start: 60, inWeeks: 6 },
      { drill: 'thirds', goal: 88, start: 56, pace: 'key-a-week' },
      { scale: 'A', set: 'minor pentatonic', use: 'pool' },
    ],
    notes: ['Shifts are quiet now.', 'Thirds: say the next key before it comes.'],
  },
  {
    id: 'juno',
    name: 'Juno',
    instrument: 'alto-sax',
    level: 'intermediate',
    second: { instrument: 'flute', level: 'beginner' },
    lesson: { weekday: 'wednesday', time: '17:30', minutes: 45 },
    practice: { monday: 30, tuesday: 20, thursday: 30, friday: 20, sunday: 45 },
    school: 'mastered',
    habits: { minutes: 1, missed: 0.05, good: 0.85 },
    work: [
      { tune: 'tin-bucket-twelve', goal: 108, start: 72, inWeeks: 5 },
      { drill: 'round-the-harbour', goal: 100, start: 60, pace: 'key-a-day' },
      { rounds: true },
    ],
    notes: ['Phrases of two bars, then rest: better.', 'She hears the turn to the fourth now.'],
  },
  {
    id: 'tamsin',
    name: 'Tamsin',
    instrument: 'guitar',
    level: 'intermediate',
    lesson: { weekday: 'tuesday', time: '16:15', minutes: 30 },
    practice: { monday: 25, wednesday: 25, friday: 25 },
    school: 'mastered',
    habits: { minutes: 0.85, missed: 0.18, good: 0.75 },
    work: [
      { tune: 'the-gannets-turn', goal: 84, start: 56, inWeeks: 8 },
      { tune: 'slack-water', goal: 80, start: 56 },
      { scale: 'E', set: 'minor pentatonic', use: 'memory' },
    ],
    notes: ['Alternate picking in the second part.'],
  },
  {
    id: 'lorne',
    name: 'Lorne',
    instrument: 'flute',
    level: 'advanced',
    lesson: { weekday: 'thursday', time: '18:00', minutes: 60 },
    practice: { monday: 60, tuesday: 60, wednesday: 45, thursday: 30, friday: 60, saturday: 90 },
    school: 'revisited',
    habits: { minutes: 1, missed: 0.03, good: 0.95 },
    work: [
      { tune: 'the-gannets-turn', goal: 116, start: 80, inWeeks: 3 },
      { tune: 'lamps-on-the-mole', goal: 84, start: 60 },
      { drill: 'thirds', goal: 120, start: 72, pace: 'as-mastered' },
      { rounds: true },
    ],
    notes: ['Ready for the second chorus by ear.', 'Wants to write her own ending.'],
  },
];
