'use client';

import { Plus } from 'lucide-react';
import { useState } from 'react';
import {
  dateWords,
  dayNumber,
  knownDay,
  type Pace,
  PACES,
  type PlanStep,
  type PlanWork,
  type PupilWork,
  type School,
} from '../../core/planning';
import { TEMPO_LIMITS } from '../../core/score';
import { Button } from '../../ui/Button';
import { WORD_FIELD } from '../../ui/Field';
import { Select } from '../../ui/Select';
import { AddWorkSheet } from './AddWorkSheet';
import type { PupilOnScreen } from './usePupil';

/** What is on the stand, with its steps and where each stands. */
export function WorkTab({ screen }: { readonly screen: PupilOnScreen }) {
  const { pupil, plan } = screen;
  const [isAdding, setAdding] = useState(false);
  const going = pupil.work.filter(({ state }) => state === 'going');
  const aside = pupil.work.filter(({ state }) => state === 'aside');
  return (
    <div className="overflow-auto px-4 py-3 md:px-6">
      <Button kind="main" className="mb-3" onClick={() => setAdding(true)}>
        <Plus size={15} aria-hidden="true" />
        Add work
      </Button>
      {going.map((work) => (
        <WorkCard key={work.id} work={work} planned={plan?.work.find(({ id }) => id === work.id)} screen={screen} />
      ))}
      {going.length === 0 && <p className="py-4 text-ink-soft">Nothing is on the stand.</p>}
      {aside.length > 0 && (
        <section className="mt-5">
          <h2 className="font-serif text-base font-semibold">Put aside</h2>
          <ul>
            {aside.map((work) => (
              <li key={work.id} className="flex flex-wrap items-center gap-2 py-1">
                {work.title}
                <StateButtons work={work} screen={screen} />
              </li>
            ))}
          </ul>
        </section>
      )}
      {isAdding && <AddWorkSheet screen={screen} onClose={() => setAdding(false)} />}
    </div>
  );
}

type Fields = Partial<{
  readonly [Field in 'goal' | 'start' | 'by' | 'school' | 'byHeart' | 'pace' | 'state']: unknown;
}>;

/** Changes fields of one work; those that are set to `undefined` go. */
function useWork(screen: PupilOnScreen, id: string) {
  return (name: string, fields: Fields) =>
    screen.update(name, (now) => ({
      ...now,
      work: now.work.map((one) =>
        one.id === id
          ? (Object.fromEntries(
              Object.entries({ ...one, ...fields }).filter(([, value]) => value !== undefined),
            ) as unknown as PupilWork)
          : one,
      ),
    }));
}

const PACE_WORDS: Readonly<Record<Pace, string>> = {
  'as-mastered': 'when the last is mastered',
  'key-a-day': 'every day',
  'key-a-week': 'every week',
};
type SchoolChoice = School | 'pupil';

function WorkCard({
  work,
  planned,
  screen,
}: {
  readonly work: PupilWork;
  readonly planned: PlanWork | undefined;
  readonly screen: PupilOnScreen;
}) {
  const change = useWork(screen, work.id);
  const [isOpen, setOpen] = useState(false);
  const steps = planned?.steps ?? [];
  const done = steps.filter(({ state }) => state === 'done').length;
  const isLate = work.by !== undefined && planned && (planned.ready === null || planned.ready > work.by);
  return (
    <section className="mb-3 max-w-4xl rounded border border-line bg-paper px-3 py-2">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h2 className="font-serif text-[16px] font-semibold">{work.title}</h2>
        <StateButtons work={work} screen={screen} />
      </div>
      <p className="leading-7">
        {work.kind === 'rounds' ? (
          'In three rounds of four keys'
        ) : (
          <>
            Goal{' '}
            <TempoField
              label={`Goal of ${work.title}`}
              value={work.goal}
              onChange={(goal) => change('goal', { goal })}
            />{' '}
            a minute, from{' '}
            <TempoField
              label={`First tempo of ${work.title}`}
              value={work.start}
              onChange={(start) => change('first tempo', { start })}
            />
          </>
        )}
        {'chunks' in work && (
          <>
            ,{' '}
            <Select
              label={`By heart, ${work.title}`}
              look="word"
              value={work.byHeart ? 'yes' : 'no'}
              options={[
                { value: 'no', label: 'from the page' },
                { value: 'yes', label: 'by heart' },
              ]}
              onChange={(value) => change('by heart', { byHeart: value === 'yes' ? true : undefined })}
            />
          </>
        )}
        {work.kind === 'drill' && (
          <>
            ; another key{' '}
            <Select
              label={`Pace of ${work.title}`}
              look="word"
              value={work.pace}
              options={PACES.map((value) => ({ value, label: PACE_WORDS[value] }))}
              onChange={(pace) => change('pace', { pace })}
            />
          </>
        )}
        ; wanted by{' '}
        <DateField label={`Wanted by, ${work.title}`} value={work.by} onChange={(by) => change('date', { by })} />;{' '}
        <Select<SchoolChoice>
          label={`School of ${work.title}`}
          look="word"
          value={work.school ?? 'pupil'}
          options={[
            { value: 'pupil', label: 'steps as for the other work' },
            { value: 'mastered', label: 'each step mastered first' },
            { value: 'revisited', label: 'all steps revisited in turn' },
          ]}
          onChange={(value) => change('school', { school: value === 'pupil' ? undefined : value })}
        />
        .
      </p>
      {planned && (
        <p className={`text-[13px] ${isLate ? 'text-warn' : 'text-ink-soft'}`}>
          {planned.needed === 0
            ? 'At its goal: it comes back now and then.'
            : `${planned.needed} minutes to go; ${planned.ready === null ? 'not ready in the time there is' : `ready about ${dateWords(knownDay(planned.ready))}`}.`}
        </p>
      )}
      {isLate && (
        <ul className="ml-4 list-disc text-[13px]">
          {planned.advice.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      )}
      <div className="mt-1 flex flex-wrap items-center gap-2">
        <StepDots steps={steps} />
        <Button kind="quiet" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          {done} of {steps.length} steps done
        </Button>
      </div>
      {isOpen && <StepTable steps={steps} work={work} screen={screen} />}
    </section>
  );
}

/** A dot a step: full where it is done, ringed where it is worked at. */
function StepDots({ steps }: { readonly steps: readonly PlanStep[] }) {
  return (
    <svg width={Math.min(steps.length, 60) * 9} height="10" aria-hidden="true">
      {steps.slice(0, 60).map(({ step, state }, k) => (
        <circle
          key={step}
          cx={k * 9 + 4.5}
          cy="5"
          r={state === 'ahead' ? 1.8 : 3.2}
          fill={state === 'done' ? '#2f5d62' : state === 'ahead' ? '#8f8d7c' : 'none'}
          stroke={state === 'open' ? '#8a5414' : 'none'}
          strokeWidth="1.6"
        />
      ))}
    </svg>
  );
}

const STATE_WORDS: Readonly<Record<PlanStep['state'], string>> = { done: 'done', open: 'now', ahead: 'later' };

function StepTable({
  steps,
  work,
  screen,
}: {
  readonly steps: readonly PlanStep[];
  readonly work: PupilWork;
  readonly screen: PupilOnScreen;
}) {
  const finish = ({ step, tempo }: PlanStep) =>
    screen.addEntry({
      date: screen.today,
      work: work.id,
      step,
      minutes: 0,
      ...(tempo !== undefined && { tempo }),
      good: 1,
      again: 0,
      by: 'teacher',
      note: '',
    });
  return (
    <table className="mt-1 w-full text-left text-[13px]">
      <thead className="text-[12.5px] text-ink-soft">
        <tr>
          <th scope="col" className="font-medium">
            Step
          </th>
          <th scope="col" className="w-24 font-medium">
            Minutes
          </th>
          <th scope="col" className="w-16 font-medium">
            State
          </th>
          <th scope="col" className="w-32">
            <span className="sr-only">Change</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {steps.map((step) => (
          <tr key={step.step} className={`border-t border-line ${step.state === 'ahead' ? 'text-ink-soft' : ''}`}>
            <td className="py-0.5">{step.what}</td>
            <td className="tabular-nums">
              {step.spent} of {step.estimate}
            </td>
            <td>{STATE_WORDS[step.state]}</td>
            <td className="text-right">
              {step.state !== 'done' && (
                <Button kind="quiet" onClick={() => finish(step)} aria-label={`Done: ${step.what}`}>
                  Done
                </Button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function StateButtons({ work, screen }: { readonly work: PupilWork; readonly screen: PupilOnScreen }) {
  const change = useWork(screen, work.id);
  return (
    <span className="flex gap-1">
      {work.state === 'going' ? (
        <Button kind="quiet" onClick={() => change('put aside', { state: 'aside' })}>
          Put aside
        </Button>
      ) : (
        <Button kind="quiet" onClick={() => change('take up again', { state: 'going' })}>
          Take up again
        </Button>
      )}
      <Button kind="quiet" onClick={() => change('remove from the stand', { state: 'removed' })}>
        Remove
      </Button>
    </span>
  );
}

function TempoField({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: number | undefined;
  readonly onChange: (value: number | undefined) => void;
}) {
  const [typed, setTyped] = useState<string>();
  const { slowest, fastest } = TEMPO_LIMITS;
  const commit = () => {
    const number = Number(typed);
    if (typed === '') onChange(undefined);
    else if (typed !== undefined && number >= slowest && number <= fastest) onChange(number);
    setTyped(undefined);
  };
  return (
    <input
      aria-label={label}
      inputMode="numeric"
      placeholder="none"
      className={`${WORD_FIELD} w-12 tabular-nums`}
      value={typed ?? value ?? ''}
      onChange={({ target }) => setTyped(target.value.replace(/\D/g, '').slice(0, 3))}
      onBlur={commit}
      onKeyDown={({ key }) => {
        if (key === 'Enter') commit();
      }}
    />
  );
}

export function DateField({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: string | undefined;
  readonly onChange: (value: string | undefined) => void;
}) {
  return (
    <input
      type="date"
      aria-label={label}
      className={`${WORD_FIELD} min-h-7`}
      value={value ?? ''}
      onChange={({ target }) => {
        if (target.value === '') onChange(undefined);
        else if (dayNumber(target.value) !== undefined) onChange(target.value);
      }}
    />
  );
}
