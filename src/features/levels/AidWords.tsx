'use client';

import type { Level } from '../../core/instruments';
import { aidsFor, usualAids } from '../../core/levels';
import {
  type Aid,
  type AidWishes,
  type Fade,
  FADES,
  instrumentOf,
  LINE_AIDS,
  PAGE_SIZE_TABLE,
  PAGE_SIZES,
  type PageSize,
  type Recipe,
  SYLLABLE_SCHOOLS,
  type SyllableSchool,
} from '../../core/work';
import { Select } from '../../ui/Select';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import type { SetRecipe } from './setRecipe';

const FADE_WORDS: Readonly<Record<Fade, string>> = {
  stays: 'everywhere',
  'first-time': 'where new',
  'first-half': 'in the first half',
};
const LINE_WORDS = { names: 'note names', degrees: 'degrees of the key', syllables: 'rhythm syllables' } as const;
const SCHOOL_WORDS: Readonly<Record<SyllableSchool, string>> = {
  counting: 'counted',
  ta: 'in ta and ti',
  sung: 'sung',
};

type LineAid = (typeof LINE_AIDS)[number];

interface Props {
  readonly recipe: Recipe;
  readonly level: Level;
  readonly onSet: SetRecipe;
}

/** What is printed to help beside finger marks, and how it fades, as sentences. */
export function AidWords({ recipe, level, onSet }: Props) {
  const instrument = instrumentOf(recipe);
  const wishes = recipe.page?.aids ?? usualAids(instrument, level);
  const meant = aidsFor(instrument);
  const line = LINE_AIDS.find((aid) => wishes[aid]);
  const set = (what: string, change: (present: AidWishes) => AidWishes) =>
    onSet(what, (present) => ({ page: { aids: change(present.page?.aids ?? usualAids(instrument, level)) } }));
  const without = (aids: AidWishes, ...gone: readonly Aid[]) =>
    Object.fromEntries(Object.entries(aids).filter(([aid]) => !gone.some((one) => one === aid))) as AidWishes;
  const name = LEVEL_NAMES[level];
  const fade = (aid: Aid, label: string, fades: readonly Fade[] = FADES) => (
    <Select
      look="word"
      label={`${name}: ${label}`}
      value={wishes[aid] ?? 'no'}
      options={[{ value: 'no', label: 'nowhere' }, ...fades.map((value) => ({ value, label: FADE_WORDS[value] }))]}
      onChange={(value) => set(label, (aids) => (value === 'no' ? without(aids, aid) : { ...aids, [aid]: value }))}
    />
  );
  return (
    <section aria-label="Aids" className="mt-2 leading-8">
      Printed under the notes:{' '}
      <Select
        look="word"
        label={`${name}: under the notes`}
        value={line ?? 'none'}
        options={[
          { value: 'none', label: 'no words' },
          ...LINE_AIDS.map((value) => ({ value, label: LINE_WORDS[value] })),
        ]}
        onChange={(value) =>
          set('words under the notes', (aids) =>
            value === 'none'
              ? without(aids, ...LINE_AIDS)
              : { ...without(aids, ...LINE_AIDS), [value as LineAid]: (line && aids[line]) ?? 'stays' },
          )
        }
      />
      {line === 'syllables' && (
        <>
          {' '}
          <Select<SyllableSchool>
            look="word"
            label={`${name}: syllables`}
            value={recipe.page?.syllables ?? 'counting'}
            options={SYLLABLE_SCHOOLS.map((value) => ({ value, label: SCHOOL_WORDS[value] }))}
            onChange={(syllables) => onSet('syllables', { page: { syllables } })}
          />
        </>
      )}
      {line && <> {fade(line, 'words under the notes')}</>}
      {line !== 'syllables' && <>; beats of held notes are counted {fade('counts', 'counts')}</>}
      {meant.includes('breaths') && <>; breath marks {fade('breaths', 'breaths', ['stays', 'first-half'])}</>}
      {meant.includes('bowing') && <>; bowing marks {fade('bowing', 'bows', ['stays', 'first-half'])}</>}. The page is
      printed in{' '}
      <Select<PageSize>
        look="word"
        label={`${name}: size of the page`}
        value={recipe.page?.size ?? 'usual'}
        options={PAGE_SIZES.map((value) => ({ value, label: PAGE_SIZE_TABLE[value].words }))}
        onChange={(size) => onSet(PAGE_SIZE_TABLE[size].words, { page: { size: size === 'usual' ? undefined : size } })}
      />
      .
    </section>
  );
}
