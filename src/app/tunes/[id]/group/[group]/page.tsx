import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { GroupPartsScreen } from '../../../../../features/levels/GroupPartsScreen';
import { currentStudio } from '../../../../../server/database';
import { groupPage } from '../../../../../server/paint';
import { openGroup } from '../../../../../server/groups';
import { listSavedRecipes } from '../../../../../server/recipes';
import { recipesOf } from '../../../../../core/work';
import { openWork } from '../../../../../server/tunes';

export const metadata: Metadata = { title: 'Parts for a group' };

export default async function GroupPartsPage({
  params,
}: {
  readonly params: Promise<{ readonly id: string; readonly group: string }>;
}) {
  const { id, group: groupId } = await params;
  const studio = currentStudio();
  const [opened, found, saved] = await Promise.all([
    openWork(studio, id),
    openGroup(studio, groupId),
    listSavedRecipes(studio),
  ]);
  if (!opened || !found) notFound();
  const { group } = found;
  return (
    <GroupPartsScreen
      id={id}
      groupId={groupId}
      title={opened.work.tune.title}
      rights={opened.work.tune.rights}
      groupName={group.name}
      sheet={await groupPage(opened.stored, group)}
      saved={saved}
      recipes={recipesOf(opened.work)}
    />
  );
}
