import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { memberStates, rehearsalPlan, stumblesOf } from '../../../../core/planning';
import { RehearsalScreen } from '../../../../features/groups/RehearsalScreen';
import { currentStudio } from '../../../../server/database';
import { groupTunes } from '../../../../server/groupWork';
import { openGroup } from '../../../../server/groups';
import { calendarToday } from '../../../../server/pupils';

export const metadata: Metadata = { title: 'Rehearsal' };
export const dynamic = 'force-dynamic';

interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<{ readonly tune?: string | string[]; readonly minutes?: string | string[] }>;
}

const USUAL_MINUTES = 40;

export default async function RehearsalPage({ params, searchParams }: Props) {
  const { id } = await params;
  const { tune: wanted, minutes: asked } = await searchParams;
  const studio = currentStudio();
  const found = await openGroup(studio, id);
  if (!found) notFound();
  const tunes = await groupTunes(studio, found.group, calendarToday());
  const chosen = tunes.find(({ tune }) => tune === wanted) ?? tunes[0];
  const minutes = typeof asked === 'string' && /^\d{2,3}$/.test(asked) ? Math.min(240, Number(asked)) : USUAL_MINUTES;
  return (
    <RehearsalScreen
      id={id}
      name={found.group.name}
      tunes={tunes.map(({ tune, title, members }) => ({ tune, title, count: members.length }))}
      chosen={chosen?.tune}
      minutes={minutes}
      states={memberStates(chosen?.members ?? [])}
      stumbles={stumblesOf(chosen?.members ?? [])}
      items={rehearsalPlan(chosen?.members ?? [], minutes)}
    />
  );
}
