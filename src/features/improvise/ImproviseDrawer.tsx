'use client';

import { FileMusic, FileText, Printer } from 'lucide-react';
import { Tabs } from 'radix-ui';
import { useState } from 'react';
import { type Level, LEVELS } from '../../core/instruments';
import type { PlayerPools } from '../../core/levels';
import { recipesOf, type Work } from '../../core/work';
import { ALL_SCALE_NAMES, nameOfSet, type ScaleName } from '../../core/harmony';
import { backingWords, type Extent, MEMORY_STEPS } from '../../core/pools';
import { DrawerTabs } from '../../ui/DrawerTabs';
import { Select } from '../../ui/Select';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import type { Player } from '../work/sound/player';
import { ChordPanel } from './ChordPanel';
import { PoolWords } from './PoolWords';
import type { SetWishes } from './setWishes';
import type { Dispatch } from '../work/workStore';

interface Props {
  readonly work: Work;
  readonly made: PlayerPools;
  readonly level: Level;
  readonly onLevel: (level: Level) => void;
  /** Index of the picked chord. */
  readonly picked: number | undefined;
  readonly isWritten: boolean;
  readonly player: Player;
  readonly onDispatch: Dispatch;
  readonly onFile: (name: string, download: boolean) => void;
}

type Tab = 'pools' | 'chord' | 'hand-out';

/** The drawer of the Improvise step: what a level gets, the picked chord, and what to take away. */
export function ImproviseDrawer({ work, made, level, onLevel, picked, isWritten, player, onDispatch, onFile }: Props) {
  const [tab, setTab] = useState<Tab>('pools');
  const [seen, setSeen] = useState(picked);
  // A chord picked on the map opens here.
  if (picked !== seen) {
    setSeen(picked);
    if (picked !== undefined) setTab('chord');
  }
  const set: SetWishes = (words, change) =>
    onDispatch((present) => ({
      kind: 'recipe',
      level,
      words,
      change: { improvise: typeof change === 'function' ? change(recipesOf(present)[level].improvise ?? {}) : change },
    }));
  const place = picked === undefined ? undefined : made.pools.form.places[picked];
  const names: Readonly<Record<Tab, string>> = {
    pools: 'Pools',
    chord: place ? `Bar ${place.bar}` : 'Chord',
    'hand-out': 'Hand out',
  };
  return (
    <div>
      <div role="group" aria-label="Level" className="mb-2 flex gap-1">
        {LEVELS.map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={one === level}
            onClick={() => onLevel(one)}
            className={`flex min-h-9 flex-1 items-center justify-center gap-1 rounded px-1 text-[13px] ${one === level ? 'bg-paper font-semibold outline outline-edge' : 'hover:bg-cane-pale'}`}
          >
            <LevelSign level={one} size={18} />
            {LEVEL_NAMES[one]}
          </button>
        ))}
      </div>
      <DrawerTabs
        label={`About improvising at ${level} level`}
        names={names}
        value={tab}
        onChange={setTab}
        listClass="mb-2 flex gap-1 border-t border-line pt-2"
      >
        <Tabs.Content value="pools">
          <PoolWords work={work} made={made} onSet={set} onDispatch={onDispatch} />
        </Tabs.Content>
        <Tabs.Content value="chord">
          {picked === undefined || !made.pools.chords[picked] ? (
            <p className="text-ink-soft">Select a chord on the map to see, hear and change its notes.</p>
          ) : (
            <ChordPanel
              key={`${level}/${picked}`}
              work={work}
              made={made}
              picked={picked}
              isWritten={isWritten}
              player={player}

              onDispatch={onDispatch}
            />
          )}
        </Tabs.Content>
        <Tabs.Content value="hand-out">
          <HandOut made={made} level={level} onFile={onFile} />
        </Tabs.Content>
      </DrawerTabs>
    </div>
  );
}

function HandOut({
  made,
  level,
  onFile,
}: {
  readonly made: PlayerPools;
  readonly level: Level;
  readonly onFile: (name: string, download: boolean) => void;
}) {
  const [paper, setPaper] = useState<'a4' | 'letter'>('a4');
  const [name, setName] = useState<ScaleName | 'own'>('own');
  const [extent, setExtent] = useState<Extent>('full');
  const own = made.pools.overall[0]?.scale.name;
  const item =
    'flex min-h-8 flex-1 items-center justify-center gap-1.5 rounded border border-edge bg-paper px-2 font-medium hover:bg-cane-pale';
  const page = `paper=${paper}`;
  return (
    <section aria-label="Download" className="space-y-3">
      <div className="flex items-center justify-between">
        <h3 className="font-semibold">The {LEVEL_NAMES[level].toLowerCase()} pool sheet on</h3>
        <Select
          look="word"
          label="Paper"
          value={paper}
          options={[
            { value: 'a4', label: 'A4' },
            { value: 'letter', label: 'Letter' },
          ]}
          onChange={setPaper}
        />
      </div>
      <div className="flex gap-1.5">
        <button type="button" className={item} onClick={() => onFile(`${level}.pools.pdf?${page}`, false)}>
          <Printer size={15} aria-hidden="true" />
          Print
        </button>
        <button type="button" className={item} onClick={() => onFile(`${level}.pools.pdf?${page}`, true)}>
          <FileText size={15} aria-hidden="true" />
          PDF
        </button>
        <button type="button" className={item} onClick={() => onFile(`${level}.pools.musicxml`, true)}>
          <FileMusic size={15} aria-hidden="true" />
          MusicXML
        </button>
      </div>
      <p className="text-[13px]">For the player: {backingWords(made.concertKey, made.tempo.perMinute)}.</p>
      <div>
        <h3 className="font-semibold">By heart</h3>
        <p className="mb-1.5 text-[13px]">
          The heads without names, then the chord symbols alone.{' '}
          {MEMORY_STEPS.map((step, k) => (k === 0 ? step[0]?.toUpperCase() + step.slice(1) : step)).join(', ')}.
        </p>
        <div className="flex">
          <button
            type="button"
            className={item}
            onClick={() => onFile(`${level}.pools.pdf?${page}&names=covered`, false)}
          >
            <Printer size={15} aria-hidden="true" />
            Print with names covered
          </button>
        </div>
      </div>
      <div>
        <h3 className="font-semibold">In all twelve keys</h3>
        <p className="mb-1.5 leading-8">
          <Select<ScaleName | 'own'>
            look="word"
            label="Set in twelve keys"
            value={name}
            options={[
              { value: 'own', label: own ? nameOfSet(own) : 'major', hint: 'the level’s own' },
              ...ALL_SCALE_NAMES.map((value) => ({ value, label: nameOfSet(value) })),
            ]}
            onChange={setName}
          />{' '}
          on the {made.instrument.shortName},{' '}
          <Select<Extent>
            look="word"
            label="How far"
            value={extent}
            options={[
              { value: '1', label: 'one octave' },
              { value: '2', label: 'two octaves' },
              { value: 'full', label: 'as far as the range goes' },
            ]}
            onChange={setExtent}
          />
          , with fingerings.
        </p>
        <div className="flex">
          <button
            type="button"
            className={item}
            onClick={() =>
              onFile(
                `${level}.sets.pdf?${page}&extent=${extent}${name === 'own' ? '' : `&set=${encodeURIComponent(name)}`}`,
                false,
              )
            }
          >
            <Printer size={15} aria-hidden="true" />
            Print the reference page
          </button>
        </div>
      </div>
      <p className="text-[12.5px] text-ink-soft">
        Everybody’s sheets come with the parts in the group’s archive (Groups).
      </p>
    </section>
  );
}
