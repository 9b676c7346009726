'use client';

import { Users } from 'lucide-react';
import { Tabs } from 'radix-ui';
import { memo, useState } from 'react';
import { type CustomInstrument, type Level, LEVELS } from '../../core/instruments';
import type { Group, GroupPlayer } from '../../core/keys';
import { type AidWishes, recipesOf, type SavedRecipe, type Work } from '../../core/work';
import { nameKey } from '../../core/pitch';
import { hasSecondPart } from '../../core/score';
import type { LaneInfo } from '../../engrave/lanes';
import { DrawerTabs } from '../../ui/DrawerTabs';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import type { Selection, Dispatch } from '../work/workStore';
import type { Draws } from '../work/useEngraving';
import { AidWords } from './AidWords';
import { BarChanges } from './BarChanges';
import { BarVersions } from './BarVersions';
import { ChordWords } from './ChordWords';
import { CompareVariations } from './CompareVariations';
import { BarFingers, FingerWords } from './FingerWords';
import { SavedRecipes } from './SavedRecipes';
import { DrillLevelWords } from './DrillLevelWords';
import { HardPassages } from './HardPassages';
import { LimitWords } from './LimitWords';
import { PartFiles } from './PartFiles';
import { RecipeHead } from './RecipeHead';
import { MelodyWords } from './MelodyWords';
import { ThroughSheet } from './ThroughSheet';
import { UnderWords } from './UnderWords';
import { WorkingOutWords } from './WorkingOutWords';
import { recipeCommand, type SetRecipe } from './setRecipe';

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
  readonly onSaved: (change: (saved: readonly SavedRecipe[]) => readonly SavedRecipe[]) => void;
  /** What the worker draws on demand. */
  readonly draws: Draws;
  readonly onDispatch: Dispatch;
  readonly onSelect: (selection: Selection) => void;
  /** Opens a file once everything is saved; `true` downloads it. */
  readonly onFile: (name: string, download: boolean) => void;
  /** Goes to another page of the tune once everything is saved. */
  readonly onGo: (page: string) => void;
}

type LevelTab = 'recipe' | 'bar' | 'hand-out';

/**
 * The drawer of the Levels step: one level at a time, its recipe as sentences, the picked bar, and what to take away.
 */
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
            className={`flex min-h-9 flex-1 items-center justify-center gap-1 rounded px-1 text-[13px] ${one === level ? 'bg-paper font-semibold outline outline-edge' : 'hover:bg-cane-pale'}`}
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
  onDispatch,
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
  const [isCompared, setCompared] = useState(false);
  const [isThrough, setThrough] = useState(false);
  const set: SetRecipe = (words, change) => onDispatch((present) => recipeCommand(present, level, words, change));
  const bar = selection?.lane === level ? selection.bar : undefined;
  if (work.tune.drill)
    return (
      <DrillLevelWords
        work={work}
        level={level}
        info={info}
        infos={infos}
        custom={custom}
        groupLink={group && groupId ? { name: group.name, onOpen: () => onGo(`group/${groupId}`) } : undefined}
        onSet={set}
        onFile={onFile}
        onGo={onGo}
      />
    );
  const tabNames: Readonly<Record<LevelTab, string>> = {
    recipe: 'Recipe',
    bar: bar === undefined ? 'Changes' : numbers[bar] === 0 ? 'Pickup' : `Bar ${numbers[bar] ?? ''}`,
    'hand-out': 'Hand out',
  };
  return (
    <>
      <RecipeHead work={work} level={level} info={info} infos={infos} custom={custom} onSet={set} />
      <DrawerTabs
        label={`About the ${LEVEL_NAMES[level].toLowerCase()} part`}
        names={tabNames}
        value={tab}
        onChange={onTab}
        listClass="mt-2 mb-2 flex gap-1 border-t border-line pt-2"
      >
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
          <HardPassages
            info={info}
            bars={work.tune.bars.map(({ id }) => id)}
            chosen={recipe.bars?.chosen ?? {}}
            numbers={numbers}
            onSelect={(at) => onSelect({ lane: level, bar: at })}
            onLeaveOut={(what, bars) => set(what, { table: 'chosen', entries: bars })}
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
          <PartFiles level={level} recipe={recipe} perMinute={info.tempo.perMinute} onSet={set} onFile={onFile} />
          <UnderWords
            work={work}
            level={level}
            onFile={onFile}
            onKey={(better) => set(`key ${nameKey(better)}`, { keyAndTempo: { key: better } })}
          />
          <ChordWords work={work} level={level} onFile={onFile} />
          <WorkingOutWords work={work} level={level} onFile={onFile} />
          {group && groupId && (
            <p className="mt-4 border-t border-line pt-3">
              <button
                type="button"
                onClick={() => onGo(`group/${groupId}`)}
                className="inline-flex min-h-8 items-center gap-1.5 rounded border border-edge bg-paper px-2 font-medium hover:bg-cane-pale"
              >
                <Users size={15} aria-hidden="true" />
                Parts for {group.name}
              </button>
            </p>
          )}
        </Tabs.Content>
      </DrawerTabs>
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
