'use client';

import { useState } from 'react';
import { z } from 'zod';
import { Button } from '../../ui/Button';
import { nothing, send } from '../work/send';
import { AccountInput, FormProblem } from './AccountInput';
import { becomesBrowserOf, openWhole } from './browserMemory';
import { DoorFrame } from './DoorFrame';

const answerSchema = z.union([z.object({ needsCode: z.literal(true) }), z.object({ person: z.string() })]);

/** Where somebody goes once they are in: a path of this program alone. */
function safePath(to: string | undefined): string {
  return to !== undefined && /^\/(?![/\\])/.test(to) ? to : '/';
}

/** Mail address and password, and a code where the account has a second factor. */
export function SignInScreen({ to, note }: { readonly to?: string | undefined; readonly note?: string | undefined }) {
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [code, setCode] = useState('');
  const [needsCode, setNeedsCode] = useState(false);
  const [problem, setProblem] = useState<string>();
  const [isBusy, setBusy] = useState(false);
  const [isForgotten, setForgotten] = useState(false);
  if (isForgotten) return <ForgottenPage email={email} onBack={() => setForgotten(false)} />;
  const submit = async () => {
    setBusy(true);
    setProblem(undefined);
    const json = { email, password, ...(needsCode && { code }) };
    const answer = await send('/api/account/sign-in', answerSchema, { method: 'POST', json });
    setBusy(false);
    if (!answer.ok) return setProblem(answer.problem.message);
    if ('needsCode' in answer.value) return setNeedsCode(true);
    await becomesBrowserOf(answer.value.person);
    openWhole(safePath(to));
  };
  return (
    <DoorFrame title="Sign in">
      {note !== undefined && <p className="mb-3">{note}</p>}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <FormProblem text={problem} />
        <AccountInput label="Mail address" type="email" fill="username" value={email} onChange={setEmail} autoFocus />
        <AccountInput
          label="Password"
          type="password"
          fill="current-password"
          value={password}
          onChange={setPassword}
        />
        {needsCode && (
          <AccountInput
            label="Code"
            fill="one-time-code"
            value={code}
            onChange={setCode}
            help="From the app on your telephone, or one of your recovery codes."
            autoFocus
          />
        )}
        <div className="mt-4 flex items-center gap-3">
          <Button kind="main" type="submit" disabled={isBusy} className="min-h-9 px-5">
            {isBusy ? 'Signing in …' : 'Sign in'}
          </Button>
          <button
            type="button"
            className="min-h-7 text-cane underline underline-offset-4"
            onClick={() => setForgotten(true)}
          >
            Forgotten?
          </button>
        </div>
      </form>
      <p className="mt-8 text-[13px] text-ink-soft">
        Accounts are made by invitation: ask an owner of your studio. Pupils need none; they have a link.
      </p>
    </DoorFrame>
  );
}

function ForgottenPage({ email: first, onBack }: { readonly email: string; readonly onBack: () => void }) {
  const [email, setEmail] = useState(first);
  const [problem, setProblem] = useState<string>();
  const [isSent, setSent] = useState(false);
  const submit = async () => {
    const answer = await send('/api/account/forgotten', nothing, { method: 'POST', json: { email } });
    if (answer.ok) setSent(true);
    setProblem(answer.ok ? undefined : answer.problem.message);
  };
  return (
    <DoorFrame title="A new password">
      {isSent ? (
        <p role="status" className="mb-4">
          If there is an account with this address, a link for a new password is on its way. It can be used once, within
          two hours. Where the studio sends no mail, ask its owner for the link.
        </p>
      ) : (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            void submit();
          }}
        >
          <FormProblem text={problem} />
          <AccountInput label="Mail address" type="email" fill="email" value={email} onChange={setEmail} autoFocus />
          <Button kind="main" type="submit" className="mt-1 min-h-9 px-5">
            Send a link
          </Button>
        </form>
      )}
      <button type="button" className="mt-4 min-h-7 text-cane underline underline-offset-4" onClick={onBack}>
        Back to signing in
      </button>
    </DoorFrame>
  );
}
