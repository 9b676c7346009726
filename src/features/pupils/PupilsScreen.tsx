'use client';

import { Plus, UserRound } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { z } from 'zod';
import type { CustomInstrument, Level } from '../../core/instruments';
import { newPupil, type Playing, type Pupil } from '../../core/planning';
import { Button } from '../../ui/Button';
import { HelpSheet } from '../../ui/HelpSheet';
import { LevelSign } from '../../ui/LevelSign';
import { Rail } from '../../ui/Rail';
import { useToast } from '../../ui/Toast';
import { nothing, send } from '../work/send';
import { useKeys } from '../work/useKeys';
import { dayWords, type PupilRow } from './pupilRow';
import { MinuteBars } from './MinuteBars';
import { NewPupilSheet } from './NewPupilSheet';

interface Props {
  readonly rows: readonly PupilRow[];
  readonly today: string;
  readonly custom: readonly CustomInstrument[];
  /** Pupils who may be one person, by their ids. */
  readonly same: readonly (readonly [string, string])[];
  /** Players of groups who are no pupils yet, with the group they stand in. */
  readonly players: readonly {
    readonly name: string;
    readonly group: string;
    /** The player's id in the group. */
    readonly player: string;
    readonly groupId: string;
    readonly playing: Playing;
  }[];
}

/** Everybody who has lessons: a row a pupil, with what needs a look. */
export function PupilsScreen({ rows, today, custom, same, players }: Props) {
  const tell = useToast();
  const router = useRouter();
  const [isNew, setNew] = useState(false);
  const [help, setHelp] = useState(false);
  const [words, setWords] = useState('');
  const shown = rows.filter(({ name, work }) =>
    [name, ...work].join(' ').toLocaleLowerCase().includes(words.trim().toLocaleLowerCase()),
  );
  useKeys((event) => {
    if (event.key === '?') setHelp(true);
    if (event.key === 'n') setNew(true);
    return event.key === '?' || event.key === 'n';
  });
  const add = async (pupil: Pupil): Promise<string | undefined> => {
    const made = await send('/api/pupils', z.object({ id: z.string() }), { method: 'POST', json: pupil });
    if (!made.ok) return made.problem.message;
    router.push(`/pupils/${made.value.id}`);
    return undefined;
  };
  // The player of the group becomes the pupil: what is changed at one is changed at the other.
  const make = async ({ name, player, playing }: Pick<Props['players'][number], 'name' | 'player' | 'playing'>) => {
    const group = players.find((one) => one.player === player)?.groupId ?? '';
    const done = await send('/api/pupils/from-group', nothing, {
      method: 'POST',
      json: { group, player, pupil: newPupil(name, playing) },
    });
    if (done.ok) router.refresh();
    else tell(`${done.problem.message} ${name} was not made a pupil.`);
  };
  return (
    <div className="app-frame flex h-dvh">
      <Rail here="pupils" onHelp={() => setHelp(true)} />
      <div className="flex min-w-0 flex-1 flex-col">
        <header className="flex flex-wrap items-center justify-between gap-3 border-b border-line bg-panel px-4 py-3.5 md:px-6">
          <div className="min-w-0">
            <h1 className="font-serif text-[22px] leading-7 font-semibold">Pupils</h1>
            <p className="text-[13px] text-ink-soft">
              What each works at, and how it goes. A first name is enough; nothing else is asked for.
            </p>
          </div>
          <span className="flex items-center gap-2">
            <input
              type="search"
              aria-label="Find a pupil or a piece"
              placeholder="Find a pupil or a piece"
              value={words}
              onChange={({ target }) => setWords(target.value)}
              className="min-h-9 w-52 rounded border border-edge bg-paper px-2"
            />
            <Button kind="main" className="min-h-9 px-4" onClick={() => setNew(true)}>
              <Plus size={16} aria-hidden="true" />
              New pupil
            </Button>
          </span>
        </header>
        <main className="min-h-0 flex-1 overflow-auto bg-paper px-4 py-4 md:px-6">
          {same.length > 0 && <SamePupils same={same} rows={rows} onDone={() => router.refresh()} tell={tell} />}
          {players.length > 0 && (
            <details className="mb-3 rounded bg-panel px-3 py-1.5 text-[13px]">
              <summary className="cursor-pointer">
                {players.length} {players.length === 1 ? 'player of a group is' : 'players of groups are'} no pupils yet
              </summary>
              <p className="flex flex-wrap items-center gap-2 py-1.5">
                {players.slice(0, 24).map(({ name, group, player, playing }) => (
                  <Button key={player} onClick={() => void make({ name, player, playing })}>
                    Make {name} ({group}) a pupil
                  </Button>
                ))}
              </p>
            </details>
          )}
          {rows.length === 0 ? (
            <div className="flex h-60 flex-col items-center justify-center gap-3">
              <UserRound size={28} aria-hidden="true" className="text-ink-soft" />
              <p className="font-serif text-lg">No pupil yet.</p>
              <Button onClick={() => setNew(true)}>Add the first one</Button>
            </div>
          ) : (
            <PupilTable rows={shown} today={today} />
          )}
          {rows.length > 0 && shown.length === 0 && (
            <p className="py-6 text-ink-soft">No pupil or piece is called so.</p>
          )}
        </main>
      </div>
      {isNew && <NewPupilSheet custom={custom} onClose={() => setNew(false)} onAdd={add} />}
      <HelpSheet open={help} onClose={() => setHelp(false)} more={[{ name: 'Pupils', keys: [['n', 'new pupil']] }]} />
    </div>
  );
}

function PupilTable({ rows, today }: { readonly rows: readonly PupilRow[]; readonly today: string }) {
  return (
    <table className="w-full border-collapse text-left">
      <thead className="text-[12.5px] text-ink-soft max-md:sr-only">
        <tr className="border-b border-line">
          <th scope="col" className="py-1 font-medium">
            First name
          </th>
          <th scope="col" className="font-medium">
            Next lesson
          </th>
          <th scope="col" className="font-medium">
            On the stand
          </th>
          <th scope="col" className="font-medium">
            Minutes, four weeks
          </th>
          <th scope="col" className="font-medium">
            Needs a look
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr
            key={row.id}
            className="border-b border-line align-top hover:bg-panel max-md:grid max-md:grid-cols-2 max-md:gap-x-3 max-md:py-2"
          >
            <th scope="row" className="py-2 pr-3 font-normal max-md:col-span-2 max-md:py-0">
              <Link
                href={`/pupils/${row.id}`}
                className="font-serif text-[16px] font-semibold underline-offset-3 hover:underline"
              >
                {row.name}
              </Link>
              <Plays plays={row.plays} />
            </th>
            <td className="py-2 pr-3 whitespace-nowrap max-md:py-0">
              {row.lesson ? (
                <>
                  {dayWords(row.lesson.date, today)}
                  <span className="block text-[12.5px] text-ink-soft">
                    {row.lesson.time}, {row.lesson.minutes} min
                  </span>
                </>
              ) : (
                <span className="text-ink-soft">none set</span>
              )}
            </td>
            <td className="max-w-72 py-2 pr-3 text-[13px] max-md:col-span-2 max-md:py-0">
              {row.work.slice(0, 3).join(' · ')}
              {row.work.length > 3 && <span className="text-ink-soft"> and {row.work.length - 3} more</span>}
            </td>
            <td className="py-2 pr-3 max-md:py-0">
              <MinuteBars minutes={row.minutes} weekly={row.weekly} />
            </td>
            <td className="py-2 text-[13px] text-warn max-md:py-0">
              {row.attention.map((text) => (
                <span key={text} className="block">
                  {text}
                </span>
              ))}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

export function Plays({
  plays,
}: {
  readonly plays: readonly { readonly instrument: string; readonly level: Level }[];
}) {
  return (
    <span className="flex flex-wrap items-center gap-x-2 text-[12.5px] text-ink-soft">
      {plays.map(({ instrument, level }) => (
        <span key={`${instrument}${level}`} className="flex items-center gap-1">
          <LevelSign level={level} size={14} />
          {instrument}
          <span className="sr-only">, {level}</span>
        </span>
      ))}
    </span>
  );
}

/** Two pupils of one name on one instrument: the teacher says whether they are the same person. */
function SamePupils({
  same,
  rows,
  onDone,
  tell,
}: {
  readonly same: Props['same'];
  readonly rows: readonly PupilRow[];
  readonly onDone: () => void;
  readonly tell: (text: string) => void;
}) {
  const nameOf = (id: string) => rows.find((row) => row.id === id);
  const join = async (kept: string, other: string) => {
    const done = await send('/api/pupils/join', nothing, { method: 'POST', json: { kept, other } });
    if (done.ok) onDone();
    else tell(`${done.problem.message} Nothing was joined.`);
  };
  const apart = async (id: string, other: string) => {
    const done = await send(`/api/pupils/${id}/apart`, nothing, { method: 'POST', json: { other } });
    if (done.ok) onDone();
    else tell(done.problem.message);
  };
  return (
    <section aria-label="Possibly the same person" className="mb-4 rounded bg-cane-pale px-3 py-2">
      <h2 className="text-[13px] font-semibold">The same person?</h2>
      <ul>
        {same.slice(0, 8).map(([a, b]) => (
          <li key={`${a}${b}`} className="flex flex-wrap items-center gap-2 py-0.5 text-[13px]">
            {nameOf(a)?.name}, {nameOf(a)?.plays[0]?.instrument}, stands here twice.
            <Button onClick={() => void join(a, b)}>Yes, join them</Button>
            <Button kind="quiet" onClick={() => void apart(a, b)}>
              No, two people
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
