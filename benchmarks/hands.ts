import { type Level, LEVELS } from '../src/core/instruments';
import { type Hand, handNames, handOf, programsPart } from '../tests/hands';
import { byBarStruck, changedBars, likeness, type Marks, marksOf } from '../tests/likeness';

/** Tunes that no weight was fitted to: what is found with the others is judged by them. */
const APART: ReadonlySet<string> = new Set(['five-planks-ashore', 'late-ferry']);

interface Row {
  readonly struck: number;
  readonly struckInOctave: number;
  readonly changed: number;
  readonly kept: number;
  readonly keptByHand: number;
  readonly program: Marks;
  readonly hand: Marks;
}

/**
 * `npm run fuzz -- hands [NAME]`: the program's parts beside those written by hand of the same tunes, for the same
 * instruments: notes struck alike, the bars that differ from the tune, slurs, dynamics and breaths. With the name of a
 * tune both are printed bar by bar.
 */
export function hands(name: string | undefined, print: (line: string) => void): void {
  if (name !== undefined) return print(sideBySide(handOf(name)));
  for (const [title, isIn] of [
    ['fitted', (one: string) => !APART.has(one)],
    ['kept apart', (one: string) => APART.has(one)],
  ] as const) {
    print(title);
    for (const level of LEVELS) {
      const rows = handNames()
        .filter(isIn)
        .map((one) => rowOf(handOf(one), level));
      const mean = (of: (row: Row) => number) => (rows.reduce((sum, row) => sum + of(row), 0) / rows.length).toFixed(2);
      print(
        `  ${level.padEnd(12)} struck alike ${mean((row) => row.struck)} (octave too ${mean((row) => row.struckInOctave)})` +
          ` · same bars changed ${mean((row) => row.changed)} · of the tune ${mean((row) => row.kept)} (hand ${mean((row) => row.keptByHand)})` +
          ` · a bar, program/hand: slurs ${mean((row) => row.program.slurs)}/${mean((row) => row.hand.slurs)}` +
          ` dynamics ${mean((row) => row.program.dynamics)}/${mean((row) => row.hand.dynamics)}` +
          ` breaths ${mean((row) => row.program.breaths)}/${mean((row) => row.hand.breaths)}` +
          ` marks ${mean((row) => row.program.articulations)}/${mean((row) => row.hand.articulations)}`,
      );
      if (process.env.EACH)
        handNames()
          .filter(isIn)
          .forEach((one, k) => {
            const row = rows[k];
            if (row)
              print(
                `      ${one.padEnd(24)} struck ${row.struck.toFixed(2)} changed ${row.changed.toFixed(2)} tune ${row.kept.toFixed(2)}/${row.keptByHand.toFixed(2)} slurs ${row.program.slurs.toFixed(2)}/${row.hand.slurs.toFixed(2)} dyn ${row.program.dynamics.toFixed(2)}/${row.hand.dynamics.toFixed(2)} breaths ${row.program.breaths.toFixed(2)}/${row.hand.breaths.toFixed(2)} marks ${row.program.articulations.toFixed(2)}/${row.hand.articulations.toFixed(2)}`,
              );
          });
    }
  }
}

function rowOf(hand: Hand, level: Level): Row {
  const part = programsPart(hand, level);
  const byHand = hand.levels[level];
  const [tune, mine, theirs] = [hand.tune, part, byHand].map((one) => byBarStruck(one));
  const [tuneBars = [], mineBars = [], theirBars = []] = [tune, mine, theirs];
  return {
    struck: likeness(mineBars, theirBars),
    struckInOctave: likeness(byBarStruck(part, true), byBarStruck(byHand, true)),
    changed: changedBars(tuneBars, mineBars, theirBars),
    kept: share(tuneBars, mineBars),
    keptByHand: share(tuneBars, theirBars),
    program: marksOf(part),
    hand: marksOf(byHand),
  };
}

function share(tune: readonly ReadonlySet<string>[], part: readonly ReadonlySet<string>[]): number {
  const all = tune.reduce((sum, bar) => sum + bar.size, 0);
  return tune.reduce((sum, bar, k) => sum + [...bar].filter((one) => part[k]?.has(one)).length, 0) / Math.max(1, all);
}

function sideBySide(hand: Hand): string {
  return LEVELS.map(
    (level) => `${level}\n${hand.text(hand.levels[level])}\n${hand.text(programsPart(hand, level))}`,
  ).join('\n\n');
}
