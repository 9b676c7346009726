'use client';

import { Check, Play } from 'lucide-react';
import Link from 'next/link';
import { useCallback, useEffect, useState } from 'react';
import { dateWords, knownDay, type PlanItem, weekdayWords } from '../../core/planning';
import type { PackFile } from '../../core/keys';
import { Button } from '../../ui/Button';
import { useReady } from '../../ui/useReady';
import { logEntry, sendAllWaiting, waitingEntries, type Sent } from '../work/practiceLog';
import { standQuery } from '../work/standAddress';
import { Sounds } from '../work/Sounds';
import { useStandKept } from '../work/useStandKept';

interface OwnItem {
  readonly item: PlanItem;
  readonly title: string;
  readonly onStand: boolean;
}

interface OwnDay {
  readonly date: string;
  readonly items: readonly OwnItem[];
  readonly practised: number;
  readonly hasLesson: boolean;
  readonly isOff: boolean;
}

interface OwnTune {
  readonly id: string;
  readonly title: string;
  readonly isDrill: boolean;
  readonly sounds: readonly PackFile[];
}

/** A pupil's own week, at home on a telephone: what is set today, the stand for it, and a tick when it is done. */
export function OwnWeekScreen({
  token,
  name,
  today,
  days,
  tunes = [],
}: {
  readonly token: string;
  readonly name: string;
  readonly today: string;
  readonly days: readonly OwnDay[];
  readonly tunes?: readonly OwnTune[];
}) {
  useReady();
  const place = `p/${token}`;
  const { isKept } = useStandKept();
  const [done, setDone] = useState<ReadonlySet<string>>(new Set());
  const [sent, setSent] = useState<Sent>();
  const [waiting, setWaiting] = useState(0);
  const count = useCallback(() => setWaiting(waitingEntries(place).length), [place]);
  useEffect(() => {
    count();
    sendAllWaiting();
    const again = () => {
      sendAllWaiting();
      setTimeout(count, 2_000);
    };
    window.addEventListener('online', again);
    return () => window.removeEventListener('online', again);
  }, [count]);
  const tick = async (key: string, { item }: OwnItem) => {
    setDone((before) => new Set([...before, key]));
    const outcome = await logEntry(place, {
      date: today,
      work: item.work,
      step: item.step,
      minutes: item.minutes,
      ...(item.tempo !== undefined && { tempo: item.tempo }),
      good: 0,
      again: 0,
      by: 'pupil',
      note: '',
    });
    setSent(outcome);
    count();
    if (outcome.kind === 'refused') setDone((before) => new Set([...before].filter((one) => one !== key)));
  };
  const now = days.find(({ date }) => date === today);
  const later = days.filter(({ date }) => date > today);
  const practised = days.reduce((sum, day) => sum + day.practised, 0);
  return (
    <div className="h-dvh overflow-y-auto bg-paper">
      <header className="bg-reed px-5 pt-5 pb-4 text-white">
        <h1 className="font-serif text-2xl font-semibold">{name}, this week</h1>
        <p className="text-reed-pale">
          {practised > 0 ? `${practised} minutes practised since Monday.` : 'Nothing practised since Monday yet.'}
        </p>
      </header>
      <main className="mx-auto max-w-2xl px-5 py-4">
        <p role="status" className={sent || waiting > 0 ? 'mb-3 rounded bg-cane-pale px-3 py-2' : 'sr-only'}>
          {statusWords(sent, waiting)}
        </p>
        {now && (
          <section aria-label="Today" className="mb-6">
            <h2 className="mb-1 font-serif text-xl font-semibold">Today, {weekdayWords(knownDay(today))}</h2>
            <DayNote day={now} />
            <ul>
              {now.items.map((one, k) => {
                const key = `${one.item.work}/${one.item.step}/${k}`;
                return (
                  <li key={key} className="mb-3 rounded border border-edge bg-white p-3">
                    <ItemWords one={one} />
                    {one.item.kind !== 'warm-up' && (
                      <span className="mt-2 flex flex-wrap gap-2">
                        {one.onStand && <StandLink place={place} item={one.item} />}
                        <Button
                          className="min-h-11 px-4"
                          disabled={done.has(key)}
                          aria-label={`Practised: ${one.item.what}`}
                          onClick={() => void tick(key, one)}
                        >
                          <Check size={16} aria-hidden="true" />
                          {done.has(key) ? 'Noted' : 'Practised'}
                        </Button>
                      </span>
                    )}
                  </li>
                );
              })}
            </ul>
          </section>
        )}
        {later.map((day) => (
          <section key={day.date} aria-label={weekdayWords(knownDay(day.date))} className="border-t border-line py-3">
            <h2 className="font-serif text-base font-semibold">
              {weekdayWords(knownDay(day.date))}, {dateWords(knownDay(day.date))}
            </h2>
            <DayNote day={day} />
            <ul>
              {day.items.map((one, k) => (
                <li key={k} className="flex items-center justify-between gap-3 py-1">
                  <ItemWords one={one} />
                  {one.onStand && <StandLink place={place} item={one.item} isSmall />}
                </li>
              ))}
            </ul>
          </section>
        ))}
        {tunes.length > 0 && (
          <section aria-label="All that is on your stand" className="border-t border-line py-3">
            <h2 className="font-serif text-xl font-semibold">All that is on your stand</h2>
            {tunes.map((tune) => (
              <OwnTuneRow key={tune.id} place={place} tune={tune} />
            ))}
          </section>
        )}
        <p className="mt-6 text-[13px] text-ink-soft">
          {isKept ? 'Saved for offline use. ' : ''}
          Rest after every ten minutes or so, and stop when something hurts: tell your teacher. This page is yours
          alone; whoever has its address can see your week.
        </p>
      </main>
    </div>
  );
}

function statusWords(sent: Sent | undefined, waiting: number): string {
  if (sent?.kind === 'refused') return sent.message;
  if (waiting > 0)
    return `${waiting === 1 ? 'One entry waits' : `${waiting} entries wait`} on this device until there is a network.`;
  return sent ? 'Noted: your teacher sees it.' : '';
}

function DayNote({ day }: { readonly day: OwnDay }) {
  const minutes = day.items.reduce((sum, { item }) => sum + item.minutes, 0);
  const notes = [
    day.hasLesson && 'lesson',
    day.isOff && 'day off',
    minutes > 0 ? `${minutes} minutes set` : !day.isOff && 'nothing set',
    day.practised > 0 && `${day.practised} practised`,
  ].filter(Boolean);
  return <p className="mb-2 text-[13px] text-ink-soft">{notes.join(' · ')}</p>;
}

function ItemWords({ one: { item, title } }: { readonly one: OwnItem }) {
  const rest = item.what.startsWith(`${title}: `) ? item.what.slice(title.length + 2) : item.what;
  return (
    <span className="min-w-0">
      <span className="font-semibold">{item.kind === 'warm-up' ? 'Warm up' : title}</span>
      <span className="ml-2 text-[13px] whitespace-nowrap text-ink-soft tabular-nums">{item.minutes} min</span>
      <span className="block">{rest.charAt(0).toUpperCase() + rest.slice(1)}</span>
    </span>
  );
}

/** A tune to play freely, its solo, and its sounds. */
function OwnTuneRow({ place, tune }: { readonly place: string; readonly tune: OwnTune }) {
  const query = new URLSearchParams({ tune: tune.id }).toString();
  const link =
    'inline-flex min-h-9 items-center rounded border border-edge bg-paper px-3 font-medium hover:bg-cane-pale';
  return (
    <div className="border-b border-line py-2">
      <h3 className="font-semibold">{tune.title}</h3>
      <p className="my-1 flex flex-wrap gap-2">
        <a className={link} href={`/${place}/stand?${query}`} aria-label={`${tune.title} on the stand`}>
          On the stand
        </a>
        {!tune.isDrill && (
          <a className={link} href={`/${place}/stand?${query}&what=solo`} aria-label={`${tune.title}: example solo`}>
            Example solo
          </a>
        )}
      </p>
      <Sounds title={tune.title} addressOf={(what) => `/${place}/sounds/${what}.mp3?${query}`} sounds={tune.sounds} />
    </div>
  );
}

function StandLink({
  place,
  item,
  isSmall = false,
}: {
  readonly place: string;
  readonly item: PlanItem;
  readonly isSmall?: boolean;
}) {
  return (
    // A whole page, so that the browser keeps it for when there is no network.
    <Link
      href={`/${place}/stand?${standQuery(item).toString()}`}
      prefetch={false}
      onClick={(event) => {
        event.preventDefault();
        window.location.assign(event.currentTarget.href);
      }}
      aria-label={`On the stand: ${item.what}`}
      className={`inline-flex shrink-0 items-center gap-1.5 rounded font-medium ${isSmall ? 'min-h-9 border border-edge bg-paper px-3' : 'min-h-11 bg-cane px-4 text-white hover:bg-[#6f430f]'}`}
    >
      <Play size={15} aria-hidden="true" />
      {isSmall ? 'Stand' : 'On the stand'}
    </Link>
  );
}
