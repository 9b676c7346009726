'use client';

import { useState, type ReactNode } from 'react';
import { HelpSheet } from '../../ui/HelpSheet';
import { Rail } from '../../ui/Rail';
import { plainKey, useKeys } from '../work/useKeys';

/** A page about people and accounts. */
export function HouseFrame({
  here,
  title,
  note,
  children,
}: {
  readonly here: 'account' | 'people';
  readonly title: string;
  readonly note: string;
  readonly children: ReactNode;
}) {
  const [help, setHelp] = useState(false);
  useKeys((event) => {
    if (plainKey(event) === '?') setHelp(true);
    return false;
  });
  return (
    <div className="app-frame flex h-dvh">
      <Rail here={here} onHelp={() => setHelp(true)} />
      <div className="flex min-w-0 flex-1 flex-col">
        <header className="border-b border-line bg-panel px-4 py-3.5 md:px-6">
          <h1 className="font-serif text-[22px] leading-7 font-semibold">{title}</h1>
          <p className="truncate text-[13px] text-ink-soft">{note}</p>
        </header>
        <main className="min-h-0 flex-1 overflow-y-auto bg-paper px-4 py-4 md:px-6">{children}</main>
      </div>
      <HelpSheet open={help} onClose={() => setHelp(false)} />
    </div>
  );
}

/** One matter of such a page. */
export function Matter({
  title,
  children,
  className = '',
}: {
  readonly title: string;
  readonly children: ReactNode;
  readonly className?: string;
}) {
  return (
    <section aria-label={title} className={`rounded border border-line bg-panel p-4 ${className}`}>
      <h2 className="mb-2 font-serif text-lg font-semibold">{title}</h2>
      {children}
    </section>
  );
}
