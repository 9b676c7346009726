'use client';

import { useEffect, useState } from 'react';
import { z } from 'zod';
import { tonicsInOrder } from '../../core/drills';
import { type ScaleName } from '../../core/harmony';
import { instrumentOfPlaying, type PlannedWork, type PupilWork } from '../../core/planning';
import { writtenKeyOf } from '../../core/keys';
import { ALL_TONICS } from '../../core/drills';
import { namePitchClass, type PitchClass, printPitchClass } from '../../core/pitch';
import { Button } from '../../ui/Button';
import { DrawerTabs } from '../../ui/DrawerTabs';
import { Sheet } from '../../ui/Sheet';
import { Tabs } from 'radix-ui';
import { send } from '../work/send';
import { type ShelfTune, useShelfSearch } from '../work/useShelfSearch';
import { freshId } from './openPupil';
import type { PupilOnScreen } from './usePupil';

// It comes from our own server, and is checked whole when the pupil is saved.
const sourceSchema = z.object({ source: z.looseObject({ kind: z.string(), title: z.string() }) });

type Distributed<Union> = Union extends unknown ? Omit<Union, 'id'> : never;
type NewWork = Distributed<PlannedWork>;

const TABS = { shelf: 'From the shelf', scale: 'A scale', rounds: 'Rounds' } as const;
const SETS: readonly ScaleName[] = [
  'major',
  'natural minor',
  'harmonic minor',
  'melodic minor',
  'major pentatonic',
  'minor pentatonic',
  'blues scale',
  'dorian',
  'mixolydian',
];

/** Puts something on a pupil's stand: its steps are worked out from what is there. */
export function AddWorkSheet({ screen, onClose }: { readonly screen: PupilOnScreen; readonly onClose: () => void }) {
  const { pupil, update } = screen;
  const [tab, setTab] = useState<keyof typeof TABS>('shelf');
  const [playing, setPlaying] = useState(pupil.playing[0]?.id ?? '');
  const [problem, setProblem] = useState<string>();
  const add = (work: NewWork, tune?: string) => {
    update(`add ${work.title}`, (now) => ({
      ...now,
      work: [...now.work, { ...work, id: freshId(), playing, state: 'going', ...(tune && { tune }) } as PupilWork],
    }));
    onClose();
  };
  return (
    <Sheet open onClose={onClose} title="Add work" width="max-w-xl">
      <div className="overflow-auto">
        {pupil.playing.length > 1 && (
          <label className="mb-2 block text-[13px]">
            on{' '}
            <select
              value={playing}
              onChange={({ target }) => setPlaying(target.value)}
              className="min-h-8 rounded border border-edge bg-paper px-1"
            >
              {pupil.playing.map((one) => (
                <option key={one.id} value={one.id}>
                  {instrumentOfPlaying(one)?.name ?? one.instrument}
                </option>
              ))}
            </select>
          </label>
        )}
        <DrawerTabs label="What to add" names={TABS} value={tab} onChange={setTab}>
          <Tabs.Content value="shelf">
            <FromShelf screen={screen} playing={playing} onAdd={add} onProblem={setProblem} />
          </Tabs.Content>
          <Tabs.Content value="scale">
            <AScale screen={screen} playing={playing} onAdd={add} />
          </Tabs.Content>
          <Tabs.Content value="rounds">
            <p className="mb-2 text-[13px]">
              New material in one key, the same moved to three others, then something of one’s own in all four: three
              rounds make twelve keys, round the fourths.
            </p>
            <Button
              kind="main"
              onClick={() =>
                add({
                  kind: 'rounds',
                  title: 'Rounds through twelve keys',
                  order: tonicsInOrder('fourths', { step: 'C', alter: 0 }),
                })
              }
            >
              Add rounds
            </Button>
          </Tabs.Content>
        </DrawerTabs>
        {problem && (
          <p role="alert" className="mt-2 text-[13px] text-warn">
            {problem}
          </p>
        )}
      </div>
    </Sheet>
  );
}

type AddWork = (work: NewWork, tune?: string) => void;

function FromShelf({
  screen,
  playing,
  onAdd,
  onProblem,
}: {
  readonly screen: PupilOnScreen;
  readonly playing: string;
  readonly onAdd: AddWork;
  readonly onProblem: (text: string | undefined) => void;
}) {
  const [words, setWords] = useState('');
  const [isEar, setEar] = useState(false);
  const { tunes, problem } = useShelfSearch(words);
  useEffect(() => onProblem(problem), [problem, onProblem]);
  const take = async ({ id, title }: ShelfTune) => {
    const query = new URLSearchParams({ tune: id, playing });
    const answer = await send(`/api/pupils/${screen.open.id}/source?${query.toString()}`, sourceSchema, {
      method: 'GET',
    });
    if (!answer.ok) return onProblem(answer.problem.message);
    const { writtenKey: _, ...source } = answer.value.source;
    const work = source as unknown as NewWork;
    return onAdd(
      isEar && work.kind === 'tune' ? { ...work, kind: 'ear', title: `${title}, by ear` } : { ...work, title },
      id,
    );
  };
  return (
    <>
      <span className="mb-2 flex flex-wrap items-center gap-3">
        <input
          type="search"
          aria-label="Search the shelf"
          placeholder="Search the shelf"
          value={words}
          onChange={({ target }) => setWords(target.value)}
          className="min-h-9 flex-1 rounded border border-edge bg-paper px-2"
        />
        <label className="flex items-center gap-1.5 text-[13px]">
          <input type="checkbox" checked={isEar} onChange={({ target }) => setEar(target.checked)} />
          tunes by ear first
        </label>
      </span>
      <ul className="max-h-80 overflow-auto">
        {tunes.map((tune) => (
          <li key={tune.id}>
            <button
              type="button"
              onClick={() => void take(tune)}
              className="min-h-9 w-full rounded px-2 text-left font-serif hover:bg-cane-pale"
            >
              {tune.title || 'without a title'}
            </button>
          </li>
        ))}
      </ul>
      {tunes.length === 0 && <p className="py-2 text-[13px] text-ink-soft">Nothing on the shelf is called so.</p>}
    </>
  );
}

/** A scale to know by heart, or to improvise with; tonics are told as the pupil reads them. */
function AScale({
  screen,
  playing,
  onAdd,
}: {
  readonly screen: PupilOnScreen;
  readonly playing: string;
  readonly onAdd: AddWork;
}) {
  const [tonic, setTonic] = useState<PitchClass>(ALL_TONICS[0] ?? { step: 'C', alter: 0 });
  const [set, setSet] = useState<ScaleName>('major');
  const entry = screen.pupil.playing.find(({ id }) => id === playing);
  const instrument = entry && instrumentOfPlaying(entry);
  const read = (one: PitchClass) =>
    namePitchClass(instrument ? writtenKeyOf(instrument, { tonic: one, mode: 'major' }).tonic : one);
  const name = `${read(tonic)} ${set.replace(/ scale$/, '')}`;
  return (
    <>
      <span className="mb-3 flex flex-wrap gap-2">
        <label className="text-[13px]">
          Tonic, as read{' '}
          <select
            className="min-h-8 rounded border border-edge bg-paper px-1"
            value={printPitchClass(tonic)}
            onChange={({ target }) =>
              setTonic(ALL_TONICS.find((one) => printPitchClass(one) === target.value) ?? tonic)
            }
          >
            {ALL_TONICS.map((one) => (
              <option key={printPitchClass(one)} value={printPitchClass(one)}>
                {read(one)}
              </option>
            ))}
          </select>
        </label>
        <label className="text-[13px]">
          Scale{' '}
          <select
            className="min-h-8 rounded border border-edge bg-paper px-1"
            value={set}
            onChange={({ target }) => setSet(SETS.find((one) => one === target.value) ?? 'major')}
          >
            {SETS.map((one) => (
              <option key={one} value={one}>
                {one.replace(/ scale$/, '')}
              </option>
            ))}
          </select>
        </label>
      </span>
      <span className="flex gap-2">
        <Button
          kind="main"
          onClick={() => onAdd({ kind: 'memory', title: `${name} by heart`, tonic, set, goal: 80, start: 60 })}
        >
          To know by heart
        </Button>
        <Button onClick={() => onAdd({ kind: 'pool', title: `Improvise with ${name}`, tonic, set })}>
          To improvise with
        </Button>
      </span>
    </>
  );
}
