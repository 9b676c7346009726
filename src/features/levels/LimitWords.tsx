'use client';

import { useState } from 'react';
import { type Level, limitsProblem } from '../../core/instruments';
import {
  LEVEL_DEFAULTS,
  ARTICULATION_STYLES,
  type ArticulationStyle,
  type Form,
  FORMS,
  instrumentOf,
  LEAP_NAMES,
  LEAPS,
  type Phrasing,
  type Recipe,
} from '../../core/work';
import { parseNotes, parsePitch, printNotes, printPitch } from '../../core/pitch';
import type { Swing } from '../../core/score';
import { Select } from '../../ui/Select';
import { TextInput, WORD_FIELD } from '../../ui/Field';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import { ALLOWED, type SetRecipe } from './setRecipe';

const FORM_WORDS: Readonly<Record<Form, string>> = {
  once: 'once',
  twice: 'twice, the second time embellished',
  solo: 'with room for a solo in between',
  second: 'as the second part',
};
const STYLE_WORDS: Readonly<Record<ArticulationStyle, string>> = {
  'as-written': 'as written',
  each: 'every note by itself',
  tongued: 'tongued, except pairs',
  smooth: 'slurred by the half bar',
  crisp: 'short notes detached',
  swung: 'off-beats slurred into the beat',
  lilting: 'two slurred, the rest tongued',
};
/** What a player would pencil in: as the tune's own style has it, as another one has it, or nothing. */
const PHRASING_OPTIONS: readonly { readonly value: Phrasing | 'tune'; readonly label: string }[] = [
  { value: 'tune', label: 'by the tune’s style' },
  { value: 'song', label: 'as a song' },
  { value: 'hymn', label: 'as a hymn' },
  { value: 'air', label: 'as a slow air' },
  { value: 'dance', label: 'as a dance' },
  { value: 'march', label: 'as a march' },
  { value: 'swing', label: 'as swing' },
  { value: 'tango', label: 'as a tango' },
  { value: 'older', label: 'as older music' },
  { value: 'none', label: 'left to the player' },
];
const SWINGS: readonly {
  readonly value: string;
  readonly label: string;
  readonly swing: Swing | 'straight' | undefined;
}[] = [
  { value: 'tune', label: 'as in the tune', swing: undefined },
  { value: 'straight', label: 'even', swing: 'straight' },
  { value: 'eighth 1.5', label: 'lightly swung', swing: { unit: 'eighth', ratio: 1.5 } },
  { value: 'eighth 2', label: 'swung two to one', swing: { unit: 'eighth', ratio: 2 } },
];
interface Props {
  readonly recipe: Recipe;
  readonly level: Level;
  readonly hasSecond: boolean;
  /** Shows the part through its form. */
  readonly onThrough: () => void;
  readonly onSet: SetRecipe;
}

/**
 * The form, the limits and the articulation of a level's part, as sentences whose underlined words are the controls.
 */
export function LimitWords({ recipe, level, hasSecond, onThrough, onSet }: Props) {
  const [problem, setProblem] = useState<string>();
  const { rhythm = {}, limits = {}, articulation = {} } = recipe;
  const plays = recipe.form?.plays ?? 'once';
  const name = LEVEL_NAMES[level];
  const instrument = instrumentOf(recipe);
  const usual = instrument.range[level];
  const isSimplified = (recipe.melody ?? LEVEL_DEFAULTS[level].melody) === 'simplified';
  const input = `${WORD_FIELD} min-h-7 placeholder:font-normal`;
  const setEnd = (end: 'low' | 'high') => (text: string) => {
    const pitch = text.trim() === '' ? undefined : parsePitch(text.trim());
    if (pitch && !pitch.ok) return setProblem(`"${text}" is no note: write letter, sign and octave, like G4 or Bb4.`);
    const { [end]: _, ...other } = limits.range ?? {};
    const range = { ...other, ...(pitch?.ok && { [end]: pitch.value }) };
    const wrong = limitsProblem({ low: usual.low, high: usual.high, ...range });
    setProblem(wrong && `This is not possible: ${wrong}.`);
    if (!wrong)
      onSet(`${end === 'low' ? 'lowest' : 'highest'} note`, (present) => {
        const { [end]: _end, ...rest } = present.limits?.range ?? {};
        return { limits: { range: { ...rest, ...(pitch?.ok && { [end]: pitch.value }) } } };
      });
  };
  const setKnown = (text: string) => {
    const known = parseNotes(text);
    setProblem(known.ok ? undefined : `Known notes: ${known.problem}.`);
    if (known.ok) onSet('known notes', { limits: { known: known.value.length > 0 ? known.value : undefined } });
  };
  const swing =
    articulation.swing === undefined
      ? 'tune'
      : articulation.swing === 'straight'
        ? 'straight'
        : `${articulation.swing.unit} ${articulation.swing.ratio}`;
  const allowed = (label: string, field: 'offBeat' | 'ties', usually: boolean) => (
    <Select
      look="word"
      label={`${name}: ${label}`}
      value={(rhythm[field] ?? usually) ? 'yes' : 'no'}
      options={ALLOWED}
      onChange={(value) =>
        onSet(`${label} ${value === 'yes' ? 'allowed' : 'not yet'}`, {
          rhythm: { [field]: (value === 'yes') === usually ? undefined : value === 'yes' },
        })
      }
    />
  );
  return (
    <section aria-label="Form and limits" className="mt-1 leading-8">
      The tune is played{' '}
      <Select<Form>
        look="word"
        label={`${name}: form`}
        value={plays}
        options={FORMS.filter((form) => form !== 'second' || hasSecond || plays === 'second').map((value) => ({
          value,
          label: FORM_WORDS[value],
        }))}
        onChange={(form) =>
          onSet(`played ${FORM_WORDS[form]}`, { form: { plays: form === 'once' ? undefined : form } })
        }
      />
      {(plays === 'twice' || plays === 'solo') && (
        <>
          {' '}
          <button
            type="button"
            onClick={onThrough}
            className="min-h-7 text-[13px] text-cane underline underline-offset-2"
          >
            see it written out
          </button>
        </>
      )}
      . Leaps go{' '}
      <Select
        look="word"
        label={`${name}: largest leap`}
        value={String(limits.leap ?? 'tune')}
        options={[
          { value: 'tune', label: 'as the tune does' },
          ...LEAPS.map((steps) => ({ value: String(steps), label: `up to ${LEAP_NAMES[steps]}` })),
        ]}
        onChange={(value) => onSet('largest leap', { limits: { leap: value === 'tune' ? undefined : Number(value) } })}
      />
      ; off-beat notes {allowed('off-beat notes', 'offBeat', !isSimplified)}; ties over the barline{' '}
      {allowed('ties over the barline', 'ties', true)}; range{' '}
      <TextInput
        label={`${name}: lowest note`}
        value={limits.range?.low ? printPitch(limits.range.low) : printPitch(usual.low)}
        maxLength={5}
        onCommit={setEnd('low')}
        className={`${input} w-10`}
      />{' '}
      to{' '}
      <TextInput
        label={`${name}: highest note`}
        value={limits.range?.high ? printPitch(limits.range.high) : printPitch(usual.high)}
        maxLength={5}
        onCommit={setEnd('high')}
        className={`${input} w-10`}
      />
      {limits.range && (
        <>
          {' '}
          <button
            type="button"
            onClick={() => {
              setProblem(undefined);
              onSet('the usual range', { limits: { range: undefined } });
            }}
            className="min-h-7 text-[13px] text-cane underline underline-offset-2"
          >
            as usual
          </button>
        </>
      )}
      , using{' '}
      <TextInput
        label={`${name}: known notes`}
        value={limits.known ? printNotes(limits.known) : ''}
        placeholder="all its notes"
        maxLength={200}
        onCommit={setKnown}
        className={`${input} w-28`}
      />
      . Articulation is{' '}
      <Select<ArticulationStyle>
        look="word"
        label={`${name}: articulation`}
        value={articulation.style ?? 'as-written'}
        options={ARTICULATION_STYLES.map((value) => ({ value, label: STYLE_WORDS[value] }))}
        onChange={(style) =>
          onSet(STYLE_WORDS[style], { articulation: { style: style === 'as-written' ? undefined : style } })
        }
      />
      , phrasing{' '}
      <Select<Phrasing | 'tune'>
        look="word"
        label={`${name}: phrasing`}
        value={articulation.phrasing ?? 'tune'}
        options={PHRASING_OPTIONS}
        onChange={(value) => onSet('phrasing', { articulation: { phrasing: value === 'tune' ? undefined : value } })}
      />
      , eighths{' '}
      <Select
        look="word"
        label={`${name}: eighths`}
        value={SWINGS.some(({ value }) => value === swing) ? swing : 'eighth 2'}
        options={SWINGS.map(({ value, label }) => ({ value, label }))}
        onChange={(value) =>
          onSet('eighths', { articulation: { swing: SWINGS.find((one) => one.value === value)?.swing } })
        }
      />
      .
      {problem && (
        <p role="alert" className="text-[12.5px] leading-5 text-warn">
          {problem}
        </p>
      )}
    </section>
  );
}
