import type { Metadata } from 'next';
import { RefusedScreen } from '../../features/accounts/RefusedScreen';
import { currentlyAsked } from '../../server/accounts/asking';

export const metadata: Metadata = { title: 'Not for you' };
export const dynamic = 'force-dynamic';

export default function RefusedPage() {
  const { asking } = currentlyAsked();
  return asking.kind === 'person' ? (
    <RefusedScreen role={asking.role} studio={asking.studioName} />
  ) : (
    <RefusedScreen role="visitor" studio="this studio" />
  );
}
