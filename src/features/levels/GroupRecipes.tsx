'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { type Level, LEVELS } from '../../core/instruments';
import { isAsSaved, type Recipes, recipesOf, savedChange, type SavedRecipe, withRecipe } from '../../core/work';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import { changeWork } from '../work/tuneRemote';

interface Props {
  readonly id: string;
  readonly levels: readonly Level[];
  readonly saved: readonly SavedRecipe[];
  readonly recipes: Recipes;
}

/** The studio's recipes for all levels of a group in one go: chosen by name, taken together. */
export function GroupRecipes({ id, levels, saved, recipes }: Props) {
  const router = useRouter();
  const [chosen, setChosen] = useState<Readonly<Partial<Record<Level, string>>>>({});
  const [problem, setProblem] = useState('');
  const [isBusy, setBusy] = useState(false);
  if (saved.length === 0 || levels.length === 0) return null;
  const nameOf = (level: Level) => chosen[level] ?? saved.find((one) => isAsSaved(recipes[level], one))?.id ?? 'none';
  const wanted = LEVELS.flatMap((level) => {
    const found = saved.find((one) => one.id === chosen[level]);
    return found && !isAsSaved(recipes[level], found) ? [{ level, found }] : [];
  });
  const take = async () => {
    setBusy(true);
    const taken = await changeWork(id, 'recipe taken from the group', (work) =>
      wanted.reduce(
        (after, { level, found }) => withRecipe(after, level, savedChange(recipesOf(after)[level], found)),
        work,
      ),
    );
    setBusy(false);
    setProblem(taken.ok ? '' : `${taken.problem.message} Nothing was changed.`);
    if (!taken.ok) return;
    setChosen({});
    router.refresh();
  };
  return (
    <section aria-label="Recipes" className="no-print mb-4">
      <h2 className="font-serif text-base font-semibold">Saved recipes</h2>
      <p className="leading-8">
        {levels.map((level, index) => (
          <span key={level}>
            {index > 0 && '; '}
            {index === 0 ? LEVEL_NAMES[level] : LEVEL_NAMES[level].toLowerCase()} as{' '}
            <Select
              look="word"
              label={`${LEVEL_NAMES[level]}: recipe for the group`}
              value={nameOf(level)}
              options={[
                ...(nameOf(level) === 'none' ? [{ value: 'none', label: 'as on the bench' }] : []),
                ...saved.map((one) => ({ value: one.id, label: one.name })),
              ]}
              onChange={(value) => setChosen({ ...chosen, [level]: value })}
            />
          </span>
        ))}
        .{' '}
        <Button
          kind={wanted.length > 0 ? 'main' : 'plain'}
          disabled={wanted.length === 0 || isBusy}
          onClick={() => void take()}
        >
          Use {wanted.length > 1 ? 'them' : 'it'} for the group
        </Button>
      </p>
      {problem && (
        <p role="alert" className="text-warn">
          {problem}
        </p>
      )}
    </section>
  );
}
