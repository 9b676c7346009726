import type { Metadata } from 'next';
import { binOf, countBin } from '../../db/binRepository';
import { studioName } from '../../db/studioRepository';
import { StudioScreen } from '../../features/studio/StudioScreen';
import { exportParts } from '../../server/archive/studioArchive';
import { currentStudio } from '../../server/database';

export const metadata: Metadata = { title: 'Studio' };
export const dynamic = 'force-dynamic';

export default async function StudioPage() {
  const studio = currentStudio();
  const [name, parts, bin, inBin] = await Promise.all([
    studioName(studio),
    exportParts(studio),
    binOf(studio),
    countBin(studio),
  ]);
  return (
    <StudioScreen
      studio={name}
      parts={parts.length}
      bin={bin}
      more={inBin - bin.length}
      now={new Date().toISOString()}
    />
  );
}
