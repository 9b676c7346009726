import { type Level, profileOf } from '../instruments';
import { heaviestCauses } from './causeWords';
import { hardestBar, lineDifficulty, type Difficulty } from './difficulty';

/** What a teacher would say of a part for a player of a level. */
export type Judgement = 'easy' | 'right' | 'demanding' | 'too hard';

export function judgementOf(total: number, level: Level): Judgement {
  const [right, demanding, tooHard] = profileOf(level).difficulty;
  return total < right ? 'easy' : total < demanding ? 'right' : total < tooHard ? 'demanding' : 'too hard';
}

/** `right for a first-year player (1.8 of 10)`. */
export function judgementText(total: number, level: Level): string {
  return `${judgementOf(total, level)} for ${profileOf(level).player} (${total.toFixed(1)} of 10)`;
}

/**
 * `right for a first-year player (1.8 of 10), hardest by rhythm in bar 7`. Rule: a number comes with its meaning, its
 * cause and its place.
 * @param numbers of the bars as printed
 */
export function difficultyText(bars: readonly Difficulty[], numbers: readonly number[], level: Level): string {
  const { total } = lineDifficulty(bars);
  const bar = hardestBar(bars);
  const hardest = bar === undefined ? undefined : bars[bar];
  const [cause] = hardest ? heaviestCauses(hardest.causes, 1) : [];
  const place = bar === undefined ? '' : (numbers[bar] ?? 0) === 0 ? ' in the pickup' : ` in bar ${numbers[bar] ?? ''}`;
  return `${judgementText(total, level)}${cause ? `, hardest by ${cause.name}${place}` : ''}`;
}
