// The data folder on a small disk of its own, which is full for a while in the middle of saving.
import { spawnSync } from 'node:child_process';
import { mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { inProject } from '../setup/project.mjs';
import { program, wait } from './program.mjs';
import { savers } from './savers.mjs';

/** Megabytes: what an empty database takes, and some tens more. */
const DISK = 320;
/** Milliseconds. */
const [BEFORE, FULL, AFTER] = [6_000, 12_000, 15_000];

/** @returns nothing where this machine lets nobody make such a disk, which is said */
export async function fullDisk(report, { seed }) {
  const folder = inProject('.test-data', 'chaos-disk');
  spawnSync('umount', [folder]);
  mkdirSync(folder, { recursive: true });
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK}m,mode=711`, 'tmpfs', folder], {
    encoding: 'utf8',
  });
  if (mounted.status !== 0) {
    report(`Not tried: this user may not mount a small disk (${mounted.stderr.trim()}).`);
    return undefined;
  }
  const own = await program('disk', { folder });
  const filler = join(folder, 'filler');
  try {
    await own.begin();
    const saving = await savers({ addresses: [own.address], until: Date.now() + BEFORE + FULL + AFTER, seed });
    await wait(BEFORE);
    // Until nothing more goes on it.
    spawnSync('dd', ['if=/dev/zero', `of=${filler}`, 'bs=64k'], { stdio: 'ignore' });
    await wait(FULL);
    rmSync(filler);
    await wait(AFTER);
    await own.steady();
    const { count, lost, refused } = await saving.outcome(report);
    report(
      `${count} saves acknowledged around ${FULL / 1_000} s of a full disk, ${refused} told to wait; ${lost} lost`,
    );
    return lost === 0 && count > 20;
  } finally {
    rmSync(filler, { force: true });
    await own.end();
    await wait(500);
    spawnSync('umount', ['-l', folder]);
  }
}
