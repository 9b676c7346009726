import type { Metadata } from 'next';
import { LinkScreen } from '../../../features/accounts/LinkScreen';
import { linkFor } from '../../linkFor';

export const metadata: Metadata = { title: 'A new password', robots: { index: false } };
export const dynamic = 'force-dynamic';

export default async function Page({ params }: { readonly params: Promise<{ readonly token: string }> }) {
  const { token } = await params;
  return <LinkScreen token={token} link={await linkFor(token, ['reset'])} />;
}
