import { tuneOf } from '../../tests/given';
import { drillTune } from '../core/drills/sketch';
import { partOfLevel } from '../core/levels/levelPart';
import type { Work } from '../core/work/work';
import type { Tune } from '../core/score/tune';
import { lanesFor, markChanged, stavesOfRow, type PitchView } from './lanes';

const TUNE = tuneOf('"G"G2 A>B c2 z2 | "D7"(3def d2 A4- | A8 | "G"G8 |]', 'M:4/4\nL:1/8\nK:G');
const work = (recipes: Work['recipes'] = {}, tune: Tune = TUNE): Work => ({ tune, recipes });
const lanes = (view: PitchView = 'written', of = work(), width = 800) => lanesFor(of, view, width);
const info = (id: string, view: PitchView = 'written', of = work()) => {
  const found = lanes(view, of).infos.find((one) => one.id === id);
  if (!found) throw new Error(id);
  return found;
};

describe('what is said of a lane', () => {
  test('bars are read out: note by note with their lengths, groups, ties and rests', () => {
    expect(info('tune').barTexts).toEqual([
      'G4 quarter, A4 dotted eighth, B4 sixteenth, C5 quarter, rest quarter',
      'D5 eighth of a group of 3, E5 eighth of a group of 3, F♯5 eighth of a group of 3, D5 quarter, A4 half note tied on',
      'A4 whole note',
      'G4 whole note',
    ]);
  });

  test('key, range and bars are those of the view: what an alto saxophone reads, or what sounds', () => {
    const alto = { advanced: { instrument: 'alto-sax' } } as const;
    const [written, sounding] = (['written', 'sounding'] as const).map((view) => info('advanced', view, work(alto)));
    expect([written?.keyName, sounding?.keyName, sounding?.writtenKey]).toEqual(['E major', 'G major', 'E major']);
    expect(written?.barTexts[2]).not.toBe(sounding?.barTexts[2]);
    expect(written?.range).toBe(sounding?.range);
  });

  test('changes are told in the pitch on screen', () => {
    const told = (view: PitchView) =>
      info('beginner', view, work({ beginner: { instrument: 'alto-sax' } }))
        .changes.map(({ what }) => what)
        .join('\n');
    expect(told('written')).not.toBe(told('sounding'));
    expect(told('sounding')).toMatch(/became/);
  });

  test('the tune has neither difficulty nor changes: it is what it is', () => {
    expect(info('tune')).toMatchObject({ difficulty: [], changes: [], fidelity: 100, range: '' });
    expect(info('beginner').difficulty).toHaveLength(TUNE.bars.length);
  });
});

describe('which lanes there are', () => {
  const ids = (of: ReturnType<typeof lanes>) => of.staves.map(({ id }) => id);

  test('the tune and its three levels, or the tune alone while it is written', () => {
    expect(ids(lanes())).toEqual(['tune', 'beginner', 'intermediate', 'advanced']);
    expect(ids(lanesFor(work(), 'written', 800, undefined, 'tune'))).toEqual(['tune']);
  });

  test('a second part stands under the tune, without its chords', () => {
    const both: Tune = {
      ...TUNE,
      bars: TUNE.bars.map((bar, k) => ({
        ...bar,
        second: bar.events.map((event) => ({ ...event, id: `s${k}${event.id}` })),
      })),
    };
    const found = lanes('written', work({}, both));
    expect(ids(found).slice(0, 2)).toEqual(['tune', 'second']);
    expect(found.staves[1]?.bars.some((bar) => bar.chords.length > 0)).toBe(false);
  });

  test('the levels of a drill are told of, but drawn as rows of their own', () => {
    const drill = lanes('written', work({}, drillTune({ steps: [{ set: 'major', pattern: 'scale' }] })));
    expect(ids(drill)).toEqual(['tune']);
    expect(drill.infos.map(({ id }) => id)).toEqual(['tune', 'beginner', 'intermediate', 'advanced']);
    expect(drill.numbers).toEqual(drill.numbers.map((_, k) => k + 1));
  });
});

test('rows hold every bar once, and more of them the narrower the screen is', () => {
  const long: Tune = {
    ...TUNE,
    bars: Array.from({ length: 6 }, (_, k) => TUNE.bars.map((bar) => ({ ...bar, id: `${bar.id}x${k}` }))).flat(),
  };
  const rows = (width: number) => lanes('written', work({}, long), width).lines;
  for (const width of [400, 800, 1_600]) {
    expect(rows(width)[0]?.from).toBe(0);
    expect(rows(width).at(-1)?.to).toBe(long.bars.length);
    rows(width)
      .slice(1)
      .forEach(({ from }, k) => expect(from).toBe(rows(width)[k]?.to));
  }
  expect(rows(400).length).toBeGreaterThan(rows(1_600).length);
});

test('a lane that did not change is the same object, so that its rows need not be drawn anew', () => {
  const kept = new Map<string, ReturnType<typeof partOfLevel>>();
  // As the bench does it: a part is made anew only where its level was changed.
  const keeping: typeof partOfLevel = (tune, level, recipes) => {
    const name = `${level}/${JSON.stringify(recipes[level])}`;
    const part = kept.get(name) ?? partOfLevel(tune, level, recipes);
    kept.set(name, part);
    return part;
  };
  const [before, after] = [{}, { advanced: { instrument: 'violin' } }].map((recipes) =>
    lanesFor(work(recipes), 'written', 800, keeping),
  ) as [ReturnType<typeof lanes>, ReturnType<typeof lanes>];
  expect(after.staves[1]).toBe(before.staves[1]);
  expect(after.staves[3]).not.toBe(before.staves[3]);
});

test('small staves stand over a lane only in rows that have something for them', () => {
  const id = TUNE.bars[3]?.id ?? '';
  const found = lanes(
    'written',
    work({ beginner: { instrument: 'flute', bars: { alternates: { [id]: { kind: 'rest' } } } } }),
  );
  const inRow = (from: number, to: number) => stavesOfRow(found, { from, to }).map((staff) => staff.id);
  expect(inRow(0, 3)).toEqual(['tune', 'beginner', 'intermediate', 'advanced']);
  expect(inRow(3, 4)).toHaveLength(5);
  expect(inRow(3, 4)[2]).toBe('beginner');
});

test('changed notes and rests of a picture have a class, others and their insides do not', () => {
  const svg =
    '<g id="a" class="note"><g id="a-stem" class="stem"/></g><g id="b" class="rest"/><g id="c" class="note"/>';
  expect(markChanged(svg, new Set(['a', 'b', 'a-stem']))).toBe(
    '<g id="a" class="note changed"><g id="a-stem" class="stem"/></g><g id="b" class="rest changed"/><g id="c" class="note"/>',
  );
});
