'use client';

import { useEffect, useState } from 'react';
import { z } from 'zod';
import { PACK_LIMITS } from '../../../core/keys';
import { send } from '../send';
import { useShelfSearch } from '../useShelfSearch';

const tuneSchema = z.object({ work: z.object({ tune: z.object({ title: z.string() }) }) });
const SHOWN = 8;

/** Tunes and drills of the shelf, some of them chosen. */
export function TunePicker({
  chosen,
  onChange,
}: {
  readonly chosen: readonly string[];
  readonly onChange: (chosen: readonly string[]) => void;
}) {
  const [words, setWords] = useState('');
  const { tunes: found } = useShelfSearch(words);
  const [read, setRead] = useState<ReadonlyMap<string, string>>(new Map());
  const titles = new Map([...read, ...found.map(({ id, title }) => [id, title] as const)]);
  // What was chosen before may stand on no page of the shelf that is shown.
  const unknown = chosen.filter((id) => !titles.has(id)).join(',');
  useEffect(() => {
    for (const id of unknown === '' ? [] : unknown.split(','))
      void send(`/api/tunes/${id}`, tuneSchema, { method: 'GET' }).then((answer) =>
        setRead((before) => new Map([...before, [id, answer.ok ? answer.value.work.tune.title : 'not found']])),
      );
  }, [unknown]);
  const others = found.filter(({ id }) => !chosen.includes(id)).slice(0, SHOWN);
  const box = (id: string, title: string) => (
    <label key={id} className="flex min-h-7 items-center gap-2">
      <input
        type="checkbox"
        checked={chosen.includes(id)}
        disabled={!chosen.includes(id) && chosen.length >= PACK_LIMITS.tunes}
        onChange={({ target }) => onChange(target.checked ? [...chosen, id] : chosen.filter((one) => one !== id))}
      />
      <span className="font-serif">{title || 'Untitled'}</span>
    </label>
  );
  return (
    <fieldset className="mb-3">
      <legend className="text-[13px] font-medium text-ink-soft">Tunes and drills</legend>
      {chosen.map((id) => box(id, titles.get(id) ?? '…'))}
      <input
        type="search"
        aria-label="Search the shelf"
        placeholder="Search the shelf"
        value={words}
        onChange={({ target }) => setWords(target.value)}
        className="my-1 min-h-9 w-full rounded border border-edge bg-white px-2"
      />
      {others.map(({ id, title }) => box(id, title))}
      {found.length === 0 && <p className="text-[13px] text-ink-soft">Nothing on the shelf is called so.</p>}
    </fieldset>
  );
}
