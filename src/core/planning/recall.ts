import { type Card, createEmptyCard, fsrs, type Grade, Rating } from 'ts-fsrs';
import type { DayNumber } from './dates';

/**
 * When something that is finished comes back. `card` is the spacing library's memory of it; the days count from the day
 * it was finished.
 */
export interface Recall {
  readonly card: Card;
  /** The day it was played last. */
  readonly last: DayNumber;
  /** Days from that to the next. */
  readonly distance: number;
}

/**
 * Nineteen times in twenty it should still be there when it comes back, and nothing rests for longer than four months:
 * what was learned for a concert is wanted sooner than facts are.
 */
const scheduler = fsrs({
  request_retention: 0.95,
  maximum_interval: 120,
  enable_fuzz: false,
  enable_short_term: false,
});

const MS_A_DAY = 86_400_000;

function played(card: Card, day: DayNumber, grade: Grade): Card {
  return scheduler.next(card, new Date(day * MS_A_DAY), grade).card;
}

/** From the day something was finished. */
export function beginRecall(day: DayNumber): Recall {
  const card = played(createEmptyCard(new Date(day * MS_A_DAY)), day, Rating.Good);
  return { card, last: day, distance: Math.max(1, card.scheduled_days) };
}

/** After it was played once more: a good round makes the next distance longer than the last, another one shorter. */
export function afterRecall({ card, last }: Recall, day: DayNumber, isGood: boolean): Recall {
  const waited = day - last;
  const next = played(card, day, isGood ? Rating.Good : Rating.Again);
  const distance = isGood ? Math.max(next.scheduled_days, waited + 1) : Math.min(next.scheduled_days, waited - 1);
  return { card: next, last: day, distance: Math.max(1, distance) };
}

export function dueOn({ last, distance }: Recall): DayNumber {
  return last + distance;
}
