'use client';

import { Field } from '../../ui/Field';

/** A field of a form about an account; browsers fill it in by what it is for. */
export function AccountInput({
  label,
  value,
  onChange,
  type = 'text',
  fill,
  help,
  problem,
  autoFocus = false,
}: {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly type?: 'text' | 'email' | 'password';
  readonly fill: 'username' | 'email' | 'name' | 'current-password' | 'new-password' | 'one-time-code' | 'off';
  readonly help?: string;
  readonly problem?: string | undefined;
  readonly autoFocus?: boolean;
}) {
  return (
    <Field label={label} {...(help !== undefined && { help })} {...(problem !== undefined && { problem })}>
      {(id, describedBy) => (
        <input
          id={id}
          type={type}
          aria-describedby={describedBy}
          aria-invalid={problem !== undefined || undefined}
          autoComplete={fill}
          autoFocus={autoFocus}
          inputMode={fill === 'one-time-code' ? 'text' : undefined}
          maxLength={254}
          className="min-h-9 w-full rounded border border-edge bg-white px-2.5"
          value={value}
          onChange={({ target }) => onChange(target.value)}
        />
      )}
    </Field>
  );
}

/** What a form was told, where it concerns no field alone. */
export function FormProblem({ text }: { readonly text: string | undefined }) {
  return (
    <p role="alert" className={text === undefined ? 'sr-only' : 'mb-3 rounded bg-warn-pale px-3 py-2 text-warn'}>
      {text}
    </p>
  );
}
