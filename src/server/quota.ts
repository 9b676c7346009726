/** How many of each a studio may have; each list is read whole by some screens. */
const QUOTAS = {
  groups: 1_000,
  pupils: 1_000,
  'entries in a log': 200_000,
  'saved recipes': 1_000,
  'custom instruments': 1_000,
} as const;
export type QuotaKind = keyof typeof QUOTAS;

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
