/**
 * How a tempo is worked up: from a start in steps to a goal, each after so many good rounds running. Beats a minute.
 */
export interface LadderPlan {
  readonly start: number;
  readonly step: number;
  readonly goal: number;
  /** Good rounds before the next step, 1–9. */
  readonly rounds: number;
}

/** Where somebody stands on the ladder. */
export interface LadderPlace {
  readonly perMinute: number;
  /** Good rounds at this tempo, running. */
  readonly good: number;
  /** Rounds to be played again, running. */
  readonly again: number;
  /** The goal was reached, and played well as often as asked. */
  readonly isDone: boolean;
}

/** So many rounds running that were not good, and it goes a step slower: what is repeated wrong is learned wrong. */
const TOO_OFTEN = 2;

export function beginLadder({ start, goal }: LadderPlan): LadderPlace {
  return { perMinute: Math.min(start, goal), good: 0, again: 0, isDone: false };
}

/**
 * After a round: a good one counts, and enough of them go a step on, never beyond the goal; two running that were not
 * go a step back, never below the start.
 */
export function afterRound(place: LadderPlace, round: 'good' | 'again', plan: LadderPlan): LadderPlace {
  const { start, step, goal, rounds } = plan;
  if (round === 'again') {
    const again = place.again + 1;
    if (again < TOO_OFTEN) return { ...place, good: 0, again };
    const slower = Math.max(Math.min(start, goal), place.perMinute - step);
    return { perMinute: slower, good: 0, again: 0, isDone: false };
  }
  const good = place.good + 1;
  if (good < rounds) return { ...place, good, again: 0 };
  if (place.perMinute >= goal) return { perMinute: goal, good, again: 0, isDone: true };
  return { perMinute: Math.min(goal, place.perMinute + step), good: 0, again: 0, isDone: false };
}

/** The fewest good rounds from the first to the last step. */
export function roundsToGoal({ start, step, goal, rounds }: LadderPlan): number {
  return rounds * (1 + Math.ceil(Math.max(0, goal - start) / step));
}
