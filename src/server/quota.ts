import { countRows } from '../db/pages';
import type { StudioDatabase } from '../db/studioDatabase';
import { bytesOfStudio } from '../db/studioRepository';

/** How many of each a studio may have; each list is read whole by some screens. Megabytes are of tunes and their versions. */
const QUOTAS = {
  'tunes, drills and licks': 20_000,
  megabytes: 8_192,
  groups: 1_000,
  pupils: 1_000,
  'entries in a log': 200_000,
  'saved recipes': 1_000,
  'custom instruments': 1_000,
} as const;
export type QuotaKind = keyof typeof QUOTAS;

const MEGABYTE = 1_048_576;

/** Told by its field, not its class: a bundler may put the same class into two files, and then it is two. */
export class QuotaReached extends Error {
  readonly isQuota = true;

  constructor(kind: QuotaKind, wanted = 1) {
    super(
      `A studio can have ${QUOTAS[kind].toLocaleString('en')} ${kind}${wanted > 1 ? `, and this would add ${wanted} to what it has` : '; yours has that many'}. Remove some, then try again.`,
    );
  }
}

export function isQuotaReached(error: unknown): error is QuotaReached {
  return error instanceof Error && 'isQuota' in error;
}

/**
 * @param present how many there are
 * @param wanted how many are to be added
 * @throws QuotaReached where that is more than a studio may have
 */
export function ensureRoom(kind: QuotaKind, present: number, wanted = 1): void {
  if (wanted > 0 && present + wanted > QUOTAS[kind]) throw new QuotaReached(kind, wanted);
}

/** Whether so many tunes more have room, in number and in bytes. @throws QuotaReached */
export async function ensureRoomForTunes(studio: StudioDatabase, wanted: number): Promise<void> {
  if (wanted === 0) return;
  const [tunes, bytes] = await Promise.all([countRows(studio, 'tunes'), bytesOfStudio(studio)]);
  ensureRoom('tunes, drills and licks', tunes, wanted);
  ensureRoom('megabytes', Math.floor(bytes / MEGABYTE));
}

/** How much of its room a studio has used. */
export interface RoomUsed {
  readonly kind: QuotaKind;
  readonly present: number;
  readonly most: number;
}

/** What is counted for the whole studio, whoever looks. */
export async function roomUsed(studio: StudioDatabase): Promise<readonly RoomUsed[]> {
  const used = async (kind: QuotaKind, present: Promise<number>): Promise<RoomUsed> => ({
    kind,
    present: await present,
    most: QUOTAS[kind],
  });
  return Promise.all([
    used('tunes, drills and licks', countRows(studio, 'tunes')),
    used(
      'megabytes',
      bytesOfStudio(studio).then((bytes) => Math.ceil(bytes / MEGABYTE)),
    ),
    used('groups', countRows(studio, 'player_groups')),
    used('pupils', countRows(studio, 'pupils')),
    used('saved recipes', countRows(studio, 'saved_recipes')),
    used('custom instruments', countRows(studio, 'custom_instruments')),
  ]);
}
