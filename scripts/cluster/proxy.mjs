// haproxy before the web processes: the example that operators are given, with the addresses of this machine.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { findProgram } from '../setup/packages.mjs';
import { inProject, run, startProcess, stopWith } from '../setup/project.mjs';

/**
 * @param port where it is asked
 * @param webs the ports of the web processes
 */
function proxySettings(port, webs) {
  const example = readFileSync(inProject('docs', 'examples', 'haproxy.cfg'), 'utf8');
  const servers = webs.map((web, k) => `    server web${k + 1} 127.0.0.1:${web} check`);
  return `${example
    .replace('bind 127.0.0.1:8080', `bind 127.0.0.1:${port}`)
    .replace(/^ +server .*\n?/gm, '')
    .trimEnd()}\n${servers.join('\n')}\n`;
}

/** Starts it, once its settings have been read through. */
export function startProxy(folder, port, webs) {
  const file = join(folder, 'haproxy.cfg');
  writeFileSync(file, proxySettings(port, webs), { mode: 0o600 });
  const program = findProgram('haproxy');
  const { status, output } = run(program, ['-c', '-f', file], { allowFailure: true });
  if (status !== 0) stopWith(`haproxy does not take its settings:\n${output}`);
  return startProcess(program, ['-db', '-f', file], { stdio: 'ignore' });
}
