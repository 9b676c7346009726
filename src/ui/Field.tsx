'use client';

import { useId, useState, type ReactNode } from 'react';
import { plainText } from '../core/plainText';

/** How a field looks that stands as a word inside a sentence; its width and height are its own. */
export const WORD_FIELD =
  'rounded-t border-b-2 border-cane bg-transparent px-0.5 leading-5 font-semibold hover:bg-cane-pale';

/** A label over a control, with a word of help or what is wrong next to it. */
export function Field({
  label,
  help,
  problem,
  children,
}: {
  readonly label: string;
  readonly help?: string;
  readonly problem?: string;
  readonly children: (id: string, describedBy: string | undefined) => ReactNode;
}) {
  const id = useId();
  const note = problem ?? help;
  return (
    <div className="mb-3">
      <label htmlFor={id} className="mb-0.5 block text-[13px] font-medium text-ink-soft">
        {label}
      </label>
      {children(id, note ? `${id}-note` : undefined)}
      {note && (
        <p
          id={`${id}-note`}
          role={problem ? 'alert' : undefined}
          className={`mt-0.5 text-[12.5px] ${problem ? 'text-warn' : 'text-ink-soft'}`}
        >
          {note}
        </p>
      )}
    </div>
  );
}

/** A line of text that takes effect when it is left or Enter is pressed; Escape puts it back. */
export function TextInput({
  id,
  value,
  onCommit,
  describedBy,
  maxLength = 500,
  label,
  placeholder,
  className = 'w-full rounded border border-edge bg-paper px-2 min-h-8',
}: {
  readonly id?: string;
  readonly value: string;
  readonly onCommit: (value: string) => void;
  readonly describedBy?: string | undefined;
  readonly maxLength?: number;
  readonly label?: string;
  readonly placeholder?: string;
  readonly className?: string;
}) {
  const [typed, setTyped] = useState<string>();
  const commit = () => {
    // A field that is full may cut a character in two.
    if (typed !== undefined && typed !== value) onCommit(plainText(typed));
    setTyped(undefined);
  };
  return (
    <input
      id={id}
      aria-label={label}
      placeholder={placeholder}
      aria-describedby={describedBy}
      maxLength={maxLength}
      className={className}
      value={typed ?? value}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === 'Enter') commit();
        if (event.key === 'Escape') setTyped(undefined);
      }}
    />
  );
}
