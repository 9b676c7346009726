'use client';

import { CopyPlus, PencilLine, Pin } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { phrasesOf } from '../../core/analysis';
import type { Level } from '../../core/instruments';
import { aidsFor, usualAids } from '../../core/levels';
import {
  type Aid,
  ALTERNATES_AS,
  type AlternatesAs,
  type BarChoice,
  instrumentOf,
  LINE_AIDS,
  type Recipe,
  recipesOf,
  type Work,
} from '../../core/work';
import { soundingNotes } from '../../core/score';
import type { BarVariant } from '../../engrave/variants';
import { Select } from '../../ui/Select';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import { MultiSelect } from '../../ui/MultiSelect';
import type { Draws } from '../work/useEngraving';
import { BarEditor } from './BarEditor';
import { withTicks, type SetRecipe } from './setRecipe';

const CHOICE_WORDS: Readonly<Record<BarChoice['kind'], string>> = {
  'as-written': 'as in the tune',
  simpler: 'simpler',
  simplest: 'simplest',
  'octave-up': 'an octave up',
  'octave-down': 'an octave down',
  embellished: 'embellished',
  optional: 'optional, in a bracket',
  rest: 'rest',
  own: 'written by hand',
};
const AS_WORDS: Readonly<Record<AlternatesAs, string>> = {
  over: 'on a small staff over it',
  'second-time': 'the second time through',
};

interface Props {
  readonly work: Work;
  readonly level: Level;
  readonly bar: number;
  readonly numbers: readonly number[];
  readonly draws: Draws;
  readonly onSet: SetRecipe;
}

/**
 * The picked bar in all its versions, each drawn small. Choosing one pins it; it stays until it is undone. A version
 * may also be printed as an alternative to the one that stands there. Both can be done for the whole phrase at once.
 */
export function BarVersions({ work, level, bar, numbers, draws, onSet }: Props) {
  const [variants, setVariants] = useState<readonly BarVariant[]>();
  const [scope, setScope] = useState<'bar' | 'phrase'>('bar');
  const [isEdited, setEdited] = useState(false);
  const number = numbers[bar] ?? 0;
  const id = work.tune.bars[bar]?.id ?? '';
  const recipe = recipesOf(work)[level];
  const { chosen: bars = {}, alternates = {}, alternatesAs = ALTERNATES_AS[0] } = recipe.bars ?? {};
  const plays = recipe.form?.plays ?? 'once';
  const chosen = bars[id];
  const beside = alternates[id];
  const { tune } = work;
  const phrase = useMemo(() => phraseAround(tune, bar), [tune, bar]);
  useEffect(() => {
    let isOpen = true;
    // The lanes are drawn first; the versions may follow.
    const timer = setTimeout(
      () =>
        void draws.variants(work, level, bar).then((drawn) => {
          if (isOpen) setVariants(drawn);
        }),
      120,
    );
    return () => {
      isOpen = false;
      clearTimeout(timer);
    };
  }, [work, level, bar, draws]);
  const isPhrase = scope === 'phrase' && phrase.length > 1;
  /** Another choice for the chosen bars, or none. */
  const withChoice = (choice: BarChoice | undefined) => {
    const ids = isPhrase && choice?.kind !== 'own' ? phrase.map((index) => tune.bars[index]?.id ?? '') : [id];
    return Object.fromEntries(ids.map((name) => [name, choice]));
  };
  const place = isPhrase
    ? `bars ${numbers[phrase[0] ?? 0] ?? ''} to ${numbers[phrase.at(-1) ?? 0] ?? ''}`
    : `bar ${number}`;
  const pick = (choice: BarChoice | undefined) =>
    onSet(choice ? `${place} ${wordsFor(choice)}` : `${place} as the level has ${isPhrase ? 'them' : 'it'}`, {
      table: 'chosen',
      entries: withChoice(choice),
    });
  const setAlternate = (choice: BarChoice | undefined) =>
    onSet(choice ? `${place}: an alternative` : `${place}: no alternative`, {
      table: 'alternates',
      entries: withChoice(choice),
    });
  if (!variants)
    return (
      <p className="mt-3 text-[13px] text-ink-soft" aria-busy="true">
        Drawing the versions of bar {number} …
      </p>
    );
  return (
    <section aria-label={`Versions of bar ${number}`} className="mt-3">
      <h3 className="font-semibold">Versions of bar {number}</h3>
      {phrase.length > 1 && (
        <p className="leading-8">
          A choice applies to{' '}
          <Select
            look="word"
            label="What a choice applies to"
            value={scope}
            options={[
              { value: 'bar', label: 'this bar' },
              { value: 'phrase', label: `its phrase, ${phrase.length} bars` },
            ]}
            onChange={setScope}
          />
          .
        </p>
      )}
      <p className="mt-1 flex flex-wrap gap-1.5">
        <button
          type="button"
          onClick={() => setEdited(true)}
          className="inline-flex min-h-8 items-center gap-1.5 rounded border border-edge bg-paper px-2 text-[13px] font-medium hover:bg-cane-pale"
        >
          <PencilLine size={14} aria-hidden="true" />
          {chosen?.kind === 'own' ? 'Edit this bar' : 'Write this bar by hand'}
        </button>
      </p>
      <BarHelp recipe={recipe} level={level} number={number} id={id} onSet={onSet} />
      {beside && (
        <p className="mt-1 leading-8">
          {wordsFor(beside)[0]?.toUpperCase()}
          {wordsFor(beside).slice(1)} is the alternative, printed{' '}
          <Select<AlternatesAs>
            look="word"
            label={`${LEVEL_NAMES[level]}: where alternatives are printed`}
            value={alternatesAs}
            options={ALTERNATES_AS.map((value) => ({ value, label: AS_WORDS[value] }))}
            onChange={(value) =>
              onSet(`alternatives ${AS_WORDS[value]}`, {
                bars: { alternatesAs: value === 'over' ? undefined : value },
              })
            }
          />
          .
          {alternatesAs === 'second-time' && plays !== 'twice' && (
            <span className="block text-[13px] leading-5 text-warn">
              The tune is played once; there is no second time.{' '}
              <button
                type="button"
                onClick={() => onSet('played twice', { form: { plays: 'twice' } })}
                className="min-h-7 font-semibold underline underline-offset-2"
              >
                Play it twice
              </button>
            </span>
          )}
        </p>
      )}
      <ul className="mt-1 grid grid-cols-1 gap-1">
        {variants.map(({ choice, svg, same }, index) => {
          const isChosen =
            sameChoice(choice, chosen) ||
            (chosen !== undefined &&
              same.includes(chosen.kind) &&
              !variants.some((other) => sameChoice(other.choice, chosen)));
          const isBeside = choice !== undefined && sameChoice(choice, beside);
          const words = choice
            ? wordsFor(choice)
            : `as the level has it${same.length > 0 ? ` (${same.map((kind) => CHOICE_WORDS[kind]).join(', ')})` : ''}`;
          return (
            <li key={index} className="flex gap-1">
              <button
                type="button"
                aria-pressed={isChosen}
                onClick={() => pick(choice)}
                className={`min-w-0 flex-1 rounded border bg-paper px-1.5 py-1 text-left hover:bg-cane-pale ${isChosen ? 'border-cane' : 'border-line'}`}
              >
                <span className="flex items-center gap-1 text-[12.5px] text-ink-soft">
                  {isChosen && choice && <Pin size={12} aria-hidden="true" className="text-cane" />}
                  <span className={isChosen ? 'font-semibold text-ink' : ''}>{words}</span>
                </span>
                <span
                  aria-hidden="true"
                  className="music block overflow-hidden"
                  dangerouslySetInnerHTML={{ __html: svg }}
                />
              </button>
              {choice && (
                <button
                  type="button"
                  aria-pressed={isBeside}
                  aria-label={`Alternative: ${words}`}
                  title="Print it too, as an alternative"
                  onClick={() => setAlternate(isBeside ? undefined : choice)}
                  className={`flex w-7 shrink-0 items-center justify-center rounded border hover:bg-cane-pale ${isBeside ? 'border-cane bg-cane-pale text-cane' : 'border-line text-ink-soft'}`}
                >
                  <CopyPlus size={14} aria-hidden="true" />
                </button>
              )}
            </li>
          );
        })}
      </ul>
      {isEdited && (
        <BarEditor
          work={work}
          level={level}
          bar={bar}
          number={number}
          draws={draws}
          onClose={() => setEdited(false)}
          onKeep={(own) => {
            setEdited(false);
            onSet(`bar ${number} ${CHOICE_WORDS.own}`, { table: 'chosen', entries: { [id]: own } });
          }}
        />
      )}
    </section>
  );
}

const AID_WORDS: Readonly<Record<Aid, string>> = {
  names: 'note names',
  degrees: 'degrees of the key',
  syllables: 'rhythm syllables',
  counts: 'counts',
  breaths: 'breath marks',
  bowing: 'bowing marks',
};

/** What is printed to help in the picked bar, where it is otherwise than in the rest of the part. */
function BarHelp({
  recipe,
  level,
  number,
  id,
  onSet,
}: {
  readonly recipe: Recipe;
  readonly level: Level;
  readonly number: number;
  readonly id: string;
  readonly onSet: SetRecipe;
}) {
  const instrument = instrumentOf(recipe);
  const { barAids = {}, aids = usualAids(instrument, level) } = recipe.page ?? {};
  const own = barAids[id];
  const meant = aidsFor(instrument);
  const chosen = own ?? meant.filter((aid) => aids[aid] !== undefined);
  const names = chosen.map((aid) => AID_WORDS[aid]).join(' and ');
  return (
    <p className="mt-1 leading-8">
      Help in this bar:{' '}
      <MultiSelect
        label={`Help in bar ${number}`}
        text={!own ? 'as in the part' : chosen.length === 0 ? 'none' : names}
        options={meant.map((value) => ({ value, label: AID_WORDS[value] }))}
        chosen={chosen}
        onChange={(ticked) =>
          onSet(`help in bar ${number}`, ({ page }) => {
            const before = page?.barAids?.[id] ?? chosen;
            const aids = oneLine(withTicks(before, chosen, ticked), before);
            return { table: 'barAids', entries: { [id]: aids } };
          })
        }
      />
      {own && (
        <>
          {' '}
          <button
            type="button"
            onClick={() =>
              onSet(`help in bar ${number} as in the part`, { table: 'barAids', entries: { [id]: undefined } })
            }
            className="min-h-7 text-[13px] text-cane underline underline-offset-2"
          >
            as in the part
          </button>
        </>
      )}
      .
    </p>
  );
}

/** Of the words under the notes there is room for one kind: the one ticked last takes the place of another. */
function oneLine(ticked: readonly Aid[], before: readonly Aid[]): readonly Aid[] {
  const fresh = LINE_AIDS.find((aid) => ticked.includes(aid) && !before.includes(aid));
  return fresh ? ticked.filter((aid) => aid === fresh || !LINE_AIDS.some((one) => one === aid)) : ticked;
}

/** Indices of the bars in which the phrase around a bar has notes. */
function phraseAround(tune: Work['tune'], bar: number): readonly number[] {
  const notes = soundingNotes(tune);
  const phrase = phrasesOf(tune).find(
    ({ from, to }) => (notes[from]?.bar ?? 0) <= bar && (notes[to - 1]?.bar ?? 0) >= bar,
  );
  if (!phrase) return [bar];
  const [first, last] = [notes[phrase.from]?.bar ?? bar, notes[phrase.to - 1]?.bar ?? bar];
  return Array.from({ length: last - first + 1 }, (_, k) => first + k);
}

function wordsFor(choice: BarChoice): string {
  return choice.kind === 'embellished' ? `embellished, variation ${choice.seed}` : CHOICE_WORDS[choice.kind];
}

function sameChoice(a: BarChoice | undefined, b: BarChoice | undefined): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}
