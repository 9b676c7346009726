// Measures what ships: the program is put together as for its workers, not read from TypeScript piece by piece, where
// every inner function is given its name anew.
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import { inProject } from '../scripts/setup/project.mjs';

const folder = inProject('.test-data', 'benchmarks');
await build({
  entryPoints: [inProject('benchmarks', 'run.ts'), inProject('benchmarks', 'engravingThread.ts')],
  outdir: folder,
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
});
await import(pathToFileURL(join(folder, 'run.mjs')).href);
