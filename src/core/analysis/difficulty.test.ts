import { readAbc } from '../formats/abc/readAbc';
import { instrumentById } from '../instruments/catalogue';
import type { Tune } from '../score/tune';
import {
  barDifficulties,
  CAUSES,
  lineDifficulty,
  WEIGHTS,
  type Cause,
  type Difficulty,
  passagesThatStandOut,
} from './difficulty';

const line = (body: string, head = 'M:4/4\nL:1/8\nQ:1/4=100\nK:C'): Tune => {
  const read = readAbc(`X:1\n${head}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
};
const clarinet = instrumentById('clarinet-bb');
if (!clarinet) throw new Error('no clarinet');
const bar = (tune: Tune): Difficulty => {
  const [first] = barDifficulties(tune, clarinet);
  if (!first) throw new Error('no bar');
  return first;
};
const plain = 'C2 D2 E2 F2 |';

test.each<readonly [Cause, Tune]>([
  ['speed', line(plain, 'M:4/4\nL:1/8\nQ:1/4=160\nK:C')],
  ['rhythm', line('C D2 E2 F2 G |')],
  ['leaps', line('C2 G2 D2 A2 |')],
  ['range', line('c2 d2 e2 f2 |')],
  ['accidentals', line('^C2 D2 ^E2 F2 |')],
  ['signature', line('C2 D2 E2 F2 |', 'M:4/4\nL:1/8\nQ:1/4=100\nK:E')],
  ['break', line('A2 B2 A2 c2 |')],
  ['travel', line('F2 ^F2 F2 ^F2 |')],
  ['breath', line('CDEF CDEF CDEF CDEF CDEF CDEF |', 'M:12/4\nL:1/8\nQ:1/4=100\nK:C')],
])('%s is told apart and raises the total', (cause, harder) => {
  const [easy, hard] = [bar(line(plain)), bar(harder)];
  expect(hard.causes[cause]).toBeGreaterThan(easy.causes[cause]);
  expect(hard.total).toBeGreaterThan(easy.total);
  for (const value of Object.values(hard.causes)) expect(value).toBeLessThanOrEqual(10);
});

test('the weights add up to one, so no total passes ten', () => {
  expect(CAUSES.reduce((sum, cause) => sum + WEIGHTS[cause], 0)).toBeCloseTo(1, 10);
  const ten = Object.fromEntries(CAUSES.map((cause) => [cause, 10])) as Record<Cause, number>;
  expect(lineDifficulty([{ total: 10, causes: ten }]).total).toBeCloseTo(10, 10);
});

test('one hard bar in four weighs more than its share', () => {
  const easy = bar(line(plain));
  const hard = bar(line("A/B/c/A/ B/c/B/A/ ^c d2 =c' |", 'M:4/4\nL:1/8\nQ:1/4=120\nK:C'));
  const mean = (3 * easy.total + hard.total) / 4;
  expect(lineDifficulty([easy, easy, easy, hard]).total).toBeGreaterThan(mean);
});

test('passages that stand out are runs of bars; an even line and one that is hard all over have none', () => {
  const line = (totals: readonly number[]) =>
    totals.map((total) => ({
      total,
      causes: Object.fromEntries(CAUSES.map((cause) => [cause, 0])) as Difficulty['causes'],
    }));
  expect(passagesThatStandOut(line([1, 1.1, 1, 3, 2.6, 1, 1.2, 2.4]))).toEqual([]);
  expect(passagesThatStandOut(line([1, 1.1, 1, 3, 2.6, 1, 1.2, 1, 1, 1.1]))).toEqual([[3, 4]]);
  expect(passagesThatStandOut(line([1, 1.2, 1.4, 1.1]))).toEqual([]);
  expect(passagesThatStandOut([])).toEqual([]);
});
