'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { LEVELS, type Level } from '../../core/instruments/instrument';
import { isKept, keptChange, type KeptRecipe } from '../../core/levels/recipe/savedRecipe';
import type { Recipes } from '../../core/levels/recipe/recipe';
import { withRecipe, type Work } from '../../core/levels/recipe/work';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { LEVEL_NAMES } from '../../ui/LevelSign';

interface Props {
  readonly id: string;
  readonly levels: readonly Level[];
  readonly kept: readonly KeptRecipe[];
  readonly recipes: Recipes;
}

/** The studio's recipes for all levels of a group in one go: chosen by name, taken together. */
export function GroupRecipes({ id, levels, kept, recipes }: Props) {
  const router = useRouter();
  const [chosen, setChosen] = useState<Readonly<Partial<Record<Level, string>>>>({});
  const [problem, setProblem] = useState('');
  const [isBusy, setBusy] = useState(false);
  if (kept.length === 0 || levels.length === 0) return null;
  const nameOf = (level: Level) => chosen[level] ?? kept.find((one) => isKept(recipes[level], one))?.id ?? 'none';
  const wanted = LEVELS.flatMap((level) => {
    const found = kept.find((one) => one.id === chosen[level]);
    return found && !isKept(recipes[level], found) ? [{ level, found }] : [];
  });
  const take = async () => {
    setBusy(true);
    setProblem('');
    try {
      const opened = (await (await fetch(`/api/tunes/${id}`)).json()) as {
        readonly version: number;
        readonly work: Work;
      };
      const work = wanted.reduce((after, { level, found }) => withRecipe(after, level, keptChange(found)), opened.work);
      const answer = await fetch(`/api/tunes/${id}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ version: opened.version, work }),
      });
      if (!answer.ok)
        throw new Error(
          ((await answer.json().catch(() => ({}))) as { readonly messages?: readonly string[] }).messages?.join(' ') ??
            'That did not work; nothing was changed.',
        );
      setChosen({});
      router.refresh();
    } catch (error) {
      setProblem(error instanceof Error ? error.message : 'That did not work; nothing was changed.');
    }
    setBusy(false);
  };
  return (
    <section aria-label="Recipes" className="no-print mb-4">
      <h2 className="font-serif text-base font-semibold">Recipes of the studio</h2>
      <p className="leading-8">
        {levels.map((level, index) => (
          <span key={level}>
            {index > 0 && '; '}
            {index === 0 ? LEVEL_NAMES[level] : LEVEL_NAMES[level].toLowerCase()} as{' '}
            <Choice
              look="word"
              label={`${LEVEL_NAMES[level]}: recipe for the group`}
              value={nameOf(level)}
              options={[
                ...(nameOf(level) === 'none' ? [{ value: 'none', label: 'on the bench' }] : []),
                ...kept.map((one) => ({ value: one.id, label: one.name })),
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
          Take {wanted.length > 1 ? 'these' : 'it'} for the group
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
