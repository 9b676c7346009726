import { notFound } from 'next/navigation';
import { currentlyAsked } from '../server/accounts/asking';
import { currentStudio } from '../server/database';
import { packOfHandout } from '../server/handouts';

/** The pack to which the link belongs by which this page is asked for. */
export async function linkedHandout() {
  const { asking } = currentlyAsked();
  const pack = asking.kind === 'handout' ? await packOfHandout(currentStudio(), asking.handout) : undefined;
  if (!pack || asking.kind !== 'handout') notFound();
  return { pack, handout: asking.handout };
}
