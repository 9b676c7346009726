import { readAbc } from '../core/formats/abc/readAbc';
import { formatProblemText } from '../core/formats/problem';
import { LEVELS } from '../core/instruments/instrument';
import type { Recipe } from '../core/levels/recipe/recipe';
import type { Work } from '../core/levels/recipe/work';
import { parseKey } from '../core/pitch/key';
import { migrate } from '../db/migrate';
import { ensureStudio } from '../db/studioRepository';
import { addWork } from '../db/tuneRepository';
import { parsePitch } from '../core/pitch/pitch';
import type { Group } from '../core/keys/group';
import { parseNotes } from '../core/pitch/noteList';
import { addGroup } from '../db/groupRepository';
import { DEMO_GROUPS, DEMO_STUDIO_NAME, DEMO_TUNES, type DemoTune } from '../demo/studio';
import { closePool, currentStudio, pool } from './database';
import { checkGroup } from './groupSchema';

/** Brings the database up to date and, the first time, puts the demo tunes on the shelf. Run by the start command. */
async function prepare(): Promise<void> {
  await migrate(pool());
  // All or nothing: a start that is broken off here finds no studio the next time and begins again.
  await currentStudio().transaction(async (studio) => {
    if (!(await ensureStudio(studio, DEMO_STUDIO_NAME))) return;
    for (const [index, group] of DEMO_GROUPS.entries())
      await addGroup(studio, `demo-${index + 1}`, demoGroup(group), new Date(Date.now() + index));
    for (const demo of DEMO_TUNES) await addWork(studio, demo.slug, demoWork(demo), new Date());
  });
}

function demoGroup({ name, players }: (typeof DEMO_GROUPS)[number]): Group {
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

function demoWork(demo: DemoTune): Work {
  const read = readAbc(demo.abc);
  if (!read.ok) throw new Error(`demo tune ${demo.slug}: ${read.problem.map(formatProblemText).join('; ')}`);
  const recipes: Work['recipes'] = Object.fromEntries(
    LEVELS.map((level): [string, Recipe] => {
      const { instrument, key, perMinute } = demo.levels[level];
      const parsed = key === undefined ? undefined : parseKey(key);
      if (parsed && !parsed.ok) throw new Error(`demo tune ${demo.slug}: ${key} is no key`);
      return [
        level,
        { instrument, ...(parsed && { key: parsed.value }), ...(perMinute !== undefined && { perMinute }) },
      ];
    }),
  );
  return {
    tune: { ...read.value.tune, source: demo.source, rights: 'own', ...(demo.swing && { swing: demo.swing }) },
    recipes,
  };
}

try {
  await prepare();
} catch (error) {
  // Run by a script: one line says what is wrong, the trace would only hide it.
  process.stderr.write(`${error instanceof Error ? error.message.slice(0, 500) : String(error)}\n`);
  process.exitCode = 1;
} finally {
  await closePool();
}
