import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { chanceFrom } from '../src/core/chance';

/**
 * `npm run mutate [-- PLACES [SEED]]`: changes the program at random places of `src/core` and `src/server`, one at a
 * time, and runs the tests that reach the changed file. A change that no test notices lives, and is named with its
 * place: either it means nothing, or a test is missing. The files are put back as they were; do not work on them
 * meanwhile.
 */
const [places = 50, seed = Date.now() % 100_000] = process.argv.slice(2).map(Number);
const ROOTS = ['src/core', 'src/server'];

interface Mutation {
  readonly from: number;
  readonly to: number;
  /** What stands there instead. */
  readonly instead: string;
}

const SWAPS: Readonly<Partial<Record<ts.SyntaxKind, string>>> = {
  [ts.SyntaxKind.LessThanToken]: '<=',
  [ts.SyntaxKind.LessThanEqualsToken]: '<',
  [ts.SyntaxKind.GreaterThanToken]: '>=',
  [ts.SyntaxKind.GreaterThanEqualsToken]: '>',
  [ts.SyntaxKind.EqualsEqualsEqualsToken]: '!==',
  [ts.SyntaxKind.ExclamationEqualsEqualsToken]: '===',
  [ts.SyntaxKind.PlusToken]: '-',
  [ts.SyntaxKind.MinusToken]: '+',
  [ts.SyntaxKind.AsteriskToken]: '/',
  [ts.SyntaxKind.SlashToken]: '*',
  [ts.SyntaxKind.AmpersandAmpersandToken]: '||',
  [ts.SyntaxKind.BarBarToken]: '&&',
};
const METHODS: Readonly<Record<string, string>> = { some: 'every', every: 'some', min: 'max', max: 'min' };

/**
 * What can be changed in a file: an operator, a number, a yes for a no, the two sides of a question, some for every.
 */
function mutationsOf(source: ts.SourceFile): readonly Mutation[] {
  const found: Mutation[] = [];
  const put = (node: ts.Node, text: string) =>
    found.push({ from: node.getStart(source), to: node.getEnd(), instead: text });
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isTypeNode(node)) return;
    if (ts.isBinaryExpression(node)) {
      const swap = SWAPS[node.operatorToken.kind];
      if (swap) put(node.operatorToken, swap);
    } else if (ts.isNumericLiteral(node)) put(node, `${Number(node.text.replaceAll('_', '')) + 1}`);
    else if (node.kind === ts.SyntaxKind.TrueKeyword && !ts.isAsExpression(node.parent)) put(node, 'false');
    else if (node.kind === ts.SyntaxKind.FalseKeyword) put(node, 'true');
    else if (ts.isConditionalExpression(node))
      put(
        node,
        `${node.condition.getText(source)} ? ${node.whenFalse.getText(source)} : ${node.whenTrue.getText(source)}`,
      );
    else if (ts.isPropertyAccessExpression(node)) {
      const other = METHODS[node.name.text];
      if (other) put(node.name, other);
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

function filesUnder(folder: string): readonly string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return filesUnder(path);
    return /\.ts$/.test(entry.name) && !/\.test\.ts$|^index\.ts$/.test(entry.name) ? [path] : [];
  });
}

/** Whether the tests that reach a file notice: first those beside it, then all that import it. */
function isNoticed(file: string): boolean {
  const jest = join('node_modules', 'jest', 'bin', 'jest.js');
  const beside = join(...file.split('/').slice(0, 3));
  const runs = [
    ['--findRelatedTests', file, '--testPathPatterns', beside],
    ['--findRelatedTests', file, '--testPathPatterns', 'src/(core|server)|tests/command'],
  ];
  return runs.some(
    (args) =>
      spawnSync(process.execPath, [jest, ...args, '--bail', '--silent', '--passWithNoTests'], {
        // A fault that is seen at all is seen in a few cases; what hangs is noticed as well.
        env: { ...process.env, NODE_ENV: 'test', PROPERTY_RUNS: '15' },
        timeout: 400_000,
      }).status !== 0,
  );
}

const chance = chanceFrom(`mutate ${seed}`);
const all = ROOTS.flatMap(filesUnder).flatMap((path) => {
  const text = readFileSync(path, 'utf8');
  return mutationsOf(ts.createSourceFile(path, text, ts.ScriptTarget.Latest, true)).map((one) => ({
    path,
    text,
    ...one,
  }));
});
process.stdout.write(`${all.length} places, seed ${seed}\n`);
let killed = 0;
for (let k = 0; k < places; k += 1) {
  const one = all[Math.floor(chance() * all.length)];
  if (!one) break;
  const { path, text, from, to, instead } = one;
  const line = text.slice(0, from).split('\n').length;
  const words = `${path}:${line} ${text.slice(from, to).replace(/\s+/g, ' ').slice(0, 60)} → ${instead.replace(/\s+/g, ' ').slice(0, 60)}`;
  try {
    writeFileSync(path, text.slice(0, from) + instead + text.slice(to));
    const noticed = isNoticed(path);
    killed += noticed ? 1 : 0;
    process.stdout.write(`${noticed ? 'killed' : 'LIVES '} ${words}\n`);
  } finally {
    writeFileSync(path, text);
  }
}
process.stdout.write(`${killed} of ${places} killed\n`);
