import { storedWork } from '../core/work/stored/upgradeRecipe';
import { LEVELS } from '../core/instruments/instrument';
import { drillOfLevel, partOfLevel } from '../core/levels/levelPart';
import { nameKey } from '../core/pitch/key';
import { DEMO_DRILLS, DEMO_GROUPS, DEMO_TUNES } from '../demo/studio';
import { demoDrill, demoGroup, demoWork } from './demoStudio';
import { checkStoredTexts } from './workSchema';

test.each(DEMO_TUNES.map((demo) => [demo.slug, demo] as const))(
  'the demo tune %s opens as it was stored',
  (_, demo) => {
    const work = demoWork(demo);
    const { tune, recipes } = storedWork(work);
    const texts = Object.fromEntries(Object.entries(recipes).map(([level, recipe]) => [level, JSON.stringify(recipe)]));
    expect(checkStoredTexts({ tune: JSON.stringify(tune), recipes: texts })).toEqual({ ok: true, value: work });
    for (const level of LEVELS) {
      const { value } = partOfLevel(work.tune, level, work.recipes);
      const { instrument, key, perMinute } = demo.levels[level];
      expect([value.instrument.id, value.tempo.perMinute]).toEqual([instrument, perMinute ?? value.tempo.perMinute]);
      if (key) expect(nameKey(value.concertKey)).toMatch(new RegExp(`^${key.slice(0, 1)}`));
    }
  },
);

test.each(DEMO_DRILLS.map((demo) => [demo.slug, demo] as const))(
  'the demo drill %s opens as it was stored',
  (_, demo) => {
    const work = demoDrill(demo);
    const { tune, recipes } = storedWork(work);
    const texts = Object.fromEntries(Object.entries(recipes).map(([level, recipe]) => [level, JSON.stringify(recipe)]));
    expect(checkStoredTexts({ tune: JSON.stringify(tune), recipes: texts })).toEqual({ ok: true, value: work });
    const bars = LEVELS.map((level) => drillOfLevel(work.tune, level, work.recipes).line.sections.length);
    expect(bars.every((count) => count > 0)).toBe(true);
  },
);

test('the demo groups are whole', () => {
  expect(DEMO_GROUPS.map((group) => demoGroup(group).players.length)).toEqual(
    DEMO_GROUPS.map(({ players }) => players.length),
  );
});
