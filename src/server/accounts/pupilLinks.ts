import { z } from 'zod';
import { endPupilLinks, openPupilLink, renewPupilLink } from '../../db/pupilLinkRepository';
import type { StudioDatabase } from '../../db/studioDatabase';
import { noted } from './audit';
import { personAsking } from './asking';
import { linkToken, tokenHash } from './tokens';

const DAY = 86_400_000;
/** A term, and the most that a link lasts: a school year. */
const TERM_DAYS = 120;
const MOST_DAYS = 400;

export const linkWishSchema = z.strictObject({ days: z.int().min(1).max(MOST_DAYS).default(TERM_DAYS) });

/** A new link for a pupil; the one before ends. @returns its secret, which is given this once; nothing without such a pupil */
export async function newPupilLink(
  studio: StudioDatabase,
  pupil: string,
  { days }: z.infer<typeof linkWishSchema>,
  now: Date,
): Promise<{ readonly token: string; readonly endsAt: string } | undefined> {
  const token = linkToken();
  const endsAt = new Date(now.getTime() + days * DAY);
  const isMade = await studio.transaction(async (inside) => {
    if (!(await renewPupilLink(inside, pupil, { hash: tokenHash(token), endsAt }, now))) return false;
    await noted(inside, personAsking(), 'link-made', pupil, now);
    return true;
  });
  return isMade ? { token, endsAt: endsAt.toISOString() } : undefined;
}

/** Ends a pupil's link. False where there was none. */
export async function endPupilLink(studio: StudioDatabase, pupil: string, now: Date): Promise<boolean> {
  return studio.transaction(async (inside) => {
    if ((await endPupilLinks(inside, pupil, now)) === 0) return false;
    await noted(inside, personAsking(), 'link-ended', pupil, now);
    return true;
  });
}

/** What is told of a pupil's link: never the link itself, of which only a hash is known. */
export interface LinkState {
  readonly madeAt: string;
  readonly endsAt: string;
  readonly seenAt?: string;
}

export async function pupilLinkState(studio: StudioDatabase, pupil: string, now: Date): Promise<LinkState | undefined> {
  const link = await openPupilLink(studio, pupil, now);
  return (
    link && {
      madeAt: link.madeAt.toISOString(),
      endsAt: link.endsAt.toISOString(),
      ...(link.seenAt && { seenAt: link.seenAt.toISOString() }),
    }
  );
}
