'use client';

import { useState, type FormEvent } from 'react';
import { z } from 'zod';
import { capitalised } from '../../core/plainText';
import { drillTune, PATTERNS } from '../../core/drills';
import { storedWork } from '../../core/work/stored';
import { ALL_SCALE_NAMES, nameOfSet, type ScaleName } from '../../core/harmony';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import { Sheet } from '../../ui/Sheet';
import { send } from '../work/send';

/** A drill from one sentence; all else is decided on its own page. */
export function NewDrillSheet({
  onClose,
  onMade,
}: {
  readonly onClose: () => void;
  /** The id of the drill that was made. */
  readonly onMade: (id: string) => void;
}) {
  const [pattern, setPattern] = useState('thirds');
  const [set, setSet] = useState<ScaleName>('major');
  const [isBusy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string>();
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    const made = await send('/api/tunes/new', z.object({ id: z.string() }), {
      method: 'POST',
      json: storedWork({ tune: drillTune({ steps: [{ set, pattern }] }), recipes: {} }),
    });
    setBusy(false);
    if (made.ok) onMade(made.value.id);
    else setProblem(`${made.problem.message} Nothing was saved yet; please try again.`);
  };
  return (
    <Sheet
      open
      onClose={onClose}
      title="New drill"
      description="One idea, laid out for every level and instrument. Keys, rhythm, direction and range are chosen on its page."
      width="max-w-xl"
    >
      <form onSubmit={(event) => void submit(event)}>
        <p className="mb-4 leading-8">
          <Select
            look="word"
            label="Pattern"
            value={pattern}
            options={PATTERNS.filter(({ group }) => group !== 'Over a tune').map(({ id, name, group }) => ({
              value: id,
              label: capitalised(name),
              hint: group.toLowerCase(),
            }))}
            onChange={setPattern}
          />{' '}
          through{' '}
          <Select
            look="word"
            label="Set"
            value={set}
            options={ALL_SCALE_NAMES.map((value) => ({ value, label: nameOfSet(value) }))}
            onChange={setSet}
          />
          .
        </p>
        {problem && (
          <p role="alert" className="mb-2 text-warn">
            {problem}
          </p>
        )}
        <div className="flex justify-end gap-2 border-t border-line pt-3">
          <Button kind="quiet" type="button" onClick={onClose}>
            Cancel
          </Button>
          <Button kind="main" type="submit" disabled={isBusy}>
            Save to the shelf
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
