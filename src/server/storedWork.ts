import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

/** Two works with the same key are the same to the letter; a hash of 256 bits as base64url. */
export function contentKey(...parts: readonly unknown[]): string {
  return createHash('sha256').update(JSON.stringify(parts)).digest('base64url');
}

let build: string | undefined;

/** Tells what this build made from what another one did: the same content may be engraved better tomorrow. */
export function buildId(): string {
  if (build !== undefined) return build;
  try {
    build = readFileSync(join(/* turbopackIgnore: true */ process.cwd(), '.next', 'BUILD_ID'), 'utf8');
  } catch {
    // The development server and the tests have no build: what they make is kept for the process alone.
    build = `process ${process.pid} ${Date.now()}`;
  }
  return build;
}
