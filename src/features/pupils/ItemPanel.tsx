'use client';

import { Pin, Play, X } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import { dateWords, instrumentOfPlaying, knownDay, type PlanItem, playingOf, weekdayWords } from '../../core/planning';
import { restMinutes } from '../../core/rehearsal';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import { standQuery } from '../work/standAddress';
import type { PupilOnScreen } from './usePupil';
import { added, type ChosenItem, freed, pinned, pinOf, struck, type WeekDay } from './weekPlan';

export const KIND_WORDS: Readonly<Record<PlanItem['kind'], string>> = {
  'warm-up': 'warm-up',
  new: 'new',
  moved: 'moved',
  own: 'own',
  repeat: 'climb',
  recall: 'recall',
};

/** What an item is, why it is there, and what can be done with it. */
export function ItemPanel({
  screen,
  chosen,
  week,
  onMove,
  onLog,
  onGone,
}: {
  readonly screen: PupilOnScreen;
  readonly chosen: ChosenItem | undefined;
  readonly week: readonly WeekDay[];
  readonly onMove: (item: ChosenItem, to: string) => void;
  readonly onLog: (item: PlanItem) => void;
  readonly onGone: () => void;
}) {
  const { pupil, today, update } = screen;
  if (!chosen)
    return (
      <>
        <NextSteps screen={screen} />
        <AddItem screen={screen} week={week} />
      </>
    );
  const { item, date } = chosen;
  const pin = pinOf(pupil, item.work, date);
  const isPinned = (pin?.minutes ?? 0) > 0;
  const days = week.filter((day) => day.date >= today);
  return (
    <div>
      <p className="text-[12.5px] text-ink-soft">
        {weekdayWords(knownDay(date))} {dateWords(knownDay(date))} · {item.minutes} minutes · {KIND_WORDS[item.kind]}
      </p>
      <h3 className="font-serif text-base leading-5 font-semibold">{item.what}</h3>
      <p className="mt-1 text-[13px]">{item.why}</p>
      {item.writtenKey !== undefined && item.key !== item.writtenKey && (
        <p className="mt-1 text-[12.5px] text-ink-soft">
          read in {item.writtenKey.replace('b', '♭').replace('#', '♯')}, sounding{' '}
          {item.key?.replace('b', '♭').replace('#', '♯')}
        </p>
      )}
      <div className="mt-3 flex flex-col items-start gap-2">
        <StandLink screen={screen} item={item} />
        {item.kind !== 'warm-up' && (
          <>
            <Button onClick={() => onLog(item)}>Log practice</Button>
            <span className="flex items-center gap-1 text-[13px]">
              Move to
              <Select
                label="Move to another day"
                look="word"
                value={date}
                options={days.map((day) => ({ value: day.date, label: weekdayWords(knownDay(day.date)) }))}
                onChange={(to) => {
                  if (to !== date) onMove(chosen, to);
                }}
              />
            </span>
            <Button
              aria-pressed={isPinned}
              onClick={() =>
                update(isPinned ? 'unpin' : 'pin', (now) =>
                  isPinned ? freed(now, item.work, date) : pinned(now, item, date, today),
                )
              }
            >
              <Pin size={14} aria-hidden="true" />
              {isPinned ? 'Unpin' : 'Pin to this day'}
            </Button>
            <Button
              onClick={() => {
                update('not on this day', (now) => struck(now, item, date, today));
                onGone();
              }}
            >
              <X size={14} aria-hidden="true" />
              Not on this day
            </Button>
          </>
        )}
      </div>
    </div>
  );
}

/** To the stand, with the bars and tempo of the item; the rounds played there are logged by themselves. */
function StandLink({ screen, item }: { readonly screen: PupilOnScreen; readonly item: PlanItem }) {
  const { pupil, open } = screen;
  const work = pupil.work.find(({ id }) => id === item.work);
  const playing = playingOf(pupil, work?.playing);
  if (!work?.tune || !playing || item.kind === 'warm-up') return null;
  const query = standQuery(item);
  query.set('level', playing.level);
  query.set('pupil', open.id);
  return (
    <Link
      href={`/tunes/${work.tune}/stand?${query.toString()}`}
      className="inline-flex min-h-8 items-center gap-1.5 rounded bg-cane px-3 font-medium text-white hover:bg-[#6f430f]"
    >
      <Play size={14} aria-hidden="true" />
      On the stand
    </Link>
  );
}

const ADDED_MINUTES = [3, 6, 9, 12, 15, 21, 30] as const;

/** Something that the teacher wants on a day, whatever the plan finds. */
function AddItem({ screen, week }: { readonly screen: PupilOnScreen; readonly week: readonly WeekDay[] }) {
  const { pupil, today, update } = screen;
  const days = week.filter(({ date, available }) => date >= today && available > 0);
  const works = pupil.work.filter(({ state }) => state === 'going');
  const [work, setWork] = useState(works[0]?.id ?? '');
  const [date, setDate] = useState<string>();
  const [minutes, setMinutes] = useState('9');
  const day = days.find((one) => one.date === date) ?? days[0];
  const chosen = works.find(({ id }) => id === work) ?? works[0];
  const [first] = pupil.playing;
  const instrument = first && instrumentOfPlaying(first);
  if (!chosen || !day) return null;
  return (
    <section aria-label="Add to a day" className="mt-4 text-[13px]">
      <p className="leading-7">
        Add{' '}
        <Select
          label="What to add"
          look="word"
          value={chosen.id}
          options={works.map(({ id, title }) => ({ value: id, label: title }))}
          onChange={setWork}
        />{' '}
        on{' '}
        <Select
          label="On which day"
          look="word"
          value={day.date}
          options={days.map((one) => ({ value: one.date, label: weekdayWords(knownDay(one.date)) }))}
          onChange={setDate}
        />{' '}
        for{' '}
        <Select
          label="For how long"
          look="word"
          value={minutes}
          options={ADDED_MINUTES.map((one) => ({ value: String(one), label: `${one} minutes` }))}
          onChange={setMinutes}
        />
        .
      </p>
      <Button
        onClick={() => update(`add ${chosen.title}`, (now) => added(now, chosen.id, day.date, Number(minutes), today))}
      >
        Add it
      </Button>
      {instrument && (
        <p className="mt-3 text-ink-soft">
          Rest after {restMinutes(instrument, first.level)} minutes of playing; tired or sore: stop.
        </p>
      )}
    </section>
  );
}

/** Without an item: what will be ready when, and what would help. */
function NextSteps({ screen: { plan } }: { readonly screen: PupilOnScreen }) {
  if (!plan || plan.work.length === 0)
    return <p className="text-[13px] text-ink-soft">Press an item to see why it is there.</p>;
  return (
    <>
      <h3 className="mb-1 font-serif text-base font-semibold">Will it be ready?</h3>
      <ul>
        {plan.work.map((work) => {
          const isLate = work.by !== undefined && (work.ready === null || work.ready > work.by);
          return (
            <li key={work.id} className="border-b border-line py-1.5 text-[13px]">
              <span className="font-semibold">{work.title}</span>
              <span className={`block ${isLate ? 'text-warn' : 'text-ink-soft'}`}>
                {work.needed === 0
                  ? 'at its goal; comes back now and then'
                  : work.ready === null
                    ? `${work.needed} minutes to go, not ready in this time`
                    : `${work.needed} minutes to go, ready about ${dateWords(knownDay(work.ready))}`}
                {work.by !== undefined && `, wanted by ${dateWords(knownDay(work.by))}`}
              </span>
              {isLate && (
                <ul className="ml-3 list-disc text-ink-soft">
                  {work.advice.slice(1).map((text) => (
                    <li key={text}>{text}</li>
                  ))}
                </ul>
              )}
            </li>
          );
        })}
      </ul>
    </>
  );
}
