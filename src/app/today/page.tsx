import type { Metadata } from 'next';
import { TodayScreen } from '../../features/pupils/TodayScreen';
import { currentStudio } from '../../server/database';
import { calendarToday, listPupils } from '../../server/pupils';
import { pupilRows } from '../../server/pupilRows';

export const metadata: Metadata = { title: 'Today' };
export const dynamic = 'force-dynamic';

export default async function TodayPage() {
  const studio = currentStudio();
  const today = calendarToday();
  return <TodayScreen rows={await pupilRows(studio, await listPupils(studio), today)} today={today} />;
}
