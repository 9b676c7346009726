import type { Metadata } from 'next';
import { GroupsScreen } from '../../features/groups/GroupsScreen';
import { currentStudio } from '../../server/database';
import { listGroups, listCustomInstruments } from '../../server/groups';
import { listPupils } from '../../server/pupils';

export const metadata: Metadata = { title: 'Groups' };
export const dynamic = 'force-dynamic';

export default async function GroupsPage() {
  const studio = currentStudio();
  const [groups, custom, pupils] = await Promise.all([
    listGroups(studio),
    listCustomInstruments(studio),
    listPupils(studio),
  ]);
  return <GroupsScreen groups={groups} custom={custom} pupils={pupils.map(({ id, pupil }) => ({ id, pupil }))} />;
}
