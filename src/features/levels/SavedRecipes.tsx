'use client';

import { useState } from 'react';
import { storedSavedRecipe } from '../../core/work/stored';
import { type Level, LEVELS } from '../../core/instruments';
import { isAsSaved, MAX_RECIPE_NAME, type Recipe, savedChange, type SavedRecipe, savedWishes } from '../../core/work';
import { Select } from '../../ui/Select';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import { useToast } from '../../ui/Toast';
import { nothing, send } from '../work/send';
import type { SetRecipe } from './setRecipe';

interface Props {
  readonly recipe: Recipe;
  readonly level: Level;
  readonly saved: readonly SavedRecipe[];
  /** Is given how to change the list, since it may have changed while the server was asked. */
  readonly onSaved: (change: (saved: readonly SavedRecipe[]) => readonly SavedRecipe[]) => void;
  readonly onSet: SetRecipe;
}

/** The studio's recipes under names: one is taken for a level, or what the level does now is saved under a name. */
export function SavedRecipes({ recipe, level, saved, onSaved, onSet }: Props) {
  const tell = useToast();
  const [name, setName] = useState('');
  const [problem, setProblem] = useState('');
  const usual = Object.keys(savedWishes(recipe)).length === 0;
  const current = saved.find((one) => isAsSaved(recipe, one));
  const call = async (method: 'PUT' | 'DELETE', one: SavedRecipe): Promise<boolean> => {
    const sent = await send(`/api/recipes/${one.id}`, nothing, {
      method,
      ...(method === 'PUT' && { json: storedSavedRecipe(one) }),
    });
    setProblem(sent.ok ? '' : `${sent.problem.message} Nothing was changed.`);
    return sent.ok;
  };
  const save = async () => {
    const words = name.trim();
    if (words === '') return setProblem('Give it a name first, like “first-years, spring”.');
    const known = saved.find((one) => one.name.toLowerCase() === words.toLowerCase());
    const one: SavedRecipe = {
      id: known?.id ?? `recipe-${crypto.randomUUID().replaceAll('-', '').slice(0, 12)}`,
      name: words,
      level,
      wishes: savedWishes(recipe),
    };
    setProblem('');
    if (!(await call('PUT', one))) return;
    onSaved(withRecipe(one));
    setName('');
    tell(`“${one.name}” is saved; any level of any tune can use it.`);
  };
  const remove = async (one: SavedRecipe) => {
    if (!(await call('DELETE', one))) return;
    onSaved((now) => now.filter(({ id }) => id !== one.id));
    tell(`“${one.name}” was removed. Levels that use it stay as they are.`, {
      label: 'Restore',
      run: () =>
        void call('PUT', one).then((ok) => {
          if (ok) onSaved(withRecipe(one));
        }),
    });
  };
  const options = [
    { value: 'level', label: `usual for ${LEVEL_NAMES[level].toLowerCase()}` },
    ...(usual || current ? [] : [{ value: 'own', label: 'set by hand' }]),
    ...LEVELS.flatMap((one) => saved.filter(({ level: made }) => made === one)).map(
      ({ id, name: label, level: made }) => ({ value: id, label, hint: LEVEL_NAMES[made].toLowerCase() }),
    ),
  ];
  return (
    <section aria-label="Recipes" className="mt-4 border-t border-line pt-3">
      <h3 className="font-semibold">Recipe</h3>
      <p className="leading-8">
        This level is{' '}
        <Select
          look="word"
          label={`${LEVEL_NAMES[level]}: recipe`}
          value={current?.id ?? (usual ? 'level' : 'own')}
          options={options}
          onChange={(value) => {
            const one = saved.find(({ id }) => id === value);
            if (one) onSet(`recipe ${one.name}`, (present) => savedChange(present, one));
            else if (value === 'level') onSet('usual recipe', (present) => savedChange(present, { wishes: {} }));
          }}
        />
        .{' '}
        {current && (
          <button
            type="button"
            onClick={() => void remove(current)}
            className="min-h-7 text-[13px] text-cane underline underline-offset-2"
          >
            remove it from the saved recipes
          </button>
        )}
      </p>
      {!usual && !current && (
        <form
          className="mt-1 flex gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            void save();
          }}
        >
          <input
            aria-label="Name of the recipe"
            placeholder="name of the recipe"
            maxLength={MAX_RECIPE_NAME}
            value={name}
            onChange={({ target }) => setName(target.value)}
            className="min-h-8 min-w-0 flex-1 rounded border border-edge bg-paper px-2"
          />
          <button
            type="submit"
            className="min-h-8 rounded border border-edge bg-paper px-2 font-medium hover:bg-cane-pale"
          >
            Save recipe
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

/** A list with one more, or with another under its id, by name. */
const withRecipe = (one: SavedRecipe) => (now: readonly SavedRecipe[]) =>
  [...now.filter(({ id }) => id !== one.id), one].toSorted((a, b) => a.name.localeCompare(b.name));
