'use client';

import { useState } from 'react';
import type { PlanItem, PlanStep } from '../../core/planning';
import { Button } from '../../ui/Button';
import { Sheet } from '../../ui/Sheet';
import type { PupilOnScreen } from './usePupil';

const MINUTES = [3, 5, 10, 15, 20, 30] as const;

/** What was practised without the stand, in three presses: what, how long, how fast. */
export function LogSheet({
  screen,
  item,
  onClose,
}: {
  readonly screen: PupilOnScreen;
  /** What is logged, where it is known. */
  readonly item: PlanItem | undefined;
  readonly onClose: () => void;
}) {
  const { plan, pupil, today, addEntry } = screen;
  const [work, setWork] = useState(item?.work);
  const [step, setStep] = useState(item?.step);
  const [minutes, setMinutes] = useState<number>();
  const [date, setDate] = useState(today);
  const chosen = plan?.work.find(({ id }) => id === work);
  const open =
    chosen?.steps.find((one) => (step === undefined ? one.state === 'open' : one.step === step)) ??
    chosen?.steps.at(-1);
  const log = (tempo: number | undefined, good: number, again: number) => {
    if (!work || !open) return;
    addEntry({
      date,
      work,
      step: open.step,
      minutes: minutes ?? 0,
      ...(tempo !== undefined && { tempo }),
      good,
      again,
      by: 'pupil',
      note: '',
    });
    onClose();
  };
  return (
    <Sheet open onClose={onClose} title="Log practice" width="max-w-lg">
      <div className="overflow-auto">
        {!chosen ? (
          <>
            <h3 className="mb-1 text-[13px] font-semibold">What was practised?</h3>
            <ul className="grid gap-1.5 sm:grid-cols-2">
              {(plan?.work ?? []).map(({ id, title }) => (
                <li key={id}>
                  <Button className="min-h-11 w-full" onClick={() => setWork(id)}>
                    <span className="truncate">{title}</span>
                  </Button>
                </li>
              ))}
            </ul>
            {pupil.work.length === 0 && <p>Nothing is on the stand yet.</p>}
          </>
        ) : minutes === undefined ? (
          <>
            <h3 className="mb-1 text-[13px] font-semibold">{chosen.title}: how long?</h3>
            <ul className="grid grid-cols-3 gap-1.5">
              {MINUTES.map((one) => (
                <li key={one}>
                  <Button className="min-h-11 w-full" onClick={() => setMinutes(one)}>
                    {one} min
                  </Button>
                </li>
              ))}
            </ul>
            <div className="mt-3 flex flex-wrap gap-4 text-[13px]">
              <label>
                on{' '}
                <input
                  type="date"
                  value={date}
                  max={today}
                  onChange={({ target }) => {
                    if (target.value !== '' && target.value <= today) setDate(target.value);
                  }}
                  className="min-h-8 rounded border border-edge bg-paper px-1"
                />
              </label>
              <label className="min-w-0">
                at{' '}
                <select
                  value={open?.step}
                  onChange={({ target }) => setStep(target.value)}
                  className="min-h-8 max-w-64 rounded border border-edge bg-paper px-1"
                >
                  {chosen.steps.map((one) => (
                    <option key={one.step} value={one.step}>
                      {one.what}
                    </option>
                  ))}
                </select>
              </label>
            </div>
          </>
        ) : (
          <HowItWent step={open} onLog={log} />
        )}
      </div>
    </Sheet>
  );
}

/** The third press: at which tempo it went, or that it has to come again. */
function HowItWent({
  step,
  onLog,
}: {
  readonly step: PlanStep | undefined;
  readonly onLog: (tempo: number | undefined, good: number, again: number) => void;
}) {
  const tempo = step?.tempo;
  if (tempo === undefined)
    return (
      <>
        <h3 className="mb-1 text-[13px] font-semibold">How did it go?</h3>
        <span className="flex flex-wrap gap-1.5">
          <Button className="min-h-11" onClick={() => onLog(undefined, 3, 0)}>
            Well
          </Button>
          <Button className="min-h-11" onClick={() => onLog(undefined, 1, 0)}>
            Well once
          </Button>
          <Button className="min-h-11" onClick={() => onLog(undefined, 0, 1)}>
            Again tomorrow
          </Button>
        </span>
      </>
    );
  return (
    <>
      <h3 className="mb-1 text-[13px] font-semibold">How fast did it go well, three times?</h3>
      <span className="flex flex-wrap gap-1.5">
        {[-20, -10, -5, 0, 5, 10].map((more) => (
          <Button
            key={more}
            className="min-h-11 min-w-14 tabular-nums"
            kind={more === 0 ? 'main' : 'plain'}
            onClick={() => onLog(tempo + more, 3, 0)}
          >
            {tempo + more}
          </Button>
        ))}
        <Button className="min-h-11" onClick={() => onLog(tempo, 0, 1)}>
          Not yet
        </Button>
      </span>
    </>
  );
}
