import { chroma, printPitch } from '../src/core/pitch';
import { isNote, soundingNotes, type Tune } from '../src/core/score';

/** How much is marked, to a bar that is counted. */
export interface Marks {
  readonly slurs: number;
  readonly dynamics: number;
  readonly breaths: number;
  readonly articulations: number;
}

/** For each bar what is struck in it: the place and the note, as pitch class or in its octave. */
export function byBarStruck(tune: Tune, inOctave = false): readonly ReadonlySet<string>[] {
  const bars = tune.bars.map(() => new Set<string>());
  for (const { bar, inBar, pitch } of soundingNotes(tune))
    bars[bar]?.add(`${inBar}:${inOctave ? printPitch(pitch) : chroma(pitch)}`);
  return bars;
}

/** The mean over the bars of the F-measure of two sets; two empty bars are alike. */
export function likeness(a: readonly ReadonlySet<string>[], b: readonly ReadonlySet<string>[]): number {
  return a.reduce((sum, bar, k) => sum + fMeasure(bar, b[k] ?? new Set()), 0) / Math.max(1, a.length);
}

/** The F-measure of the bars that differ from the tune in one line and in the other. */
export function changedBars(
  tune: readonly ReadonlySet<string>[],
  a: readonly ReadonlySet<string>[],
  b: readonly ReadonlySet<string>[],
): number {
  const changed = (line: readonly ReadonlySet<string>[]) =>
    new Set(tune.flatMap((bar, k) => (isSame(bar, line[k] ?? new Set()) ? [] : [String(k)])));
  return fMeasure(changed(a), changed(b));
}

const isSame = (a: ReadonlySet<string>, b: ReadonlySet<string>) =>
  a.size === b.size && [...a].every((one) => b.has(one));

function fMeasure(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  if (a.size + b.size === 0) return 1;
  return (2 * [...a].filter((one) => b.has(one)).length) / (a.size + b.size);
}

/** Slurs, dynamics with hairpins, breaths, and dots, dashes and accents, to a bar. */
export function marksOf(tune: Tune): Marks {
  const notes = tune.bars.flatMap(({ events }) => events.filter(isNote));
  const bars = tune.bars.filter(({ partial }, k) => partial === undefined || k > 0).length;
  const count = (of: (note: (typeof notes)[number]) => number) => notes.reduce((sum, note) => sum + of(note), 0) / bars;
  return {
    slurs: count(({ slurStarts = 0 }) => slurStarts),
    dynamics: count(({ dynamic, hairpin }) => (dynamic ? 1 : 0) + (hairpin ? 1 : 0)),
    breaths: count(({ articulations = [] }) => (articulations.includes('breath') ? 1 : 0)),
    articulations: count(
      ({ articulations = [] }) => articulations.filter((one) => one !== 'breath' && !one.endsWith('bow')).length,
    ),
  };
}
