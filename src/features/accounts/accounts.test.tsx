/** @jest-environment jsdom */
import { press, screen, shown, waitFor, words } from '../../../tests/screen';
import { serverStandIn } from '../../../tests/serverStandIn';
import { ToastArea } from '../../ui/Toast';
import { becomesBrowserOf, countUnsaved } from './browserMemory';
import * as memory from './browserMemory';
import { LinkScreen } from './LinkScreen';
import { PeopleScreen } from './PeopleScreen';
import { SignInScreen } from './SignInScreen';

jest.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined, push: () => undefined }) }));
jest.mock('./browserMemory', () => ({ ...jest.requireActual<typeof memory>('./browserMemory'), openWhole: jest.fn() }));
const opened = memory.openWhole as jest.Mock;
beforeEach(() => {
  opened.mockClear();
  localStorage.clear();
});

async function signIn(
  to: string | undefined,
  ...answers: readonly { readonly status?: number; readonly json: unknown }[]
) {
  const left = [...answers];
  const asked = serverStandIn({ 'POST /api/account/sign-in': () => left.shift() ?? 'away' });
  const { user } = shown(<SignInScreen to={to} />);
  await user.type(screen.getByLabelText('Mail address'), 'ada@loft.example');
  await user.type(screen.getByLabelText('Password'), 'kelp lantern 7');
  await press(user, 'Sign in');
  return { user, asked };
}

test.each([
  ['/pupils?x=1', '/pupils?x=1'],
  ['//evil.example', '/'],
  ['/\\evil.example', '/'],
  ['https://evil.example', '/'],
  [undefined, '/'],
])('who is in comes to %s as %s: to no other site', async (to, path) => {
  await signIn(to, { json: { person: 'p1' } });
  await waitFor(() => expect(opened).toHaveBeenCalledWith(path));
});

test('a code is asked for where the account has a second factor; what is wrong is told', async () => {
  const wrong = { status: 401, json: { messages: ['This code does not hold.'] } };
  const { user, asked } = await signIn('/', { json: { needsCode: true } }, wrong);
  await screen.findByLabelText('Code');
  await user.type(screen.getByLabelText('Code'), '123456');
  await press(user, 'Sign in');
  await screen.findByText('This code does not hold.');
  expect(asked.map(({ json }) => 'code' in (json as object))).toEqual([false, true]);
  expect(opened).not.toHaveBeenCalled();
});

test('the browser keeps nothing of one person for the next', async () => {
  localStorage.setItem('reed-hook:unsaved:tune', 'x');
  await becomesBrowserOf('p1');
  expect(countUnsaved()).toBe(1);
  await becomesBrowserOf('p1');
  expect(countUnsaved()).toBe(1);
  await becomesBrowserOf('p2');
  expect(countUnsaved()).toBe(0);
});

test('a link that has ended says so', () => {
  shown(<LinkScreen token="t" link={undefined} />);
  expect(words(screen.getByRole('main'))).toContain('Ask whoever gave it to you for a new one');
});

test('an invitation is taken with a name and a password', async () => {
  const asked = serverStandIn({ 'POST /api/account/links': () => ({ json: { ok: true } }) });
  const { user } = shown(
    <LinkScreen
      token="t"
      link={{ kind: 'invite', studio: 'Loft', role: 'guest', email: 'g@loft.example', isKnown: false }}
    />,
  );
  await user.type(screen.getByLabelText('Your name, as colleagues see it'), 'Gwen');
  await user.type(screen.getByLabelText('Password'), 'kelp lantern 7');
  await press(user, 'Come in');
  await waitFor(() => expect(opened).toHaveBeenCalledWith('/'));
  expect(asked[0]?.json).toEqual({ token: 't', password: 'kelp lantern 7', name: 'Gwen' });
});

test('the address of an invitation is shown once, to be handed on', async () => {
  serverStandIn({ 'POST /api/people/invitations': () => ({ json: { address: 'https://reeds.example/welcome/abc' } }) });
  const { user } = shown(
    <ToastArea>
      <PeopleScreen
        studio="Loft"
        self="p1"
        members={[
          {
            id: 'p1',
            name: 'Olwen',
            email: 'o@loft.example',
            role: 'owner',
            since: '2027-01-05T10:00:00Z',
            hasSecondFactor: true,
          },
        ]}
        invitations={[]}
        audit={[{ id: 'a', at: '2027-01-05T10:00:00Z', text: 'Olwen joined as owner' }]}
        messages={[]}
        settings={{ secondFactor: false, ownWorksOnly: false }}
      />
    </ToastArea>,
  );
  // Nobody removes themselves.
  expect(screen.queryByRole('button', { name: 'Remove Olwen' })).toBeNull();
  await user.type(screen.getByLabelText('Mail address'), 'new@loft.example');
  await press(user, 'Invite');
  expect(await screen.findByLabelText('Address to hand on')).toHaveProperty(
    'value',
    'https://reeds.example/welcome/abc',
  );
  await user.keyboard('{Escape}');
  expect(screen.queryByLabelText('Address to hand on')).toBeNull();
});
