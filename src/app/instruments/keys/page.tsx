import type { Metadata } from 'next';
import { WrittenKeysScreen } from '../../../features/instruments/WrittenKeysScreen';
import { currentStudio } from '../../../server/database';
import { listCustomInstruments } from '../../../server/groups';

export const metadata: Metadata = { title: 'Everybody’s written key' };
export const dynamic = 'force-dynamic';

export default async function WrittenKeysPage({
  searchParams,
}: {
  readonly searchParams: Promise<{ readonly key?: string | string[] }>;
}) {
  const { key } = await searchParams;
  return (
    <WrittenKeysScreen
      custom={await listCustomInstruments(currentStudio())}
      asked={typeof key === 'string' ? key : 'Bb'}
    />
  );
}
