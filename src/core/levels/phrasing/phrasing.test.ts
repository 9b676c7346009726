import { handNames, handOf, programsPart } from '../../../../tests/hands';
import { byBarStruck, changedBars, likeness, marksOf } from '../../../../tests/likeness';
import { likelyTune } from '../../../../tests/likelyTune';
import {
  breathFaults,
  filledEnds,
  oddInflections,
  type Pencil,
  phrasingOfPart,
  slurFaults,
  turnedIntervals,
} from '../../../../tests/pencil';
import { instrument as given, tuneOf } from '../../../../tests/given';
import { LEVELS, type Level } from '../../instruments/instrument';
import { bestKey } from '../../keys/startKey';
import { isNote, type Note, type Tune } from '../../score/tune';
import { inKey } from '../fit/inKey';
import { pageRequest } from '../page/pageRequest';
import { partFor } from '../parts/partFor';
import type { Phrasing } from '../../work/groups';
import { phrasingOf } from './styles';

const penciled = (tune: Tune, id: string, level: Level, phrasing?: Phrasing): Pencil => {
  const instrument = given(id);
  const key = bestKey(tune, [{ instrument, level }]);
  const { value: part } = partFor(tune, {
    level,
    instrument,
    keyAndTempo: { key },
    page: pageRequest({}, instrument, level),
    ...(phrasing && { articulation: { phrasing } }),
  });
  return { tune: { ...tune, ...inKey(tune, key) }, part };
};
const notesOf = ({ part }: Pick<Pencil, 'part'>): readonly Note[] =>
  part.bars.flatMap(({ events }) => events.filter(isNote));

const WINDS = ['flute', 'alto-sax', 'trumpet-bb'] as const;
const PENCILED = Array.from({ length: 24 }, (_, seed) =>
  [...WINDS, 'violin', 'cello'].flatMap((id) =>
    LEVELS.map((level) => ({
      name: `${seed} ${id} ${level}`,
      id,
      level,
      pencil: penciled(likelyTune(seed), id, level),
    })),
  ),
).flat();

/** What is found, with the name of its part. */
const found = (faultsOf: (pencil: Pencil, level: Level, id: string) => readonly string[]) =>
  PENCILED.flatMap(({ name, pencil, level, id }) => faultsOf(pencil, level, id).map((fault) => `${name}: ${fault}`));

describe('what a musician would mark in pencil, in parts of tunes that nobody tuned for', () => {
  test('no slur over the end of a phrase or a repeated note', () => {
    expect(found(slurFaults)).toEqual([]);
  });

  test('no phrase end that lasts is filled, and nothing sounds against the chord', () => {
    expect(found(filledEnds)).toEqual([]);
    expect(found(oddInflections)).toEqual([]);
  });

  test('breaths stand at ends of phrases or in their middle, in equal phrases alike, and do not fade', () => {
    expect(found((pencil, _, id) => (WINDS.some((wind) => wind === id) ? breathFaults(pencil) : []))).toEqual([]);
    const breaths = (level: Level) =>
      PENCILED.filter((one) => one.level === level && one.id === 'flute').reduce(
        (sum, { pencil }) =>
          sum + notesOf(pencil).filter(({ articulations }) => articulations?.includes('breath')).length,
        0,
      );
    expect(Math.min(...LEVELS.map(breaths))).toBeGreaterThan(0.4 * Math.max(...LEVELS.map(breaths)));
  });

  test('winds above the first year have slurs or dots in a quarter of their bars, and everybody begins with a loudness', () => {
    expect(
      found((pencil, level, id) => {
        const { share, isLoud } = phrasingOfPart(pencil);
        const isBare = level !== 'beginner' && WINDS.some((wind) => wind === id) && share < 0.25;
        return [...(isLoud ? [] : ['no loudness']), ...(isBare ? [`slurs in ${share} of the bars`] : [])];
      }),
    ).toEqual([]);
  });

  test('hardly a first-year part turns an interval inside a bar or onto a repeated note', () => {
    const beginners = PENCILED.filter(({ level }) => level === 'beginner');
    const turned = beginners.filter(({ pencil }) => turnedIntervals(pencil).length > 0);
    expect(turned.length).toBeLessThanOrEqual(beginners.length * 0.02);
  });

  test('each of these finds what it looks for', () => {
    const tune = tuneOf(
      '"G"G2 B2 d4 | "C"c4 G4 | "D7"A2 d2 f4 | "G"g8 | "G"G2 B2 d4 | "C"c4 G4 | "D7"A2 F2 G4 | "G"G8 |',
      'M:4/4\nL:1/8\nQ:1/4=100\nK:G',
    );
    const pencil = penciled(tune, 'flute', 'intermediate', 'none');
    const broken = (change: (note: Note, k: number) => Note): Pencil => {
      let k = 0;
      const bars = (all: Tune['bars']) => {
        k = 0;
        return all.map((bar) => ({
          ...bar,
          events: bar.events.map((event) => (isNote(event) ? change(event, k++) : event)),
        }));
      };
      return {
        tune: pencil.tune,
        part: { ...pencil.part, bars: bars(pencil.part.bars), soundingBars: bars(pencil.part.soundingBars) },
      };
    };
    const first = broken((note, k) =>
      k === 0 ? { ...note, slurStarts: 1 } : k === 20 ? { ...note, slurEnds: 1 } : note,
    );
    expect(slurFaults(first).length).toBeGreaterThan(0);
    expect(
      breathFaults(broken((note, k) => (k === 0 ? { ...note, articulations: ['breath'] } : note))).length,
    ).toBeGreaterThan(0);
    expect(
      turnedIntervals(broken((note, k) => (k === 2 ? { ...note, pitch: { ...note.pitch, octave: 3 } } : note))).length,
    ).toBeGreaterThan(0);
    expect(
      oddInflections(
        broken((note, k) =>
          k === 4 ? { ...note, id: 'x', pitch: { ...note.pitch, alter: note.pitch.alter + 1 } } : note,
        ),
      ).length,
    ).toBeGreaterThan(0);
    expect(phrasingOfPart(pencil)).toEqual({ share: 0, isLoud: false });
  });
});

test('the style of a tune is told by its rhythm and tempo, and by what it is called', () => {
  const plain = (name: string) => phrasingOf({ ...handOf(name).tune, title: 'T' });
  expect(Object.fromEntries(handNames().map((name) => [name, plain(name)]))).toEqual({
    'bilge-pump-blues': 'swing',
    'boots-over-the-sluice': 'dance',
    'eel-traps-at-midnight': 'tango',
    'five-planks-ashore': 'song',
    'fog-on-the-warps': 'air',
    'ladder-to-the-loft': 'dance',
    'lanterns-on-the-slip': 'song',
    'late-ferry': 'song',
    'quiet-moorings': 'hymn',
    'six-at-the-capstan': 'march',
  });
  expect(phrasingOf({ ...likelyTune(1), title: 'March of the Herring' })).toBe('march');
});

test("the tune's own marks stand; with the phrasing left to the player there are no others, and a teacher's style goes first", () => {
  const tune = tuneOf(
    '!p!"G"G2 (A2 B2) d2 | "C"c2 e2 g4 | "D7".f2 .d2 A4 | "G"B8 | "G"G2 A2 B2 d2 | "C"c2 e2 g4 | "D7"f2 d2 A4 | "G"G8 |',
    'M:4/4\nL:1/8\nQ:1/4=100\nK:G',
  );
  const marks = (phrasing?: Phrasing) =>
    penciled(tune, 'flute', 'intermediate', phrasing).part.bars.map(({ events }) =>
      events
        .filter(isNote)
        .map(
          ({ dynamic = '', slurStarts, articulations = [] }) =>
            `${dynamic}${slurStarts ? '(' : ''}${articulations.filter((one) => one !== 'breath').join()}`,
        )
        .join(' ')
        .trim(),
    );
  expect(marks('none')).toEqual(
    ['p (', '', 'staccato staccato', '', '', '', '', ''].map((text) =>
      expect.stringMatching(new RegExp(`^${text.replace('(', '\\(').replace(' ', ' *')}`)),
    ),
  );
  const usual = marks();
  expect([usual[0]?.startsWith('p ('), usual[2]?.startsWith('staccato staccato')]).toEqual([true, true]);
  expect(usual.slice(4).join('')).toContain('(');
  expect(marks('march').slice(4).join(' ')).toContain('accent');
});

test('a part of a bar that a teacher wrote keeps the marks that it was written with', () => {
  const tune = tuneOf('"G"G2 A2 B2 d2 | "C"c2 e2 g4 | "D7"f2 d2 A4 | "G"G8 |', 'M:4/4\nL:1/8\nQ:1/4=100\nK:G');
  const [bar] = tune.bars;
  if (!bar) throw new Error('no bar');
  const own = { kind: 'own' as const, events: bar.events, key: tune.key, octaves: 0 };
  const { value } = partFor(tune, {
    level: 'intermediate',
    instrument: given('flute'),
    bars: { chosen: { [bar.id]: own } },
  });
  expect(value.bars[0]?.events.filter(isNote).some(({ slurStarts, slurEnds }) => slurStarts ?? slurEnds)).toBe(false);
});

/** No farther from a hand than what was reached: see `npm run fuzz -- hands` for the figures. */
test.each([
  ['beginner', 0.93, 0.8, 0.3],
  ['intermediate', 0.88, 0.3, 0.35],
  ['advanced', 0.64, 0.7, 0.45],
] as const)(
  '%s parts are near to those arranged by hand: notes, bars that differ, slurs and loudness',
  (level, struck, changed, apart) => {
    const rows = handNames().map((name) => {
      const hand = handOf(name);
      const [part, byHand] = [programsPart(hand, level), hand.levels[level]];
      const [tune, mine, theirs] = [hand.tune, part, byHand].map((one) => byBarStruck(one));
      const [a, b] = [marksOf(part), marksOf(byHand)];
      return {
        struck: likeness(mine ?? [], theirs ?? []),
        changed: changedBars(tune ?? [], mine ?? [], theirs ?? []),
        slurs: a.slurs - b.slurs,
        dynamics: a.dynamics - b.dynamics,
        breaths: a.breaths - b.breaths,
      };
    });
    const mean = (of: (row: (typeof rows)[number]) => number) =>
      rows.reduce((sum, row) => sum + of(row), 0) / rows.length;
    expect(mean((row) => row.struck)).toBeGreaterThan(struck);
    expect(mean((row) => row.changed)).toBeGreaterThan(changed);
    for (const marks of ['slurs', 'dynamics', 'breaths'] as const)
      expect(Math.abs(mean((row) => row[marks]))).toBeLessThan(apart);
  },
);
