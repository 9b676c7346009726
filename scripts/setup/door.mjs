import { build } from 'esbuild';
import { existsSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import { inProject } from './project.mjs';

/** The part of the program that finds out who asks, as a module; the build makes it. */
export async function doorFile(isDevelopment) {
  const file = inProject('.next', 'door.mjs');
  if (isDevelopment || !existsSync(file))
    await build({
      entryPoints: [inProject('src', 'server', 'accounts', 'door.ts')],
      outfile: file,
      bundle: true,
      platform: 'node',
      format: 'esm',
      packages: 'external',
    });
  return pathToFileURL(file).href;
}
