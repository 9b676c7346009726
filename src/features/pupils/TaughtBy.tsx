'use client';

import { useState } from 'react';
import { Select } from '../../ui/Select';
import { useToast } from '../../ui/Toast';
import { nothing, send } from '../work/send';

/** Whose pupil somebody is, and who else could teach them: shown to owners. */
export interface Taught {
  readonly by: string | undefined;
  readonly teachers: readonly { readonly id: string; readonly name: string }[];
}

/** Hands a pupil over to another teacher of the studio. */
export function TaughtBy({ pupil, taught }: { readonly pupil: string; readonly taught: Taught }) {
  const tell = useToast();
  const [by, setBy] = useState(taught.by ?? '');
  const handOver = async (teacher: string) => {
    const answer = await send(`/api/pupils/${pupil}/teacher`, nothing, { method: 'PUT', json: { teacher } });
    if (answer.ok) setBy(teacher);
    tell(answer.ok ? 'Handed over.' : answer.problem.message);
  };
  return (
    <p className="leading-8">
      Taught by{' '}
      <Select
        label="Taught by"
        look="word"
        value={by}
        options={taught.teachers.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(teacher) => void handOver(teacher)}
      />
      : the pupil and the log are theirs to see, and the owners’.
    </p>
  );
}
