'use client';

import { Play, Square } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { ROLE_NAMES } from '../../core/ensemble';
import { type Level, LEVELS } from '../../core/instruments';
import type { Group } from '../../core/keys';
import { printKey } from '../../core/pitch';
import {
  CLOSINGS,
  type Closing,
  HANDINGS,
  type Handing,
  INTRODUCTIONS,
  type Introduction,
  PART_ROLES,
  slowTempo,
  TEMPO_LIMITS,
  type TogetherCell,
} from '../../core/score';
import { acceptProposedChords } from '../../core/levels';
import { withProposedChords } from '../../core/pools';
import { becoming, type Work } from '../../core/work';
import { capitalised } from '../../core/plainText';
import type { TogetherLaidOut, TogetherPlayer } from '../../engrave/togetherEngraver';
import type { VoiceLane } from '../../sound/playPlan';
import { Button } from '../../ui/Button';
import { TextInput } from '../../ui/Field';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import { Select } from '../../ui/Select';
import { keyOf, keyOptions } from '../work/keyOptions';
import type { Player } from '../work/sound/player';
import type { Bench } from '../work/step';
import { cellName, sectionName } from './words';

const HANDING_WORDS: Readonly<Record<Handing, string>> = {
  one: 'with one player',
  'in-turn': 'in turn with those who play it well',
  everybody: 'in turn with everybody',
};
const INTRO_WORDS: Readonly<Record<Introduction, string>> = {
  count: 'with a bar of counting',
  two: 'with two bars of introduction',
  four: 'with four bars of introduction',
};
const CLOSING_WORDS: Readonly<Record<Closing, string>> = {
  tag: 'with the last two bars again',
  held: 'on a held note',
  slowed: 'slower, and held',
};

interface Props {
  readonly bench: Bench;
  readonly group: Group;
  readonly work: Work;
  readonly made: TogetherLaidOut | undefined;
  /** What the last change made otherwise for others. */
  readonly changed: readonly string[];
  readonly player: Player;
  readonly alone: string | undefined;
  readonly onAlone: (player: string | undefined) => void;
}

/** What is decided about the whole as a sentence, and the table of players and sections: who has what. */
export function TogetherTable({ bench, group, work, made, changed, player, alone, onAlone }: Props) {
  return (
    <div className="no-print border-b border-line bg-panel px-4 pt-2 pb-1">
      <WholeWords bench={bench} work={work} made={made} />
      <Listen group={group} work={work} made={made} player={player} alone={alone} />
      {made?.proposed !== undefined && <ProposedChords bench={bench} proposed={made.proposed} />}
      {made?.messages.map((message) => (
        <p key={message} role="note" className="text-[13px] text-warn">
          {message}
        </p>
      ))}
      {made && made.players.length > 0 && (
        <details open className="group">
          <summary className="min-h-7 w-fit cursor-pointer font-semibold">Who has what</summary>
          <Cells bench={bench} group={group} work={work} made={made} player={player} alone={alone} onAlone={onAlone} />
        </details>
      )}
      <p role="status" className="min-h-5 text-[13px] text-ink-soft">
        {changed.join(' ')}
      </p>
    </div>
  );
}

/** Chords come first: a tune without any is given some, which a teacher takes or writes otherwise. */
function ProposedChords({ bench, proposed }: Pick<Props, 'bench'> & { readonly proposed: string }) {
  if (proposed === '')
    return (
      <p role="note" className="text-[13px] text-warn">
        The tune has no chords, and none could be proposed: everybody rests but the leader. Write chords in Tune.
      </p>
    );
  return (
    <p role="note" className="flex flex-wrap items-center gap-x-2 text-[13px]">
      The tune has no chords. These are proposed, over the score below: {proposed}.
      <Button
        onClick={() =>
          bench.store
            .getState()
            .dispatch((present) =>
              becoming(
                'Take the proposed chords',
                present,
                acceptProposedChords(present, withProposedChords(present.tune)),
              ),
            )
        }
      >
        Take these chords
      </Button>
      <span className="text-ink-soft">Others are written in Tune or Improvise.</span>
    </p>
  );
}

function WholeWords({ bench, work, made }: Pick<Props, 'bench' | 'work' | 'made'>) {
  const { dispatch } = bench.store.getState();
  const { tune } = work;
  const together = tune.together ?? {};
  const [problem, setProblem] = useState<string>();
  const setTempo = (text: string) => {
    const number = Number(text);
    const isTempo = /^\d+$/.test(text.trim()) && number >= TEMPO_LIMITS.slowest && number <= TEMPO_LIMITS.fastest;
    setProblem(
      isTempo || text.trim() === ''
        ? undefined
        : `"${text}" is not a tempo: give beats a minute from ${TEMPO_LIMITS.slowest} to ${TEMPO_LIMITS.fastest}, or nothing for the slowest level's.`,
    );
    if (isTempo || text.trim() === '')
      dispatch({
        kind: 'together',
        words: isTempo ? `Together at ${number}` : 'Together at the slowest level’s tempo',
        change: { perMinute: isTempo ? number : undefined },
      });
  };
  return (
    <div>
      <p className="leading-8">
        For{' '}
        <Select
          look="word"
          label="Group"
          value={bench.groupId}
          options={[
            ...bench.studio.groups.map(({ id, group: one }) => ({ value: id, label: one.name })),
            { value: 'lanes', label: 'no group' },
          ]}
          onChange={bench.chooseGroup}
        />{' '}
        in{' '}
        <Select
          look="word"
          label="Key for all"
          value={together.key ? printKey(together.key) : 'own'}
          options={[
            { value: 'own', label: `the tune’s key${together.key ? '' : `, ${made?.key ?? ''}`}` },
            ...keyOptions(tune.key.mode, together.key ? [together.key] : []),
          ]}
          onChange={(value) =>
            dispatch({
              kind: 'together',
              words: value === 'own' ? 'Together in the tune’s key' : `Together in ${value}`,
              change: { key: value === 'own' ? undefined : keyOf(value) },
            })
          }
        />{' '}
        at{' '}
        <TextInput
          label="Tempo for all, beats a minute"
          value={String(together.perMinute ?? made?.perMinute ?? '')}
          maxLength={4}
          onCommit={setTempo}
          className="min-h-7 w-10 rounded-t border-b-2 border-cane bg-transparent px-0.5 leading-5 font-semibold tabular-nums hover:bg-cane-pale"
        />
        ; the tune goes{' '}
        <Select<Handing>
          look="word"
          label="Who has the tune"
          value={together.handing ?? 'in-turn'}
          options={HANDINGS.map((value) => ({ value, label: HANDING_WORDS[value] }))}
          onChange={(value) =>
            dispatch({
              kind: 'together',
              words: `The tune ${HANDING_WORDS[value]}`,
              change: { handing: value === 'in-turn' ? undefined : value },
            })
          }
        />
        . It begins{' '}
        <Select<Introduction | 'none'>
          look="word"
          label="Beginning"
          value={together.intro ?? 'none'}
          options={[
            { value: 'none', label: 'at once' },
            ...INTRODUCTIONS.map((value) => ({ value, label: INTRO_WORDS[value] })),
          ]}
          onChange={(value) =>
            dispatch({
              kind: 'together',
              words: value === 'none' ? 'It begins at once' : `It begins ${INTRO_WORDS[value]}`,
              change: { intro: value === 'none' ? undefined : value },
            })
          }
        />
        , is played{' '}
        <Select<'once' | 'thin' | 'solos' | 'both'>
          look="word"
          label="How it is played"
          value={together.thinFirst ? (together.solos ? 'both' : 'thin') : together.solos ? 'solos' : 'once'}
          options={[
            { value: 'once', label: 'once through' },
            { value: 'thin', label: 'twice, first by leader and bass alone' },
            { value: 'solos', label: 'twice, with solos in between' },
            { value: 'both', label: 'thin, by all, with solos, by all' },
          ]}
          onChange={(value) =>
            dispatch({
              kind: 'together',
              words: 'How it is played together',
              change: {
                thinFirst: value === 'thin' || value === 'both' ? true : undefined,
                solos: value === 'solos' || value === 'both' ? true : undefined,
              },
            })
          }
        />{' '}
        and ends{' '}
        <Select<Closing | 'none'>
          look="word"
          label="Ending"
          value={together.closing ?? 'none'}
          options={[
            { value: 'none', label: 'as it is' },
            ...CLOSINGS.map((value) => ({ value, label: CLOSING_WORDS[value] })),
          ]}
          onChange={(value) =>
            dispatch({
              kind: 'together',
              words: value === 'none' ? 'It ends as it is' : `It ends ${CLOSING_WORDS[value]}`,
              change: { closing: value === 'none' ? undefined : value },
            })
          }
        />
        .
      </p>
      {problem && (
        <p role="alert" className="text-[13px] text-warn">
          {problem}
        </p>
      )}
    </div>
  );
}

/** Everybody, everybody but one, or one slowly. */
function Listen({ group, work, made, player, alone }: Pick<Props, 'group' | 'work' | 'made' | 'player' | 'alone'>) {
  const state = useStore(player.store);
  const isOn = state.kind === 'playing' || state.kind === 'waking';
  const place = made?.players.findIndex(({ id }) => id === alone) ?? -1;
  const one = made?.players[place];
  const play = (who: { readonly only?: number; readonly without?: number }, perMinute?: number) =>
    void player.play(work, {
      heard: 'group',
      group: { group, ...who },
      backing: 'none',
      click: false,
      countIn: true,
      from: 0,
      ...(perMinute !== undefined && { perMinute }),
    });
  return (
    <div role="group" aria-label="Listen together" className="flex flex-wrap items-center gap-1.5 py-1">
      {isOn ? (
        <Button onClick={() => player.stop()}>
          <Square size={13} fill="currentColor" aria-hidden="true" />
          Stop
        </Button>
      ) : (
        <Button onClick={() => play({})}>
          <Play size={13} fill="currentColor" aria-hidden="true" />
          Hear all
        </Button>
      )}
      {one && !isOn && (
        <>
          <Button onClick={() => play({ without: place })}>All but {one.name}</Button>
          <Button onClick={() => play({ only: place }, slowTempo(made?.perMinute ?? 60))}>{one.name} slowly</Button>
        </>
      )}
      {state.kind === 'waking' && (
        <span aria-live="polite" className="text-[13px] text-ink-soft">
          loading the sounds …
        </span>
      )}
      {state.kind === 'failed' && (
        <span role="alert" className="text-[13px] text-warn">
          {state.message}
        </span>
      )}
    </div>
  );
}

type CellChoice = TogetherCell | 'found';

function Cells({
  bench,
  group,
  work,
  made,
  player,
  alone,
  onAlone,
}: Pick<Props, 'bench' | 'group' | 'work' | 'player' | 'alone' | 'onAlone'> & { readonly made: TogetherLaidOut }) {
  const { dispatch } = bench.store.getState();
  const together = work.tune.together ?? {};
  const absent = together.absent ?? [];
  const setThere = ({ id, name }: TogetherPlayer, isThere: boolean) =>
    dispatch((present) => {
      const before = present.tune.together?.absent ?? [];
      const others = before.filter((one) => one !== id);
      return {
        kind: 'together',
        words: isThere ? `${name} is there` : `${name} is not there today`,
        change: { absent: isThere ? (others.length > 0 ? others : undefined) : [...others, id] },
      };
    });
  const setLevel = ({ id, name }: TogetherPlayer, level: Level) =>
    dispatch((present) => {
      const { [id]: _, ...others } = present.tune.together?.levels ?? {};
      const own = group.players.find((one) => one.id === id)?.level;
      const levels = level === own ? others : { ...others, [id]: level };
      return {
        kind: 'together',
        words: `${name}: ${LEVEL_NAMES[level].toLowerCase()} in this tune`,
        change: { levels: Object.keys(levels).length > 0 ? levels : undefined },
      };
    });
  return (
    <div className="relative overflow-x-auto" tabIndex={0} role="group" aria-label="Who has what">
      <table className="border-collapse text-left text-[13px]">
        <caption className="sr-only">What everybody does in each section</caption>
        <thead className="text-[12.5px] text-ink-soft">
          <tr>
            <th scope="col" className="py-0.5 pr-3 font-medium">
              Player
            </th>
            {made.sections.map((section) => (
              <th key={section.id} scope="col" className="px-2 font-medium whitespace-nowrap">
                {capitalised(sectionName(section))}
              </th>
            ))}
            <th scope="col" className="px-2 font-medium">
              Loudness
            </th>
            <th scope="col" className="px-2 font-medium">
              Here today
            </th>
          </tr>
        </thead>
        <tbody>
          {made.players.map((one, place) => (
            <tr key={one.id} className={`border-t border-line ${absent.includes(one.id) ? 'text-ink-soft' : ''}`}>
              <th scope="row" className="py-0.5 pr-3 font-normal whitespace-nowrap">
                <span className="flex items-center gap-1.5">
                  <LevelSign level={one.level} size={16} />
                  <button
                    type="button"
                    aria-pressed={alone === one.id}
                    onClick={() => onAlone(alone === one.id ? undefined : one.id)}
                    className={`min-h-7 rounded px-1 font-semibold underline-offset-2 hover:bg-cane-pale ${alone === one.id ? 'bg-paper outline outline-edge' : ''}`}
                    title={alone === one.id ? 'Show the whole score' : `Show ${one.name}'s part alone`}
                  >
                    {one.name}
                  </button>
                  <span className="text-ink-soft">{one.instrument},</span>
                  <Select<Level>
                    look="word"
                    label={`${one.name}: level in this tune`}
                    value={one.level}
                    options={LEVELS.map((level) => ({ value: level, label: LEVEL_NAMES[level].toLowerCase() }))}
                    onChange={(level) => setLevel(one, level)}
                  />
                </span>
              </th>
              {made.sections.map((section, k) => {
                const cell = one.cells[k] ?? 'out';
                const own = together.cells?.[section.id]?.[one.id];
                return (
                  <td key={section.id} className={`px-2 whitespace-nowrap ${cell === 'tune' ? 'bg-cane-pale' : ''}`}>
                    <span className="inline-flex items-center gap-1">
                      {cell === 'tune' && <LevelSign level={one.level} size={13} />}
                      <Select<CellChoice>
                        look="word"
                        label={`${one.name}, ${sectionName(section)}`}
                        value={absent.includes(one.id) ? 'out' : cell}
                        options={[
                          ...PART_ROLES.map((value) => ({ value, label: ROLE_NAMES[value] })),
                          { value: 'out' as const, label: 'sits out' },
                          ...(own === undefined ? [] : [{ value: 'found' as const, label: 'as it was found' }]),
                        ]}
                        onChange={(value) =>
                          dispatch({
                            kind: 'together-cell',
                            words:
                              value === 'found'
                                ? `${one.name}, ${sectionName(section)}: as it was found`
                                : `${one.name}, ${sectionName(section)}: ${cellName(value)}`,
                            section: section.id,
                            cells: { [one.id]: value === 'found' ? undefined : value },
                          })
                        }
                      />
                      {own !== undefined && (
                        <span title="set by hand" className="font-semibold text-cane">
                          ·<span className="sr-only">set by hand</span>
                        </span>
                      )}
                    </span>
                  </td>
                );
              })}
              <td className="px-2">
                <input
                  type="range"
                  aria-label={`Loudness of ${one.name}`}
                  min={0}
                  max={100}
                  defaultValue={100}
                  onChange={({ target }) => player.setShare(`v${place + 1}` as VoiceLane, Number(target.value) / 100)}
                  className="h-6 w-20 accent-cane"
                />
              </td>
              <td className="px-2 text-center">
                <input
                  type="checkbox"
                  aria-label={`${one.name} is here today`}
                  checked={!absent.includes(one.id)}
                  onChange={({ target }) => setThere(one, target.checked)}
                  className="size-5 accent-cane"
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
