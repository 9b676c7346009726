// Puts the code of workers, of the archive's reader and of the door into a file each: one that had to be ended is there again in
// half a second instead of seven.
import { build } from 'esbuild';
import { inProject } from './project.mjs';

await build({
  entryPoints: {
    'making-worker': inProject('src', 'server', 'pool', 'makingWorker.ts'),
    'checking-worker': inProject('src', 'server', 'pool', 'checkingWorker.ts'),
    'archive-reader': inProject('src', 'server', 'archive', 'readerProcess.ts'),
    door: inProject('src', 'server', 'accounts', 'door.ts'),
  },
  outdir: inProject('.next'),
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
});
