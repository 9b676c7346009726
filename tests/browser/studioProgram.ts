import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { connect } from '../../src/db/connect';
import { startAccountsProgram } from '../integration/accountsProgram';

/** The program with accounts and its demo studio, in a database of its own. */
export interface StudioProgram {
  readonly origin: string;
  /** Where the first account is made. */
  readonly welcome: string;
  readonly stop: () => Promise<void>;
}

export async function firstStudioProgram(): Promise<StudioProgram> {
  const url = new URL(process.env['DATABASE_URL'] ?? '');
  const name = `reed_hook_house_${process.pid}`;
  const server = connect(url.toString());
  await server.raw(`CREATE DATABASE IF NOT EXISTS ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
  url.pathname = `/${name}`;
  const databaseUrl = url.toString();
  const prepare = (origin?: string) =>
    spawnSync(process.execPath, ['--import', 'tsx', join(process.cwd(), 'src', 'server', 'prepare.ts')], {
      env: { ...process.env, DATABASE_URL: databaseUrl, ...(origin !== undefined && { REED_ORIGIN: origin }) },
      encoding: 'utf8',
    });
  prepare();
  const program = await startAccountsProgram(databaseUrl);
  const { stdout } = prepare(program.origin);
  return {
    origin: program.origin,
    welcome: /^first owner: (\S+)$/m.exec(stdout)?.[1] ?? '',
    stop: async () => {
      await program.stop();
      await server.raw(`DROP DATABASE IF EXISTS ${name}`);
      await server.destroy();
    },
  };
}
