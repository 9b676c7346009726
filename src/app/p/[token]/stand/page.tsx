import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { workForPlayer } from '../../../../core/keys';
import { ON_STAND } from '../../../../core/levels';
import { StandScreen } from '../../../../features/rehearse/StandScreen';
import { assignmentOf, type StandWish } from '../../../../server/assignment';
import { currentStudio } from '../../../../server/database';
import { ownThings } from '../../../../server/ownThings';
import { linkedPupil } from '../../../linkedPupil';
import { openedTune } from '../../../openedTune';

export const metadata: Metadata = { title: 'Stand', robots: { index: false, follow: false }, referrer: 'no-referrer' };
export const dynamic = 'force-dynamic';

/**
 * What is set for a pupil, on their own stand, as an item of the week (`work=`, `step=`) or freely (`tune=`, `what=`): no tune
 * but theirs, in no part but theirs.
 */
export default async function OwnStandPage({
  params,
  searchParams,
}: {
  readonly params: Promise<{ readonly token: string }>;
  readonly searchParams: Promise<StandWish>;
}) {
  const [{ token }, query, { id, pupil }] = await Promise.all([params, searchParams, linkedPupil()]);
  const home = { address: `/p/${token}`, name: 'My week' };
  if (query['work'] === undefined) {
    const own = (await ownThings(currentStudio(), id))?.tunes.find((tune) => tune.id === query['tune']);
    const tune = own && (await openedTune(own.id));
    if (!tune) notFound();
    const what = ON_STAND.find((known) => known === query['what']) ?? 'part';
    return (
      <StandScreen
        id={tune.id}
        work={workForPlayer(tune.work, own.player)}
        level={own.player.level}
        what={what}
        home={home}
      />
    );
  }
  const assigned = assignmentOf(pupil, query);
  const opened = assigned?.work.tune === undefined ? undefined : await openedTune(assigned.work.tune);
  if (!assigned || !opened) notFound();
  const { work, player, ...asked } = assigned;
  return (
    <StandScreen
      id={opened.id}
      work={workForPlayer(opened.work, player)}
      level={player.level}
      what="part"
      assignment={{ ...asked, log: `p/${token}`, name: pupil.name, work: work.id }}
      home={home}
    />
  );
}
