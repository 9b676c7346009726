'use client';

import { X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { useRef, type ReactNode } from 'react';

/** A sheet over the page, with a title that is read out. */
export function Sheet({
  open,
  onClose,
  title,
  description,
  children,
  width = 'max-w-2xl',
  focusFirst,
}: {
  readonly open: boolean;
  readonly onClose: () => void;
  readonly title: string;
  readonly description?: string;
  readonly children: ReactNode;
  readonly width?: string;
  /** What the keys go to when it opens; else its first control. */
  readonly focusFirst?: () => void;
}) {
  // Sheets have no trigger of their own: who opened it, by a button or a key, gets the focus back.
  const opener = useRef<Element | null>(null);
  return (
    <Dialog.Root
      open={open}
      onOpenChange={(next) => {
        if (!next) onClose();
      }}
    >
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-reed/45" />
        <Dialog.Content
          onOpenAutoFocus={(event) => {
            opener.current = document.activeElement;
            if (focusFirst) {
              event.preventDefault();
              focusFirst();
            }
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            if (opener.current instanceof HTMLElement && opener.current.isConnected) opener.current.focus();
          }}
          className={`fixed top-1/2 left-1/2 z-40 flex max-h-[92dvh] w-[94vw] ${width} -translate-x-1/2 -translate-y-1/2 flex-col rounded-md bg-panel p-5 shadow-xl`}
          {...(description === undefined && { 'aria-describedby': undefined })}
        >
          <div className="mb-3 flex items-start justify-between gap-4">
            <div>
              <Dialog.Title className="font-serif text-xl font-semibold">{title}</Dialog.Title>
              {description !== undefined && (
                <Dialog.Description className="mt-0.5 text-ink-soft">{description}</Dialog.Description>
              )}
            </div>
            <Dialog.Close
              aria-label="Close"
              className="flex size-8 items-center justify-center rounded hover:bg-cane-pale"
            >
              <X size={18} aria-hidden="true" />
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
