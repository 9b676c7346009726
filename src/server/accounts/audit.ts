import { addAudit } from '../../db/auditRepository';
import type { StudioDatabase } from '../../db/studioDatabase';
import { freshId } from '../freshId';
import { currentPerson } from './asking';

/** What is noted of who did what about access. The words stand on the owner's page. */
export const AUDIT_WORDS = {
  'signed-in': 'signed in with',
  invited: 'invited',
  'invitation-ended': 'ended the invitation of',
  joined: 'joined as',
  'reset-made': 'made a link for a new password for',
  'password-set': 'set a new password',
  'second-factor-on': 'set up a second factor',
  'second-factor-off': 'took the second factor away',
  'recovery-code': 'signed in by a recovery code, with',
  'role-changed': 'changed the role of',
  'member-removed': 'removed',
  'settings-changed': 'changed the settings:',
  'studio-made': 'made the studio',
  'pupil-handed-over': 'handed a pupil over to',
  exported: 'took the whole studio away as files',
  deleted: 'deleted for good:',
  'link-made': 'made a pupil’s link:',
  'link-ended': 'ended a pupil’s link:',
  'handout-made': 'handed out a pack by a link:',
  'handout-ended': 'ended the link of a pack:',
} as const;
export type AuditKind = keyof typeof AUDIT_WORDS;

/**
 * Notes what was done, in the transaction in which it is done.
 * @param person who did it; nothing where it was the program
 * @param about to whom or what; never the name of a pupil
 */
export function noted(
  studio: StudioDatabase,
  person: string | undefined,
  what: AuditKind,
  about: string,
  now: Date,
): Promise<void> {
  return addAudit(studio, {
    id: freshId(),
    at: now,
    ...(person !== undefined && { person }),
    what,
    about: about.slice(0, 300),
  });
}

/** Notes what somebody who is signed in did; nothing where the program runs for one person alone. */
export async function notedOfAsker(studio: StudioDatabase, what: AuditKind, about: string): Promise<void> {
  const person = currentPerson();
  if (person) await noted(studio, person.person, what, about, new Date());
}
