'use client';

import type { ReactNode } from 'react';
import { HookSign } from '../../ui/HookSign';
import { useReady } from '../../ui/useReady';

/** Pages before the house: a sheet of paper against its dark front. */
export function DoorFrame({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  useReady();
  return (
    <div className="flex h-dvh max-md:flex-col">
      <div className="flex shrink-0 items-center bg-reed px-5 py-4 text-reed-pale md:w-72 md:flex-col md:items-start md:justify-between md:p-8">
        <HookSign size={44} />
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
