import type { Metadata } from 'next';
import { SignInScreen } from '../../features/accounts/SignInScreen';

export const metadata: Metadata = { title: 'Sign in' };
export const dynamic = 'force-dynamic';

export default async function SignInPage({
  searchParams,
}: {
  readonly searchParams: Promise<{ readonly to?: string | string[]; readonly set?: string | string[] }>;
}) {
  const { to, set } = await searchParams;
  return (
    <SignInScreen
      to={typeof to === 'string' ? to : undefined}
      note={set === undefined ? undefined : 'The new password is set. Sign in with it, and with a code.'}
    />
  );
}
