'use client';

import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { z } from 'zod';
import { analyseTune, hardestBar } from '../../core/analysis';
import { type DrillProposal, drillsFromTune, drillTune } from '../../core/drills';
import { storedWork } from '../../core/work/stored';
import { LEVELS } from '../../core/instruments';
import { recipesOf, type Work } from '../../core/work';
import type { LaneInfo } from '../../engrave/lanes';
import { Button } from '../../ui/Button';
import { send } from '../work/send';

/** Drills from a tune: each becomes a document of its own on the shelf, for the same instruments. */
export function TuneDrills({
  work,
  infos,
  numbers,
}: {
  readonly work: Work;
  readonly infos: readonly LaneInfo[];
  readonly numbers: readonly number[];
}) {
  const router = useRouter();
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState<string>();
  const difficulty = infos.find(({ id }) => id === 'advanced')?.difficulty;
  const proposals = useMemo(() => {
    const index = difficulty && hardestBar(difficulty);
    return drillsFromTune(
      work.tune,
      analyseTune(work.tune),
      index === undefined ? undefined : { index, number: numbers[index] ?? index + 1 },
    );
  }, [work.tune, difficulty, numbers]);
  const make = async ({ id, idea, title }: DrillProposal) => {
    setBusy(id);
    const recipes = recipesOf(work);
    const made = await send('/api/tunes/new', z.object({ id: z.string() }), {
      method: 'POST',
      json: storedWork({
        tune: { ...drillTune(idea, title), source: `From ${work.tune.title || 'a tune'}` },
        recipes: Object.fromEntries(
          LEVELS.map((level) => {
            const { instrument, custom } = recipes[level];
            return [level, { instrument, ...(custom && { custom }) }];
          }),
        ),
      }),
    });
    setBusy(undefined);
    if (made.ok) router.push(`/tunes/${made.value.id}/drills`);
    else setProblem(`${made.problem.message} Nothing was saved; please try again.`);
  };
  return (
    <div>
      <p className="mb-2 text-[13px] text-ink-soft">
        Exercises from this tune’s own material, at three levels. Each becomes a drill on the shelf, where it can be
        changed.
      </p>
      {problem && (
        <p role="alert" className="mb-2 text-warn">
          {problem}
        </p>
      )}
      <ul>
        {proposals.map((proposal) => (
          <li key={proposal.id} className="mb-2 rounded border border-line bg-paper p-2">
            <p className="font-semibold">{proposal.title}</p>
            <p className="mb-1 text-[13px] text-ink-soft first-letter:uppercase">{proposal.why}.</p>
            <Button disabled={busy !== undefined} onClick={() => void make(proposal)}>
              {busy === proposal.id ? 'Making it …' : 'Make this drill'}
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}
