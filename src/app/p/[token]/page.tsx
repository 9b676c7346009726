import type { Metadata } from 'next';
import { OwnWeekScreen } from '../../../features/ownWeek/OwnWeekScreen';
import { notePupilLinkUsed } from '../../../db/pupilLinkRepository';
import { currentStudio } from '../../../server/database';
import { ownThings, ownTunes } from '../../../server/ownThings';
import { calendarToday, logForPlan } from '../../../server/pupils';
import { ownWeek } from '../../../server/pupilWeek';
import { soundBank } from '../../../server/soundBank';
import { linkedPupil } from '../../linkedPupil';

export const metadata: Metadata = {
  title: 'This week',
  robots: { index: false, follow: false },
  referrer: 'no-referrer',
};
export const dynamic = 'force-dynamic';

/** A pupil's own week, by their link. */
export default async function OwnWeekPage({ params }: { readonly params: Promise<{ readonly token: string }> }) {
  const { token } = await params;
  const { id, pupil, link } = await linkedPupil();
  const today = calendarToday();
  const log = await logForPlan(currentStudio(), id, today);
  await notePupilLinkUsed(currentStudio(), link, new Date());
  const [own, bank] = await Promise.all([ownThings(currentStudio(), id), soundBank()]);
  return (
    <OwnWeekScreen token={token} {...ownWeek(pupil, log, today)} tunes={own ? ownTunes(own, bank !== undefined) : []} />
  );
}
