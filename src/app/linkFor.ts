import { currentlyAsked } from '../server/accounts/asking';
import { describedLink } from '../server/accounts/invitations';
import { isSpent, overLimit } from '../server/accounts/limits';
import { isLinkToken } from '../server/accounts/tokens';

/** What a one-time link is for; nothing where it has ended, or where too many were guessed at from this address. */
export async function linkFor(token: string, kinds: readonly string[]) {
  const { address } = currentlyAsked();
  if ((await isSpent('link', address)) !== undefined) return undefined;
  const link = isLinkToken(token) ? await describedLink(token, new Date()) : undefined;
  if (!link) await overLimit('link', address);
  return link && kinds.includes(link.kind) ? link : undefined;
}
