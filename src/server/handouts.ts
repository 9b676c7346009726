import { z } from 'zod';
import { dateSchema, packSchema } from '../core/formats';
import { PACK_SHEET_NAMES, type PackChoice } from '../core/keys';
import {
  addHandout,
  endHandout,
  findHandout,
  type HandoutFor,
  openHandouts,
  type StoredHandout,
} from '../db/handoutRepository';
import type { StudioDatabase } from '../db/studioDatabase';
import { personAsking } from './accounts/asking';
import { noted } from './accounts/audit';
import { linkToken, tokenHash } from './accounts/tokens';
import { freshId } from './freshId';
import { log } from './log';
import { type Pack, packOfGroup, packOfPupil } from './packs';

const DAY = 86_400_000;
/** A pack lasts a few weeks, and at the most a school year. */
const USUAL_DAYS = 30;
const MOST_DAYS = 400;

export const handoutWishSchema = z.strictObject({
  choice: packSchema,
  date: dateSchema,
  days: z.int().min(1).max(MOST_DAYS).default(USUAL_DAYS),
});

/** What a teacher sees of a link that was handed out: never the link itself, of which only a hash is known. */
export interface HandoutRow {
  readonly id: string;
  readonly words: string;
  readonly date: string;
  readonly endsAt: string;
  readonly seenAt?: string;
}

/**
 * Hands a pack out by a link. @returns the link's secret, which is given this once; nothing where there is no such pupil or
 * group
 */
export async function newHandout(
  studio: StudioDatabase,
  to: HandoutFor,
  { choice, date, days }: z.infer<typeof handoutWishSchema>,
  now: Date,
): Promise<{ readonly token: string; readonly endsAt: string } | undefined> {
  const token = linkToken();
  const endsAt = new Date(now.getTime() + days * DAY);
  const id = freshId();
  const isMade = await studio.transaction(async (inside) => {
    const handout = { id, hash: tokenHash(token), for: to, choice: forLink(choice, to), date, madeAt: now, endsAt };
    if (!(await addHandout(inside, handout))) return false;
    await noted(inside, personAsking(), 'handout-made', id, now);
    return true;
  });
  return isMade ? { token, endsAt: endsAt.toISOString() } : undefined;
}

/** In a group everybody sees everybody's pages by the same link: nobody's week is among them. */
function forLink(choice: PackChoice, to: HandoutFor): PackChoice {
  return 'pupil' in to ? choice : { ...choice, sheets: choice.sheets.filter((sheet) => sheet !== 'week') };
}

/** False where there was none to end. */
export async function endHandoutLink(studio: StudioDatabase, id: string, now: Date): Promise<boolean> {
  return studio.transaction(async (inside) => {
    if (!(await endHandout(inside, id, now))) return false;
    await noted(inside, personAsking(), 'handout-ended', id, now);
    return true;
  });
}

/** The links of packs that can be opened still, the newest first. */
export async function handoutsOf(studio: StudioDatabase, to: HandoutFor, now: Date): Promise<readonly HandoutRow[]> {
  return (await openHandouts(studio, to, now)).flatMap((stored) => {
    const choice = choiceOf(stored);
    return choice
      ? [
          {
            id: stored.id,
            words: wordsOf(choice),
            date: stored.date,
            endsAt: stored.endsAt.toISOString(),
            ...(stored.seenAt && { seenAt: stored.seenAt.toISOString() }),
          },
        ]
      : [];
  });
}

function wordsOf({ sheets, files }: PackChoice): string {
  const names = sheets.map((sheet) => PACK_SHEET_NAMES[sheet].toLowerCase());
  const sounds = files.some((file) => file !== 'musicxml') ? ['sounds'] : [];
  return [...names, ...sounds, ...(files.includes('musicxml') ? ['MusicXML'] : [])].join(', ');
}

/** The checked choice; nothing, and a line in the log, where it is damaged. */
function choiceOf({ id, choice }: StoredHandout): PackChoice | undefined {
  const { data } = packSchema.safeParse(choice);
  if (!data) log.error({ kind: 'handout', id }, 'a stored document is damaged and was left out');
  return data;
}

/** The pack of a handout as it is now; `undefined` where it, or whoever it is for, is gone. */
export async function packOfHandout(studio: StudioDatabase, id: string): Promise<Pack | undefined> {
  const stored = await findHandout(studio, id);
  const choice = stored && choiceOf(stored);
  if (!choice) return undefined;
  const { for: to, date } = stored;
  return 'pupil' in to
    ? packOfPupil(studio, to.pupil, choice, date)
    : packOfGroup(studio, to.group, forLink(choice, to), date);
}
