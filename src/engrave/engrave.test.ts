import { readAbc } from '../core/formats/abc/readAbc';
import { instrumentById } from '../core/instruments/catalogue';
import { partFor } from '../core/levels/parts/partFor';
import type { Work } from '../core/work/work';
import type { EngravedRow } from './engraver';
import { BenchEngraver } from './benchEngraver';
import { Engraver } from './engraver';
import { lanesFor } from './lanes';
import { planLines } from './lines';
import { laneStaff } from './staves';

const read = readAbc(
  `X:1\nT:T\nM:4/4\nL:1/8\nK:Eb\n${'"Eb"G3 F E2 GB | c3 B G2 EG | {g}_A3 G (3FGA F2 | E4- E4 |\n'.repeat(4)}`,
);
if (!read.ok) throw new Error('the tune of this test is broken');
const work: Work = { tune: read.value.tune, recipes: {} };

let engraver: Engraver;
beforeAll(async () => {
  engraver = await Engraver.start();
});

async function draw(bench: BenchEngraver, request: Work, nearBar = 0) {
  const rows: { index: number; row: EngravedRow }[] = [];
  let numbers: readonly number[] = [];
  await bench.draw(
    { work: request, view: 'written', width: 800, staffSpace: 7, lanes: 'all', nearBar },
    {
      lanes: (lanes, first) => {
        numbers = lanes.numbers;
        if (first) rows.push(first);
      },
      row: (index, row) => rows.push({ index, row }),
    },
  );
  return { rows, numbers };
}

test('every bar of every lane is drawn once, and the places of bars and staves are found', async () => {
  const { rows, numbers } = await draw(new BenchEngraver(engraver), work);
  expect(numbers).toEqual(Array.from({ length: 16 }, (_, k) => k + 1));
  const drawn = rows.flatMap(({ row }) => Array.from({ length: row.to - row.from }, (_, k) => row.from + k));
  expect(drawn.toSorted((a, b) => a - b)).toEqual(numbers.map((number) => number - 1));
  for (const { row } of rows) {
    expect([row.geometry.bars.length, row.geometry.staves.length]).toEqual([row.to - row.from, 4]);
    const ends = row.geometry.bars.map(({ x, width }) => x + width);
    row.geometry.bars.slice(1).forEach(({ x }, k) => expect(Math.abs(x - (ends[k] ?? 0))).toBeLessThan(1));
    expect(Math.abs((ends.at(-1) ?? 0) - row.geometry.width)).toBeLessThan(6);
    for (const note of read.ok ? read.value.tune.bars.slice(row.from, row.to).flatMap(({ events }) => events) : [])
      if (note.kind === 'note') expect(row.svg).toContain(`id="tune:${note.id}"`);
    expect(row.svg).not.toMatch(/<style|<script|https?:\/\/(?!www\.w3\.org)/);
  }
});

test('only rows that changed are drawn again, the one under the change first', async () => {
  const bench = new BenchEngraver(engraver);
  // A density by hand: what the level needs would be weighed anew for the whole tune.
  const steady: Work = {
    ...work,
    recipes: {
      intermediate: { instrument: 'clarinet-bb', embellish: { density: 8 } },
      advanced: { instrument: 'alto-sax', embellish: { density: 35 } },
    },
  };
  await draw(bench, steady);
  expect((await draw(bench, steady)).rows).toEqual([]);
  const bars = work.tune.bars.map((bar, index) =>
    index === 14
      ? {
          ...bar,
          events: bar.events.map((event) =>
            event.kind === 'note' ? { ...event, pitch: { ...event.pitch, step: 'G' as const, alter: 0 } } : event,
          ),
        }
      : bar,
  );
  const changed = await draw(bench, { ...steady, tune: { ...work.tune, bars } });
  expect(changed.rows.map(({ row }) => 14 >= row.from && 14 < row.to)).toEqual([true]);
  const rekeyed = await draw(bench, { ...work, recipes: { beginner: { instrument: 'viola' } } }, 13);
  expect(rekeyed.rows.length).toBeGreaterThan(1);
  expect(rekeyed.rows[0] && 13 >= rekeyed.rows[0].row.from && 13 < rekeyed.rows[0].row.to).toBe(true);
});

test('what a beginner does not get is marked and said at its bar', () => {
  const lanes = lanesFor(work, 'written', 800);
  const beginner = lanes.infos.find(({ id }) => id === 'beginner');
  expect(beginner?.changes.filter(({ bar }) => bar === 3).map(({ what }) => what)).toContain('a grace note left out');
  expect(beginner?.barTexts[0]).toMatch(/^[A-G][♭♯]?\d half note, /);
  expect([...lanes.changed].filter((id) => id.startsWith('tune:'))).toEqual([]);
  expect([...lanes.changed].filter((id) => id.startsWith('beginner:')).length).toBeGreaterThan(3);
});

test('lines are about equally full and like to begin with a group of four', () => {
  expect(planLines(Array<number>(16).fill(5), 21, new Set([0, 4, 8, 12])).map(({ from }) => from)).toEqual([
    0, 4, 8, 12,
  ]);
  expect(planLines([30], 20, new Set([0]))).toEqual([{ from: 0, to: 1 }]);
  const lines = planLines(Array<number>(13).fill(5), 21, new Set([0, 4, 8, 12]));
  expect(Math.min(...lines.map(({ from, to }) => to - from))).toBeGreaterThan(1);
});

test('what helps a player is there in concert pitch too, names as they sound', () => {
  const small = readAbc('X:1\nT:T\nM:4/4\nL:1/8\nQ:1/4=60\nK:G\nG4 B4|d8|G4 A4|B8|]\n');
  const instrument = instrumentById('clarinet-bb');
  if (!small.ok || !instrument) throw new Error('no tune');
  const { value } = partFor(small.value.tune, {
    level: 'beginner',
    instrument,
    page: { aids: { names: 'stays', counts: 'stays', breaths: 'stays' } },
  });
  const shown = (pitch: 'written' | 'sounding') =>
    laneStaff('beginner', value, pitch).bars.map(({ events, counts = [] }) =>
      [
        ...events.flatMap((event) => (event.kind === 'note' ? (event.lyrics?.map(({ text }) => text) ?? []) : [])),
        ...counts.map(({ text }) => text),
      ].join(' '),
    );
  expect(shown('written').slice(0, 2)).toEqual(['A C♯ 2 4', 'E 2 3 4']);
  expect(shown('sounding').slice(0, 2)).toEqual(['G B 2 4', 'D 2 3 4']);
});
