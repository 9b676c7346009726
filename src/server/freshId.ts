import { randomBytes } from 'node:crypto';

/** An id of twelve letters and digits that no other has. */
export function freshId(): string {
  return randomBytes(9).toString('base64url').replace(/[-_]/g, 'x');
}
