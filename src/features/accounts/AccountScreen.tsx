'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { z } from 'zod';
import { Button } from '../../ui/Button';
import { Sheet } from '../../ui/Sheet';
import { useToast } from '../../ui/Toast';
import { nothing, send } from '../work/send';
import { AccountInput, FormProblem } from './AccountInput';
import { countUnsaved, forgetAll, openWhole } from './browserMemory';
import { HouseFrame, Matter } from './HouseFrame';
import { Moment } from './Moment';
import { SecondFactor } from './SecondFactor';

export interface StudioRow {
  readonly id: string;
  readonly name: string;
  readonly role: string;
  readonly isOpen: boolean;
}

export interface DeviceRow {
  readonly id: string;
  readonly device: string;
  readonly seenAt: string;
  readonly isThis: boolean;
}

/** One's own account: studios, devices, password, second factor. */
export function AccountScreen({
  name,
  email,
  studios,
  devices,
  secondFactor,
}: {
  readonly name: string;
  readonly email: string;
  readonly studios: readonly StudioRow[];
  readonly devices: readonly DeviceRow[];
  readonly secondFactor: { readonly isOn: boolean; readonly recoveryCodes: number; readonly isWanted: boolean };
}) {
  return (
    <HouseFrame here="account" title={name} note={email}>
      {secondFactor.isWanted && (
        <p role="status" className="mb-4 max-w-5xl rounded bg-cane-pale px-3 py-2">
          This studio wants a second factor of its owners. Set it up below; the rest of the studio opens then.
        </p>
      )}
      <div className="grid max-w-5xl items-start gap-6 md:grid-cols-2">
        <Studios studios={studios} />
        <Devices devices={devices} />
        <Password />
        <SecondFactor isOn={secondFactor.isOn} recoveryCodes={secondFactor.recoveryCodes} />
      </div>
    </HouseFrame>
  );
}

function Studios({ studios }: { readonly studios: readonly StudioRow[] }) {
  const [problem, setProblem] = useState<string>();
  const [isNew, setNew] = useState(false);
  const [name, setName] = useState('');
  const open = async (wish: { readonly open: string } | { readonly name: string }) => {
    const answer = await send('/api/account/studio', nothing, { method: 'POST', json: wish });
    if (!answer.ok) return setProblem(answer.problem.message);
    // What was kept of the other studio is not this one's.
    await forgetAll();
    openWhole('/');
  };
  return (
    <Matter title="Studios">
      <FormProblem text={problem} />
      <ul className="mb-3">
        {studios.map((studio) => (
          <li key={studio.id} className="flex items-center justify-between border-b border-line py-1.5">
            <span>
              {studio.name} <span className="text-[13px] text-ink-soft">({studio.role})</span>
            </span>
            {studio.isOpen ? (
              <span className="text-[13px] text-ink-soft">open now</span>
            ) : (
              <Button aria-label={`Open ${studio.name}`} onClick={() => void open({ open: studio.id })}>
                Open
              </Button>
            )}
          </li>
        ))}
      </ul>
      {isNew ? (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            void open({ name });
          }}
        >
          <AccountInput label="Name of the studio" fill="off" value={name} onChange={setName} autoFocus />
          <span className="flex gap-2">
            <Button kind="main" type="submit">
              Make the studio
            </Button>
            <Button onClick={() => setNew(false)}>Cancel</Button>
          </span>
        </form>
      ) : (
        studios.some(({ role }) => role === 'owner') && <Button onClick={() => setNew(true)}>New studio …</Button>
      )}
    </Matter>
  );
}

function Devices({ devices }: { readonly devices: readonly DeviceRow[] }) {
  const router = useRouter();
  const tell = useToast();
  const [unsaved, setUnsaved] = useState(0);
  const end = async (id: string) => {
    const answer = await send(`/api/account/devices/${id}`, nothing, { method: 'DELETE' });
    tell(answer.ok ? 'Signed out there.' : answer.problem.message);
    router.refresh();
  };
  const leave = async () => {
    const answer = await send('/api/account/sign-out', nothing, { method: 'POST' });
    if (!answer.ok) return tell(answer.problem.message);
    await forgetAll();
    openWhole('/sign-in');
  };
  return (
    <Matter title="Devices">
      <ul className="mb-3">
        {devices.map(({ id, device, seenAt, isThis }) => (
          <li key={id} className="flex items-center justify-between gap-2 border-b border-line py-1.5">
            <span>
              {device}
              <span className="block text-[13px] text-ink-soft">
                {isThis ? (
                  'this one'
                ) : (
                  <>
                    last used <Moment iso={seenAt} />
                  </>
                )}
              </span>
            </span>
            {!isThis && (
              <Button aria-label={`Sign out ${device}`} onClick={() => void end(id)}>
                Sign out
              </Button>
            )}
          </li>
        ))}
      </ul>
      <span className="flex flex-wrap gap-2">
        <Button
          kind="main"
          onClick={() => {
            const waiting = countUnsaved();
            if (waiting > 0) setUnsaved(waiting);
            else void leave();
          }}
        >
          Sign out here
        </Button>
        {devices.length > 1 && <Button onClick={() => void end('others')}>Sign out everywhere else</Button>}
      </span>
      <p className="mt-2 text-[13px] text-ink-soft">Signing out leaves nothing of the studio in this browser.</p>
      <Sheet
        open={unsaved > 0}
        onClose={() => setUnsaved(0)}
        title="Not everything is saved"
        description={`${unsaved === 1 ? 'One piece of work' : `${unsaved} pieces of work`} in this browser could not be sent yet. Signing out throws it away.`}
        width="max-w-md"
      >
        <span className="flex gap-2">
          <Button kind="main" onClick={() => setUnsaved(0)}>
            Stay signed in
          </Button>
          <Button onClick={() => void leave()}>Sign out and throw it away</Button>
        </span>
      </Sheet>
    </Matter>
  );
}

function Password() {
  const tell = useToast();
  const [present, setPresent] = useState('');
  const [wanted, setWanted] = useState('');
  const [problem, setProblem] = useState<string>();
  const submit = async () => {
    const answer = await send('/api/account/password', z.object({ ok: z.boolean() }), {
      method: 'PUT',
      json: { present, wanted },
    });
    if (!answer.ok) return setProblem(answer.problem.message.replace(/^(?:present|wanted): /, ''));
    setProblem(undefined);
    setPresent('');
    setWanted('');
    tell('The password is changed. All other devices are signed out.');
  };
  return (
    <Matter title="Password">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <FormProblem text={problem} />
        <AccountInput
          label="Present password"
          type="password"
          fill="current-password"
          value={present}
          onChange={setPresent}
        />
        <AccountInput
          label="New password"
          type="password"
          fill="new-password"
          value={wanted}
          onChange={setWanted}
          help="Ten characters or more; three or four words do well."
        />
        <Button type="submit">Change the password</Button>
      </form>
    </Matter>
  );
}
