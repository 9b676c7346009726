import { notFound } from 'next/navigation';
import { currentlyAsked } from '../server/accounts/asking';
import { currentStudio } from '../server/database';
import { openPupil } from '../server/pupils';

/** The pupil to whom the link belongs by which this page is asked for. */
export async function linkedPupil() {
  const { asking } = currentlyAsked();
  const opened = asking.kind === 'pupil' ? await openPupil(currentStudio(), asking.pupil) : undefined;
  if (!opened || asking.kind !== 'pupil') notFound();
  return { ...opened, link: asking.link };
}
