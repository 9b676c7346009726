'use client';

import { useState } from 'react';
import { storedWork } from '../../core/formats/json/upgradeRecipe';
import type { Work } from '../../core/levels/recipe/work';
import { countedBars } from '../../core/score/tune';
import { Button } from '../../ui/Button';
import { Sheet } from '../../ui/Sheet';

/** Two versions of one tune: nothing is thrown away, and somebody decides which stands on the bench. */
export function ConflictSheet({
  mine,
  theirs,
  onTheirs,
  onMine,
}: {
  readonly mine: Work;
  readonly theirs: Work;
  readonly onTheirs: () => void;
  readonly onMine: () => void;
}) {
  const [problem, setProblem] = useState<string>();
  const keepAsCopy = async () => {
    const title = `${mine.tune.title || 'Untitled'} (my version)`.slice(0, 500);
    const body = JSON.stringify(storedWork({ ...mine, tune: { ...mine.tune, title } }));
    try {
      const response = await fetch('/api/tunes/copies', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body,
      });
      if (!response.ok) return setProblem('The copy could not be made; nothing was changed. Please try again.');
      return onTheirs();
    } catch (error) {
      if (!(error instanceof TypeError)) throw error;
      return setProblem('The program does not answer; nothing was changed. Please try again.');
    }
  };
  return (
    <Sheet
      open
      onClose={() => undefined}
      title="This tune was saved elsewhere meanwhile"
      description="Both versions are kept. Which one shall stand on the bench?"
    >
      <ul className="mb-4 list-disc pl-5 text-ink-soft">
        <li>Here: {summary(mine)}</li>
        <li>Saved elsewhere: {summary(theirs)}</li>
      </ul>
      {problem && (
        <p role="alert" className="mb-3 text-warn">
          {problem}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <Button kind="main" onClick={onTheirs}>
          Use the other one
        </Button>
        <Button onClick={onMine}>Save mine over it</Button>
        <Button onClick={() => void keepAsCopy()}>Put mine beside it on the shelf</Button>
      </div>
      <p className="mt-3 text-[13px] text-ink-soft">The version you leave stays in the history of the tune.</p>
    </Sheet>
  );
}

function summary({ tune, recipes }: Work): string {
  return `“${tune.title || 'Untitled'}”, ${countedBars(tune)} bars, ${Object.keys(recipes).length} levels set`;
}
