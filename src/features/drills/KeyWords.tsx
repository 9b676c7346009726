'use client';

import { useState } from 'react';
import { ALL_TONICS } from '../../core/drills';
import type { ScaleName } from '../../core/harmony';
import type { Instrument } from '../../core/instruments';
import {
  namePitchClass,
  nameWithoutDouble,
  opposite,
  type PitchClass,
  printPitchClass,
  transposeClass,
} from '../../core/pitch';
import { type DrillIdea, KEY_ORDERS, type KeyOrder, SET_SIGNATURES } from '../../core/score';
import { Select, type Option } from '../../ui/Select';
import { TextInput, WORD_FIELD } from '../../ui/Field';
import { tonicOf, tonicsIn } from './drillSteps';
import { ORDER_WORDS, SIGNATURE_WORDS } from './words';

/** An instrument by which keys may be named. */
export type Reader = Pick<Instrument, 'id' | 'shortName' | 'transposition'>;

/** What the sentences of a whole drill are given. */
export interface IdeaWords {
  readonly idea: DrillIdea;
  readonly onIdea: (what: string, idea: DrillIdea) => void;
  /** Tonics that suit the chosen group best; none without a group. */
  readonly friendly: { readonly name: string; readonly find: () => readonly PitchClass[] } | undefined;
}

const FIRST_KEYS: readonly PitchClass[] = [
  { step: 'C', alter: 0 },
  { step: 'F', alter: 0 },
  { step: 'G', alter: 0 },
];

/** Sets of minor whose raised notes may stand in the signature. */
const RAISED: ReadonlySet<ScaleName> = new Set(['harmonic minor', 'melodic minor', 'bebop melodic minor']);

/** The keys that a drill goes through, and the first of them. */
export function KeyWords({ idea, onIdea, friendly, readers }: IdeaWords & { readonly readers: readonly Reader[] }) {
  const [problem, setProblem] = useState<string>();
  const [readerId, setReader] = useState('concert');
  const reader = readers.find(({ id }) => id === readerId);
  const shown = (tonic: PitchClass) =>
    reader ? nameWithoutDouble(transposeClass(tonic, reader.transposition)) : tonic;
  const meant = (tonic: PitchClass) =>
    reader ? nameWithoutDouble(transposeClass(tonic, opposite(reader.transposition))) : tonic;
  // Which pitch a key is meant in, and the other one beside it.
  const other = (tonic: PitchClass) => {
    const [first] = readers;
    if (reader) return `sounds ${namePitchClass(tonic)}`;
    return first
      ? `${namePitchClass(nameWithoutDouble(transposeClass(tonic, first.transposition)))} on the ${first.shortName}`
      : undefined;
  };
  const isList = typeof idea.keys === 'object';
  const value: KeyOrder | 'level' | 'list' | 'friendly' = isList
    ? 'list'
    : typeof idea.keys === 'string'
      ? idea.keys
      : 'level';
  const options: readonly Option<KeyOrder | 'level' | 'list' | 'friendly'>[] = [
    { value: 'level', label: idea.over ? 'in its own key' : 'in as many keys as each level has' },
    ...KEY_ORDERS.map((order) => ({ value: order, label: ORDER_WORDS[order] })),
    ...(friendly ? [{ value: 'friendly' as const, label: `in keys that suit ${friendly.name}` }] : []),
    { value: 'list', label: 'in the keys' },
  ];
  const set = (next: KeyOrder | 'level' | 'list' | 'friendly') => {
    const { keys: _, ...rest } = idea;
    if (next === 'level') onIdea('Keys by level', rest);
    else if (next === 'list') onIdea('Keys chosen', { ...idea, keys: isList ? idea.keys : FIRST_KEYS });
    else if (next === 'friendly')
      onIdea(`Keys for ${friendly?.name ?? ''}`, { ...idea, keys: friendly?.find() ?? FIRST_KEYS });
    else onIdea(`Keys: ${ORDER_WORDS[next]}`, { ...idea, keys: next });
  };
  const setList = (text: string) => {
    const read = tonicsIn(text);
    setProblem(read.ok ? undefined : read.problem);
    if (read.ok) onIdea('Keys chosen', { ...idea, keys: read.value.map(meant) });
  };
  const start = idea.start ? printPitchClass(idea.start) : 'level';
  return (
    <>
      It goes <Select look="word" label="Keys" value={value} options={options} onChange={set} />
      {typeof idea.keys === 'object' && (
        <>
          {' '}
          <TextInput
            label={reader ? `Tonics as the ${reader.shortName} reads them` : 'Concert tonics'}
            value={idea.keys.map(shown).map(namePitchClass).join(' ')}
            maxLength={120}
            onCommit={setList}
            className={`${WORD_FIELD} min-h-7 w-36`}
          />
        </>
      )}
      {!isList && !(idea.over && idea.keys === undefined) && (
        <>
          {' from '}
          <Select
            look="word"
            label={reader ? `First key as the ${reader.shortName} reads it` : 'First key, concert'}
            value={start}
            options={[
              { value: 'level', label: 'the easiest key of the level' },
              ...ALL_TONICS.map((tonic) => {
                const hint = other(tonic);
                return {
                  value: printPitchClass(tonic),
                  label: namePitchClass(shown(tonic)),
                  ...(hint && { hint }),
                };
              }),
            ]}
            onChange={(next) => {
              const { start: _, ...rest } = idea;
              const tonic = tonicOf(next);
              onIdea('First key', next === 'level' || !tonic ? rest : { ...idea, start: tonic });
            }}
          />
        </>
      )}
      {readers.length > 0 && !(idea.over && idea.keys === undefined) && (
        <>
          {', keys named '}
          <Select
            look="word"
            label="Named in which pitch"
            value={reader ? readerId : 'concert'}
            options={[
              { value: 'concert', label: 'in concert pitch' },
              ...readers.map(({ id, shortName }) => ({ value: id, label: `as the ${shortName} reads them` })),
            ]}
            onChange={setReader}
          />
        </>
      )}
      {idea.steps.some(({ set }) => RAISED.has(set)) && (
        <>
          {', under '}
          <Select
            look="word"
            label="Signature"
            value={idea.signature ?? 'minor'}
            options={SET_SIGNATURES.map((one) => ({ value: one, label: SIGNATURE_WORDS[one] }))}
            onChange={(signature) => onIdea(`Signature: ${SIGNATURE_WORDS[signature]}`, { ...idea, signature })}
          />
        </>
      )}
      {problem && (
        <span role="alert" className="ml-2 text-[12.5px] text-warn">
          {problem}
        </span>
      )}
    </>
  );
}

/** When a pupil goes on to the next step of a ladder. */
export function MovingOnWords({ idea, onIdea }: Pick<IdeaWords, 'idea' | 'onIdea'>) {
  const { when, rounds } = idea.movingOn ?? { when: 'mastered', rounds: 2 };
  return (
    <p className="text-[13.5px]">
      A pupil goes on to the next step{' '}
      <Select
        look="word"
        label="When to go on"
        value={when}
        options={[
          { value: 'mastered', label: 'once this one is mastered' },
          { value: 'in-turn', label: 'each time: all steps in turn' },
        ]}
        onChange={(next) => onIdea('When to go on', { ...idea, movingOn: { when: next, rounds } })}
      />
      {when === 'mastered' && (
        <>
          {': '}
          <Select
            look="word"
            label="Rounds without a mistake"
            value={String(rounds)}
            options={['1', '2', '3', '4', '5'].map((value) => ({
              value,
              label: value === '1' ? 'one round' : `${value} rounds`,
            }))}
            onChange={(next) =>
              onIdea('Rounds without a mistake', { ...idea, movingOn: { when, rounds: Number(next) } })
            }
          />{' '}
          without a mistake at the tempo of the level
        </>
      )}
      .
    </p>
  );
}
