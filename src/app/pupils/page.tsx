import type { Metadata } from 'next';
import { possiblySame } from '../../core/planning';
import { PupilsScreen } from '../../features/pupils/PupilsScreen';
import { currentStudio } from '../../server/database';
import { listCustomInstruments, listGroups } from '../../server/groups';
import { calendarToday, listPupils } from '../../server/pupils';
import { pupilRows } from '../../server/pupilRows';

export const metadata: Metadata = { title: 'Pupils' };
export const dynamic = 'force-dynamic';

export default async function PupilsPage() {
  const studio = currentStudio();
  const today = calendarToday();
  const [pupils, custom, groups] = await Promise.all([
    listPupils(studio),
    listCustomInstruments(studio),
    listGroups(studio),
  ]);
  const players = groups.flatMap(({ id: groupId, group }) =>
    group.players
      .filter(({ pupil, name }) => pupil === undefined && name !== '')
      .map(({ name, pupil: _, playing: _playing, ...playing }) => ({
        name,
        group: group.name,
        groupId,
        player: playing.id,
        playing: { ...playing, id: 'a' },
      })),
  );
  return (
    <PupilsScreen
      rows={await pupilRows(studio, pupils, today)}
      today={today}
      custom={custom}
      same={possiblySame(pupils)}
      players={players}
    />
  );
}
