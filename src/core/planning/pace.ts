import { type DayNumber, knownDay, mondayOf } from './dates';
import type { Pace } from './pupilWork';
import { quantaLeft, type WorkProgress } from './progress';

/** Where a drill stands that goes a key a day, or a key a week. */
export interface PacedState {
  readonly pace: Exclude<Pace, 'as-mastered'>;
  /** Quanta of a day's visit to a key: as long as its longest step takes. */
  readonly visit: number;
  /** The steps of each key, in the order of the keys. */
  readonly keys: readonly { readonly key: string; readonly steps: readonly number[] }[];
  /** The key that was worked at last, and since when: a day, or a Monday. */
  at: number;
  since: DayNumber;
}

/** Twelve minutes of one key are enough for a day that has something else. */
const MAX_VISIT = 4;

/** As the log leaves it: the key of its last entry holds for the rest of that day or week. */
export function pacedState({ work, steps, lastEntry }: WorkProgress, first: DayNumber): PacedState {
  const pace = work.kind === 'drill' && work.pace === 'key-a-week' ? 'key-a-week' : 'key-a-day';
  const names = [...new Set(steps.map(({ key }) => key ?? ''))];
  const keys = names.map((key) => ({ key, steps: steps.flatMap((step, k) => (step.key === key ? [k] : [])) }));
  const last = lastEntry && steps.find(({ step }) => step === lastEntry.step);
  const at = last ? names.indexOf(last.key ?? '') : -1;
  const day = lastEntry ? knownDay(lastEntry.date) : first - 365;
  const visit = Math.min(MAX_VISIT, Math.max(1, ...steps.map(quantaLeft)));
  return { pace, visit, keys, at, since: pace === 'key-a-day' ? day : mondayOf(day) };
}

/**
 * The key of a day: each practice day, or week, takes the next that is not finished, in order, whether or not the last
 * had all it needed; after the last key it begins again.
 */
export function keyOfToday(
  state: PacedState,
  day: DayNumber,
  isLeft: (step: number) => boolean,
): PacedState['keys'][number] {
  const { keys } = state;
  const now = state.pace === 'key-a-day' ? day : mondayOf(day);
  const present = keys[state.at];
  if (!present || now !== state.since || (state.pace === 'key-a-day' && !present.steps.some(isLeft))) {
    for (let k = 1; k <= keys.length; k += 1) {
      const next = (state.at + k + keys.length) % keys.length;
      if (keys[next]?.steps.some(isLeft)) {
        state.at = next;
        break;
      }
    }
    state.since = now;
  }
  return keys[state.at] ?? { key: '', steps: [] };
}
