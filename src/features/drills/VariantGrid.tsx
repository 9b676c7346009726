'use client';

import { useState } from 'react';
import {
  DRILL_EXTENTS,
  DRILL_LIMITS,
  DRILL_RHYTHMS,
  type DrillDirection,
  type DrillIdea,
  type Exercise,
} from '../../core/score';
import { Button } from '../../ui/Button';
import { DIRECTION_WORDS, EXTENT_WORDS, RHYTHM_WORDS } from './words';

const DIRECTIONS = ['up', 'down', 'up-down', 'down-up', 'alternate'] as const satisfies readonly DrillDirection[];
const RHYTHMS = DRILL_RHYTHMS.filter((rhythm) => rhythm !== 'borrowed' && rhythm !== 'half');

/**
 * From one exercise the whole grid: every direction over every extent, in a rhythm; what is ticked becomes the steps of
 * a ladder.
 */
export function VariantGrid({
  idea,
  onIdea,
}: {
  readonly idea: DrillIdea;
  readonly onIdea: (what: string, idea: DrillIdea) => void;
}) {
  const [first] = idea.steps;
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const toggle = (id: string) => {
    const next = new Set(ticked);
    if (!next.delete(id)) next.add(id);
    setTicked(next);
  };
  const steps = RHYTHMS.flatMap((rhythm) =>
    DRILL_EXTENTS.flatMap((extent) =>
      DIRECTIONS.flatMap((direction): Exercise[] =>
        ticked.has(`${rhythm}/${extent}/${direction}`)
          ? [{ set: first.set, pattern: first.pattern, rhythm, extent, direction }]
          : [],
      ),
    ),
  );
  const take = () => {
    const [one, ...rest] = steps;
    if (one) onIdea(`${steps.length} variants`, { ...idea, steps: [one, ...rest] });
  };
  const tooMany = steps.length > DRILL_LIMITS.steps;
  return (
    <section aria-label="Variants">
      <p className="mb-2 text-[13px] text-ink-soft">
        All directions, extents and rhythms of the first exercise. What you tick becomes the steps of this drill, in
        this order.
      </p>
      {RHYTHMS.map((rhythm) => (
        <details key={rhythm} open={rhythm === 'quarter'} className="mb-1 border-b border-line pb-1">
          <summary className="min-h-7 cursor-pointer leading-7 font-medium first-letter:uppercase">
            {RHYTHM_WORDS[rhythm]}
          </summary>
          <table className="w-full text-[12.5px]">
            <thead>
              <tr>
                <td />
                {DIRECTIONS.map((direction) => (
                  <th key={direction} scope="col" className="px-0.5 pb-1 align-bottom leading-3.5 font-medium">
                    {DIRECTION_WORDS[direction]}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {DRILL_EXTENTS.map((extent) => (
                <tr key={extent}>
                  <th scope="row" className="pr-1 text-left leading-4 font-normal">
                    {EXTENT_WORDS[extent]}
                  </th>
                  {DIRECTIONS.map((direction) => {
                    const id = `${rhythm}/${extent}/${direction}`;
                    return (
                      <td key={direction} className="text-center">
                        <input
                          type="checkbox"
                          aria-label={`${RHYTHM_WORDS[rhythm]}, ${EXTENT_WORDS[extent]}, ${DIRECTION_WORDS[direction]}`}
                          checked={ticked.has(id)}
                          onChange={() => toggle(id)}
                          className="size-6 accent-cane"
                        />
                      </td>
                    );
                  })}
                </tr>
              ))}
            </tbody>
          </table>
        </details>
      ))}
      {tooMany && (
        <p role="alert" className="text-[12.5px] text-warn">
          {steps.length} are ticked; a drill has {DRILL_LIMITS.steps} steps at most.
        </p>
      )}
      <Button kind="main" className="mt-2" disabled={steps.length === 0 || tooMany} onClick={take}>
        {steps.length === 0
          ? 'Tick some variants'
          : `Make ${steps.length === 1 ? 'it the drill' : `them the ${steps.length} steps`}`}
      </Button>
    </section>
  );
}
