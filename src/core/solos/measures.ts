import { isStrongAt } from './strong';
import { semitones } from '../pitch';
import { TICKS_PER_QUARTER as QUARTER } from '../time';
import type { FormBar } from './rhythm';
import type { SoloNote, SoloPhrase } from './soloNote';

/** What can be counted of a solo. */
export interface SoloMeasures {
  /** Share of notes on strong beats that are tones of their chord. */
  readonly strongBeatHome: number;
  /** Share of phrases that go back to an earlier one. */
  readonly repeatedIdeas: number;
  /** Leaps of more than nine half steps. */
  readonly leapsOverSixth: number;
  /** Quarters without a rest, at the longest. */
  readonly longestRun: number;
  /** Different rhythms of a bar. */
  readonly distinctRhythms: number;
}

export function measuresOf(
  notes: readonly SoloNote[],
  phrases: readonly SoloPhrase[],
  bars: readonly FormBar[],
): SoloMeasures {
  const strong = notes.filter(({ at }) => isStrongAt(at, bars));
  const again = phrases.filter(({ kind }) => kind !== 'idea' && kind !== 'answer' && kind !== 'rest');
  let [run, longest] = [0, 0];
  notes.forEach((note, k) => {
    const before = notes[k - 1];
    run = before && before.at + before.length === note.at ? run + note.length : note.length;
    longest = Math.max(longest, run);
  });
  const rhythms = new Set(
    bars
      .map(({ start, length }) =>
        notes
          .filter(({ at }) => at >= start && at < start + length)
          .map((note) => `${note.at - start}:${note.length}`)
          .join(' '),
      )
      .filter((rhythm) => rhythm !== ''),
  );
  return {
    strongBeatHome: strong.length === 0 ? 1 : strong.filter(({ role }) => role === 'home').length / strong.length,
    repeatedIdeas: phrases.length === 0 ? 0 : again.length / phrases.length,
    leapsOverSixth: notes.filter(({ pitch }, k) => {
      const before = notes[k - 1];
      return before !== undefined && Math.abs(semitones(pitch) - semitones(before.pitch)) > 9;
    }).length,
    longestRun: longest / QUARTER,
    distinctRhythms: rhythms.size,
  };
}
