'use client';

import { Link2, Play, Scissors, Square } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { Part } from '../../core/levels';
import { likeWords, restMinutes, roundName } from '../../core/rehearsal';
import { barNumbers, TEMPO_LIMITS } from '../../core/score';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import { TextInput, WORD_FIELD } from '../../ui/Field';
import type { PlayerState } from '../work/sound/player';
import { ListenerPanel } from './ListenerPanel';
import type { Listener } from './useListener';
import { SoundPanel } from './SoundPanel';
import type { Practice, Practised } from './usePractice';

const PRACTISED_WORDS: Readonly<Record<Practised, string>> = {
  whole: 'the whole part, round and round',
  form: 'once through, with its repeats',
  chunk: 'one chunk, round and round',
  spot: 'some bars',
  forward: 'chunks joined, from the front',
  backward: 'chunks joined, from the end',
};
const NUMBER_FIELD = `${WORD_FIELD} min-h-8 w-11 tabular-nums`;

/** How a part is learned: which chunk, how fast, with what behind it. */
export function PracticePanel({
  practice,
  listener,
  part,
  isPlaying,
  state,
  onBefore,
}: {
  readonly practice: Practice;
  readonly listener: Listener;
  readonly part: Part;
  readonly isPlaying: boolean;
  readonly state: PlayerState;
  /** The steps before playing are asked for. */
  readonly onBefore: (() => void) | undefined;
}) {
  const { plan, place, rounds, round, chunks, picked, practised } = practice;
  const numbers = barNumbers(part);
  const [problem, setProblem] = useState<string>();
  const setNumber = (field: 'start' | 'step' | 'goal' | 'rounds', least: number, most: number) => (text: string) => {
    const number = Number(text);
    const isRight = /^\d+$/.test(text.trim()) && number >= least && number <= most;
    setProblem(isRight ? undefined : `"${text}" does not fit here: give a whole number from ${least} to ${most}.`);
    if (isRight) practice.setPlan({ ...plan, [field]: number });
  };
  return (
    <aside
      aria-label="Practice"
      className="w-[320px] shrink-0 overflow-y-auto border-l border-line bg-panel px-3 py-2 max-lg:h-[44%] max-lg:w-full max-lg:border-t max-lg:border-l-0"
    >
      <div className="flex items-center gap-3">
        <Button kind="main" className="min-h-11 px-4" onClick={practice.toggle}>
          {isPlaying ? (
            <Square size={15} fill="currentColor" aria-hidden="true" />
          ) : (
            <Play size={15} fill="currentColor" aria-hidden="true" />
          )}
          {isPlaying ? 'Stop' : 'Play'}
        </Button>
        <Button className="min-h-11 px-3" title="Tap three beats or more, or press T" onClick={practice.tap}>
          Tap
        </Button>
        <p className="flex-1 text-right leading-none">
          <span className="font-serif text-[40px] font-semibold tabular-nums">{place.perMinute}</span>{' '}
          <span className="text-[13px] text-ink-soft">a minute</span>
        </p>
      </div>
      {state.kind === 'failed' && (
        <p role="alert" className="mt-1 text-[13px] text-warn">
          {state.message}
        </p>
      )}
      <div className="mt-2 flex gap-2">
        <Button className="min-h-12 flex-1 text-[16px]" onClick={() => practice.heard('good')}>
          Good
        </Button>
        <Button className="min-h-12 flex-1 text-[16px]" onClick={() => practice.heard('again')}>
          Again
        </Button>
      </div>
      <p aria-live="polite" className="mt-1 min-h-10 text-[13px]">
        {place.isDone
          ? 'At the goal, and well played. Rest, or go on.'
          : `${place.good} of ${plan.rounds} good rounds at ${place.perMinute}; then ${Math.min(plan.goal, place.perMinute + plan.step)}.`}{' '}
        <span className="text-ink-soft">Space for good, A for again.</span>
      </p>
      <p className="leading-8">
        From{' '}
        <TextInput
          label="Tempo at the start"
          value={String(plan.start)}
          maxLength={3}
          onCommit={setNumber('start', TEMPO_LIMITS.slowest, plan.goal)}
          className={NUMBER_FIELD}
        />
        in steps of{' '}
        <TextInput
          label="Step of the tempo"
          value={String(plan.step)}
          maxLength={2}
          onCommit={setNumber('step', 1, 40)}
          className={NUMBER_FIELD}
        />
        to{' '}
        <TextInput
          label="Tempo at the goal"
          value={String(plan.goal)}
          maxLength={3}
          onCommit={setNumber('goal', plan.start, TEMPO_LIMITS.fastest)}
          className={NUMBER_FIELD}
        />
        , each after{' '}
        <TextInput
          label="Good rounds before the next step"
          value={String(plan.rounds)}
          maxLength={1}
          onCommit={setNumber('rounds', 1, 9)}
          className={NUMBER_FIELD}
        />
        good rounds.
      </p>
      {problem && (
        <p role="alert" className="text-[13px] text-warn">
          {problem}
        </p>
      )}
      <h2 className="mt-2 border-t border-line pt-2 font-semibold">What is practised</h2>
      <p className="leading-8">
        <Select
          look="word"
          label="What is practised"
          value={practised}
          options={(Object.keys(PRACTISED_WORDS) as Practised[])
            .filter((value) => value !== 'spot' || practice.spot !== undefined)
            .map((value) => ({
              value,
              label:
                value === 'spot' && practice.spot
                  ? barsText(numbers[practice.spot.from] ?? 1, numbers[practice.spot.to - 1] ?? 1)
                  : PRACTISED_WORDS[value],
            }))}
          onChange={practice.setPractised}
        />
      </p>
      {rounds.length > 0 && (
        <p className="flex items-center gap-2 text-[13.5px]">
          <Button className="min-h-9 px-3" disabled={round === 0} onClick={() => practice.setRound(round - 1)}>
            Back
          </Button>
          <b className="flex-1 text-center">
            Chunk {roundName(rounds[round] ?? { from: 0, to: 1 })}
            <span className="block text-[12.5px] font-normal text-ink-soft">
              round {round + 1} of {rounds.length}
            </span>
          </b>
          <Button
            className="min-h-9 px-3"
            disabled={round >= rounds.length - 1}
            onClick={() => practice.setRound(round + 1)}
          >
            Next
          </Button>
        </p>
      )}
      <ol aria-label="Chunks" className="mt-1 text-[13px]">
        {chunks.map((chunk, index) => (
          <li
            key={index}
            className={`flex items-center gap-1 border-b border-line ${practised === 'chunk' && picked === index ? 'bg-cane-pale' : ''}`}
          >
            <button
              type="button"
              aria-pressed={practised === 'chunk' && picked === index}
              onClick={() => practice.pick(index)}
              className="min-h-9 flex-1 rounded px-1 text-left hover:bg-cane-pale"
            >
              <b className="font-semibold">{index + 1}</b>{' '}
              {barsText(numbers[chunk.from] ?? 1, numbers[chunk.to - 1] ?? 1)}
              {chunk.isHard && <span className="text-warn"> · hard</span>}
              {chunk.like && <span className="block text-[12px] text-ink-soft">{likeWords(chunk.like)}</span>}
            </button>
            {chunk.to - chunk.from > 1 && (
              <button
                type="button"
                aria-label={`Cut chunk ${index + 1} in two`}
                title="Cut in two"
                className="flex size-8 items-center justify-center rounded hover:bg-cane-pale"
                onClick={() => practice.cutInTwo(index)}
              >
                <Scissors size={14} aria-hidden="true" />
              </button>
            )}
            {index < chunks.length - 1 && (
              <button
                type="button"
                aria-label={`Join chunk ${index + 1} with the next`}
                title="Join with the next"
                className="flex size-8 items-center justify-center rounded hover:bg-cane-pale"
                onClick={() => practice.joinNext(index)}
              >
                <Link2 size={14} aria-hidden="true" />
              </button>
            )}
            {index > 0 && (
              <>
                <button
                  type="button"
                  aria-label={`Chunk ${index + 1} begins a bar earlier`}
                  className="size-8 rounded hover:bg-cane-pale"
                  onClick={() => practice.moveStart(index, -1)}
                >
                  −
                </button>
                <button
                  type="button"
                  aria-label={`Chunk ${index + 1} begins a bar later`}
                  className="size-8 rounded hover:bg-cane-pale"
                  onClick={() => practice.moveStart(index, 1)}
                >
                  +
                </button>
              </>
            )}
          </li>
        ))}
      </ol>
      {practice.back && (
        <Button className="mt-1 min-h-8 px-2" onClick={practice.back}>
          Chunks as proposed
        </Button>
      )}
      <SoundPanel practice={practice} part={part} />
      {!part.blank && <ListenerPanel listener={listener} practice={practice} part={part} />}
      {onBefore && (
        <p className="mt-2 border-t border-line pt-2">
          <Button className="min-h-9 px-3" onClick={onBefore}>
            Before you play: four steps
          </Button>
        </p>
      )}
      <RestReminder part={part} isPlaying={isPlaying} />
    </aside>
  );
}

/** `bars 5–8`; bar 0 is a pickup. */
function barsText(from: number, to: number): string {
  if (from === to) return `bar ${from}`;
  return from === 0 ? `pickup to bar ${to}` : `bars ${from}–${to}`;
}

/** After as long as is usual for the instrument and level a rest is proposed, with the usual word about pain. */
function RestReminder({ part, isPlaying }: { readonly part: Part; readonly isPlaying: boolean }) {
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    if (!isPlaying) return undefined;
    const timer = setInterval(() => setSeconds((now) => now + 5), 5_000);
    return () => clearInterval(timer);
  }, [isPlaying]);
  const after = restMinutes(part.instrument, part.level);
  const minutes = Math.floor(seconds / 60);
  return (
    <p role="status" className="mt-2 border-t border-line pt-2 text-[13px]">
      {minutes >= after ? (
        <span className="text-warn">
          You have played for {minutes} minutes: rest for a few. What hurts, tingles or makes you dizzy is a reason to
          stop, and to ask your teacher or a doctor.{' '}
          <button type="button" className="min-h-8 underline" onClick={() => setSeconds(0)}>
            I have rested
          </button>
        </span>
      ) : (
        <span className="text-ink-soft">A rest is proposed after {after} minutes of playing.</span>
      )}
    </p>
  );
}
