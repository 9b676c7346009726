'use client';

import { useState } from 'react';
import { difficultyText, lineDifficulty } from '../../core/analysis';
import { type CustomInstrument, type Level, LEVELS } from '../../core/instruments';
import { capitalised } from '../../core/plainText';
import { movedText, withStartKey } from '../../core/keys';
import { APART } from '../../core/levels';
import {
  type BarChoices,
  instrumentOf,
  levelTempo,
  type RecipeChange,
  recipesOf,
  withRecipe,
  type Work,
} from '../../core/work';
import { nameKey, printKey } from '../../core/pitch';
import { barNumbers, TEMPO_LIMITS } from '../../core/score';
import type { LaneInfo } from '../../engrave/lanes';
import { BeatSign } from '../../ui/BeatSign';
import { Select } from '../../ui/Select';
import { TextInput } from '../../ui/Field';
import { InstrumentSelect } from '../../ui/InstrumentSelect';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import { keyOf, keyOptions } from '../work/keyOptions';
import type { SetRecipe } from './setRecipe';

interface Props {
  readonly work: Work;
  readonly level: Level;
  readonly info: LaneInfo;
  readonly infos: readonly LaneInfo[];
  readonly custom: readonly CustomInstrument[];
  readonly onSet: SetRecipe;
}

/** Instrument, key and tempo of a level as a sentence, and what follows from them. */
export function RecipeHead({ work, level, info, infos, custom, onSet }: Props) {
  const recipe = recipesOf(work)[level];
  const [tempoProblem, setTempoProblem] = useState<string>();
  const tempo = levelTempo(work.tune, level, recipe.keyAndTempo?.perMinute);
  const key = recipe.keyAndTempo?.key ?? work.tune.key;
  const moved = movedText(work, level);
  // Another instrument may need another key to begin in, or none.
  const onInstrument = (change: RecipeChange) => {
    onSet('instrument', (_, present) => {
      if (level !== 'beginner') return change;
      const { keyAndTempo } = recipesOf(withStartKey(withRecipe(present, level, change)))[level];
      return { ...change, keyAndTempo: { key: keyAndTempo?.key, moved: keyAndTempo?.moved } };
    });
  };
  const setTempo = (text: string) => {
    const number = Number(text);
    const isTempo = /^\d+$/.test(text.trim()) && number >= TEMPO_LIMITS.slowest && number <= TEMPO_LIMITS.fastest;
    setTempoProblem(
      isTempo
        ? undefined
        : `"${text}" is no tempo: beats a minute go from ${TEMPO_LIMITS.slowest} to ${TEMPO_LIMITS.fastest}.`,
    );
    if (isTempo) onSet(`tempo ${number}`, { keyAndTempo: { perMinute: number } });
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
            onInstrument({
              instrument,
              custom: chosen,
              page: { pins: undefined },
              limits: { range: undefined, known: undefined },
            })
          }
          className="min-h-7 max-w-44 rounded-t border-b-2 border-cane bg-transparent px-0.5 font-semibold hover:bg-cane-pale"
        />
        , sounding in{' '}
        <Select
          look="word"
          label={`${LEVEL_NAMES[level]}: concert key`}
          value={printKey(key)}
          options={keyOptions(work.tune.key.mode, [key], instrumentOf(recipe))}
          onChange={(value) => onSet('key', { keyAndTempo: { key: keyOf(value) } })}
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
        {moved && (
          <>
            {' '}
            {moved}{' '}
            <button
              type="button"
              onClick={() => onSet("the tune's own key", { keyAndTempo: { key: work.tune.key } })}
              className="min-h-7 text-cane underline underline-offset-2"
            >
              Back to {nameKey(work.tune.key)}
            </button>
          </>
        )}
      </p>
      <p className="mt-1 text-[13px] text-ink-soft">
        {info.fidelity < 100 ? `Keeps ${info.fidelity} % of the tune. ` : 'Keeps every note of the tune. '}
        {pinnedText(recipe.bars?.chosen)}
        {Object.keys(recipe.bars?.chosen ?? {}).length > 0 && (
          <button
            type="button"
            onClick={() => onSet('every bar as the level has it', { bars: { chosen: undefined } })}
            className="min-h-7 text-cane underline underline-offset-2"
          >
            undo that
          </button>
        )}
      </p>
      <Apart
        level={level}
        infos={infos}
        numbers={barNumbers(work.tune)}
        onDenser={() => onSet('denser', { melody: 'embellished', embellish: { density: 60 } })}
      />
    </>
  );
}

function pinnedText(bars: BarChoices | undefined): string {
  const count = Object.keys(bars ?? {}).length;
  return count === 0
    ? ''
    : `${count === 1 ? 'One bar is' : `${count} bars are`} as you set ${count === 1 ? 'it' : 'them'}: `;
}

/**
 * Says how hard a level is for its players, where a level is hardly harder than the one below, and what would set them
 * apart.
 */
function Apart({
  level,
  infos,
  numbers,
  onDenser,
}: {
  readonly level: Level;
  readonly numbers: readonly number[];
  readonly infos: readonly LaneInfo[];
  readonly onDenser: () => void;
}) {
  const below = LEVELS[LEVELS.indexOf(level) - 1];
  const [here, under] = [infos.find(({ id }) => id === level), infos.find(({ id }) => id === below)];
  if (!here) return null;
  const said = capitalised(difficultyText(here.difficulty, numbers, level));
  if (!below || !under) return <p className="mt-1 text-[13px] text-ink-soft">{said}.</p>;
  const [now, before] = [lineDifficulty(here.difficulty).total, lineDifficulty(under.difficulty).total];
  const figures = (
    <span className="tabular-nums">
      {now.toFixed(1)} of 10; {LEVEL_NAMES[below].toLowerCase()} {before.toFixed(1)}
    </span>
  );
  if (now >= before * APART)
    return (
      <p className="mt-1 text-[13px] text-ink-soft">
        {said}; {LEVEL_NAMES[below].toLowerCase()} {before.toFixed(1)}.
      </p>
    );
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

function octaveText(octaves: number): string {
  if (octaves === 0) return '';
  const count = Math.abs(octaves) === 1 ? 'An octave' : `${Math.abs(octaves)} octaves`;
  return `${count} ${octaves > 0 ? 'above' : 'below'} the tune. `;
}

function keyAdvice(work: Work, level: Level): string {
  const key = recipesOf(work)[level].keyAndTempo?.key;
  return key && printKey(key) !== printKey(work.tune.key)
    ? `Not the tune's own key: ask the accompanist for ${nameKey(key)}; a recording will not fit.`
    : '';
}
