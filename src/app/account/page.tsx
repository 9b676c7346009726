import type { Metadata } from 'next';
import { countRecoveryCodes } from '../../db/peopleRepository';
import { devicesOf } from '../../db/sessionRepository';
import { AccountScreen } from '../../features/accounts/AccountScreen';
import { signedIn } from '../../server/accounts/answers';
import { accounts } from '../../server/database';

export const metadata: Metadata = { title: 'Your account' };
export const dynamic = 'force-dynamic';

export default async function AccountPage() {
  const me = signedIn();
  const [studios, devices, recoveryCodes] = await Promise.all([
    accounts().memberships(me.person),
    devicesOf(accounts(), me.person, new Date()),
    countRecoveryCodes(accounts(), me.person),
  ]);
  return (
    <AccountScreen
      name={me.name}
      email={me.email}
      studios={studios.map(({ studio, name, role }) => ({ id: studio, name, role, isOpen: studio === me.studio }))}
      devices={devices.map(({ id, device, seenAt }) => ({
        id,
        device,
        seenAt: seenAt.toISOString(),
        isThis: id === me.session,
      }))}
      secondFactor={{
        isOn: me.hasSecondFactor,
        recoveryCodes,
        isWanted: me.role === 'owner' && me.settings.secondFactor && !me.hasSecondFactor,
      }}
    />
  );
}
