import type { Metadata } from 'next';
import { binOf, countBin } from '../../db/binRepository';
import { studioName } from '../../db/studioRepository';
import { StudioScreen } from '../../features/studio/StudioScreen';
import { exportParts } from '../../server/archive/studioArchive';
import { currentPerson } from '../../server/accounts/asking';
import { currentStudio, programStudio } from '../../server/database';
import { roomUsed } from '../../server/quota';

export const metadata: Metadata = { title: 'Studio' };
export const dynamic = 'force-dynamic';

export default async function StudioPage() {
  const studio = currentStudio();
  const person = currentPerson();
  // Room is the whole studio's, not that of what one teacher sees.
  const whole = person ? programStudio(person.studio) : studio;
  const [name, parts, bin, inBin, room] = await Promise.all([
    studioName(studio),
    exportParts(studio),
    binOf(studio),
    countBin(studio),
    roomUsed(whole),
  ]);
  return (
    <StudioScreen
      studio={name}
      parts={parts.length}
      bin={bin}
      room={room}
      more={inBin - bin.length}
      now={new Date().toISOString()}
    />
  );
}
