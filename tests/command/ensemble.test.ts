import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensemble } from '../../src/cli/ensemble';
import { readTune } from '../../src/core/formats';
import { soundingNotes } from '../../src/core/score';
import { reed } from '../reed';

const folder = mkdtempSync(join(tmpdir(), 'ensemble-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const write = (name: string, text: string) => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};
const ROPE = write(
  'rope.abc',
  'X:1\nT:Rope\nM:4/4\nL:1/8\nQ:1/4=96\nK:G\nD2|"G"G3A B2AG|"C"E2c2 "D7"B2A2|"G"B3A G2D2|"D7"A6D2|"G"G3A B2AG|"C"E2c2 "Am"e2dc|"G"B2G2 "D7"A2F2|"G"G6|]\n',
);
const BARE = write('bare.abc', 'X:1\nT:Bare\nM:3/4\nL:1/4\nK:F\nFAc|BGE|FAc|F3|]\n');
const FOUR = 'flute:intermediate,clarinet-bb:intermediate,alto-sax:beginner,cello:beginner';

interface Answer {
  readonly score: string;
  readonly key: string;
  readonly tempo: number;
  readonly bars: number;
  readonly warnings: readonly string[];
  readonly roles: readonly { readonly fromBar: number; readonly toBar: number; readonly lead: readonly number[] }[];
  readonly players: readonly {
    readonly file: string;
    readonly role: string;
    readonly writtenKey: string;
    readonly changes: readonly { readonly bar: number; readonly what: string; readonly why: string }[];
  }[];
  readonly measures: Readonly<Record<'parallels' | 'crossings' | 'bassRoots' | 'chordCover', number>>;
}
const made = async (...words: readonly string[]) => (await ensemble([...words, '--out', folder])) as Answer;

test('a part for each and a score: who leads where, what everybody does, and files that are read back', async () => {
  const { score, key, tempo, bars, roles, players, measures, warnings } = await made(ROPE, '--players', FOUR);
  expect([key, tempo, bars, warnings]).toEqual(['G', 64, 9, []]);
  expect(roles).toEqual([
    { fromBar: 0, toBar: 4, lead: [1] },
    { fromBar: 5, toBar: 8, lead: [2] },
  ]);
  expect(players.map(({ role, writtenKey }) => [role, writtenKey])).toEqual([
    ['second', 'G'],
    ['second', 'A'],
    ['pad', 'E'],
    ['bass', 'G'],
  ]);
  expect(measures).toMatchObject({ parallels: 0, bassRoots: 1 });
  expect(players.every(({ changes }) => changes.length >= 9 && changes.every(({ why }) => why !== ''))).toBe(true);
  for (const { file } of players) {
    const read = readTune(readFileSync(file), file);
    expect(read.ok && [read.value.tune.bars.length, soundingNotes(read.value.tune).length > 3]).toEqual([9, true]);
  }
  const xml = readFileSync(score, 'utf8');
  expect(xml.match(/<score-part /g)).toHaveLength(4);
  expect(xml).toContain('<words>the tune</words>');
});

test('the best key, a seed, a tempo; the same again is the same byte for byte', async () => {
  const words = [ROPE, '--players', 'alto-sax:beginner:tune,trumpet-bb:beginner,tuba:beginner', '--key', 'best'];
  const [one, again] = [
    await made(...words, '--seed', '3', '--tempo', '72'),
    await made(...words, '--seed', '3', '--tempo', '72'),
  ];
  expect(one).toEqual(again);
  expect([one.tempo, one.players.map(({ role }) => role)]).toEqual([72, ['tune', 'pad', 'bass']]);
  expect(one.roles.every(({ lead }) => lead.join() === '1')).toBe(true);
});

test('a tune without chords is given some, and says so; PDF and documents', async () => {
  const answer = await made(BARE, '--players', 'oboe:advanced,viola:beginner,bassoon:intermediate', '--format', 'json');
  expect(answer.warnings[0]).toMatch(/^the tune has no chords; these are proposed, and the score has them: F/);
  expect(answer.score).toMatch(/\.score\.musicxml$/);
  expect(readFileSync(answer.score, 'utf8')).toContain('<harmony');
  expect(readTune(readFileSync(answer.players[0]?.file ?? ''), 'a.reed.json').ok).toBe(true);
  const pdf = await made(BARE, '--players', 'oboe:advanced,viola:beginner', '--format', 'pdf');
  expect(
    [pdf.score, ...pdf.players.map(({ file }) => file)].every(
      (path) => readFileSync(path).subarray(0, 5).toString() === '%PDF-',
    ),
  ).toBe(true);
});

test('what cannot be done is refused in a line that says what would be right', () => {
  const refused = (...words: readonly string[]) => {
    const { status, errors } = reed('ensemble', ...words, '--out', join(folder, 'refused'));
    expect([status, errors.length]).toEqual([2, 1]);
    return errors[0];
  };
  expect(refused(ROPE)).toContain('--players is missing');
  expect(refused(ROPE, '--players', 'flute:beginner:pad,cello:beginner:bass')).toContain('nobody the tune');
  expect(refused(ROPE, '--players', 'flute:beginner:drums')).toContain('the role "drums" is unknown; use tune, second');
  expect(refused(ROPE, '--players', Array(61).fill('flute:beginner').join())).toContain('60 can play together at most');
  expect(refused(ROPE, '--players', 'flute:beginner', '--seed', 'x')).toContain('--seed x');
  expect(refused(write('none.abc', 'X:1\nT:None\nM:4/4\nL:1/4\nK:C\nz4|]\n'), '--players', 'flute:beginner')).toContain(
    'has no notes',
  );
  expect(existsSync(join(folder, 'refused'))).toBe(false);
});
