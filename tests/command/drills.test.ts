import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readTune } from '../../src/core/formats/readTune';
import { printPitch } from '../../src/core/pitch/pitch';
import { soundingNotes } from '../../src/core/score/sounding';
import { drill } from '../../src/cli/drill';
import { reed } from '../reed';

interface Facts {
  readonly file: string;
  readonly level: string;
  readonly difficulty: { readonly total: number };
  readonly keys: readonly {
    readonly key: string;
    readonly writtenKey: string;
    readonly fromBar: number;
    readonly toBar: number;
    readonly notes: readonly string[];
  }[];
  readonly changes: readonly { readonly bar: number; readonly what: string; readonly why: string }[];
}

test('drill: three levels of one idea, each in its keys, and the file holds the notes that are told', () => {
  const folder = mkdtempSync(join(tmpdir(), 'drills-'));
  const words = ['--set', 'major', '--pattern', 'thirds', '--for', 'clarinet-bb', '--level', 'all', '--out', folder];
  const made = reed('drill', ...words);
  expect([made.status, made.errors]).toEqual([0, []]);
  const facts = JSON.parse(made.out) as readonly Facts[];
  expect(facts.map(({ level, keys }) => [level, keys.length])).toEqual([
    ['beginner', 3],
    ['intermediate', 6],
    ['advanced', 12],
  ]);
  expect(facts.map(({ difficulty }) => difficulty.total)).toEqual(
    facts.map(({ difficulty }) => difficulty.total).toSorted((a, b) => a - b),
  );
  for (const { file, keys } of facts) {
    const read = readTune(readFileSync(file), file);
    if (!read.ok) throw new Error(file);
    // The reader gives concert pitch; a whole step up is what a clarinet reads.
    const heights = soundingNotes(read.value.tune).map(({ pitch }) => printPitch(pitch));
    expect(heights).toHaveLength(keys.flatMap(({ notes }) => notes).length);
    keys.forEach(({ fromBar, toBar }, k) => {
      expect(toBar).toBeGreaterThanOrEqual(fromBar);
      expect(fromBar).toBe((keys[k - 1]?.toBar ?? 0) + 1);
    });
  }
});

test('drill: chords on the command line, orders of keys, and spans are kept to', () => {
  const folder = mkdtempSync(join(tmpdir(), 'drills-'));
  const run = (...words: readonly string[]) =>
    JSON.parse(reed('drill', ...words, '--out', folder).out) as readonly Facts[];
  const [over] = run(
    '--pattern',
    'chords',
    '--over',
    'Dm7 | G7 | Cmaj7 | C6',
    '--direction',
    'up',
    '--rhythm',
    'quarter',
    '--for',
    'flute',
    '--level',
    'advanced',
  );
  expect(over?.keys[0]?.notes.map((note) => note.slice(0, -1))).toEqual('D F A C G B D F C E G B C E G C'.split(' '));
  const [joined] = run(
    '--set',
    'maj7',
    '--pattern',
    'sevenths',
    '--keys',
    'fourths',
    '--start',
    'Eb',
    '--extent',
    'E4-G5',
    '--for',
    'alto-sax',
    '--level',
    'intermediate',
  );
  expect(joined?.keys.map(({ key }) => key).join(' ')).toBe('Eb Ab Db Gb B E A D G C F Bb');
});

test('drill refuses in one line what it cannot do, and writes nothing', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'drills-'));
  const base = ['--for', 'flute', '--level', 'beginner', '--out', folder];
  for (const [words, says] of [
    [['--set', 'jolly', '--pattern', 'thirds'], /--set the set "jolly" is unknown/],
    [['--set', 'major', '--pattern', 'hops'], /--pattern "hops" is unknown/],
    [['--set', 'major', '--pattern', 'cell:1 2 x'], /is no cell/],
    [['--set', 'major', '--pattern', 'thirds', '--keys', 'C,H'], /--keys "H" is no tonic/],
    [['--set', 'major', '--pattern', 'thirds', '--extent', 'C5-C4'], /--extent C5-C4/],
    [['--set', 'major', '--pattern', 'chords'], /give --over/],
    [['--set', 'major', '--pattern', 'thirteenths', '--extent', 'G4-B4'], /--pattern leaves nothing for flute/],
    [['--pattern', 'thirds'], /--set is missing/],
  ] as const) {
    await expect(drill([...words, ...base])).rejects.toThrow(says);
  }
  expect(readdirSync(folder)).toEqual([]);
});
