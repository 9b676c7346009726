'use client';

import { useState } from 'react';
import type { PlayerPools } from '../../core/levels';
import { recipesOf, type Work } from '../../core/work';
import { ALL_SCALE_NAMES, nameOfSet, nameScale, scaleBeside, scaleDegrees, type ScaleName } from '../../core/harmony';
import { intervalUp, namePitchClass, nameWithoutDouble, transposeClass, TWELVE_ABOVE } from '../../core/pitch';
import {
  coverageWords,
  MAX_ADVICE,
  POOL_KINDS,
  POOL_NAMES,
  POOL_SCHOOLS,
  type PoolSchool,
  presetFor,
  setOnForm,
  type WholeFormSet,
} from '../../core/pools';
import { type Style, STYLES } from '../../core/score';
import { Select } from '../../ui/Select';
import { TextInput } from '../../ui/Field';
import type { SetWishes } from './setWishes';
import { SetOpens } from './SetOpens';
import type { Dispatch } from '../work/workStore';

const SCHOOL_WORDS: Readonly<Record<PoolSchool, string>> = {
  'one-set': 'one set over the whole form',
  'chord-tones': 'chord tones from the start',
};

interface Props {
  readonly work: Work;
  readonly made: PlayerPools;
  readonly onSet: SetWishes;
  readonly onDispatch: Dispatch;
}

/** What a level improvises with, as sentences whose underlined words are the controls. */
export function PoolWords({ work, made, onSet, onDispatch }: Props) {
  const { level, pools } = made;
  const recipe = recipesOf(work)[level];
  const wishes = recipe.improvise ?? {};
  const school = wishes.school ?? 'one-set';
  const preset = presetFor(level, school);
  const { style, because } = pools.form;
  // What is ticked follows the hand at once; the map may lag behind by a moment.
  const kinds = wishes.pools ?? preset.pools;
  const toggle = (kind: (typeof POOL_KINDS)[number], isOn: boolean) => {
    onSet(`${isOn ? 'with' : 'without'} ${POOL_NAMES[kind]}`, (present) => {
      const now = present.pools ?? presetFor(level, present.school ?? 'one-set').pools;
      return { pools: POOL_KINDS.filter((one) => (one === kind ? isOn : now.includes(one))) };
    });
  };
  return (
    <div className="space-y-3">
      <div>
        <p className="leading-8">
          Begins with{' '}
          <Select<PoolSchool>
            look="word"
            label="School"
            value={school}
            options={POOL_SCHOOLS.map((value) => ({ value, label: SCHOOL_WORDS[value] }))}
            onChange={(next) =>
              onSet(SCHOOL_WORDS[next], { school: next === 'one-set' ? undefined : next, pools: undefined })
            }
          />
          .
        </p>
        <p className="text-[12.5px] text-ink-soft">{preset.words}</p>
      </div>
      <fieldset>
        <legend className="mb-1 font-semibold">Pools on the map and the sheet</legend>
        {POOL_KINDS.map((kind) => (
          <label key={kind} className="flex min-h-7 items-center gap-2">
            <input
              type="checkbox"
              checked={kinds.includes(kind)}
              onChange={({ target }) => toggle(kind, target.checked)}
              className="size-4 accent-cane"
            />
            {POOL_NAMES[kind]}
          </label>
        ))}
      </fieldset>
      <SetChoice made={made} onSet={onSet} chosen={wishes.whole !== undefined} stage={wishes.stage} />
      <div>
        <label htmlFor={`towards-${level}`} className="block">
          Lines run {lineWords(pools.towardsChords)}
        </label>
        <input
          key={`${level}/${pools.towardsChords}`}
          id={`towards-${level}`}
          type="range"
          min={0}
          max={100}
          step={10}
          defaultValue={pools.towardsChords}
          onPointerUp={({ currentTarget }) => onSet('how lines run', { towardsChords: Number(currentTarget.value) })}
          onKeyUp={({ currentTarget }) => onSet('how lines run', { towardsChords: Number(currentTarget.value) })}
          className="h-6 w-full accent-cane"
        />
        <p className="flex justify-between text-[12px] text-ink-soft">
          <span>along the key</span>
          <span>down the chords</span>
        </p>
      </div>
      {pools.overall[0] && (
        <SetOpens
          set={pools.overall[0].scale.name}
          instrument={made.instrument}
          catalogueId={recipe.custom?.base ?? recipe.instrument}
          level={level}
        />
      )}
      <p className="leading-8">
        The tune is played as{' '}
        <Select<Style | 'found'>
          look="word"
          label="Style"
          value={work.tune.harmony?.style ?? 'found'}
          options={[
            { value: 'found', label: work.tune.harmony?.style ? 'as the program finds' : style, hint: 'found' },
            ...STYLES.map((value) => ({ value, label: value })),
          ]}
          onChange={(next) => onDispatch({ kind: 'style', style: next === 'found' ? undefined : next })}
        />
        <span className="text-[12.5px] text-ink-soft"> ({because}).</span>
      </p>
      <div>
        <label htmlFor={`advice-${level}`} className="block font-semibold">
          A word to the player
        </label>
        <TextInput
          id={`advice-${level}`}
          value={wishes.advice ?? ''}
          maxLength={MAX_ADVICE}
          placeholder="printed on the sheet"
          onCommit={(text) => onSet('a word to the player', { advice: text.trim() === '' ? undefined : text.trim() })}
        />
      </div>
    </div>
  );
}

function lineWords(towardsChords: number): string {
  if (towardsChords <= 20) return 'along the key';
  if (towardsChords >= 80) return 'down the chords';
  return towardsChords < 50
    ? 'mostly along the key'
    : towardsChords > 50
      ? 'mostly down the chords'
      : 'half along the key, half down the chords';
}

/** The sets that serve the whole form, which of them the level takes, and how many of its notes are open. */
function SetChoice({
  made,
  onSet,
  chosen,
  stage,
}: {
  readonly made: PlayerPools;
  readonly onSet: SetWishes;
  readonly chosen: boolean;
  readonly stage: number | undefined;
}) {
  const { pools } = made;
  const [current] = pools.overall;
  if (!current) return null;
  const home = pools.form.reading.home.tonic;
  const take = ({ scale }: WholeFormSet) =>
    onSet(nameScale(scale), {
      whole: { name: scale.name, above: intervalUp(home, scale.tonic) },
      stage: undefined,
    });
  const open = stage === undefined ? -1 : Math.min(stage, pools.stages.length - 1);
  return (
    <section aria-label="The set">
      <h3 className="font-semibold">Over the whole form</h3>
      <ul className="space-y-1">
        {pools.overall.map((set, index) => (
          <li
            key={`${nameScale(set.scale)}`}
            className={`rounded px-1.5 py-1 ${index === 0 ? 'bg-paper outline outline-line' : ''}`}
          >
            <div className="flex items-baseline justify-between gap-2">
              <span className={index === 0 ? 'font-semibold' : ''}>
                {nameScale(set.scale)}
                {set.alsoCalled && <span className="font-normal text-ink-soft"> = {nameScale(set.alsoCalled)}</span>}
              </span>
              {index > 0 ? (
                <button
                  type="button"
                  onClick={() => take(set)}
                  className="min-h-6 shrink-0 underline underline-offset-2"
                >
                  take
                </button>
              ) : (
                chosen && (
                  <button
                    type="button"
                    onClick={() => onSet('the set as found', { whole: undefined, stage: undefined })}
                    className="min-h-6 shrink-0 underline underline-offset-2"
                  >
                    as found
                  </button>
                )
              )}
            </div>
            <p className="text-[12.5px] text-ink-soft">{sentence(set)}</p>
          </li>
        ))}
      </ul>
      <TrySet made={made} onTake={take} />
      {pools.form.style === 'blues' && (
        <p className="mt-1 text-[12.5px] text-ink-soft">
          Blue notes (♭3, ♭5 and ♭7 of the key) are meant to rub and are not counted.
        </p>
      )}
      {(pools.kinds.includes('whole') || pools.kinds.includes('bent')) && pools.stages.length > 0 && (
        <p className="mt-1 leading-8">
          Open so far:{' '}
          <Select
            look="word"
            label="How much of the set is open"
            value={open < 0 ? 'all' : String(open)}
            options={[
              { value: 'all', label: 'the whole set' },
              ...pools.stages.map(({ words, notes }, index) => ({
                value: String(index),
                label: words,
                hint: notes.map(namePitchClass).join(' '),
              })),
            ]}
            onChange={(value) =>
              onSet(`${value === 'all' ? 'the whole set' : (pools.stages[Number(value)]?.words ?? '')} open`, {
                stage: value === 'all' ? undefined : Number(value),
              })
            }
          />
          .
        </p>
      )}
    </section>
  );
}

/** Sets worth trying over a form: those of five to eight notes, and the blues sets. */
const TRIED = ALL_SCALE_NAMES.filter((name) => {
  const size = scaleDegrees(name).length;
  return size >= 5 && size <= 8;
});

/** Lets a teacher try a set on any tonic over the whole form: she reads where it rests and rubs before she takes it. */
function TrySet({ made, onTake }: { readonly made: PlayerPools; readonly onTake: (set: WholeFormSet) => void }) {
  const { form } = made.pools;
  const home = form.reading.home.tonic;
  const [name, setName] = useState<ScaleName>('major blues');
  const [above, setAbove] = useState(0);
  const tonics = TWELVE_ABOVE.map((interval) => nameWithoutDouble(transposeClass(home, interval)));
  const set = setOnForm(form, scaleBeside(tonics[above] ?? home, name));
  return (
    <div role="group" aria-label="A set of your own" className="mt-1 border-t border-line pt-1">
      <p className="leading-8">
        Try{' '}
        <Select
          look="word"
          label="Tonic of the set"
          value={String(above)}
          options={tonics.map((tonic, k) => ({ value: String(k), label: namePitchClass(tonic) }))}
          onChange={(value) => setAbove(Number(value))}
        />{' '}
        <Select
          look="word"
          label="Set to try"
          value={name}
          options={TRIED.map((value) => ({ value, label: nameOfSet(value) }))}
          onChange={setName}
        />{' '}
        <button type="button" onClick={() => onTake(set)} className="min-h-6 underline underline-offset-2">
          take
        </button>
      </p>
      <p role="status" className="text-[12.5px] text-ink-soft">
        {set.scale.notes.map(namePitchClass).join(' ')}: {sentence(set)}
      </p>
    </div>
  );
}

/** The rest of the words without the name that stands above them. */
function sentence(set: WholeFormSet): string {
  const words = coverageWords(set).slice(nameScale(set.scale).length).trim();
  return `${words}${set.bars > 0 ? ` (${Math.round((100 * set.restsIn.length) / set.bars)} % at rest)` : ''}`;
}
