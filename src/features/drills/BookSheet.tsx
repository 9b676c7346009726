'use client';

import { useEffect, useState } from 'react';
import { z } from 'zod';
import { INSTRUMENTS, type Level, LEVELS } from '../../core/instruments';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import { Sheet } from '../../ui/Sheet';
import { send } from '../work/send';

const drillsSchema = z.object({ drills: z.array(z.object({ id: z.string(), title: z.string() })) });
type ShelfDrill = z.infer<typeof drillsSchema>['drills'][number];
/** Drills that one book holds. */
const MOST = 12;

/** Chosen drills as one book for an instrument and level, with a page of contents. */
export function BookSheet({
  id,
  level: first,
  paper,
  onClose,
}: {
  readonly id: string;
  readonly level: Level;
  readonly paper: 'a4' | 'letter';
  readonly onClose: () => void;
}) {
  const [drills, setDrills] = useState<readonly ShelfDrill[]>();
  const [chosen, setChosen] = useState<readonly string[]>([id]);
  const [level, setLevel] = useState(first);
  const [instrument, setInstrument] = useState('level');
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    void send('/api/drills', drillsSchema, { method: 'GET' }).then((answer) => {
      if (answer.ok) setDrills(answer.value.drills);
      else setProblem(answer.problem.message);
    });
  }, []);
  const query = new URLSearchParams({
    ids: chosen.join(','),
    level,
    paper,
    ...(instrument !== 'level' && { instrument }),
  });
  return (
    <Sheet
      open
      onClose={onClose}
      title="A book of drills"
      description="A page of contents, then each drill on pages of its own, in the order in which you tick them."
    >
      <p className="mb-2 leading-8">
        For{' '}
        <Select
          look="word"
          label="Instrument"
          value={instrument}
          options={[
            { value: 'level', label: 'the instrument each drill has' },
            ...INSTRUMENTS.map(({ id: value, name }) => ({ value, label: name })),
          ]}
          onChange={setInstrument}
        />
        , at the{' '}
        <Select
          look="word"
          label="Level"
          value={level}
          options={LEVELS.map((value) => ({ value, label: LEVEL_NAMES[value].toLowerCase() }))}
          onChange={setLevel}
        />{' '}
        level.
      </p>
      {problem && (
        <p role="alert" className="mb-2 text-warn">
          {problem}
        </p>
      )}
      <ul aria-label="Drills" className="min-h-24 overflow-y-auto">
        {(drills ?? []).map((drill) => (
          <li key={drill.id}>
            <label className="flex min-h-8 items-center gap-2">
              <input
                type="checkbox"
                className="size-5 accent-cane"
                checked={chosen.includes(drill.id)}
                disabled={!chosen.includes(drill.id) && chosen.length >= MOST}
                onChange={() =>
                  setChosen(
                    chosen.includes(drill.id) ? chosen.filter((one) => one !== drill.id) : [...chosen, drill.id],
                  )
                }
              />
              {drill.title || 'Untitled'}
            </label>
          </li>
        ))}
        {!drills && !problem && <li className="text-ink-soft">Looking for drills …</li>}
      </ul>
      <div className="mt-3 flex justify-end gap-2 border-t border-line pt-3">
        <Button kind="quiet" onClick={onClose}>
          Cancel
        </Button>
        <Button
          kind="main"
          disabled={chosen.length === 0}
          onClick={() => window.open(`/api/drills/book.pdf?${query.toString()}`, '_blank', 'noopener')}
        >
          Open the book
        </Button>
      </div>
    </Sheet>
  );
}
