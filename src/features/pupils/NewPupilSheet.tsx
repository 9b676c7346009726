'use client';

import { useState } from 'react';
import { type CustomInstrument, type Level, LEVELS } from '../../core/instruments';
import { newPupil, type Pupil, PUPIL_LIMITS } from '../../core/planning';
import { Button } from '../../ui/Button';
import { Field } from '../../ui/Field';
import { InstrumentSelect } from '../../ui/InstrumentSelect';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import { Sheet } from '../../ui/Sheet';
import { freshId } from './openPupil';

/** A name, an instrument, a level: enough to begin. */
export function NewPupilSheet({
  custom,
  onClose,
  onAdd,
}: {
  readonly custom: readonly CustomInstrument[];
  readonly onClose: () => void;
  /** A sentence comes back where it failed. */
  readonly onAdd: (pupil: Pupil) => Promise<string | undefined>;
}) {
  const [name, setName] = useState('');
  const [instrument, setInstrument] = useState<{ readonly id: string; readonly custom?: CustomInstrument }>({
    id: 'flute',
  });
  const [level, setLevel] = useState<Level>('beginner');
  const [problem, setProblem] = useState<string>();
  const add = async () => {
    if (name.trim() === '') return setProblem('Write a first name, so that the week can say whose it is.');
    const { custom: chosen } = instrument;
    const playing = { id: freshId(), instrument: instrument.id, ...(chosen && { custom: chosen }), level };
    return setProblem(await onAdd(newPupil(name.trim(), playing)));
  };
  return (
    <Sheet open onClose={onClose} title="New pupil" width="max-w-md">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        <Field label="First name" {...(problem !== undefined && { problem })}>
          {(id, describedBy) => (
            <input
              id={id}
              aria-describedby={describedBy}
              className="min-h-9 w-full rounded border border-edge bg-paper px-2"
              value={name}
              maxLength={PUPIL_LIMITS.name}
              autoComplete="off"
              onChange={({ target }) => setName(target.value)}
            />
          )}
        </Field>
        <Field label="Instrument">
          {() => (
            <InstrumentSelect
              label="Instrument"
              value={instrument.id}
              custom={custom}
              onChange={(id, chosen) => setInstrument({ id, ...(chosen && { custom: chosen }) })}
            />
          )}
        </Field>
        <fieldset className="mb-4">
          <legend className="mb-0.5 text-[13px] font-medium text-ink-soft">Level</legend>
          <span className="flex flex-wrap gap-4">
            {LEVELS.map((one) => (
              <label key={one} className="flex min-h-8 items-center gap-1.5">
                <input type="radio" name="level" checked={level === one} onChange={() => setLevel(one)} />
                <LevelSign level={one} size={16} />
                {LEVEL_NAMES[one]}
              </label>
            ))}
          </span>
        </fieldset>
        <span className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="main" type="submit">
            Add the pupil
          </Button>
        </span>
      </form>
    </Sheet>
  );
}
