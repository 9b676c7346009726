'use client';

import { useState } from 'react';
import { Sheet } from '../../ui/Sheet';

const PAPERS = { a5: 'A5', a4: 'A4', letter: 'Letter' } as const;
const SPANS = { '1': 'One week', '2': 'Two weeks', '5': 'A month', all: 'The term' } as const;

/** A pupil's practice on paper: how much of it, on which. */
export function PrintSheet({ id, onClose }: { readonly id: string; readonly onClose: () => void }) {
  const [paper, setPaper] = useState<keyof typeof PAPERS>('a4');
  const [span, setSpan] = useState<keyof typeof SPANS>('1');
  const query = new URLSearchParams({ paper, ...(span !== 'all' && { weeks: span }) });
  return (
    <Sheet open onClose={onClose} title="Practice on paper" width="max-w-md">
      <Choice legend="How much" options={SPANS} value={span} onChange={setSpan} />
      <Choice legend="Paper" options={PAPERS} value={paper} onChange={setPaper} />
      <span className="flex justify-end">
        <a
          href={`/api/pupils/${id}/files/practice.pdf?${query.toString()}`}
          target="_blank"
          rel="noreferrer"
          className="inline-flex min-h-9 items-center rounded bg-cane px-4 font-medium text-white hover:bg-[#6f430f]"
        >
          Open the PDF
        </a>
      </span>
    </Sheet>
  );
}

function Choice<Value extends string>({
  legend,
  options,
  value,
  onChange,
}: {
  readonly legend: string;
  readonly options: Readonly<Record<Value, string>>;
  readonly value: Value;
  readonly onChange: (value: Value) => void;
}) {
  return (
    <fieldset className="mb-3">
      <legend className="text-[13px] font-medium text-ink-soft">{legend}</legend>
      <span className="flex flex-wrap gap-4">
        {(Object.keys(options) as Value[]).map((one) => (
          <label key={one} className="flex min-h-8 items-center gap-1.5">
            <input type="radio" name={legend} checked={value === one} onChange={() => onChange(one)} />
            {options[one]}
          </label>
        ))}
      </span>
    </fieldset>
  );
}
