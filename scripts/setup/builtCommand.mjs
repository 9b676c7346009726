// The command line put into a few files, made anew whenever a source has changed: so it starts in little more than half
// a second, where reading each source anew takes two or three.
import { createHash, randomBytes } from 'node:crypto';
import { accessSync, constants, existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';

/** What was made of older sources stays for as long, milliseconds: somebody may just be starting it. */
const KEPT = 3_600_000;

/**
 * The file that runs `src/cli/reed.ts` of a project as its sources are now. Two that start at once each make it; the
 * name that both go by is given at the end, so nobody starts half a program.
 *
 * @param {string} root the project's folder
 */
export async function builtCommand(root) {
  const folder = join(root, '.built');
  const made = join(folder, digest(root));
  const file = join(made, 'reed.mjs');
  if (existsSync(file)) return file;
  const fresh = join(folder, `.${randomBytes(6).toString('hex')}`);
  await build({
    absWorkingDir: root,
    entryPoints: [join(root, 'src', 'cli', 'reed.ts')],
    outdir: fresh,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    logLevel: 'error',
  });
  try {
    renameSync(fresh, made);
  } catch (error) {
    // Somebody else was first with the same.
    if (!existsSync(file)) throw error;
    rmSync(fresh, { recursive: true });
  }
  removeOlder(folder, made);
  return file;
}

/** Names, sizes and times of all sources and of what they need: another when any was changed, added or taken away. */
function digest(root) {
  const hash = createHash('sha256');
  const sources = readdirSync(join(root, 'src'), { recursive: true, withFileTypes: true })
    .filter((found) => found.isFile() && !/\.test\.tsx?$/.test(found.name))
    .map((found) => join(found.parentPath ?? found.path, found.name))
    .sort();
  for (const path of [...sources, ...['package-lock.json', 'tsconfig.json'].map((name) => join(root, name))]) {
    const { size, mtimeMs } = statSync(path);
    hash.update(`${path}\0${size}\0${mtimeMs}\n`);
  }
  return hash.digest('hex').slice(0, 20);
}

function removeOlder(folder, newest) {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    const { mtimeMs = Date.now() } = statSync(path, { throwIfNoEntry: false }) ?? {};
    if (path !== newest && Date.now() - mtimeMs > KEPT) rmSync(path, { recursive: true, force: true });
  }
}

/** Makes the folder in which the command is kept, unless nothing can be written there. */
export function canBeKept(root) {
  const folder = join(root, '.built');
  try {
    if (!existsSync(folder)) mkdirSync(folder);
    accessSync(folder, constants.W_OK);
    return true;
  } catch (error) {
    // Two begin at once.
    return error.code === 'EEXIST';
  }
}
