import { instrumentById } from '../src/core/instruments';
import { tonicsInOrder } from '../src/core/drills';
import {
  dateOfDay,
  evenChunks,
  knownDay,
  type LogEntry,
  type PlannedWork,
  planOf,
  type PlanRequest,
} from '../src/core/planning';

const FROM = '2027-01-04';
const FOURTHS = tonicsInOrder('fourths', { step: 'C', alter: 0 });

/** Twelve works: eight tunes of 32 bars, three drills through twelve keys, rounds. */
function works(): readonly PlannedWork[] {
  return Array.from({ length: 12 }, (_, k): PlannedWork => {
    const common = {
      id: `w${k}`,
      title: `Work ${k + 1}`,
      start: 60,
      goal: 104,
      ...(k % 2 === 0 && { by: '2027-03-20' }),
    };
    if (k === 11) return { ...common, kind: 'rounds', order: FOURTHS };
    if (k % 4 === 3)
      return {
        ...common,
        kind: 'drill',
        set: 'major',
        patternName: 'thirds',
        groupSize: 2,
        keys: FOURTHS,
        pace: 'as-mastered',
      };
    return { ...common, kind: 'tune', chunks: evenChunks(32, 2 + (k % 5)) };
  });
}

/** A pupil's twelve weeks with twelve works: with time for all of it, with too little, and with a long log. */
export function plans(time: (rounds: number, work: () => unknown) => number, line: (text: string) => void): void {
  const instrument = instrumentById('clarinet-bb');
  if (!instrument) return;
  const request = (minutes: number, log: readonly LogEntry[] = []): PlanRequest => ({
    pupil: { name: 'Ada', instrument, level: 'intermediate' },
    from: FROM,
    to: '2027-03-28',
    today: FROM,
    practice: { monday: minutes, tuesday: minutes, thursday: minutes, friday: minutes, saturday: minutes },
    off: [],
    school: 'mastered',
    work: works(),
    log,
  });
  const log = Array.from({ length: 3_000 }, (_, k): LogEntry => ({
    date: dateOfDay(knownDay(FROM) - 1 - (k % 400)),
    work: `w${k % 11}`,
    step: 'bars-1-4',
    minutes: 5,
    tempo: 60,
    good: k % 3,
    again: 1,
    by: 'stand',
    note: '',
  }));
  line('Plans: twelve weeks with twelve works (aim 20 ms)');
  for (const [words, asked] of [
    ['with time for all', request(120)],
    ['with too little, and what would help', request(30)],
    ['with three thousand entries of log', request(60, log)],
  ] as const)
    line(`  ${words}: ${time(15, () => planOf(asked)).toFixed(1)} ms`);
}
