import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { LessonScreen } from '../../../../features/pupils/LessonScreen';
import { currentStudio } from '../../../../server/database';
import { calendarToday, logForPlan, openPupil } from '../../../../server/pupils';

export const metadata: Metadata = { title: 'Lesson' };
export const dynamic = 'force-dynamic';

export default async function LessonPage({ params }: { readonly params: Promise<{ readonly id: string }> }) {
  const { id } = await params;
  const studio = currentStudio();
  const today = calendarToday();
  const [given, log] = await Promise.all([openPupil(studio, id), logForPlan(studio, id, today)]);
  if (!given) notFound();
  return <LessonScreen given={given} log={log} today={today} />;
}
