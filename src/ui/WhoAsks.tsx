'use client';

import { createContext, useContext, type ReactNode } from 'react';

/** Who is signed in, as the screens show it. */
export interface WhoAsks {
  readonly name: string;
  readonly studio: string;
  readonly role: 'owner' | 'teacher' | 'guest';
}

const WhoAsksContext = createContext<WhoAsks | undefined>(undefined);

/** Who is signed in; nothing where the program runs for one person alone. */
export function useWhoAsks(): WhoAsks | undefined {
  return useContext(WhoAsksContext);
}

export function WhoAsksArea({ who, children }: { readonly who: WhoAsks | undefined; readonly children: ReactNode }) {
  return <WhoAsksContext.Provider value={who}>{children}</WhoAsksContext.Provider>;
}
