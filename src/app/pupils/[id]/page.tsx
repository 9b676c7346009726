import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { PupilScreen } from '../../../features/pupils/PupilScreen';
import { teacherOfPupil } from '../../../db/memberRepository';
import { currentPerson } from '../../../server/accounts/asking';
import { teachersOf } from '../../../server/accounts/members';
import { currentStudio } from '../../../server/database';
import { listCustomInstruments } from '../../../server/groups';
import { calendarToday, logForPlan, openPupil } from '../../../server/pupils';

export const metadata: Metadata = { title: 'Pupil' };
export const dynamic = 'force-dynamic';

export default async function PupilPage({ params }: { readonly params: Promise<{ readonly id: string }> }) {
  const { id } = await params;
  const studio = currentStudio();
  const today = calendarToday();
  const [given, log, custom] = await Promise.all([
    openPupil(studio, id),
    logForPlan(studio, id, today),
    listCustomInstruments(studio),
  ]);
  if (!given) notFound();
  const me = currentPerson();
  // Owners alone hand pupils over.
  const taught =
    me?.role === 'owner' ? { by: await teacherOfPupil(studio, id), teachers: await teachersOf(me.studio) } : undefined;
  return <PupilScreen given={given} log={log} today={today} custom={custom} taught={taught} />;
}
