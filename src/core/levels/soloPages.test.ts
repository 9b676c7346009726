import { LEVELS } from '../instruments/instrument';
import { chroma, semitones } from '../pitch/pitch';
import { soundingNotes } from '../score/sounding';
import { scoreProblems } from '../score/validate';
import { isNote } from '../score/tune';
import { instrument, tuneOf } from '../../../tests/given';
import { FIRST_TAKE, givenFrom, soloOf } from './parts/soloPart';
import { emptyChorus, type SOLO_PAGES, soloPage } from './soloPages';
import type { Recipe } from '../work/recipe';
import { keysOfRound, roundOf, ROUNDS } from './rounds';

const blues = tuneOf(
  '"F7"F2A2c2e2|"Bb7"d2B2F4|"F7"A2c2e2c2|"F7"A8|"Bb7"B2d2f2d2|"Bb7"B8|"F7"A2c2A2F2|"D7"^F8|"Gm7"G2B2d2B2|"C7"G2E2C4|"F7"F2A2c4|"C7"G8|',
  'M:4/4\nL:1/8\nK:F',
);
const recipe: Recipe = { instrument: 'clarinet-bb' };
const partsOf = (level: (typeof LEVELS)[number]) => {
  const made = soloOf(blues, recipe, level, instrument('clarinet-bb'));
  if (!made) throw new Error('no solo');
  return { made, page: (page: (typeof SOLO_PAGES)[number]) => soloPage(blues, made, recipe, page) };
};
const onsets = (part: { bars: Parameters<typeof soundingNotes>[0]['bars']; meter: { count: number; unit: number } }) =>
  soundingNotes(part as Parameters<typeof soundingNotes>[0]).map(
    ({ start, pitch }) => [start, semitones(pitch)] as const,
  );

test('the pages of a solo keep its rhythm, its calls and its chords, and leave room for the pupil', () => {
  for (const level of LEVELS) {
    const { made, page } = partsOf(level);
    const line = onsets(made.part);
    const rhythm = page('rhythm');
    if (!rhythm) throw new Error('no rhythm');
    expect(onsets(rhythm).map(([at]) => at)).toEqual(line.map(([at]) => at));
    expect(new Set(onsets(rhythm).map(([, height]) => height)).size).toBe(1);
    expect(rhythm.bars.flatMap(({ events }) => events).some((event) => isNote(event) && event.lyrics)).toBe(true);
    const call = page('call');
    if (!call) throw new Error('no call');
    // Answers are empty, calls as they were.
    for (const bar of call.blank ?? []) expect(call.bars[bar]?.events.some(isNote)).toBe(false);
    expect(call.blank?.size).toBeGreaterThan(0);
    const called = line.filter(([at]) => !call.blank?.has(Math.floor(at / 40_320)));
    expect(onsets(call)).toEqual(called);
    const own = page('own');
    expect([own?.bars.length, own?.blank?.size, own?.bars.some(({ events }) => events.some(isNote))]).toEqual([
      12,
      12,
      false,
    ]);
    expect(own?.bars.map(({ chords }) => chords.length)).toEqual(made.part.bars.map(({ chords }) => chords.length));
    expect(own?.words?.size ?? 0).toBe(level === 'beginner' ? 0 : 12);
  }
});

test('the line lands on the beat first and an eighth early after that, the same notes both times', () => {
  const { page } = partsOf('intermediate');
  const both = page('early');
  if (!both) throw new Error('no page');
  expect(scoreProblems({ ...blues, bars: both.soundingBars })).toEqual([]);
  const notes = onsets(both);
  const half = notes.length / 2;
  const [late, early] = [notes.slice(0, half), notes.slice(half)];
  expect(late.map(([, height]) => height)).toEqual(early.map(([, height]) => height));
  const moved = late.map(([at], k) => at + 12 * 40_320 - (early[k]?.[0] ?? 0));
  expect(new Set(moved)).toEqual(new Set([0, 5_040]));
  // What is moved leads into a new chord: the last note of each run stands on the beginning of a bar.
  moved.forEach((by, k) => {
    if (by > 0 && moved[k + 1] !== by) expect((late[k]?.[0] ?? 1) % 40_320).toBe(0);
  });
});

test('a kept phrase comes back as it was, also in another key and for a smaller range', () => {
  const { made } = partsOf('intermediate');
  const given = { p2: givenFrom(made, blues, 1) };
  const kept: Recipe = { ...recipe, solo: { given } };
  const again = soloOf(blues, kept, 'intermediate', instrument('clarinet-bb'), FIRST_TAKE + 5);
  const steps = (part: typeof made | undefined) => {
    const phrase = part?.solo.phrases[1];
    const heights = (part?.solo.notes ?? [])
      .filter(({ at }) => phrase && at >= phrase.start && at < phrase.end)
      .slice(0, given.p2.notes.length)
      .map(({ pitch }) => semitones(pitch));
    return heights.map((height) => height - (heights[0] ?? 0)).join(' ');
  };
  expect(steps(again)).toBe(steps(made));
  const inD: Recipe = { ...kept, keyAndTempo: { key: { tonic: { step: 'D', alter: 0 }, mode: 'major' } } };
  expect(steps(soloOf(blues, inD, 'intermediate', instrument('trumpet-bb')))).toBe(steps(made));
  const empty = emptyChorus(blues);
  expect([empty.bars.length, empty.bars.every(({ chords }) => chords.length === 1), scoreProblems(empty)]).toEqual([
    12,
    true,
    [],
  ]);
});

test('a round takes head, map, solo and an empty chorus through four keys by fourths; three rounds are all twelve', () => {
  const keys = ROUNDS.flatMap((round) => keysOfRound(blues, 'intermediate', {}, round));
  expect(new Set(keys.map(({ tonic }) => chroma(tonic))).size).toBe(12);
  const [first, second] = keys;
  expect(first && second && (chroma(second.tonic) - chroma(first.tonic) + 12) % 12).toBe(5);
  const parts = roundOf(blues, 'intermediate', {}, '2');
  expect(parts).toHaveLength(16);
  expect(new Set(parts.map(({ title }) => title)).size).toBe(16);
  parts.forEach(({ concertKey }, k) =>
    expect(chroma(concertKey.tonic)).toBe(chroma(keys[4 + Math.floor(k / 4)]?.tonic ?? concertKey.tonic)),
  );
});
