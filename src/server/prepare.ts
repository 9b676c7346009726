import { readAbc } from '../core/formats/abc/readAbc';
import { formatProblemText } from '../core/formats/problem';
import { LEVELS } from '../core/instruments/instrument';
import type { Recipe } from '../core/levels/recipe';
import type { Work } from '../core/levels/work';
import { parseKey } from '../core/pitch/key';
import { migrate } from '../db/migrate';
import { ensureStudio } from '../db/studioRepository';
import { addWork } from '../db/tuneRepository';
import { DEMO_STUDIO_NAME, DEMO_TUNES, type DemoTune } from '../demo/studio';
import { closePool, currentStudio, pool } from './database';

/** Brings the database up to date and, the first time, puts the demo tunes on the shelf. Run by the start command. */
async function prepare(): Promise<void> {
  await migrate(pool());
  // All or nothing: a start that is broken off here finds no studio the next time and begins again.
  await currentStudio().transaction(async (studio) => {
    if (!(await ensureStudio(studio, DEMO_STUDIO_NAME))) return;
    for (const demo of DEMO_TUNES) await addWork(studio, demo.slug, demoWork(demo), new Date());
  });
}

function demoWork(demo: DemoTune): Work {
  const read = readAbc(demo.abc);
  if (!read.ok) throw new Error(`demo tune ${demo.slug}: ${read.problems.map(formatProblemText).join('; ')}`);
  const recipes: Work['recipes'] = Object.fromEntries(LEVELS.map((level): [string, Recipe] => {
    const { instrument, key, perMinute } = demo.levels[level];
    const parsed = key === undefined ? undefined : parseKey(key);
    if (parsed && !parsed.ok) throw new Error(`demo tune ${demo.slug}: ${key} is no key`);
    return [level, { instrument, ...(parsed && { key: parsed.value }), ...(perMinute !== undefined && { perMinute }) }];
  }));
  return { tune: { ...read.tune, source: demo.source, rights: 'own' }, recipes };
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
