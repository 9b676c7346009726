import { spawnSync } from 'node:child_process';

/** Runs the command as its script in package.json does. */
export const reed = (...words: readonly string[]) => run(process.execPath, ['scripts/reed.mjs', ...words]);

/** Runs the command as a person does; npm's own warnings are left out of its errors. */
export const reedByNpm = (...words: readonly string[]) => run('npm', ['run', '--silent', 'reed', '--', ...words]);

const run = (command: string, args: readonly string[]) => {
  const { status, stdout, stderr } = spawnSync(command, args, {
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
