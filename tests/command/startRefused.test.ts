import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

test('a data folder that cannot be written is told at once, with what to do', () => {
  const place = mkdtempSync(join(tmpdir(), 'reed-start-'));
  writeFileSync(join(place, 'in-the-way'), '');
  try {
    const folder = join(place, 'in-the-way', 'data');
    const done = spawnSync(process.execPath, ['scripts/start.mjs'], {
      env: { ...process.env, REED_DATA: folder },
      encoding: 'utf8',
      timeout: 60_000,
    });
    expect([done.status, done.stdout]).toEqual([1, '']);
    expect(done.stderr).toContain(`The data folder ${folder} cannot be written: a file of that name is in the way.`);
    expect(done.stderr).toContain('REED_DATA=/some/folder npm start');
  } finally {
    rmSync(place, { recursive: true });
  }
});
