import type { Metadata } from 'next';
import { PeopleScreen } from '../../features/accounts/PeopleScreen';
import { signedIn } from '../../server/accounts/answers';
import { keptMessages } from '../../server/accounts/mail';
import { peopleOf } from '../../server/accounts/members';

export const metadata: Metadata = { title: 'People' };
export const dynamic = 'force-dynamic';

export default async function PeoplePage() {
  const me = signedIn();
  const [people, messages] = await Promise.all([peopleOf(me, new Date()), keptMessages(me.studio)]);
  return (
    <PeopleScreen studio={me.studioName} self={me.person} settings={me.settings} messages={messages} {...people} />
  );
}
