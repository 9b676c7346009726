import type { Metadata } from 'next';
import { binOf } from '../../db/binRepository';
import { studioName } from '../../db/studioRepository';
import { StudioScreen } from '../../features/studio/StudioScreen';
import { currentStudio } from '../../server/database';

export const metadata: Metadata = { title: 'Studio' };
export const dynamic = 'force-dynamic';

export default async function StudioPage() {
  const studio = currentStudio();
  const [name, bin] = await Promise.all([studioName(studio), binOf(studio)]);
  return <StudioScreen studio={name} bin={bin} now={new Date().toISOString()} />;
}
