import type { TimedChord } from '../harmony';
import { chroma, type PitchClass } from '../pitch';
import { guideTonesOf } from './chordAltered';

/** Two lines through a form's thirds and sevenths: the note of each over a chord; none where the chord has none. */
export interface GuideLines {
  readonly upper: PitchClass | undefined;
  readonly lower: PitchClass | undefined;
}

/** The shorter way between two notes, in half steps. */
function distance(a: PitchClass, b: PitchClass): number {
  const up = (chroma(b) - chroma(a) + 12) % 12;
  return Math.min(up, 12 - up);
}

/**
 * Thirds and sevenths joined by the smallest steps: each chord's two are given to the two lines so that all steps
 * together are least. Rule: guide tones, voice-led.
 */
export function guideLines(chords: readonly TimedChord[]): readonly GuideLines[] {
  let costs: readonly [number, number] = [0, 0.01];
  let before: readonly [GuideLines, GuideLines] | undefined;
  const ways: (readonly [GuideLines, GuideLines])[] = [];
  const back: (readonly [number, number])[] = [];
  for (const { symbol } of chords) {
    const [one, two] = guideTonesOf(symbol).map(({ pitchClass }) => pitchClass);
    const here: readonly [GuideLines, GuideLines] = [
      { upper: one, lower: two ?? one },
      { upper: two ?? one, lower: one },
    ];
    const step = (from: GuideLines, to: GuideLines) =>
      (from.upper && to.upper ? distance(from.upper, to.upper) : 0) +
      (from.lower && to.lower ? distance(from.lower, to.lower) : 0);
    const from = (to: 0 | 1): readonly [number, number] => {
      if (!before) return [costs[to], to];
      const [a, b] = [costs[0] + step(before[0], here[to]), costs[1] + step(before[1], here[to])];
      return a <= b ? [a, 0] : [b, 1];
    };
    const [first, second] = [from(0), from(1)];
    back.push([first[1], second[1]]);
    costs = [first[0], second[0]];
    ways.push(here);
    if (one) before = here;
  }
  let at = costs[0] <= costs[1] ? 0 : 1;
  const lines: GuideLines[] = [];
  for (let index = chords.length - 1; index >= 0; index -= 1) {
    const way = ways[index]?.[at as 0 | 1];
    if (way) lines.unshift(way);
    at = back[index]?.[at as 0 | 1] ?? at;
  }
  return lines;
}
