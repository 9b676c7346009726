'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { z } from 'zod';
import { Button } from '../../ui/Button';
import { nothing, send } from '../work/send';
import { AccountInput, FormProblem } from './AccountInput';
import { Matter } from './HouseFrame';
import { ScanSquare } from '../work/ScanSquare';

const secretSchema = z.object({ secret: z.string(), square: z.string() });
const recoverySchema = z.object({ recovery: z.array(z.string()) });

/** Codes from a telephone beside the password: set up, or taken away. */
export function SecondFactor({ isOn, recoveryCodes }: { readonly isOn: boolean; readonly recoveryCodes: number }) {
  const router = useRouter();
  const [setUp, setSetUp] = useState<z.infer<typeof secretSchema>>();
  const [recovery, setRecovery] = useState<readonly string[]>();
  const [code, setCode] = useState('');
  const [password, setPassword] = useState('');
  const [isLeaving, setLeaving] = useState(false);
  const [problem, setProblem] = useState<string>();
  const address = '/api/account/second-factor';
  const begin = async () => {
    const answer = await send(address, secretSchema, { method: 'POST' });
    if (answer.ok) setSetUp(answer.value);
    setProblem(answer.ok ? undefined : answer.problem.message);
  };
  const confirm = async () => {
    if (!setUp) return;
    const answer = await send(address, recoverySchema, { method: 'PUT', json: { secret: setUp.secret, code } });
    if (!answer.ok) return setProblem(answer.problem.message.replace(/^code: /, ''));
    setProblem(undefined);
    setSetUp(undefined);
    setRecovery(answer.value.recovery);
  };
  const remove = async () => {
    const answer = await send(address, nothing, { method: 'DELETE', json: { password } });
    if (!answer.ok) return setProblem(answer.problem.message.replace(/^password: /, ''));
    setProblem(undefined);
    setLeaving(false);
    setPassword('');
    router.refresh();
  };
  return (
    <Matter title="Second factor">
      <FormProblem text={problem} />
      {recovery ? (
        <>
          <p className="mb-2">
            It is on. Write these recovery codes down, on paper: each lets you in once, when the telephone is lost. They
            are not shown again.
          </p>
          <ul className="mb-3 grid grid-cols-2 gap-1 rounded bg-paper p-3 font-mono" aria-label="Recovery codes">
            {recovery.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
          <Button
            kind="main"
            onClick={() => {
              setRecovery(undefined);
              router.refresh();
            }}
          >
            I have written them down
          </Button>
        </>
      ) : setUp ? (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            void confirm();
          }}
        >
          <p className="mb-2">Scan this with an app for one-time codes, or type the secret in; then enter its code.</p>
          <ScanSquare svg={setUp.square} alt="The secret, to be scanned" />
          <p className="my-2 font-mono text-[13px] break-all">{setUp.secret.match(/.{4}/g)?.join(' ')}</p>
          <AccountInput label="Code" fill="one-time-code" value={code} onChange={setCode} autoFocus />
          <span className="flex gap-2">
            <Button kind="main" type="submit">
              Turn it on
            </Button>
            <Button onClick={() => setSetUp(undefined)}>Cancel</Button>
          </span>
        </form>
      ) : isOn ? (
        <>
          <p className="mb-3">
            On: signing in asks for a code from your telephone.{' '}
            {recoveryCodes === 1 ? 'One recovery code is left.' : `${recoveryCodes} recovery codes are left.`}
          </p>
          {isLeaving ? (
            <form
              onSubmit={(event) => {
                event.preventDefault();
                void remove();
              }}
            >
              <AccountInput
                label="Your password"
                type="password"
                fill="current-password"
                value={password}
                onChange={setPassword}
                autoFocus
              />
              <span className="flex gap-2">
                <Button type="submit">Take it away</Button>
                <Button onClick={() => setLeaving(false)}>Cancel</Button>
              </span>
            </form>
          ) : (
            <Button onClick={() => setLeaving(true)}>Take it away …</Button>
          )}
        </>
      ) : (
        <>
          <p className="mb-3">
            Off. With it, a stolen password alone opens nothing: signing in also asks for a code from your telephone.
          </p>
          <Button onClick={() => void begin()}>Set up …</Button>
        </>
      )}
    </Matter>
  );
}
