import { spawnSync } from 'node:child_process';
import {
  chmodSync,
  chownSync,
  existsSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startMariaDb } from '../../scripts/setup/mariadb.mjs';

/** Only root has something to give away. */
const whereRoot = process.getuid?.() === 0 ? describe : describe.skip;

whereRoot('started by root, the database’s user gets nothing that is root’s', () => {
  const id = (flag: string) => Number(spawnSync('id', [flag, 'mysql'], { encoding: 'utf8' }).stdout);
  const user = { uid: id('-u'), gid: id('-g') };
  let place: string;
  beforeEach(() => {
    place = mkdtempSync(join(tmpdir(), 'reed-links-'));
    chmodSync(place, 0o711);
  });
  afterEach(() => rmSync(place, { recursive: true, force: true }));

  /** What root has, and must keep as it is. */
  function treasure() {
    const folder = join(place, 'of-root');
    mkdirSync(folder, { mode: 0o755 });
    const file = join(folder, 'shadow');
    writeFileSync(file, 'root:secret\n', { mode: 0o600 });
    const state = () => {
      const [one, other] = [lstatSync(folder), lstatSync(file)];
      return [one.uid, one.gid, one.mode & 0o777, other.uid, other.gid, other.mode & 0o777, readFileSync(file, 'utf8')];
    };
    return { folder, file, state, before: state() };
  }
  const as = (command: string, ...words: readonly string[]) => {
    const done = spawnSync(command, words, { ...user, encoding: 'utf8' });
    expect([command, ...words, done.stderr]).toEqual([command, ...words, '']);
  };

  test('links that it plants where an older version wrote as root lead nowhere', async () => {
    const data = join(place, 'data');
    const { folder, file, state, before } = treasure();
    mkdirSync(data, { mode: 0o711 });
    const run = join(data, 'run');
    mkdirSync(run, { mode: 0o700 });
    chownSync(run, user.uid, user.gid);
    for (const name of ['access.sql', 'mariadb.log', 'mariadbd.pid', 'db.sock']) as('ln', '-s', file, join(run, name));
    as('ln', '-s', folder, join(run, 'no-files'));
    const first = await startMariaDb(data).catch((error: Error) => error.message);
    if (typeof first === 'string') expect(first).not.toContain('secret');
    else await first.stop();
    expect(state()).toEqual(before);
    // As it is after an honest start, with links in the data as well.
    for (const name of ['mariadb.log', 'mariadbd.pid', 'no-files']) as('rm', '-rf', join(run, name));
    const second = await startMariaDb(data);
    await second.stop();
    as('ln', '-s', folder, join(data, 'mariadb', 'linked'));
    as('ln', '-s', file, join(data, 'mariadb', 'linked.sql'));
    const third = await startMariaDb(data);
    await third.stop();
    expect(state()).toEqual(before);
    expect([lstatSync(join(data, 'access')).uid, existsSync(join(data, 'access', 'access.sql'))]).toEqual([0, false]);
    expect(lstatSync(join(data, 'mariadb')).uid).toBe(user.uid);
  });

  test('a folder that somebody else owns or may write in is refused, with what to do', async () => {
    const data = join(place, 'theirs');
    mkdirSync(data);
    chownSync(data, user.uid, user.gid);
    await expect(startMariaDb(data)).rejects.toThrow(/belongs to somebody else .*REED_DATA/);
    expect([existsSync(join(data, 'passwords.json')), existsSync(join(data, 'access'))]).toEqual([false, false]);
    const open = join(place, 'open');
    mkdirSync(open);
    chmodSync(open, 0o777);
    await expect(startMariaDb(open)).rejects.toThrow(/can be written by others/);
  });

  test('data that root’s own server wrote is handed over by copying, never by changing owners', async () => {
    const data = join(place, 'older');
    const { folder, file, state, before } = treasure();
    await (await startMariaDb(data)).stop();
    // As an older version left it: everything root's. A link in it is copied as a link.
    spawnSync('chown', ['-R', '-h', 'root:root', join(data, 'mariadb')]);
    spawnSync('ln', ['-s', folder, join(data, 'mariadb', 'linked')]);
    const server = await startMariaDb(data);
    await server.stop();
    expect([lstatSync(join(data, 'mariadb')).uid, lstatSync(join(data, 'mariadb', 'mysql')).uid]).toEqual([
      user.uid,
      user.uid,
    ]);
    expect(state()).toEqual(before);
    expect(existsSync(file)).toBe(true);
  });
});
