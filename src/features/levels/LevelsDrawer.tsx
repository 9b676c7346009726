'use client';

import { FileMusic, FileText, Printer, Users } from 'lucide-react';
import { Tabs } from 'radix-ui';
import { memo, useState } from 'react';
import { lineDifficulty, passagesThatStandOut } from '../../core/analysis/difficulty';
import { LEVELS, type Level } from '../../core/instruments/instrument';
import type { CustomInstrument } from '../../core/instruments/customInstrument';
import type { Group, GroupPlayer } from '../../core/keys/group';
import type { SavedRecipe } from '../../core/levels/recipe/savedRecipe';
import { levelTempo, type Recipe as WorkRecipe } from '../../core/levels/recipe/recipe';
import { recipesOf, withRecipe, type Work } from '../../core/levels/recipe/work';
import { nameKey, printKey } from '../../core/pitch/key';
import { hasSecondPart } from '../../core/score/tune';
import type { LaneInfo } from '../../engrave/lanes';
import { BeatSign } from '../../ui/BeatSign';
import { Choice } from '../../ui/Choice';
import { TextInput } from '../../ui/Field';
import { InstrumentSelect } from '../../ui/InstrumentSelect';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import type { Selection } from '../work/workStore';
import type { Draws } from '../work/useEngraving';
import { keyOf, keyOptions } from '../work/keyOptions';
import { AidWords } from './AidWords';
import { BarChanges } from './BarChanges';
import { BarVersions } from './BarVersions';
import { ChordWords } from './ChordWords';
import { CompareVariations } from './CompareVariations';
import { BarFingers, FingerWords } from './FingerWords';
import { SavedRecipes } from './SavedRecipes';
import { LimitWords } from './LimitWords';
import { MelodyWords } from './MelodyWords';
import { ThroughSheet } from './ThroughSheet';
import { UnderWords } from './UnderWords';
import type { SetRecipe } from './setRecipe';
import { type AidWishes, type BarChoices, LEAVE_OUTS, type LeaveOut } from '../../core/levels/recipe/groups';
import { APART } from '../../core/levels/line/levelsApart';
import { TEMPO_LIMITS } from '../../core/score/usualTempo';

interface Props {
  readonly work: Work;
  readonly infos: readonly LaneInfo[];
  readonly numbers: readonly number[];
  readonly selection: Selection | undefined;
  /** Who plays together, when a group is chosen. */
  readonly group: Group | undefined;
  readonly groupId: string | undefined;
  readonly custom: readonly CustomInstrument[];
  /** The studio's recipes under names. */
  readonly saved: readonly SavedRecipe[];
  readonly onSaved: (saved: readonly SavedRecipe[]) => void;
  /** What the worker draws on demand. */
  readonly draws: Draws;
  readonly onChange: (name: string, after: Work) => void;
  readonly onSelect: (selection: Selection) => void;
  /** Opens a file once everything is saved; `true` downloads it. */
  readonly onFile: (name: string, download: boolean) => void;
  /** Goes to another page of the tune once everything is saved. */
  readonly onGo: (page: string) => void;
}

const LEVEL_TABS = ['recipe', 'bar', 'hand-out'] as const;
type LevelTab = (typeof LEVEL_TABS)[number];

/** The drawer of the Levels step: one level at a time, its recipe as sentences, the picked bar, and what to take away. */
export const LevelsDrawer = memo(function LevelsDrawer(props: Props) {
  const { selection, infos } = props;
  const [chosen, setChosen] = useState<Level>('beginner');
  const [tab, setTab] = useState<LevelTab>('recipe');
  const picked = LEVELS.find((level) => level === selection?.lane);
  const level = picked ?? chosen;
  const info = infos.find(({ id }) => id === level);
  // A bar picked in the music opens here; one that a button of the drawer picks along with its level does not.
  const [seen, setSeen] = useState(selection);
  if (selection !== seen) {
    setSeen(selection);
    if (picked) setTab('bar');
  }
  return (
    <div>
      <div role="group" aria-label="Level" className="mb-3 flex gap-1">
        {LEVELS.map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={one === level}
            onClick={() => {
              const next = { lane: one, bar: selection?.bar ?? 0 };
              setChosen(one);
              setSeen(next);
              props.onSelect(next);
            }}
            className={`flex min-h-9 flex-1 items-center justify-center gap-1 rounded px-1 text-[13px] ${one === level ? 'bg-paper font-semibold outline outline-[#8f8d7c]' : 'hover:bg-cane-pale'}`}
          >
            <LevelSign level={one} size={18} />
            {LEVEL_NAMES[one]}
          </button>
        ))}
      </div>
      {info && <Recipe {...props} level={level} info={info} tab={tab} onTab={setTab} />}
    </div>
  );
});

function Recipe({
  work,
  level,
  info,
  infos,
  selection,
  numbers,
  group,
  groupId,
  custom,
  saved,
  tab,
  onTab,
  onSaved,
  draws,
  onChange,
  onSelect,
  onFile,
  onGo,
}: Props & {
  readonly level: Level;
  readonly info: LaneInfo;
  readonly tab: LevelTab;
  readonly onTab: (tab: LevelTab) => void;
}) {
  const recipe = recipesOf(work)[level];
  const [tempoProblem, setTempoProblem] = useState<string>();
  const [isCompared, setCompared] = useState(false);
  const [isThrough, setThrough] = useState(false);
  const tempo = levelTempo(work.tune, level, recipe.setting?.perMinute);
  const key = recipe.setting?.key ?? work.tune.key;
  const set: SetRecipe = (what, change) => onChange(`${LEVEL_NAMES[level]}: ${what}`, withRecipe(work, level, change));
  const setTempo = (text: string) => {
    const number = Number(text);
    const isTempo = /^\d+$/.test(text.trim()) && number >= TEMPO_LIMITS.slowest && number <= TEMPO_LIMITS.fastest;
    setTempoProblem(
      isTempo
        ? undefined
        : `"${text}" is no tempo: beats a minute go from ${TEMPO_LIMITS.slowest} to ${TEMPO_LIMITS.fastest}.`,
    );
    if (isTempo) set(`tempo ${number}`, { setting: { perMinute: number } });
  };
  const bar = selection?.lane === level ? selection.bar : undefined;
  const tabNames: Readonly<Record<LevelTab, string>> = {
    recipe: 'Recipe',
    bar: bar === undefined ? 'Changes' : numbers[bar] === 0 ? 'Pickup' : `Bar ${numbers[bar] ?? ''}`,
    'hand-out': 'Hand out',
  };
  return (
    <>
      <p className="leading-8">
        <InstrumentSelect
          label={`${LEVEL_NAMES[level]}: instrument`}
          value={recipe.custom?.id ?? recipe.instrument}
          custom={custom}
          chosen={recipe.custom}
          onChange={(instrument, chosen) =>
            set('instrument', {
              instrument,
              custom: chosen,
              page: { pins: undefined },
              limits: { range: undefined, known: undefined },
            })
          }
          className="min-h-7 max-w-44 rounded-t border-b-2 border-cane bg-transparent px-0.5 font-semibold hover:bg-cane-pale"
        />
        , sounding in{' '}
        <Choice
          look="word"
          label={`${LEVEL_NAMES[level]}: concert key`}
          value={printKey(key)}
          options={keyOptions(work.tune.key.mode, [key])}
          onChange={(value) => set('key', { setting: { key: keyOf(value) } })}
        />
        {', '}
        <span className="whitespace-nowrap">
          <BeatSign beat={tempo.beat} /> ={' '}
          <TextInput
            label={`${LEVEL_NAMES[level]}: beats a minute`}
            value={String(tempo.perMinute)}
            maxLength={4}
            onCommit={setTempo}
            className="min-h-7 w-9 rounded-t border-b-2 leading-5 border-cane bg-transparent px-0.5 font-semibold tabular-nums hover:bg-cane-pale"
          />
          .
        </span>
      </p>
      {tempoProblem && (
        <p role="alert" className="text-[12.5px] text-warn">
          {tempoProblem}
        </p>
      )}
      <p className="mt-1 text-ink-soft">
        {info.writtenKey === info.concertKey
          ? `Reads ${info.writtenKey}`
          : `Reads ${info.writtenKey}, sounds ${info.concertKey}`}
        ; {info.range}. {octaveText(info.octaves)}
        {keyAdvice(work, level)}
      </p>
      <p className="mt-1 text-[13px] text-ink-soft">
        {info.fidelity < 100 ? `Keeps ${info.fidelity} % of the tune. ` : 'Keeps every note of the tune. '}
        {pinnedText(recipe.bars?.chosen)}
        {Object.keys(recipe.bars?.chosen ?? {}).length > 0 && (
          <button
            type="button"
            onClick={() => set('every bar as the level has it', { bars: { chosen: undefined } })}
            className="min-h-7 text-cane underline underline-offset-2"
          >
            undo that
          </button>
        )}
      </p>
      <Apart
        level={level}
        infos={infos}
        onDenser={() => set('denser', { melody: 'embellished', embellish: { density: 60 } })}
      />
      <Tabs.Root
        value={tab}
        onValueChange={(value) => {
          const found = LEVEL_TABS.find((known) => known === value);
          if (found) onTab(found);
        }}
        className="mt-2"
      >
        <Tabs.List
          aria-label={`About the ${LEVEL_NAMES[level].toLowerCase()} part`}
          className="mb-2 flex gap-1 border-t border-line pt-2"
        >
          {LEVEL_TABS.map((one) => (
            <Tabs.Trigger
              key={one}
              value={one}
              className="min-h-8 flex-1 rounded px-2 text-[13px] hover:bg-cane-pale data-[state=active]:bg-paper data-[state=active]:font-semibold data-[state=active]:outline data-[state=active]:outline-[#8f8d7c]"
            >
              {tabNames[one]}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="recipe">
          <MelodyWords
            recipe={recipe}
            level={level}
            meter={work.tune.meter}
            onSet={set}
            onCompare={() => setCompared(true)}
          />
          <LimitWords
            recipe={recipe}
            level={level}
            hasSecond={hasSecondPart(work.tune)}
            onThrough={() => setThrough(true)}
            onSet={set}
          />
          <StandsOut
            info={info}
            bars={work.tune.bars.map(({ id }) => id)}
            chosen={recipe.bars?.chosen ?? {}}
            numbers={numbers}
            onSelect={(at) => onSelect({ lane: level, bar: at })}
            onLeaveOut={(what, chosen) => set(what, { bars: { chosen } })}
          />
          <AidWords recipe={recipe} level={level} onSet={set} />
          <FingerWords onGo={onGo} recipe={recipe} level={level} onSet={set} />
          <Players
            level={level}
            group={group}
            current={recipe.custom?.id ?? recipe.instrument}
            onPick={(player) =>
              set(`as ${player.name || 'a player'} plays it`, {
                instrument: player.instrument,
                custom: player.custom,
                page: {
                  marks: player.marks === 'level' ? undefined : player.marks,
                  aids: player.aids && (Object.fromEntries(player.aids.map((aid) => [aid, 'stays'])) as AidWishes),
                  pins: undefined,
                },
                limits: {
                  known: player.known && player.known.length > 0 ? player.known : undefined,
                  range: { ...(player.low && { low: player.low }), ...(player.high && { high: player.high }) },
                },
              })
            }
          />
          <SavedRecipes recipe={recipe} level={level} saved={saved} onSaved={onSaved} onSet={set} />
        </Tabs.Content>
        <Tabs.Content value="bar">
          <BarChanges info={info} level={level} selection={selection} numbers={numbers} onSelect={onSelect} />
          {bar !== undefined && (
            <BarVersions
              key={`${level}/${bar}`}
              work={work}
              level={level}
              bar={bar}
              numbers={numbers}
              draws={draws}
              onSet={set}
            />
          )}
          <BarFingers
            work={work}
            level={level}
            bar={bar}
            number={bar === undefined ? undefined : numbers[bar]}
            onSet={set}
          />
        </Tabs.Content>
        <Tabs.Content value="hand-out">
          <Files level={level} recipe={recipe} onSet={set} onFile={onFile} />
          <UnderWords
            work={work}
            level={level}
            onFile={onFile}
            onKey={(better) => set(`key ${nameKey(better)}`, { setting: { key: better } })}
          />
          <ChordWords work={work} level={level} onFile={onFile} />
          {group && groupId && (
            <p className="mt-4 border-t border-line pt-3">
              <button
                type="button"
                onClick={() => onGo(`group/${groupId}`)}
                className="inline-flex min-h-8 items-center gap-1.5 rounded border border-[#8f8d7c] bg-paper px-2 font-medium hover:bg-cane-pale"
              >
                <Users size={15} aria-hidden="true" />
                Parts for {group.name}
              </button>
            </p>
          )}
        </Tabs.Content>
      </Tabs.Root>
      {isThrough && <ThroughSheet work={work} level={level} draws={draws} onClose={() => setThrough(false)} />}
      {isCompared && (
        <CompareVariations
          work={work}
          level={level}
          draws={draws}
          onClose={() => setCompared(false)}
          onTake={(seed) => {
            setCompared(false);
            set(`variation ${seed}`, { embellish: { seed } });
          }}
        />
      )}
    </>
  );
}

/** The group's players of the level: the lane can be read as any of them reads it. */
function Players({
  level,
  group,
  current,
  onPick,
}: {
  readonly level: Level;
  readonly group: Group | undefined;
  readonly current: string;
  readonly onPick: (player: GroupPlayer) => void;
}) {
  const players = group?.players.filter((player) => player.level === level) ?? [];
  if (!group || players.length === 0) return null;
  return (
    <div
      role="group"
      aria-label={`${group.name}, ${LEVEL_NAMES[level].toLowerCase()}`}
      className="mt-2 flex flex-wrap items-center gap-1 text-[13px]"
    >
      <span className="text-ink-soft">Set up for</span>
      {players.map((player) => (
        <button
          key={player.id}
          type="button"
          aria-pressed={(player.custom?.id ?? player.instrument) === current}
          onClick={() => onPick(player)}
          className="min-h-7 rounded border border-line bg-paper px-1.5 hover:bg-cane-pale aria-pressed:border-cane aria-pressed:font-semibold"
        >
          {player.name || player.instrument}
        </button>
      ))}
    </div>
  );
}

function pinnedText(bars: BarChoices | undefined): string {
  const count = Object.keys(bars ?? {}).length;
  return count === 0
    ? ''
    : `${count === 1 ? 'One bar is' : `${count} bars are`} as you set ${count === 1 ? 'it' : 'them'}: `;
}

/** Says where a level is hardly harder than the one below, and what would set them apart. */
function Apart({
  level,
  infos,
  onDenser,
}: {
  readonly level: Level;
  readonly infos: readonly LaneInfo[];
  readonly onDenser: () => void;
}) {
  const below = LEVELS[LEVELS.indexOf(level) - 1];
  const [here, under] = [infos.find(({ id }) => id === level), infos.find(({ id }) => id === below)];
  if (!below || !here || !under) return null;
  const [now, before] = [lineDifficulty(here.difficulty).total, lineDifficulty(under.difficulty).total];
  const figures = (
    <span className="tabular-nums">
      {now.toFixed(1)} of 10; {LEVEL_NAMES[below].toLowerCase()} {before.toFixed(1)}
    </span>
  );
  if (now >= before * APART) return <p className="mt-1 text-[13px] text-ink-soft">Difficulty {figures}.</p>;
  return (
    <p role="note" className="mt-1 text-[13px] text-warn">
      Hardly harder than {LEVEL_NAMES[below].toLowerCase()}: {figures}. A quicker tempo, another key or a{' '}
      <button type="button" onClick={onDenser} className="min-h-7 font-semibold underline underline-offset-2">
        denser embellishment
      </button>{' '}
      would set them apart.
    </p>
  );
}

/** Names passages much harder than the rest and lets them be bracketed as ones that may be left out. */
function StandsOut({
  info,
  bars,
  chosen,
  numbers,
  onSelect,
  onLeaveOut,
}: {
  readonly info: LaneInfo;
  readonly bars: readonly string[];
  readonly chosen: BarChoices;
  readonly numbers: readonly number[];
  readonly onSelect: (bar: number) => void;
  readonly onLeaveOut: (what: string, chosen: BarChoices) => void;
}) {
  const passages = passagesThatStandOut(info.difficulty).filter((run) =>
    run.some((bar) => chosen[bars[bar] ?? ''] === undefined),
  );
  if (passages.length === 0) return null;
  return (
    <ul className="mt-1 text-[13px]">
      {passages.slice(0, 3).map((run) => {
        const [first = 0] = run;
        const last = run.at(-1) ?? first;
        const name =
          first === last ? `Bar ${numbers[first] ?? ''}` : `Bars ${numbers[first] ?? ''} to ${numbers[last] ?? ''}`;
        const leave = () =>
          onLeaveOut(`${name.toLowerCase()} optional`, {
            ...chosen,
            ...Object.fromEntries(run.map((bar) => [bars[bar] ?? '', { kind: 'optional' as const }])),
          });
        return (
          <li key={first}>
            <button
              type="button"
              onClick={() => onSelect(first)}
              className="min-h-7 font-semibold text-cane underline underline-offset-2"
            >
              {name}
            </button>{' '}
            {first === last ? 'is' : 'are'} much harder than the rest (
            {Math.max(...run.map((bar) => info.difficulty[bar]?.total ?? 0)).toFixed(1)} of 10).{' '}
            <button type="button" onClick={leave} className="min-h-7 text-cane underline underline-offset-2">
              Mark as optional
            </button>
          </li>
        );
      })}
    </ul>
  );
}

function octaveText(octaves: number): string {
  if (octaves === 0) return '';
  const count = Math.abs(octaves) === 1 ? 'An octave' : `${Math.abs(octaves)} octaves`;
  return `${count} ${octaves > 0 ? 'above' : 'below'} the tune. `;
}

function keyAdvice(work: Work, level: Level): string {
  const key = recipesOf(work)[level].setting?.key;
  return key && printKey(key) !== printKey(work.tune.key)
    ? `Not the tune's own key: ask the accompanist for ${nameKey(key)}; a recording will not fit.`
    : '';
}

const LEAVE_OUT_WORDS: Readonly<Record<LeaveOut, string>> = {
  bracket: 'in a bracket',
  rests: 'as bars of rest, with cues before the player comes in',
};

function Files({
  level,
  recipe,
  onSet,
  onFile,
}: {
  readonly level: Level;
  readonly recipe: WorkRecipe;
  readonly onSet: SetRecipe;
  readonly onFile: Props['onFile'];
}) {
  const [paper, setPaper] = useState<'a4' | 'letter'>('a4');
  const item =
    'flex min-h-8 flex-1 items-center justify-center gap-1.5 rounded border border-[#8f8d7c] bg-paper px-2 font-medium hover:bg-cane-pale';
  return (
    <section aria-label="Download">
      <div className="mb-2 flex items-center justify-between">
        <h3 className="font-semibold">The {LEVEL_NAMES[level].toLowerCase()} part on</h3>
        <Choice
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
        <button type="button" className={item} onClick={() => onFile(`${level}.pdf?paper=${paper}`, false)}>
          <Printer size={15} aria-hidden="true" />
          Print
        </button>
        <button type="button" className={item} onClick={() => onFile(`${level}.pdf?paper=${paper}`, true)}>
          <FileText size={15} aria-hidden="true" />
          PDF
        </button>
        <button type="button" className={item} onClick={() => onFile(`${level}.musicxml`, true)}>
          <FileMusic size={15} aria-hidden="true" />
          MusicXML
        </button>
      </div>
      <p className="mt-2 leading-8">
        Optional passages are printed{' '}
        <Choice<LeaveOut>
          look="word"
          label={`${LEVEL_NAMES[level]}: optional passages`}
          value={recipe.form?.leaveOut ?? 'bracket'}
          options={LEAVE_OUTS.map((value) => ({ value, label: LEAVE_OUT_WORDS[value] }))}
          onChange={(leaveOut) =>
            onSet(`optional passages ${LEAVE_OUT_WORDS[leaveOut]}`, {
              form: { leaveOut: leaveOut === 'bracket' ? undefined : leaveOut },
            })
          }
        />
        .
      </p>
    </section>
  );
}
