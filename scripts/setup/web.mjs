import { request } from 'node:http';
import { inProject, startProcess } from './project.mjs';

const serve = inProject('scripts', 'serve.mjs');

/** Brings the tables up to date and puts the demo tunes on an empty shelf. */
export const prepareCommand = ['--import', 'tsx', inProject('src', 'server', 'prepare.ts')];

/**
 * Starts a web process on a port; or one behind it that is given its connections by whoever starts it, and listens for
 * itself on a port that it chooses and tells, on this machine alone.
 */
export function startWeb({
  port,
  databaseUrl,
  cache,
  log,
  dev = false,
  isBehind = false,
  stdio = ['ignore', 'ignore', 'inherit'],
}) {
  return startProcess(process.execPath, [serve], {
    env: {
      PORT: String(port),
      ...(isBehind && { REED_BEHIND: '1' }),
      DATABASE_URL: databaseUrl,
      ...(cache && { REED_CACHE: cache }),
      ...(log && { REED_LOG: log }),
      NODE_ENV: dev ? 'development' : 'production',
      NEXT_TELEMETRY_DISABLED: '1',
    },
    stdio: isBehind ? [...stdio, 'ipc'] : stdio,
  });
}

/**
 * Waits until the app answers; false when it has not after the time given or the process has ended.
 * @param port a number, or what gives it once it is known
 */
export async function webAnswers(web, port, milliseconds = 60_000) {
  const until = Date.now() + milliseconds;
  while (Date.now() < until && web.exitCode === null && web.signalCode === null) {
    const number = typeof port === 'function' ? port() : port;
    if (number !== undefined && (await isUp(number, '/api/health'))) return true;
    await new Promise((done) => setTimeout(done, 100));
  }
  return false;
}

/** Whether an address of the app answers that all is well, within the time given. */
export function isUp(port, path, milliseconds = 3_000) {
  return new Promise((done) => {
    const asked = request({ host: '127.0.0.1', port, path, timeout: milliseconds }, (answer) => {
      answer.resume();
      done(answer.statusCode === 200);
    });
    asked.on('error', () => done(false));
    asked.on('timeout', () => {
      asked.destroy();
      done(false);
    });
    asked.end();
  });
}
