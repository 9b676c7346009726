import { lineDifficulty } from '../src/core/analysis';
import { instrumentById, type Level, LEVELS } from '../src/core/instruments';
import { startKey } from '../src/core/keys';
import { inKey, pageRequest, type Part, partFor } from '../src/core/levels';
import type { Tune } from '../src/core/score';
import { likelyTune } from '../tests/likelyTune';
import {
  barsApart,
  breathFaults,
  figuresIn,
  filledEnds,
  newHardLeaps,
  oddInflections,
  type Pencil,
  phrasingOfPart,
  slurFaults,
  turnedIntervals,
} from '../tests/pencil';

const PLAYERS = ['flute', 'alto-sax', 'trumpet-bb', 'trombone', 'violin', 'cello'] as const;
const BLOWN: ReadonlySet<string> = new Set(['flute', 'alto-sax', 'trumpet-bb', 'trombone']);

/** Parts of one level, and those of them in which something is to be marked. */
class Count {
  parts = 0;
  readonly marked = new Map<string, number>();
  readonly values = new Map<string, number[]>();

  mark(name: string, is: boolean): void {
    this.marked.set(name, (this.marked.get(name) ?? 0) + (is ? 1 : 0));
  }

  note(name: string, value: number): void {
    this.values.set(name, [...(this.values.get(name) ?? []), value]);
  }

  mean(name: string): string {
    const all = this.values.get(name) ?? [];
    return (all.reduce((sum, one) => sum + one, 0) / Math.max(1, all.length)).toFixed(2);
  }

  told(name: string): string {
    return `${this.marked.get(name) ?? 0} of ${this.parts}`;
  }
}

/**
 * `npm run fuzz -- judge [TUNES]`: what a musician would mark in pencil, counted over the parts of tunes that nobody
 * tuned for: six instruments, three levels, each tune in its own key or, for beginners, the one they begin in. Nothing
 * here decides; the rules are held by tests, the taste is read here. What it cannot see: whether a figure suits the
 * tune, whether a swell leads where it should, whether a shortened line is still the idea, how a page looks; these want
 * a reader.
 */
export function judge(tunes: number): void {
  const by: Readonly<Record<Level, Count>> = {
    beginner: new Count(),
    intermediate: new Count(),
    advanced: new Count(),
  };
  let [pairs, near, register] = [0, 0, 0];
  for (let seed = 0; seed < tunes; seed += 1) {
    const tune = likelyTune(seed);
    for (const id of PLAYERS) {
      const parts = LEVELS.map((level) => look(tune, id, level, by[level]));
      const [, middle, top] = parts;
      if (!middle || !top) continue;
      pairs += 1;
      if (barsApart(middle, top) <= 3) near += 1;
      if (middle.octaves !== top.octaves) register += 1;
    }
  }
  for (const line of report(by)) process.stdout.write(`${line}\n`);
  process.stdout.write(
    ` 6 intermediate and advanced alike but for three bars: ${near} of ${pairs}\n 9 the two in different octaves: ${register} of ${pairs}\n11 one key for two: told by \`reed parts --key best\`, not counted here\n`,
  );
}

function look(tune: Tune, id: string, level: Level, count: Count): Part {
  const instrument = instrumentById(id);
  if (!instrument) throw new Error(id);
  const key = (level === 'beginner' ? startKey(tune, [{ instrument, level }])?.key : undefined) ?? tune.key;
  const { value: part } = partFor(tune, {
    level,
    instrument,
    keyAndTempo: { key },
    page: pageRequest({}, instrument, level),
  });
  const pencil: Pencil = { tune: { ...tune, ...inKey(tune, key) }, part };
  const { share, isLoud } = phrasingOfPart(pencil);
  count.parts += 1;
  count.mark('unphrased', level !== 'beginner' && BLOWN.has(id) && share < 0.25);
  count.mark('silent', !isLoud);
  count.mark('slurs', slurFaults(pencil).length > 0);
  count.mark('filled', filledEnds(pencil).length > 0);
  count.mark('breaths', BLOWN.has(id) && breathFaults(pencil).length > 0);
  count.mark('turned', level === 'beginner' && turnedIntervals(pencil).length > 0);
  count.mark('leaps', level === 'beginner' && newHardLeaps(pencil) > 0);
  count.mark('odd', oddInflections(pencil).length > 0);
  count.mark('unlike bars', level === 'beginner' && unlikeBars(pencil));
  const figures = figuresIn(pencil);
  const kinds = new Map<string, number>();
  for (const one of figures) kinds.set(one, (kinds.get(one) ?? 0) + 1);
  count.note('again', figures.filter((one) => (kinds.get(one) ?? 0) > 1).length / Math.max(1, figures.length));
  count.note('figures', figures.length / Math.max(1, part.bars.length));
  count.note('difficulty', lineDifficulty(part.difficulty).total);
  count.note('fidelity', part.fidelity);
  count.mark('bowed unlike', id === 'violin' && bowedUnlike(part));
  return part;
}

/** Bars that are one bar in the tune, with the same neighbours, and not in the part. */
function unlikeBars({ tune, part }: Pencil): boolean {
  const words = (bars: Tune['bars'], index: number) =>
    (bars[index]?.events ?? [])
      .map((event) => `${event.kind === 'note' ? JSON.stringify(event.pitch) : 'z'}${event.length}`)
      .join();
  const known = new Map<string, string>();
  return tune.bars.some((_, index) => {
    const name = [index - 1, index, index + 1].map((k) => words(tune.bars, k)).join('|');
    const here = words(part.soundingBars, index);
    const before = known.get(name) ?? here;
    known.set(name, before);
    return before !== here;
  });
}

/** Bars of one rhythm and line whose slurs differ. */
function bowedUnlike(part: Part): boolean {
  const known = new Map<string, string>();
  return part.bars.some(({ events }) => {
    const name = events
      .map((event) => `${event.kind}${event.kind === 'note' ? JSON.stringify(event.pitch) : ''}${event.length}`)
      .join();
    const slurs = events
      .map((event) => (event.kind === 'note' ? `${event.slurStarts ?? 0}${event.slurEnds ?? 0}` : ''))
      .join();
    const before = known.get(name) ?? slurs;
    known.set(name, before);
    return before !== slurs;
  });
}

function report(by: Readonly<Record<Level, Count>>): readonly string[] {
  const { beginner } = by;
  const each = (name: string) => LEVELS.map((level) => by[level].told(name)).join(' · ');
  const means = (name: string) => LEVELS.map((level) => by[level].mean(name)).join(' · ');
  return [
    'Parts with something to be marked in pencil (beginner · intermediate · advanced)',
    ` 1 winds without slurs or dots in a quarter of the bars: ${each('unphrased')}; no loudness at the beginning: ${each('silent')}; a slur over a phrase end or a repeated note: ${each('slurs')}`,
    ` 2 a phrase end that is filled: ${each('filled')}`,
    ` 3 a breath where nobody breathes, or equal phrases unlike: ${each('breaths')}`,
    ` 4 a turned interval inside a bar or onto a repeated note: ${beginner.told('turned')}`,
    ` 5 a new tritone or seventh: ${beginner.told('leaps')}; equal bars unlike: ${beginner.told('unlike bars')}`,
    ` 7 added figures that come again: ${means('again')}; figures a bar: ${means('figures')}`,
    ` 8 a chromatic twin or an augmented second: ${each('odd')}`,
    `10 equal bars bowed unlike (violin): ${each('bowed unlike')}`,
    `   difficulty ${means('difficulty')}; fidelity ${means('fidelity')}`,
  ];
}
