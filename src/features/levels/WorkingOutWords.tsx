'use client';

import { Pencil } from 'lucide-react';
import { useMemo } from 'react';
import type { Level } from '../../core/instruments';
import { workingOutOf } from '../../core/levels';
import type { Work } from '../../core/work';

/** A page on which a pupil works the part out in the key of the recording; nothing where it stands there already. */
export function WorkingOutWords({
  work,
  level,
  onFile,
}: {
  readonly work: Work;
  readonly level: Level;
  readonly onFile: (name: string, download: boolean) => void;
}) {
  const made = useMemo(() => workingOutOf(work.tune, level, work.recipes), [work, level]);
  if (!made) return null;
  return (
    <section aria-label="To be worked out" className="mt-4 border-t border-line pt-3">
      <h3 className="font-semibold">To be worked out</h3>
      <p className="mt-1 text-[13px] text-ink-soft">
        This part with all its marks, and an empty staff under it in {made.question.below?.title}, where the recording
        is. The answer stands on a page of its own.
      </p>
      <p className="mt-1.5">
        <button
          type="button"
          className="inline-flex min-h-8 items-center gap-1.5 rounded border border-edge bg-paper px-2 font-medium hover:bg-cane-pale"
          onClick={() => onFile(`${level}.working-out.pdf`, false)}
        >
          <Pencil size={15} aria-hidden="true" />
          Page and answer
        </button>
      </p>
    </section>
  );
}
