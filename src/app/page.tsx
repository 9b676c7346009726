import { ShelfScreen } from '../features/shelf/ShelfScreen';
import { WORK_KINDS } from '../db/tuneRepository';
import { studioName } from '../db/studioRepository';
import { currentStudio } from '../server/database';
import { FIRST_TUNES, listShelf } from '../server/tunes';

export default async function ShelfPage({
  searchParams,
}: {
  readonly searchParams: Promise<{ readonly search?: string | string[]; readonly kind?: string | string[] }>;
}) {
  const { search, kind: wanted } = await searchParams;
  const words = typeof search === 'string' ? search : '';
  const kind = WORK_KINDS.find((known) => known === wanted);
  const studio = currentStudio();
  const [page, name] = await Promise.all([
    listShelf(studio, words, { most: FIRST_TUNES, ...(kind && { kind }) }),
    studioName(studio),
  ]);
  return <ShelfScreen studio={name} first={page} search={words} kind={kind} />;
}
