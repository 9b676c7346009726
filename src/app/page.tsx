import { ShelfScreen } from '../features/shelf/ShelfScreen';
import { studioName } from '../db/studioRepository';
import { currentStudio } from '../server/database';
import { listShelf } from '../server/tunes';

export default async function ShelfPage({
  searchParams,
}: {
  readonly searchParams: Promise<{ readonly search?: string | string[] }>;
}) {
  const { search } = await searchParams;
  const words = typeof search === 'string' ? search : '';
  const studio = currentStudio();
  const [page, name] = await Promise.all([listShelf(studio, words), studioName(studio)]);
  return <ShelfScreen studio={name} first={page} search={words} />;
}
