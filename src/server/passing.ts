import { noteComeAgain } from './accounts/asking';
import { databaseTrouble } from '../db/trouble';
import { isBusy } from './pool/workerPool';

/** An error that left a page unmade: where it passes by itself, the answer says so instead of calling it a fault. */
export function tellPassing(error: unknown): void {
  if (isBusy(error) || databaseTrouble(error) === 'gone') noteComeAgain();
}
