import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { LEVELS } from '../../../../core/instruments';
import { ON_STAND } from '../../../../core/levels';
import { workOfVoice } from '../../../../core/ensemble';
import { workForPlayer } from '../../../../core/keys';
import { StandScreen } from '../../../../features/rehearse/StandScreen';
import { assignmentOf } from '../../../../server/assignment';
import { currentStudio } from '../../../../server/database';
import { openGroup } from '../../../../server/groups';
import { openPupil } from '../../../../server/pupils';
import { openedTune } from '../../../openedTune';

interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<Readonly<Record<string, string | string[] | undefined>>>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const opened = await openedTune((await params).id);
  return { title: `Rehearse: ${opened?.work.tune.title || 'Tune'}` };
}

/** One part on the stand: large, turned by itself, learned in chunks. */
export default async function StandPage({ params, searchParams }: Props) {
  const { id } = await params;
  const query = await searchParams;
  const opened = await openedTune(id);
  if (!opened) notFound();
  const what = ON_STAND.find((known) => known === query.what) ?? 'part';
  if (query.together !== undefined && typeof query.group === 'string' && typeof query.player === 'string') {
    const group = (await openGroup(currentStudio(), query.group))?.group;
    const own = group && workOfVoice(opened.work, group, query.player);
    if (!own) notFound();
    return (
      <StandScreen
        id={id}
        work={own.work}
        level={own.level}
        what="part"
        behind={{ group, of: opened.work, without: own.place }}
      />
    );
  }
  const found = typeof query.pupil === 'string' ? await openPupil(currentStudio(), query.pupil) : undefined;
  const assigned = found && assignmentOf(found.pupil, query);
  const level = LEVELS.find((known) => known === query.level) ?? LEVELS[0];
  if (!assigned) return <StandScreen id={id} work={opened.work} level={level} what={what} />;
  const { work, player, ...asked } = assigned;
  return (
    <StandScreen
      id={id}
      work={workForPlayer(opened.work, player)}
      level={player.level}
      what={what}
      assignment={{ ...asked, log: found.id, name: found.pupil.name, work: work.id }}
    />
  );
}
