import { formatProblemText, readAbc } from '../core/formats';
import { LEVELS } from '../core/instruments';
import type { Group } from '../core/keys';
import type { Recipe, Work } from '../core/work';
import type { DrillIdea } from '../core/score';
import { parseKey, parseNotes, parsePitch } from '../core/pitch';
import { DEMO_TUNES, type DEMO_GROUPS, type DemoDrill, type DemoTune } from '../demo/studio';
import type { DemoLick } from '../demo/licks';
import { drillTune, formOfTune } from '../core/drills';
import { checkGroup } from './groupSchema';

/** A demo group with its pitches read. @throws Error where the demo is wrong */
export function demoGroup({ name, players }: (typeof DEMO_GROUPS)[number]): Group {
  const checked = checkGroup({
    name,
    players: players.map(({ high, known, ...player }, index) => {
      const top = high === undefined ? undefined : parsePitch(high);
      const notes = known === undefined ? undefined : parseNotes(known);
      return {
        ...player,
        id: `demo${index + 1}`,
        ...(top?.ok && { high: top.value }),
        ...(notes?.ok && { known: notes.value }),
      };
    }),
  });
  if (!checked.ok) throw new Error(`demo group ${name}: ${checked.problem.join('; ')}`);
  return checked.value;
}

/** A demo lick. @throws Error where the demo is wrong */
export function demoLick({ slug, abc, pupils }: DemoLick): Work {
  const read = readAbc(abc);
  if (!read.ok) throw new Error(`demo lick ${slug}: ${read.problem.map(formatProblemText).join('; ')}`);
  return { tune: { ...read.value.tune, rights: 'own', lick: { ...(pupils && { pupils }) } }, recipes: {} };
}

/** A demo tune with the levels that the teacher of the scenario chose. @throws Error where the demo is wrong */
export function demoWork(demo: DemoTune): Work {
  const read = readAbc(demo.abc);
  if (!read.ok) throw new Error(`demo tune ${demo.slug}: ${read.problem.map(formatProblemText).join('; ')}`);
  const recipes: Work['recipes'] = Object.fromEntries(
    LEVELS.map((level): [string, Recipe] => {
      const { instrument, key, perMinute } = demo.levels[level];
      const parsed = key === undefined ? undefined : parseKey(key);
      if (parsed && !parsed.ok) throw new Error(`demo tune ${demo.slug}: ${key} is no key`);
      const keyAndTempo = { ...(parsed && { key: parsed.value }), ...(perMinute !== undefined && { perMinute }) };
      return [level, { instrument, keyAndTempo }];
    }),
  );
  return {
    tune: { ...read.value.tune, source: demo.source, rights: 'own', ...(demo.swing && { swing: demo.swing }) },
    recipes,
  };
}

/** A demo drill with its levels. @throws Error where the demo is wrong */
export function demoDrill({ title, source, steps, keys, start, articulation, spoken, over, levels }: DemoDrill): Work {
  const tune = over === undefined ? undefined : DEMO_TUNES.find(({ slug }) => slug === over);
  const form = tune && formOfTune(demoWork(tune).tune);
  if (over !== undefined && !form) throw new Error(`demo drill ${title}: no tune ${over} with chords`);
  const idea: DrillIdea = {
    steps,
    ...(keys && { keys }),
    ...(start && { start }),
    ...(articulation && { articulation }),
    ...(spoken && { spoken }),
    ...(form && { over: form }),
  };
  const recipes: Work['recipes'] = Object.fromEntries(
    LEVELS.map((level): [string, Recipe] => {
      const { instrument, perMinute, range } = levels[level];
      const [low, high] = (range ?? []).map(parsePitch);
      return [
        level,
        {
          instrument,
          ...(perMinute !== undefined && { keyAndTempo: { perMinute } }),
          ...(low?.ok && high?.ok && { limits: { range: { low: low.value, high: high.value } } }),
        },
      ];
    }),
  );
  return { tune: { ...drillTune(idea, title), composer: 'The Net Loft', source }, recipes };
}
