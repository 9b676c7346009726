// haproxy before the web processes: the settings of one machine, and the process.
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { findProgram } from '../setup/packages.mjs';
import { run, startProcess, stopWith } from '../setup/project.mjs';

/**
 * The settings. Only what reads is sent a second time where a process breaks off: what writes may have been done, and
 * whoever sent it knows by its id.
 * @param port where it is asked
 * @param webs the ports of the web processes
 */
function proxySettings(port, webs) {
  return [
    'global',
    '    maxconn 2000',
    'defaults',
    '    mode http',
    '    timeout connect 1s',
    '    timeout client 65s',
    '    timeout server 65s',
    '    timeout http-request 15s',
    '    timeout queue 10s',
    '    timeout check 1s',
    '    option redispatch 1',
    '    retries 4',
    'frontend reed',
    `    bind 127.0.0.1:${port}`,
    '    default_backend web',
    'backend web',
    '    balance leastconn',
    '    option httpchk',
    // Whether the process lives: a database that is away is no reason to send nobody anywhere.
    `    http-check send meth GET uri /api/health/live ver HTTP/1.1 hdr Host 127.0.0.1:${port}`,
    '    http-check expect status 200',
    '    retry-on conn-failure empty-response',
    '    http-request disable-l7-retry unless METH_GET',
    '    default-server inter 500ms fastinter 250ms fall 3 rise 1 on-marked-down shutdown-sessions',
    ...webs.map((web, k) => `    server web${k + 1} 127.0.0.1:${web} check`),
    '',
  ].join('\n');
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
