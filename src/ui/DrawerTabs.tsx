'use client';

import { Tabs } from 'radix-ui';
import type { ReactNode } from 'react';

/** The tabs of a drawer: a row of names, and under it the `Tabs.Content` of the chosen one. */
export function DrawerTabs<Tab extends string>({
  label,
  names,
  value,
  onChange,
  listClass = 'mb-2 flex gap-1',
  children,
}: {
  /** What all of them are about. */
  readonly label: string;
  /** In their order. */
  readonly names: Readonly<Record<Tab, string>>;
  readonly value: Tab;
  readonly onChange: (tab: Tab) => void;
  readonly listClass?: string;
  readonly children: ReactNode;
}) {
  const tabs = Object.keys(names) as Tab[];
  return (
    <Tabs.Root
      value={value}
      onValueChange={(next) => {
        const found = tabs.find((known) => known === next);
        if (found) onChange(found);
      }}
    >
      <Tabs.List aria-label={label} className={listClass}>
        {tabs.map((tab) => (
          <Tabs.Trigger
            key={tab}
            value={tab}
            className="min-h-8 flex-1 rounded px-1.5 text-[13px] hover:bg-cane-pale data-[state=active]:bg-paper data-[state=active]:font-semibold data-[state=active]:outline data-[state=active]:outline-edge"
          >
            {names[tab]}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {children}
    </Tabs.Root>
  );
}
