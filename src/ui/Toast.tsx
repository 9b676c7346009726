'use client';

import { Toast } from 'radix-ui';
import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from 'react';

interface Notice {
  readonly id: number;
  readonly text: string;
  readonly action?: { readonly label: string; readonly run: () => void };
}

type ShowToast = (text: string, action?: Notice['action']) => void;

const TellContext = createContext<ShowToast>(() => undefined);

/** Says something in passing, perhaps with a way back. */
export function useToast(): ShowToast {
  return useContext(TellContext);
}

/** How long a notice with a way back stays, for those who read slowly or work with one hand. */
const SHOWN_MILLISECONDS = 12_000;

export function ToastArea({ children }: { readonly children: ReactNode }) {
  const [notices, setNotices] = useState<readonly Notice[]>([]);
  const tell = useCallback<ShowToast>(
    (text, action) =>
      setNotices((before) => [
        ...before.slice(-2),
        { id: (before.at(-1)?.id ?? 0) + 1, text, ...(action && { action }) },
      ]),
    [],
  );
  const close = (id: number) => setNotices((before) => before.filter((notice) => notice.id !== id));
  const provided = useMemo(() => tell, [tell]);
  return (
    <TellContext.Provider value={provided}>
      <Toast.Provider duration={SHOWN_MILLISECONDS} label="Notice">
        {children}
        {notices.map((notice) => (
          <Toast.Root
            key={notice.id}
            onOpenChange={(open) => {
              if (!open) close(notice.id);
            }}
            className="on-dark flex items-center gap-4 rounded bg-reed px-4 py-2.5 text-white shadow-lg"
          >
            <Toast.Description>{notice.text}</Toast.Description>
            {notice.action && (
              <Toast.Action
                altText={notice.action.label}
                onClick={notice.action.run}
                className="min-h-7 rounded px-2 font-semibold text-cane-bright underline underline-offset-4"
              >
                {notice.action.label}
              </Toast.Action>
            )}
          </Toast.Root>
        ))}
        <Toast.Viewport className="no-print fixed bottom-12 left-1/2 z-50 flex -translate-x-1/2 flex-col gap-2 outline-none" />
      </Toast.Provider>
    </TellContext.Provider>
  );
}
