// Database, web process and supervisor killed at random while clients save; then a backup and its restoration.
import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { inProject, isAlive } from '../setup/project.mjs';
import { answered, chanceFrom, program, send, wait } from './program.mjs';
import { savers } from './savers.mjs';

export async function kills(report, { seconds, seed }) {
  const chance = chanceFrom(seed);
  const own = await program('kills');
  const count = { database: 0, web: 0, supervisor: 0 };
  try {
    await own.begin();
    const until = Date.now() + 1_000 * seconds;
    const saving = await savers({ addresses: [own.address], until, seed });
    while (Date.now() < until) {
      await wait(2_500 + chance() * 5_000);
      const which = ['database', 'web', 'supervisor'][Math.floor(chance() * 3)];
      const pid = { database: own.databasePid(), web: own.webPid(), supervisor: own.supervisorPid }[which];
      if (!pid || !isAlive(pid)) continue;
      process.kill(pid, 'SIGKILL');
      count[which] += 1;
      if (which !== 'supervisor') continue;
      await wait(chance() * 2_000);
      own.start();
    }
    await own.steady();
    const outcome = await saving.outcome(report);
    report(
      `${outcome.count} saves acknowledged through ${count.database} kills of the database, ${count.web} of the web process, ${count.supervisor} of the supervisor; ${outcome.lost} lost`,
    );
    const isBackedUp = await backedUpAndRestored(own, saving.tunes, report);
    await own.end();
    const left = own.leftBehind();
    if (left.length > 0) report(`Still running after the end: ${left.join(', ')}`);
    return outcome.lost === 0 && outcome.count > 20 && isBackedUp && left.length === 0;
  } finally {
    await own.end();
  }
}

/**
 * A backup made while the program runs gives back what was there, after everything was removed; a damaged one changes
 * nothing.
 */
async function backedUpAndRestored(own, tunes, report) {
  const script = (name, file) => {
    const done = spawnSync(process.execPath, [inProject('scripts', name), file], {
      cwd: inProject(),
      env: { ...process.env, REED_DATA: own.folder },
      encoding: 'utf8',
    });
    return { status: done.status, said: `${done.stdout}${done.stderr}` };
  };
  const titles = async () => (await answered(own.address, '/api/tunes')).tunes.map(({ title }) => title).join(', ');
  const file = join(own.folder, 'chaos.sql.gz');
  const before = await titles();
  const made = script('backup.mjs', file);
  for (const id of tunes) await send(own.address, 'DELETE', `/api/tunes/${id}`);
  const between = await titles();
  await own.end();
  writeFileSync(join(own.folder, 'half.sql.gz'), readFileSync(file).subarray(0, 2_000));
  const damaged = script('restore.mjs', join(own.folder, 'half.sql.gz'));
  const restored = script('restore.mjs', file);
  await own.begin();
  const after = await titles();
  const isWhole =
    made.status === 0 && restored.status === 0 && damaged.status !== 0 && after === before && between !== before;
  report(
    isWhole
      ? 'A backup made while running gave everything back; half of it was refused.'
      : `The backup did not give everything back: ${JSON.stringify([made, damaged, restored, before, between, after]).slice(0, 1_500)}`,
  );
  return isWhole;
}
