import { readAbc } from '../../core/formats/abc/readAbc';
import type { Work } from '../../core/work/work';
import type { Tune } from '../../core/score/tune';
import { byDay, compare, revisionText, type Revision } from './revisions';

const tuneOf = (body: string, head = 'M:4/4\nL:1/4\nQ:1/4=90\nK:C'): Tune => {
  const read = readAbc(`X:1\nT:T\n${head}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
};
const TUNE = tuneOf('G | CDEF | GABc | c4 |');
const work = (tune: Tune, recipes: Work['recipes'] = {}): Work => ({ tune, recipes });
const revision = (more: Partial<Revision>): Revision => ({
  revision: 1,
  version: 2,
  kind: 'saved',
  name: '',
  what: '',
  savedAt: '2026-11-26T10:00:00.000Z',
  ...more,
});

describe('how two versions differ', () => {
  const barsOf = (before: Tune, after: Tune) => compare(work(before), work(after)).bars.map(({ text }) => text);

  test('bars by their printed numbers: changed, put in, taken out', () => {
    const other = { ...TUNE, bars: TUNE.bars.map((bar, k) => (k === 2 ? { ...bar, section: 'B' } : bar)) };
    expect(barsOf(TUNE, other)).toEqual(['bar 2 changed']);
    const shorter = { ...TUNE, bars: TUNE.bars.filter((_, k) => k !== 2) };
    expect(barsOf(TUNE, shorter)).toEqual(['bar 2 taken out']);
    expect(barsOf(shorter, TUNE)).toEqual(['bar 2 put in']);
    expect(barsOf(TUNE, TUNE)).toEqual([]);
  });

  test('the head in words, and which levels have another recipe', () => {
    const after = { ...TUNE, title: 'Other', composer: 'Nobody', tempo: { ...TUNE.tempo, perMinute: 100 } };
    expect(
      compare(
        work(TUNE, { beginner: { instrument: 'flute' }, advanced: { instrument: 'violin' } }),
        work(after, { beginner: { instrument: 'oboe' }, intermediate: { instrument: 'viola' } }),
      ).words,
    ).toEqual([
      'title: T → Other',
      'composer: none → Nobody',
      'tempo: 90 → 100',
      'beginner level: another recipe',
      'intermediate level: set',
      'advanced level: no longer set',
    ]);
  });
});

test('versions stand by the day on which they were saved, in the order in which they come', () => {
  const days = byDay([
    revision({ revision: 3, savedAt: '2026-11-26T15:00:00.000Z' }),
    revision({ revision: 2, savedAt: '2026-11-26T12:00:00.000Z' }),
    revision({ revision: 1, savedAt: '2026-11-20T12:00:00.000Z' }),
  ]);
  expect(
    days.map(({ day, revisions }) => [day.replace(',', ''), revisions.map(({ revision: number }) => number)]),
  ).toEqual([
    ['Thursday 26 November 2026', [3, 2]],
    ['Friday 20 November 2026', [1]],
  ]);
});

test('a line says what was done; the first version was begun, a refused one says so', () => {
  expect(
    [
      revision({ what: 'title' }),
      revision({}),
      revision({ version: 1 }),
      revision({ kind: 'refused', what: 'bar 3 rest' }),
    ].map(revisionText),
  ).toEqual(['title', 'saved', 'begun', 'not taken, since somebody else had saved: bar 3 rest']);
});
