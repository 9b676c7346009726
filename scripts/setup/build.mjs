import { existsSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { inProject, run, say } from './project.mjs';

const SOURCES = ['src', 'public', 'next.config.ts', 'postcss.config.mjs', 'package-lock.json', 'tsconfig.json'];

/** Builds for production when there is no build or any source is newer. */
export function ensureBuild() {
  const stamp = inProject('.next', 'built-at');
  if (existsSync(stamp) && newest(SOURCES.map((name) => inProject(name))) <= statSync(stamp).mtimeMs) return;
  say('Building …');
  run(process.execPath, [inProject('node_modules', 'next', 'dist', 'bin', 'next'), 'build'], {
    env: { NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
  });
  run(process.execPath, [inProject('scripts', 'setup', 'bundleWorker.mjs')]);
  writeFileSync(stamp, '');
}

function newest(paths) {
  let latest = 0;
  for (const path of paths) {
    if (!existsSync(path)) continue;
    const stat = statSync(path);
    if (stat.isDirectory()) latest = Math.max(latest, newest(readdirSync(path).map((name) => join(path, name))));
    else if (!/\.test\.tsx?$/.test(path)) latest = Math.max(latest, stat.mtimeMs);
  }
  return latest;
}
