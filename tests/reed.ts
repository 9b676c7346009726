import { spawnSync } from 'node:child_process';

/** Runs the command as a shell does; npm's own warnings are left out of its errors. */
export const reed = (...words: readonly string[]) => {
  const { status, stdout, stderr } = spawnSync('npm', ['run', '--silent', 'reed', '--', ...words], {
    cwd: process.cwd(),
    encoding: 'utf8',
    timeout: 120_000,
  });
  return {
    status,
    out: stdout,
    errors: stderr.split('\n').filter((line) => line !== '' && !line.startsWith('npm warn')),
  };
};
