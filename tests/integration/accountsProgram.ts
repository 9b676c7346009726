import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { request } from 'node:http';
import { request as requestByTls } from 'node:https';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** What was answered. */
export interface Answered {
  readonly status: number;
  readonly headers: Readonly<Record<string, string | string[] | undefined>>;
  readonly text: string;
  /** The session's cookie as the browser would send it; empty where it was taken away. */
  readonly cookie?: string;
}

interface Asking {
  readonly cookie?: string | undefined;
  readonly json?: unknown;
  readonly headers?: Readonly<Record<string, string>>;
}

/** The program with accounts, as it is started for a school: a web process on a port of its own, on the test database. */
export interface AccountsProgram {
  readonly origin: string;
  readonly ask: (method: string, path: string, asking?: Asking) => Promise<Answered>;
  /** All that was written into its log. */
  readonly logged: () => string;
  readonly outbox: string;
  readonly stop: () => Promise<void>;
}

/** Whence requests come that go through a proxy. */
export const CALLER = '127.0.0.2';

/** @param tls the port of a proxy that ends TLS before it, and starts once its port is known */
export async function startAccountsProgram(
  databaseUrl: string,
  tls?: { readonly port: number; readonly start: (port: number) => void },
): Promise<AccountsProgram> {
  const port = await freePort();
  const origin = tls ? `https://localhost:${tls.port}` : `http://127.0.0.1:${port}`;
  tls?.start(port);
  const folder = mkdtempSync(join(tmpdir(), 'reed-accounts-'));
  const outbox = join(folder, 'outbox');
  const web: ChildProcess = spawn(process.execPath, [join(process.cwd(), 'scripts', 'serve.mjs')], {
    env: {
      ...process.env,
      PORT: String(port),
      DATABASE_URL: databaseUrl,
      REED_ORIGIN: origin,
      ...(tls && { REED_PROXIES: '127.0.0.1' }),
      REED_OUTBOX: outbox,
      REED_CACHE: join(folder, 'cache'),
      REED_LOG: 'debug',
      NODE_ENV: 'production',
      NEXT_TELEMETRY_DISABLED: '1',
    },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let log = '';
  web.stderr?.on('data', (chunk: Buffer) => (log += chunk.toString()));
  const ask = (method: string, path: string, { cookie, json, headers = {} }: Asking = {}) =>
    new Promise<Answered>((done, failed) => {
      const body = json === undefined ? undefined : JSON.stringify(json);
      const asked = (tls ? requestByTls : request)(
        {
          host: '127.0.0.1',
          port: tls?.port ?? port,
          // The certificate is the test's own.
          rejectUnauthorized: false,
          // A caller that is not the proxy itself.
          ...(tls && { localAddress: CALLER }),
          method,
          path,
          headers: {
            origin,
            host: new URL(origin).host,
            ...(cookie !== undefined && { cookie }),
            ...(body !== undefined && {
              'content-type': 'application/json',
              'content-length': Buffer.byteLength(body),
            }),
            ...headers,
          },
        },
        (answer) => {
          const chunks: Buffer[] = [];
          answer.on('data', (chunk: Buffer) => chunks.push(chunk));
          answer.on('error', failed);
          answer.on('end', () => {
            const set = answer.headers['set-cookie']?.[0]?.split(';', 1)[0];
            done({
              status: answer.statusCode ?? 0,
              headers: answer.headers,
              text: Buffer.concat(chunks).toString(),
              ...(set !== undefined && { cookie: set.endsWith('=') ? '' : set }),
            });
          });
        },
      );
      asked.on('error', failed);
      asked.end(body);
    });
  const until = Date.now() + 120_000;
  for (;;) {
    const isUp = await ask('GET', '/api/health').then(
      ({ status }) => status === 200,
      () => false,
    );
    if (isUp) break;
    if (Date.now() > until || web.exitCode !== null) throw new Error(`the program did not start: ${log.slice(-2_000)}`);
    await new Promise((again) => setTimeout(again, 200));
  }
  return {
    origin,
    ask,
    logged: () => log,
    outbox,
    stop: async () => {
      web.kill('SIGTERM');
      await new Promise((ended) => (web.exitCode === null ? web.once('exit', ended) : ended(undefined)));
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

export function freePort(): Promise<number> {
  return new Promise((done, failed) => {
    const server = createServer();
    server.on('error', failed);
    server.listen(0, '127.0.0.1', () => {
      const address = server.address();
      server.close(() => done(typeof address === 'object' && address ? address.port : 0));
    });
  });
}
