// Puts the workers' code into one file: one that had to be ended is there again in half a second instead of seven.
import { build } from 'esbuild';
import { inProject } from './project.mjs';

await build({
  entryPoints: [inProject('src', 'server', 'pool', 'worker.ts')],
  outfile: inProject('.next', 'pool-worker.mjs'),
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
});
