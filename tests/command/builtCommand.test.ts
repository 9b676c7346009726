import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { canBeKept } from '../../scripts/setup/builtCommand.mjs';

const project = mkdtempSync(join(tmpdir(), 'built-'));
afterAll(() => rmSync(project, { recursive: true, force: true }));

function put(name: string, text: string): void {
  mkdirSync(dirname(join(project, name)), { recursive: true });
  writeFileSync(join(project, name), text);
}
put('package-lock.json', '{}');
put('tsconfig.json', '{}');
put('src/cli/reed.ts', "import { word } from '../word';\nconsole.log(word);\n");
put('src/word.ts', "export const word = 'one';\n");

/** In a process of its own, as the command is; the tests' transpiler does not read the script's imports. */
function says(): { said: string; made: readonly string[] } {
  const script = `
    import { builtCommand } from ${JSON.stringify(join(process.cwd(), 'scripts/setup/builtCommand.mjs'))};
    await import(await builtCommand(${JSON.stringify(project)}));`;
  const { stdout, stderr } = spawnSync(process.execPath, ['--input-type=module', '-e', script], { encoding: 'utf8' });
  return { said: `${stdout}${stderr}`.trim(), made: readdirSync(join(project, '.built')).toSorted() };
}

test('the command is made once of the same sources, and anew when one changes, comes or goes; tests are no sources', () => {
  const first = says();
  expect([first.said, first.made.length]).toEqual(['one', 1]);
  put('src/word.test.ts', 'fails if it is read');
  expect(says()).toEqual(first);
  put('src/word.ts', "export const word = 'another';\n");
  const second = says();
  expect([second.said, second.made.length]).toEqual(['another', 2]);
  rmSync(join(project, 'src/word.ts'));
  put('src/word/index.ts', "export const word = 'moved!!!';\n");
  expect(says().said).toBe('moved!!!');
});

test('what was made of sources long gone goes; what is new stays, for somebody may be starting it', () => {
  const folder = join(project, '.built');
  const [old = '', ...newer] = readdirSync(folder);
  const longAgo = Date.now() / 1_000 - 4_000;
  utimesSync(join(folder, old), longAgo, longAgo);
  put('src/word/index.ts', "export const word = 'last';\n");
  const { said, made } = says();
  expect([said, made.includes(old), newer.every((name) => made.includes(name))]).toEqual(['last', false, true]);
});

test('a source that does not hold together is told, and nothing half-made is left', () => {
  const before = readdirSync(join(project, '.built')).toSorted();
  put('src/word/index.ts', 'export const word = ;\n');
  const { said, made } = says();
  expect([/Unexpected ";"/.test(said), made]).toEqual([true, before]);
});

test('where nothing can be kept, it says so', () => {
  expect([canBeKept(project), canBeKept(join('/proc', 'none'))]).toEqual([true, false]);
});
