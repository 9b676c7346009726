'use client';

import { FileMusic, FileText, Headphones, Printer } from 'lucide-react';
import { Tabs } from 'radix-ui';
import { useState } from 'react';
import { difficultyText } from '../../core/analysis';
import { type Level, profileOf } from '../../core/instruments';
import {
  keysOfRound,
  type RoundNumber,
  ROUNDS,
  SOLO_PAGE_NAMES,
  SOLO_PAGES,
  type SoloPage,
  type SoloPart,
} from '../../core/levels';
import { nameKey } from '../../core/pitch';
import { recipesOf, type Work } from '../../core/work';
import { editablePlan, placeId, type ReadSolo, unusedPlace } from '../../core/solos';
import { capitalised, uncapitalised } from '../../core/plainText';
import { barNumbers } from '../../core/score';
import { Select } from '../../ui/Select';
import { DrawerTabs } from '../../ui/DrawerTabs';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import { DeviceWords } from './DeviceWords';
import { LickTab } from './LickTab';
import { LinesFound } from './LinesFound';
import { PlanTab } from './PlanTab';
import type { EditPlan, SetSolo } from './soloChange';
import { SoloFacts } from './SoloFacts';
import type { Dispatch } from '../work/workStore';

type Tab = 'plan' | 'devices' | 'licks' | 'words' | 'paper';
const TAB_NAMES: Readonly<Record<Tab, string>> = {
  plan: 'Plan',
  devices: 'Devices',
  licks: 'Licks',
  words: 'Words',
  paper: 'Paper',
};

const ROUND_NAMES: Readonly<Record<RoundNumber, string>> = { 1: 'first', 2: 'second', 3: 'third' };

const BUTTON =
  'flex min-h-8 flex-1 items-center justify-center gap-1.5 rounded border border-edge bg-paper px-2 font-medium hover:bg-cane-pale';

/** What a solo is made of, in words: its phrases, what its leaning notes do, what can be counted; and its files. */
export function SoloDrawer({
  work,
  level,
  made,
  read,
  isKept,
  seeds,
  takeOf,
  onVary,
  onLift,
  onOwn,
  onCopy,
  onFile,
  onDispatch,
}: {
  readonly work: Work;
  readonly level: Level;
  readonly made: SoloPart | undefined;
  /** The tune itself, where it is read as a solo. */
  readonly read: ReadSolo | undefined;
  readonly isKept: boolean;
  readonly seeds: readonly number[];
  readonly takeOf: (seed: number) => SoloPart | undefined;
  /** Other takes are asked for. */
  readonly onVary: () => void;
  /** Bars from 1 that are to be kept as a lick: of the solo, or of the tune that is read. */
  readonly onLift: (from: number, to: number) => void;
  /** A chorus for a pupil to write is begun. */
  readonly onOwn: () => void;
  /** The take becomes a tune on the shelf. */
  readonly onCopy: () => void;
  readonly onFile: (name: string, download: boolean) => void;
  readonly onDispatch: Dispatch;
}) {
  const [page, setPage] = useState<'line' | 'analysis' | SoloPage>('line');
  const [tab, setTab] = useState<Tab>('plan');
  const [round, setRound] = useState<RoundNumber>('1');
  if (read)
    return (
      <>
        <LinesFound tune={work.tune} read={read} onLift={onLift} />
        <SoloFacts solo={read} />
      </>
    );
  if (!made) return <p className="text-[13px] text-ink-soft">There is no solo at this level yet.</p>;
  const { solo, part } = made;
  const query = page === 'line' ? '' : page === 'analysis' ? '?analysis' : `?page=${page}`;
  const name = `${level}.solo.pdf${query}`;
  const plays = recipesOf(work)[level].form?.plays ?? 'once';
  const { solo: wishes = {} } = recipesOf(work)[level];
  const onWishes: SetSolo = (words, change) =>
    onDispatch((present) => ({
      kind: 'recipe',
      level,
      words: uncapitalised(words),
      change: { solo: typeof change === 'function' ? change(recipesOf(present)[level].solo ?? {}) : change },
    }));
  const edited = editablePlan(wishes, solo);
  const onPlan: EditPlan = (words, ...edits) =>
    onDispatch({ kind: 'plan', level, words: uncapitalised(words), shown: edited.plan, edits });
  return (
    <DrawerTabs label="About this solo" names={TAB_NAMES} value={tab} onChange={setTab}>
      <Tabs.Content value="plan">
        <PlanTab
          tune={work.tune}
          made={made}
          edited={edited}
          hasOwnPlan={wishes.plan !== undefined && !wishes.isPlanOfTake}
          seeds={seeds}
          takeOf={takeOf}
          onPlan={onPlan}
          onUsual={() => onWishes('The plan as the level goes', { plan: undefined, isPlanOfTake: undefined })}
          onVary={onVary}
          onLift={onLift}
        />
      </Tabs.Content>
      <Tabs.Content value="devices">
        <DeviceWords level={level} wishes={wishes} bars={solo.bars.length} missed={solo.missed} onWishes={onWishes} />
      </Tabs.Content>
      <Tabs.Content value="licks">
        <LickTab
          tune={work.tune}
          hasOwnChoice={profileOf(level).solo.notes !== 'scale'}
          kept={solo.phrases
            .filter(({ isGiven }) => isGiven)
            .map(({ start, end }) => ({
              from: solo.bars.findIndex((bar) => bar.start === start),
              to: solo.bars.findLastIndex((bar) => bar.start < end) + 1,
            }))}
          onPut={(put) => {
            // A name for each; what they cut takes names of its own after them.
            const first = unusedPlace(edited.plan);
            onPlan(
              put.map(({ lick, place }) => `the lick ${lick.title} in bar ${place.from + 1}`).join(', '),
              ...put.map(({ place: { from, to }, notes, lick }, k) => ({
                kind: 'put' as const,
                from,
                to,
                id: placeId(first + k),
                given: { notes, lick: lick.title },
              })),
            );
          }}
        />
      </Tabs.Content>
      <Tabs.Content value="words">
        <SoloFacts solo={solo}>
          <p className="mt-1 text-ink-soft">
            {capitalised(difficultyText(part.difficulty, barNumbers(part), level))}.
            {made.isProposed && ' The chords are proposals: the tune has none.'}
          </p>
        </SoloFacts>
      </Tabs.Content>
      <Tabs.Content value="paper" className="space-y-3">
        <section aria-label="Form" className="border-t border-line pt-2 leading-8">
          The {LEVEL_NAMES[level].toLowerCase()} part plays{' '}
          <Select
            look="word"
            label={`${LEVEL_NAMES[level]}: form`}
            value={plays === 'solo' ? 'solo' : 'once'}
            options={[
              { value: 'once', label: plays === 'solo' ? 'the melody once' : 'as its recipe says' },
              { value: 'solo', label: 'melody, solo, melody' },
            ]}
            onChange={(value) =>
              onDispatch({
                kind: 'recipe',
                level,
                words: value === 'solo' ? 'melody, solo, melody' : 'the melody once',
                change: { form: { plays: value === 'solo' ? 'solo' : undefined } },
              })
            }
          />
          {plays === 'solo' && !isKept && (
            <span className="text-[13px] text-ink-soft">; keep a take to have it printed there</span>
          )}
          .
        </section>
        <section aria-label="Rounds" className="border-t border-line pt-2">
          <p className="leading-8">
            Through all twelve keys in three rounds: head, map, example solo and a chorus of one&apos;s own. The{' '}
            <Select
              look="word"
              label="Round"
              value={round}
              options={ROUNDS.map((value) => ({ value, label: ROUND_NAMES[value] }))}
              onChange={setRound}
            />{' '}
            round: {keysOfRound(work.tune, level, work.recipes, round).map(nameKey).join(', ')}.
          </p>
          <button type="button" className={BUTTON} onClick={() => onFile(`${level}.round.pdf?round=${round}`, false)}>
            <Printer size={15} aria-hidden="true" />
            The round as a book
          </button>
        </section>
        <section aria-label="Download" className="border-t border-line pt-2">
          <p className="mb-1 leading-8">
            {isKept ? 'The kept take' : 'The first take'} on paper:{' '}
            <Select
              look="word"
              label="What is printed"
              value={page}
              options={[
                { value: 'line', label: 'the line alone' },
                { value: 'analysis', label: 'the line, degrees under the notes' },
                ...SOLO_PAGES.map((value) => ({ value, label: SOLO_PAGE_NAMES[value] })),
              ]}
              onChange={setPage}
            />
            .
          </p>
          <div className="flex flex-wrap gap-1.5">
            <button type="button" className={BUTTON} onClick={() => onFile(name, false)}>
              <Printer size={15} aria-hidden="true" />
              Print
            </button>
            <button type="button" className={BUTTON} onClick={() => onFile(name, true)}>
              <FileText size={15} aria-hidden="true" />
              PDF
            </button>
            <button type="button" className={BUTTON} onClick={() => onFile(`${level}.solo.musicxml${query}`, true)}>
              <FileMusic size={15} aria-hidden="true" />
              MusicXML
            </button>
            <button type="button" className={BUTTON} onClick={() => onFile(`${level}.solo.mp3`, true)}>
              <Headphones size={15} aria-hidden="true" />
              MP3
            </button>
          </div>
        </section>
        <section aria-label="Copy" className="border-t border-line pt-2 text-[13.5px]">
          <p className="mb-1">
            As a tune of its own a take can be written on, note by note, with everything the editor has.
          </p>
          <button type="button" className={BUTTON} onClick={onCopy}>
            Copy this take to the shelf
          </button>
        </section>
        <section aria-label="Your own chorus" className="border-t border-line pt-2 text-[13.5px]">
          <h3 className="font-semibold">A chorus of their own</h3>
          <p className="mb-1">
            An empty chorus over these chords is a tune of its own: a pupil writes into it, and the Solo step reads it
            back, what lands and what rubs.
          </p>
          <button type="button" className={BUTTON} onClick={onOwn}>
            Begin an empty chorus
          </button>
        </section>
      </Tabs.Content>
    </DrawerTabs>
  );
}
