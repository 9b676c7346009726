'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { z } from 'zod';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import { Sheet } from '../../ui/Sheet';
import { useToast } from '../../ui/Toast';
import { CopyButton } from '../work/CopyButton';
import { nothing, send } from '../work/send';
import { AccountInput, FormProblem } from './AccountInput';
import { forgetAll, openWhole } from './browserMemory';
import { dayOf } from './dates';
import { HouseFrame, Matter } from './HouseFrame';
import { Moment } from './Moment';

type Role = 'owner' | 'teacher' | 'guest';
const ROLES: readonly { readonly value: Role; readonly label: string; readonly hint: string }[] = [
  { value: 'owner', label: 'owner', hint: 'everything, and who comes in' },
  { value: 'teacher', label: 'teacher', hint: 'tunes, groups, own pupils' },
  { value: 'guest', label: 'guest', hint: 'reads and prints' },
];

interface Member {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  readonly since: string;
  readonly hasSecondFactor: boolean;
}

interface Props {
  readonly studio: string;
  /** The owner who looks at the page. */
  readonly self: string;
  readonly members: readonly Member[];
  readonly invitations: readonly {
    readonly id: string;
    readonly email: string;
    readonly role: string;
    readonly endsAt: string;
  }[];
  readonly audit: readonly { readonly id: string; readonly at: string; readonly text: string }[];
  readonly messages: readonly {
    readonly to: string;
    readonly subject: string;
    readonly text: string;
    readonly at: string;
  }[];
  readonly settings: { readonly secondFactor: boolean; readonly ownWorksOnly: boolean };
}

/** Who belongs to the studio, who is invited, what is decided for all, and what was done. */
export function PeopleScreen({ studio, self, members, invitations, audit, messages, settings }: Props) {
  const [handed, setHanded] = useState<Handed>();
  return (
    <HouseFrame here="people" title="People" note={studio}>
      <div className="grid max-w-6xl items-start gap-6 lg:grid-cols-[3fr_2fr]">
        <div className="grid gap-6">
          <Members members={members} self={self} onHanded={setHanded} />
          <Invitations invitations={invitations} onHanded={setHanded} />
          <Audit entries={audit} />
        </div>
        <div className="grid gap-6">
          <Settings settings={settings} />
          {messages.length > 0 && <Messages messages={messages} />}
          <EndStudio studio={studio} />
        </div>
      </div>
      <Sheet
        open={handed !== undefined}
        onClose={() => setHanded(undefined)}
        title={handed?.title ?? ''}
        description={handed?.text ?? ''}
        width="max-w-xl"
      >
        {handed && <HandedAddress address={handed.address} />}
      </Sheet>
    </HouseFrame>
  );
}

/** An address that is shown once, to be handed on. */
interface Handed {
  readonly title: string;
  readonly text: string;
  readonly address: string;
}

function HandedAddress({ address }: { readonly address: string }) {
  return (
    <div className="flex items-center gap-2">
      <input
        readOnly
        aria-label="Address to hand on"
        value={address}
        className="min-h-9 min-w-0 flex-1 rounded border border-edge bg-white px-2.5 font-mono text-[13px]"
        onFocus={({ target }) => target.select()}
      />
      <CopyButton text={address} label="Copy" />
    </div>
  );
}

const addressSchema = z.object({ address: z.string() });

function Members({
  members,
  self,
  onHanded,
}: {
  readonly members: readonly Member[];
  readonly self: string;
  readonly onHanded: (handed: Handed) => void;
}) {
  const router = useRouter();
  const [problem, setProblem] = useState<string>();
  const [leaving, setLeaving] = useState<Member>();
  const change = async (member: Member, role: Role) => {
    const answer = await send(`/api/people/${member.id}`, nothing, { method: 'PUT', json: { role } });
    setProblem(answer.ok ? undefined : answer.problem.message);
    router.refresh();
  };
  const reset = async (member: Member) => {
    const answer = await send(`/api/people/${member.id}/reset`, addressSchema, { method: 'POST' });
    setProblem(answer.ok ? undefined : answer.problem.message);
    if (answer.ok)
      onHanded({
        title: `A new password for ${member.name}`,
        text: 'Hand this address on. It can be used once, within two hours, and is not shown again.',
        address: answer.value.address,
      });
  };
  const remove = async (member: Member) => {
    const answer = await send(`/api/people/${member.id}`, nothing, { method: 'DELETE' });
    setProblem(answer.ok ? undefined : answer.problem.message);
    setLeaving(undefined);
    router.refresh();
  };
  return (
    <Matter title="Members">
      <FormProblem text={problem} />
      <ul>
        {members.map((member) => (
          <li
            key={member.id}
            className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-b border-line py-2"
          >
            <span className="min-w-0 flex-1 basis-52">
              <span className="font-medium">{member.name}</span>
              {member.id === self && <span className="text-ink-soft"> (you)</span>}
              <span className="block truncate text-[13px] text-ink-soft">
                {member.email} · since {dayOf(member.since)}
                {member.hasSecondFactor && ' · second factor'}
              </span>
            </span>
            <Select<Role>
              label={`Role of ${member.name}`}
              look="word"
              value={member.role}
              options={ROLES}
              onChange={(role) => void change(member, role)}
            />
            <span className="flex gap-1">
              <Button aria-label={`New password for ${member.name}`} onClick={() => void reset(member)}>
                New password …
              </Button>
              {member.id !== self && (
                <Button aria-label={`Remove ${member.name}`} onClick={() => setLeaving(member)}>
                  Remove …
                </Button>
              )}
            </span>
          </li>
        ))}
      </ul>
      <Sheet
        open={leaving !== undefined}
        onClose={() => setLeaving(undefined)}
        title={`Remove ${leaving?.name ?? ''} from the studio?`}
        description="They are signed out at once. Their tunes and groups stay, and their pupils become yours."
        width="max-w-md"
      >
        <span className="flex gap-2">
          <Button kind="main" onClick={() => leaving && void remove(leaving)}>
            Remove
          </Button>
          <Button onClick={() => setLeaving(undefined)}>Cancel</Button>
        </span>
      </Sheet>
    </Matter>
  );
}

function Invitations({
  invitations,
  onHanded,
}: {
  readonly invitations: Props['invitations'];
  readonly onHanded: (handed: Handed) => void;
}) {
  const router = useRouter();
  const [email, setEmail] = useState('');
  const [role, setRole] = useState<Role>('teacher');
  const [problem, setProblem] = useState<string>();
  const invite = async () => {
    const answer = await send('/api/people/invitations', addressSchema, { method: 'POST', json: { email, role } });
    setProblem(answer.ok ? undefined : answer.problem.message);
    if (!answer.ok) return;
    onHanded({
      title: `${email} is invited`,
      text: 'Hand this address on. It can be used once, within a week, and is not shown again.',
      address: answer.value.address,
    });
    setEmail('');
    router.refresh();
  };
  const end = async (id: string) => {
    const answer = await send(`/api/people/invitations/${id}`, nothing, { method: 'DELETE' });
    setProblem(answer.ok ? undefined : answer.problem.message);
    router.refresh();
  };
  return (
    <Matter title="Invite">
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void invite();
        }}
      >
        <div className="min-w-56 flex-1">
          <AccountInput label="Mail address" type="email" fill="off" value={email} onChange={setEmail} />
        </div>
        <span className="mb-3 pb-1.5">
          as <Select<Role> label="Role of the invited" look="word" value={role} options={ROLES} onChange={setRole} />
        </span>
        <Button kind="main" type="submit" className="mb-3 min-h-9">
          Invite
        </Button>
      </form>
      <FormProblem text={problem} />
      <ul>
        {invitations.map((one) => (
          <li key={one.id} className="flex items-center justify-between border-t border-line py-1.5">
            <span>
              {one.email}{' '}
              <span className="text-[13px] text-ink-soft">
                as {one.role}, until {dayOf(one.endsAt)}
              </span>
            </span>
            <Button aria-label={`End the invitation of ${one.email}`} onClick={() => void end(one.id)}>
              End
            </Button>
          </li>
        ))}
      </ul>
    </Matter>
  );
}

function Settings({ settings }: { readonly settings: Props['settings'] }) {
  const router = useRouter();
  const tell = useToast();
  const put = async (next: Props['settings']) => {
    const answer = await send('/api/people/settings', nothing, { method: 'PUT', json: next });
    if (!answer.ok) tell(answer.problem.message);
    router.refresh();
  };
  return (
    <Matter title="Decided for all">
      <label className="flex min-h-7 items-start gap-2 py-1">
        <input
          type="checkbox"
          className="mt-1 size-4"
          checked={settings.secondFactor}
          onChange={({ target }) => void put({ ...settings, secondFactor: target.checked })}
        />
        Owners need a second factor
      </label>
      <label className="flex min-h-7 items-start gap-2 py-1">
        <input
          type="checkbox"
          className="mt-1 size-4"
          checked={settings.ownWorksOnly}
          onChange={({ target }) => void put({ ...settings, ownWorksOnly: target.checked })}
        />
        Teachers see only the tunes and groups that they made
      </label>
      <p className="mt-2 text-[13px] text-ink-soft">
        Pupils and their logs are seen by their own teacher and by owners, in any case.
      </p>
    </Matter>
  );
}

/** Doing away with the studio: its name and the password once more, after an export. */
function EndStudio({ studio }: { readonly studio: string }) {
  const [isOpen, setOpen] = useState(false);
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [problem, setProblem] = useState<string>();
  const end = async () => {
    const answer = await send('/api/people/studio', nothing, { method: 'DELETE', json: { name, password } });
    if (!answer.ok) return setProblem(answer.problem.message);
    await forgetAll();
    return openWhole('/');
  };
  return (
    <Matter title="End this studio">
      <p className="mb-2 text-[13px] text-ink-soft">
        Tunes, groups, pupils and their logs are deleted for everybody, and nothing brings them back. Export the studio
        first, under Studio. You go on in another studio of yours.
      </p>
      <Button onClick={() => setOpen(true)}>Delete {studio} …</Button>
      <Sheet
        open={isOpen}
        onClose={() => setOpen(false)}
        title={`Delete ${studio}`}
        description="All of it, for everybody, for good."
        width="max-w-md"
      >
        <form
          onSubmit={(event) => {
            event.preventDefault();
            void end();
          }}
        >
          <AccountInput label="The studio’s name" value={name} onChange={setName} fill="off" />
          <AccountInput
            label="Your password"
            type="password"
            value={password}
            onChange={setPassword}
            fill="current-password"
          />
          <FormProblem text={problem} />
          <Button kind="main" type="submit" disabled={name.trim() !== studio || password === ''}>
            Delete it for good
          </Button>
        </form>
      </Sheet>
    </Matter>
  );
}

function Messages({ messages }: { readonly messages: Props['messages'] }) {
  return (
    <Matter title="Messages not mailed">
      <p className="mb-2 text-[13px] text-ink-soft">
        No mail server is set: hand these on yourself. They hold links that open an account.
      </p>
      <ul className="max-h-80 overflow-y-auto" tabIndex={0} aria-label="Messages">
        {messages.map(({ to, subject, text, at }) => (
          <li key={`${at}${to}`} className="border-t border-line py-2">
            <span className="block font-medium">{subject}</span>
            <span className="block text-[13px] text-ink-soft">
              to {to}, <Moment iso={at} />
            </span>
            <span className="mt-1 block text-[13px] break-words whitespace-pre-line">{text}</span>
          </li>
        ))}
      </ul>
    </Matter>
  );
}

function Audit({ entries }: { readonly entries: Props['audit'] }) {
  return (
    <Matter title="Who did what">
      {entries.length === 0 && <p className="text-ink-soft">Nothing yet.</p>}
      <ol className="max-h-96 overflow-y-auto" tabIndex={0} aria-label="Entries">
        {entries.map(({ id, at, text }) => (
          <li key={id} className="flex gap-3 border-t border-line py-1 text-[13px]">
            <span className="w-40 shrink-0 text-ink-soft tabular-nums">
              <Moment iso={at} />
            </span>
            <span className="min-w-0 break-words">{text}</span>
          </li>
        ))}
      </ol>
    </Matter>
  );
}
