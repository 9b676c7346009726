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
import { difficultyText, judgementOf } from './difficultyWords';

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

describe('the scale is set by lines written for the purpose', () => {
  const flat = (text: string) => text.replaceAll('\n', ' ');
  const anchors: readonly (readonly [number, string, string])[] = [
    [1, 'Q:1/4=60\nM:4/4\nL:1/4\nK:C', 'C D E F|G F E D|E F G F|E2 D2|C D E F|G F E D|E D C D|C4|'],
    [2, 'Q:1/4=80\nM:4/4\nL:1/4\nK:F', 'F G A B|c2 A2|B A G c|F2 z c|A B/c/ d c|e2 c2|d c/B/ A G|F4|'],
    [3, 'Q:1/4=92\nM:4/4\nL:1/8\nK:G', 'G2AB c2d2|e2dc B2G2|A2Bc d2f2|gfed d4|e2fg e2c2|d2ed BAG2|A2BA G2F2|G8|'],
    [4, 'Q:1/4=96\nM:4/4\nL:1/8\nK:D', 'DEFG ABcd|efga bagf|edcB AGFE|DFAd fagf|efge cdef|gfed cBAG|FAdf afdA|D8|'],
    [6.5, 'Q:1/4=100\nM:4/4\nL:1/16\nK:F', "fgabc'bag fedc defd|cdefgfed cBAGFGAB|cegecBAG AcfcAGFE|FAcfafcA F8|"],
    [
      7.8,
      'Q:1/4=116\nM:4/4\nL:1/16\nK:Eb',
      "ebgeBege c'agecAEA|=Adf=adfAd _bfdBGBdg|^fa=bd'a^fdA BGEBGEBe|cdefgab=b c'bage4|",
    ],
    [
      9,
      'Q:1/4=132\nM:4/4\nL:1/16\nK:E',
      "eBg^dbEc'G ^a^Bd'eAcF^g|^^fdbGe'ge^B cFAc^ebGd|b^eBg^dAfc' EaCe^g^bDf|^Adfac'^^ca^F BGdbeEBE|",
    ],
  ];
  test.each(['flute', 'violin', 'trumpet-bb', 'alto-sax'])('%s: in order, and near what a teacher says', (id) => {
    const instrument = instrumentById(id);
    if (!instrument) throw new Error(id);
    const totals = anchors.map(
      ([, head, body]) => lineDifficulty(barDifficulties(line(flat(body), head), instrument)).total,
    );
    expect(totals).toEqual(totals.toSorted((a, b) => a - b));
    totals.forEach((total, k) => expect([k, Math.abs(total - (anchors[k]?.[0] ?? 0)) < 1]).toEqual([k, true]));
  });

  test('and said in words for the player of a level, with bar and cause', () => {
    const flute = instrumentById('flute');
    if (!flute) throw new Error('flute');
    const [, head, body] = anchors[3] ?? [0, '', ''];
    const bars = barDifficulties(line(body, head), flute);
    expect((['beginner', 'intermediate', 'advanced'] as const).map((level) => judgementOf(4, level))).toEqual([
      'too hard',
      'demanding',
      'right',
    ]);
    expect(difficultyText(bars, [1, 2, 3, 4, 5, 6, 7, 8], 'advanced')).toMatch(
      /^right for a fifth-year player \(\d\.\d of 10\), hardest by [a-z ]+ in bar \d$/,
    );
  });
});
