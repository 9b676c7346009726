'use client';

import { useState } from 'react';
import { z } from 'zod';
import { Button } from '../../ui/Button';
import { send } from '../work/send';
import { AccountInput, FormProblem } from './AccountInput';
import { forgetAll, openWhole } from './browserMemory';
import { DoorFrame } from './DoorFrame';

/** What a one-time link is for. */
export interface LinkShown {
  readonly kind: 'owner' | 'invite' | 'reset';
  readonly studio: string;
  readonly role: string;
  readonly email: string;
  /** Whoever has an account joins with it. */
  readonly isKnown: boolean;
}

const ROLE_TEXT: Readonly<Record<string, string>> = {
  owner: 'an owner: you can do everything, and decide who comes in.',
  teacher: 'a teacher: tunes, groups, and pupils of your own.',
  guest: 'a guest: you can read and print.',
};

const answerSchema = z.union([z.object({ needsCode: z.literal(true) }), z.object({ ok: z.literal(true) })]);

/** The page of a one-time link: the first account, an invitation, a new password. */
export function LinkScreen({ token, link }: { readonly token: string; readonly link: LinkShown | undefined }) {
  if (!link)
    return (
      <DoorFrame title="This link has ended">
        <p className="mb-4">It was used already, or is too old. Ask whoever gave it to you for a new one.</p>
        <a href="/sign-in" className="text-cane underline underline-offset-4">
          Sign in
        </a>
      </DoorFrame>
    );
  return <OpenLink token={token} link={link} />;
}

function OpenLink({ token, link }: { readonly token: string; readonly link: LinkShown }) {
  const [email, setEmail] = useState('');
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [code, setCode] = useState('');
  const [needsCode, setNeedsCode] = useState(false);
  const [problem, setProblem] = useState<string>();
  const [isBusy, setBusy] = useState(false);
  const isReset = link.kind === 'reset';
  const submit = async () => {
    setBusy(true);
    setProblem(undefined);
    const answer = await send('/api/account/links', answerSchema, {
      method: 'POST',
      json: {
        token,
        password,
        ...(link.kind === 'owner' && { email }),
        ...(!link.isKnown && !isReset && { name }),
        ...(needsCode && { code }),
      },
    });
    setBusy(false);
    if (!answer.ok) return setProblem(answer.problem.message.replace(/^(?:password|name|email): /, ''));
    if ('needsCode' in answer.value && !isReset) return setNeedsCode(true);
    await forgetAll();
    openWhole('needsCode' in answer.value ? '/sign-in?set=1' : '/');
  };
  return (
    <DoorFrame title={isReset ? 'A new password' : link.kind === 'owner' ? 'The first account' : link.studio}>
      <p className="mb-4">
        {isReset && 'Everywhere you are signed in you will have to sign in again.'}
        {link.kind === 'owner' &&
          `You become the owner of “${link.studio}”: all that is in it now is yours, and you invite the others.`}
        {link.kind === 'invite' && `You are invited as ${ROLE_TEXT[link.role] ?? link.role}`}
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <FormProblem text={problem} />
        {link.kind === 'owner' ? (
          <AccountInput label="Mail address" type="email" fill="username" value={email} onChange={setEmail} autoFocus />
        ) : (
          link.email !== '' && <p className="mb-3 font-medium">{link.email}</p>
        )}
        {!link.isKnown && !isReset && (
          <AccountInput label="Your name, as colleagues see it" fill="name" value={name} onChange={setName} />
        )}
        <AccountInput
          label={link.isKnown ? 'The password of your account' : 'Password'}
          type="password"
          fill={link.isKnown ? 'current-password' : 'new-password'}
          value={password}
          onChange={setPassword}
          {...(!link.isKnown && { help: 'Ten characters or more; three or four words do well.' })}
        />
        {needsCode && <AccountInput label="Code" fill="one-time-code" value={code} onChange={setCode} autoFocus />}
        <Button kind="main" type="submit" disabled={isBusy} className="mt-2 min-h-9 px-5">
          {isReset ? 'Set the password' : link.kind === 'owner' ? 'Make the account' : 'Come in'}
        </Button>
      </form>
    </DoorFrame>
  );
}
