import type { Metadata } from 'next';
import { GroupsScreen } from '../../features/groups/GroupsScreen';
import { currentStudio } from '../../server/database';
import { listGroups, listOwnInstruments } from '../../server/groups';

export const metadata: Metadata = { title: 'Groups' };
export const dynamic = 'force-dynamic';

export default async function GroupsPage() {
  const studio = currentStudio();
  const [groups, own] = await Promise.all([listGroups(studio), listOwnInstruments(studio)]);
  return <GroupsScreen groups={groups} own={own} />;
}
