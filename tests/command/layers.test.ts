import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import ts from 'typescript';

/** Lints text as if it stood in the named files, with the project's own rules, and gives the rules broken by each. */
function rulesBroken(cases: readonly (readonly [path: string, text: string])[]): readonly (readonly string[])[] {
  const program = `
    import { ESLint } from 'eslint';
    let text = '';
    for await (const piece of process.stdin) text += piece;
    const lint = new ESLint();
    const found = [];
    for (const [filePath, code] of JSON.parse(text)) {
      const [result] = await lint.lintText(code + '\\n', { filePath });
      found.push([...new Set(result.messages.map(({ ruleId }) => ruleId).filter((rule) => rule?.includes('restricted')))]);
    }
    console.log(JSON.stringify(found));`;
  const { status, stdout, stderr } = spawnSync('node', ['--input-type=module', '-e', program], {
    input: JSON.stringify(cases),
    encoding: 'utf8',
    env: { PATH: process.env.PATH, NODE_ENV: 'test' },
  });
  if (status !== 0) throw new Error(stderr);
  return JSON.parse(stdout) as string[][];
}

const PATHS = ['import-x/no-restricted-paths'];
const PACKAGES = ['no-restricted-imports'];

test('what a layer may not import is refused, and what it may is not', () => {
  const cases = [
    ['src/sound/probe.ts', `import { engraveScore } from '../engrave/engraver'; engraveScore;`, PATHS],
    ['src/sound/probe.ts', `import { type Engraver } from '../engrave/engraver'; export type A = Engraver;`, PATHS],
    ['src/core/levels/probe.ts', `import { readAbc } from '../formats/abc/readAbc'; readAbc;`, PATHS],
    ['src/core/pitch/probe.ts', `import { type Tune } from '../score/tune'; export type A = Tune;`, PATHS],
    ['src/features/keys/probe.ts', `import { useLevelsStep } from '../levels/useLevelsStep'; useLevelsStep;`, PATHS],
    ['src/ui/probe.tsx', `import { useLevelsStep } from '../features/levels/useLevelsStep'; useLevelsStep;`, PATHS],
    ['src/features/keys/probe.ts', `import knex from 'knex'; knex;`, PACKAGES],
    ['src/features/keys/probe.ts', `import { connect } from '../../db/connect'; connect;`, PATHS],
    ['src/core/levels/probe.ts', `import { z } from 'zod'; z;`, PACKAGES],
    ['src/server/probe.ts', `import knex from 'knex'; knex;`, PACKAGES],
    ['src/features/keys/probe.ts', `import { partFor } from '../../core/levels/parts/partFor'; partFor;`, PATHS],
    ['src/features/keys/probe.ts', `import { partFor } from '../../core/levels'; partFor;`, []],
    ['src/core/levels/probe.ts', `import { isNote } from '../score/tune'; isNote;`, PATHS],
    ['src/core/levels/probe.ts', `import { isNote } from '../score'; isNote;`, []],
    ['src/core/levels/probe.ts', `import { fit } from './fit/fit'; fit;`, []],
    ['src/server/probe.ts', `import { workSchema } from '../core/work/stored'; workSchema;`, []],
    ['src/server/probe.ts', `import { workSchema } from '../core/work/stored/recipeSchema'; workSchema;`, PATHS],
    ['src/features/bench/probe.ts', `import { useKeysStep } from '../keys/useKeysStep'; useKeysStep;`, []],
    ['src/core/formats/json/probe.ts', `import { z } from 'zod'; z;`, []],
    ['src/core/work/stored/probe.ts', `import { z } from 'zod'; z;`, []],
    ['src/core/work/probe.ts', `import { z } from 'zod'; z;`, PACKAGES],
    ['src/db/probe.ts', `import knex from 'knex'; knex;`, []],
  ] as const;
  const found = rulesBroken(cases.map(([path, text]) => [path, text]));
  expect(cases.map(([path, text], k) => [path, text, found[k]])).toEqual(cases.map((one) => [...one]));
});

const files = readdirSync('src', { recursive: true, encoding: 'utf8' })
  .filter((name) => /\.tsx?$/.test(name))
  .map((name) => join('src', name));

/** The files of ours that a file imports, types alone among them. */
function imports(file: string): readonly string[] {
  return ts.preProcessFile(readFileSync(file, 'utf8'), true, true).importedFiles.flatMap(({ fileName }) => {
    if (!fileName.startsWith('.')) return [];
    const base = relative('.', resolve(dirname(file), fileName));
    const found = [base, `${base}.ts`, `${base}.tsx`, join(base, 'index.ts')].find(
      (path) => /\.\w+$/.test(path) && existsSync(path),
    );
    if (!found) throw new Error(`${file} imports ${fileName}, which is not there`);
    return [found];
  });
}

test('no file comes back to itself through its imports, types included', () => {
  const done = new Set<string>();
  const circles: string[] = [];
  const walk = (file: string, path: readonly string[]): void => {
    const at = path.indexOf(file);
    if (at >= 0) circles.push([...path.slice(at), file].join(' → '));
    if (at >= 0 || done.has(file)) return;
    if (/\.tsx?$/.test(file)) for (const next of imports(file)) walk(next, [...path, file]);
    done.add(file);
  };
  for (const file of files) walk(file, []);
  expect([files.length > 300, circles]).toEqual([true, []]);
});
