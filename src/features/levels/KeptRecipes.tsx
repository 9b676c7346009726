'use client';

import { useState } from 'react';
import { LEVELS, type Level } from '../../core/instruments/instrument';
import {
  isKept,
  keptChange,
  keptWishes,
  LONGEST_RECIPE_NAME,
  type KeptRecipe,
} from '../../core/levels/recipe/savedRecipe';
import type { Recipe } from '../../core/levels/recipe/recipe';
import { Choice } from '../../ui/Choice';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import { useTell } from '../../ui/Toast';
import type { SetRecipe } from './setRecipe';

interface Props {
  readonly recipe: Recipe;
  readonly level: Level;
  readonly kept: readonly KeptRecipe[];
  readonly onKept: (kept: readonly KeptRecipe[]) => void;
  readonly onSet: SetRecipe;
}

/** The studio's recipes under names: one is taken for a level, or what the level does now is kept under a name. */
export function KeptRecipes({ recipe, level, kept, onKept, onSet }: Props) {
  const tell = useTell();
  const [name, setName] = useState('');
  const [problem, setProblem] = useState('');
  const usual = Object.keys(keptWishes(recipe)).length === 0;
  const current = kept.find((one) => isKept(recipe, one));
  const send = async (method: 'PUT' | 'DELETE', one: KeptRecipe): Promise<boolean> => {
    try {
      const response = await fetch(`/api/recipes/${one.id}`, {
        method,
        ...(method === 'PUT' && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(one) }),
      });
      if (!response.ok)
        setProblem(
          ((await response.json().catch(() => ({}))) as { messages?: readonly string[] }).messages?.join(' ') ??
            'That did not work; nothing was kept.',
        );
      return response.ok;
    } catch (error) {
      if (!(error instanceof TypeError)) throw error;
      setProblem('The program does not answer; nothing was kept yet.');
      return false;
    }
  };
  const keep = async () => {
    const words = name.trim();
    if (words === '') return setProblem('Give it a name first, like “first-years, spring”.');
    const known = kept.find((one) => one.name.toLowerCase() === words.toLowerCase());
    const one: KeptRecipe = {
      id: known?.id ?? `recipe-${crypto.randomUUID().replaceAll('-', '').slice(0, 12)}`,
      name: words,
      level,
      wishes: keptWishes(recipe),
    };
    setProblem('');
    if (!(await send('PUT', one))) return;
    onKept([...kept.filter(({ id }) => id !== one.id), one].toSorted((a, b) => a.name.localeCompare(b.name)));
    setName('');
    tell(`“${one.name}” is kept; every tune's levels can take it.`);
  };
  const remove = async (one: KeptRecipe) => {
    if (!(await send('DELETE', one))) return;
    onKept(kept.filter(({ id }) => id !== one.id));
    tell(`“${one.name}” is taken out of the recipes. Levels that took it stay as they are.`, {
      label: 'Put it back',
      run: () =>
        void send('PUT', one).then((ok) => {
          if (ok)
            onKept([...kept.filter(({ id }) => id !== one.id), one].toSorted((a, b) => a.name.localeCompare(b.name)));
        }),
    });
  };
  const options = [
    { value: 'level', label: `usual for ${LEVEL_NAMES[level].toLowerCase()}` },
    ...(usual || current ? [] : [{ value: 'own', label: 'set by hand' }]),
    ...LEVELS.flatMap((one) => kept.filter((recipe_) => recipe_.level === one)).map(
      ({ id, name: label, level: made }) => ({ value: id, label, hint: LEVEL_NAMES[made].toLowerCase() }),
    ),
  ];
  return (
    <section aria-label="Recipes" className="mt-4 border-t border-line pt-3">
      <h3 className="font-semibold">Recipe</h3>
      <p className="leading-8">
        This level is{' '}
        <Choice
          look="word"
          label={`${LEVEL_NAMES[level]}: recipe`}
          value={current?.id ?? (usual ? 'level' : 'own')}
          options={options}
          onChange={(value) => {
            const one = kept.find(({ id }) => id === value);
            if (one) onSet(`recipe ${one.name}`, keptChange(one));
            else if (value === 'level') onSet('usual recipe', keptChange({ wishes: {} }));
          }}
        />
        .{' '}
        {current && (
          <button
            type="button"
            onClick={() => void remove(current)}
            className="min-h-7 text-[13px] text-cane underline underline-offset-2"
          >
            forget it
          </button>
        )}
      </p>
      {!usual && !current && (
        <form
          className="mt-1 flex gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            void keep();
          }}
        >
          <input
            aria-label="Name of the recipe"
            placeholder="name it"
            maxLength={LONGEST_RECIPE_NAME}
            value={name}
            onChange={({ target }) => setName(target.value)}
            className="min-h-8 min-w-0 flex-1 rounded border border-[#8f8d7c] bg-paper px-2"
          />
          <button
            type="submit"
            className="min-h-8 rounded border border-[#8f8d7c] bg-paper px-2 font-medium hover:bg-cane-pale"
          >
            Keep it
          </button>
        </form>
      )}
      {problem && (
        <p role="alert" className="mt-1 text-[12.5px] text-warn">
          {problem}
        </p>
      )}
    </section>
  );
}
