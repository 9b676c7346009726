'use client';

import { useState } from 'react';
import { Button } from '../../../ui/Button';
import { Sheet } from '../../../ui/Sheet';

interface Props {
  /** `tune`, `group`. */
  readonly what: string;
  /** What each version is, in a line. */
  readonly mine: string;
  readonly theirs: string;
  readonly onTheirs: () => void;
  readonly onMine: () => void;
  /** Saves mine as one more document; a sentence comes back where that failed. */
  readonly onCopy: () => Promise<string | undefined>;
}

/** Two versions of one document: nothing is lost, and a person decides which goes on. */
export function ConflictSheet({ what, mine, theirs, onTheirs, onMine, onCopy }: Props) {
  const [problem, setProblem] = useState<string>();
  const copy = async () => {
    const failed = await onCopy();
    setProblem(failed);
    if (failed === undefined) onTheirs();
  };
  return (
    <Sheet
      open
      onClose={() => undefined}
      title={`Somebody else saved this ${what} meanwhile`}
      description="Both versions are safe. Which one do you want to go on with?"
    >
      <ul className="mb-4 list-disc pl-5 text-ink-soft">
        <li>Mine: {mine}</li>
        <li>Saved elsewhere: {theirs}</li>
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
        <Button onClick={() => void copy()}>Save mine as a copy</Button>
      </div>
    </Sheet>
  );
}
