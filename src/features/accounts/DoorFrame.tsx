'use client';

import type { ReactNode } from 'react';
import { useReady } from '../../ui/useReady';

/** Pages before the house: a sheet of paper against its dark front. */
export function DoorFrame({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  useReady();
  return (
    <div className="flex h-dvh max-md:flex-col">
      <div className="flex shrink-0 items-center bg-reed px-5 py-4 text-reed-pale md:w-72 md:flex-col md:items-start md:justify-between md:p-8">
        <svg viewBox="0 0 32 32" width="44" height="44" aria-hidden="true">
          <g fill="none" stroke="#e7b565" strokeWidth="2.2" strokeLinecap="round">
            <ellipse cx="12.5" cy="24" rx="4.2" ry="3" fill="#e7b565" stroke="none" />
            <path d="M16.6 23.6V5c.6 3.6 6 4 4.6 9M16.6 10.5c.6 3.6 6 4 4.6 9" />
          </g>
        </svg>
        <p className="font-serif text-lg leading-6 max-md:ml-3">
          Reed Hook
          <span className="block text-[13px] text-reed-pale">One tune, a part for everybody.</span>
        </p>
      </div>
      <main className="min-h-0 flex-1 overflow-y-auto bg-paper px-5 py-8 md:px-14 md:py-16">
        <div className="max-w-md">
          <h1 className="mb-4 font-serif text-2xl font-semibold">{title}</h1>
          {children}
        </div>
      </main>
    </div>
  );
}
