import type { ButtonHTMLAttributes } from 'react';

type Kind = 'main' | 'plain' | 'quiet';

const KINDS: Readonly<Record<Kind, string>> = {
  main: 'bg-cane text-white hover:bg-[#6f430f] disabled:bg-[#b9b39c] disabled:text-white',
  plain: 'border border-edge bg-paper text-ink hover:bg-cane-pale disabled:text-[#77796f]',
  quiet: 'text-ink hover:bg-cane-pale disabled:text-[#8a8b80] disabled:hover:bg-transparent',
};

export function Button({
  kind = 'plain',
  className = '',
  type = 'button',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { readonly kind?: Kind }) {
  return (
    <button
      type={type}
      className={`inline-flex min-h-7 items-center justify-center gap-1.5 rounded px-2.5 py-1 font-medium whitespace-nowrap ${KINDS[kind]} ${className}`}
      {...rest}
    />
  );
}
